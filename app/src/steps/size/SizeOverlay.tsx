import { pointAt, type Vec2 } from '@steady-moth/core/geometry';
import { relationSentence, sizeWord } from '@steady-moth/core/say';
import {
  type Curve,
  type Dimension,
  type DimensionDrawing,
  decidedOf,
  dimensionValue,
  segmentOfCurve,
} from '@steady-moth/core/sketch';
import { fixed, type LengthUnit, writeLength } from '@steady-moth/core/units';
import { Cased } from '../../board/marks';
import { type ScreenPlace, screenPlace } from '../../frames/place';
import { toScreen, type View } from '../../frames/view';
import { degrees } from '../../kit';
import { useSession } from '../../session/sessionStore';
import type { SketchState } from './sketchState';
import { DRAFT, drawnSizes, type SizePreview } from './tools';
import { prefixOf, SHARED, SIGN } from './words';

/** More relations than this are told on the slip only, until one of them is looked at. */
const MOST_SIGNS = 80;
const HEAD_PX = 9;
/** While more than this is free, no single whisker tells anything. */
const MOST_WHISKERS = 12;

/** Sizes, relations, and what is free, over the part. */
export function SizeOverlay({
  view,
  state,
  preview,
  unit,
}: {
  view: View;
  state: SketchState;
  preview: SizePreview;
  unit: LengthUnit;
}) {
  const looked = useSession((s) => s.condition);
  const at = (p: Vec2): ScreenPlace => toScreen(view, p);
  const { sketch, told } = state;
  const given = new Set(told?.given ?? []);
  return (
    <>
      <Held state={state} at={at} looked={looked} />
      {told && <Freedom state={state} at={at} />}
      <Signs state={state} at={at} looked={looked} />
      {drawnSizes(state, view.scale, preview).map(({ dimension, drawing }) => (
        <g key={dimension.id} data-testid="size">
          <SizeLine drawing={drawing} at={at} scale={view.scale} looked={looked === dimension.id} />
          <SizeTag
            at={at(drawing.label)}
            text={sizeText(state, dimension, unit)}
            kind={given.has(dimension.id) ? 'given' : dimension.origin.kind}
            seen={dimension.origin.kind === 'decided' ? seenText(state, dimension, unit) : null}
            name={`${sizeWord(sketch, dimension)}: ${sizeText(state, dimension, unit)}`}
            looked={looked === dimension.id}
            onFocus={() => useSession.getState().lookAt(dimension.id)}
          />
        </g>
      ))}
    </>
  );
}

/** The figure of a size: what was decided, or what was measured with its ±. */
function sizeText({ measures, sketch, place }: SketchState, dimension: Dimension, unit: LengthUnit): string {
  const prefix = prefixOf(dimension);
  const told = measures[dimension.id];
  const typed = decidedOf(dimension);
  if (typed) {
    if (dimension.kind === 'angle') return `${typed.text}°`;
    return `${prefix}${typed.text}${typed.unit === unit || /[a-z"]/i.test(typed.text) ? '' : ` ${typed.unit}`}`;
  }
  // Its ± is worked out once it is put.
  const value = dimension.id === DRAFT ? dimensionValue(sketch, dimension, place) : null;
  if (value !== null)
    return dimension.kind === 'angle' ? degrees(value) : `${prefix}${writeLength(value, null, unit).value}`;
  if (!told) return `${prefix}…`;
  return `${prefix}${figureText(told.settled, dimension, unit)}`;
}

function seenText({ measures }: SketchState, dimension: Dimension, unit: LengthUnit): string | null {
  const told = measures[dimension.id];
  return told ? `${figureText(told.seen, dimension, unit)} seen` : null;
}

function figureText(
  { value, plusMinus }: { value: number; plusMinus: number },
  { kind }: Dimension,
  unit: LengthUnit,
): string {
  if (kind === 'angle') {
    const deg = 180 / Math.PI;
    return `${fixed(value * deg, 2)}° ± ${fixed(plusMinus * deg, 2)}°`;
  }
  const written = writeLength(value, plusMinus, unit);
  return `${written.value} ± ${written.plusMinus}`;
}

function SizeLine({
  drawing: { line, arc, thin },
  at,
  scale,
  looked,
}: {
  drawing: DimensionDrawing;
  at(p: Vec2): ScreenPlace;
  scale: number;
  looked: boolean;
}) {
  const colour = looked ? 'var(--rust)' : 'var(--trace)';
  const path = (points: readonly Vec2[]) =>
    points.map((p, k) => `${k ? 'L' : 'M'} ${at(p).x.toFixed(1)} ${at(p).y.toFixed(1)}`).join(' ');
  const heads: string[] = [];
  const head = (tip: ScreenPlace, way: number) => {
    const [x, y] = [tip.x, tip.y];
    const arm = (turn: number) =>
      `${(x - HEAD_PX * Math.cos(way + turn)).toFixed(1)} ${(y - HEAD_PX * Math.sin(way + turn)).toFixed(1)}`;
    heads.push(`M ${arm(0.26)} L ${x.toFixed(1)} ${y.toFixed(1)} L ${arm(-0.26)}`);
  };
  let main = '';
  if (line) {
    const [a, b] = [at(line.from), at(line.to)];
    const way = Math.atan2(b.y - a.y, b.x - a.x);
    main = path([line.from, line.to]);
    // Where there is no room between them they point inwards from outside.
    const tight = Math.hypot(b.x - a.x, b.y - a.y) < 3 * HEAD_PX;
    head(b, tight ? way + Math.PI : way);
    if (line.heads === 'both') head(a, tight ? way : way + Math.PI);
  }
  if (arc) {
    const count = Math.max(2, Math.ceil(Math.abs(arc.sweep) / 0.1));
    const on = (k: number): Vec2 => {
      const t = arc.startAngle + (arc.sweep * k) / count;
      return { x: arc.centre.x + arc.radius * Math.cos(t), y: arc.centre.y + arc.radius * Math.sin(t) };
    };
    main = path(Array.from({ length: count + 1 }, (_, k) => on(k)));
    const way = (k: number, from: number) => {
      const [p, q] = [at(on(from)), at(on(k))];
      return Math.atan2(q.y - p.y, q.x - p.x);
    };
    if (arc.radius * Math.abs(arc.sweep) * scale > 2 * HEAD_PX) {
      head(at(on(count)), way(count, count - 1));
      head(at(on(0)), way(0, 1));
    }
  }
  return (
    <g pointerEvents="none">
      {thin.map(([p, q], k) => (
        <Cased key={k} d={path([p, q])} width={0.9} colour={colour} />
      ))}
      {main && <Cased d={`${main} ${heads.join(' ')}`} width={1.3} colour={colour} />}
    </g>
  );
}

const EDGE = {
  measured: 'border-verdigris text-verdigris',
  decided: 'border-line text-ink',
  given: 'border-line text-ink2',
};

/** A figure on a paper tag: measured in verdigris, decided with what was seen under it, given by the rest in brackets. */
function SizeTag({
  at,
  text,
  kind,
  seen,
  name,
  looked,
  onFocus,
}: {
  at: ScreenPlace;
  text: string;
  kind: 'measured' | 'decided' | 'given';
  seen: string | null;
  name: string;
  looked: boolean;
  onFocus(): void;
}) {
  return (
    <foreignObject x={at.x - 90} y={at.y - 14} width={180} height={44} pointerEvents="none">
      <div className="flex flex-col items-center">
        <span
          tabIndex={0}
          role="img"
          aria-label={name}
          onFocus={onFocus}
          className={`figure rounded border bg-paper px-1.5 py-1 text-[13px] leading-none outline-none ${EDGE[kind]} ${looked ? 'ring-2 ring-rust' : ''}`}
        >
          {kind === 'given' ? `(${text})` : text}
        </span>
        {looked && seen && (
          <span className="figure mt-0.5 rounded bg-paper px-1 text-[12px] text-verdigris">{seen}</span>
        )}
      </div>
    </foreignObject>
  );
}

/** Where something is on the part: the middle of a curve, or the point itself. */
function anchorOf({ sketch, place }: SketchState, id: string): { at: Vec2; curve: Curve | null } | null {
  const curve = Object.hasOwn(sketch.curves, id) ? sketch.curves[id]! : null;
  if (!curve) {
    const at = place(id);
    return at && { at, curve: null };
  }
  if (curve.kind === 'circle') {
    const at = place(curve.centre);
    return at && { at, curve };
  }
  const segment = segmentOfCurve(curve, place);
  return segment && { at: pointAt(segment, 0.5), curve };
}

/** What the relation that is looked at holds, lit up. */
function Held({ state, at, looked }: { state: SketchState; at(p: Vec2): ScreenPlace; looked: string | null }) {
  const { sketch, place } = state;
  const condition = looked === null ? undefined : (sketch.constraints[looked] ?? sketch.dimensions[looked]);
  if (!condition) return null;
  return (
    <g pointerEvents="none" data-testid="held">
      {condition.refs.map(({ id }) => {
        const curve = Object.hasOwn(sketch.curves, id) ? sketch.curves[id] : undefined;
        if (curve && curve.kind !== 'circle') {
          const segment = segmentOfCurve(curve, place);
          if (!segment) return null;
          const d = Array.from({ length: 25 }, (_, k) => {
            const p = at(pointAt(segment, k / 24));
            return `${k ? 'L' : 'M'} ${p.x} ${p.y}`;
          }).join(' ');
          return <Cased key={id} d={d} width={4.5} colour="var(--rust)" />;
        }
        const found = anchorOf(state, id);
        const p = found && at(found.at);
        return p && <circle key={id} cx={p.x} cy={p.y} r={11} fill="none" stroke="var(--rust)" strokeWidth={2.4} />;
      })}
    </g>
  );
}

/** Where signs stand on the screen, so that none lies on another. */
type Taken = { x: number; y: number; width: number }[];

/** The first free place beside an anchor: right, left, below, above; null where all are taken. */
function freePlace(p: ScreenPlace, width: number, taken: Taken): ScreenPlace | null {
  const places = [
    screenPlace(p.x + 10, p.y - 24),
    screenPlace(p.x - 10 - width, p.y - 24),
    screenPlace(p.x + 10, p.y + 8),
    screenPlace(p.x - 10 - width, p.y + 8),
  ];
  const found = places.find(({ x, y }) =>
    taken.every((t) => Math.abs(t.y - y) > 19 || x > t.x + t.width + 2 || t.x > x + width + 2),
  );
  if (found) taken.push({ ...found, width });
  return found ?? null;
}

/**
 * Small round signs at what relations hold. Those that hold several alike share a letter; where there is no room for one
 * it shows nearer by, or once it is looked at.
 */
function Signs({ state, at, looked }: { state: SketchState; at(p: Vec2): ScreenPlace; looked: string | null }) {
  const { sketch } = state;
  const all = Object.values(sketch.constraints);
  const count = all.reduce((sum, c) => sum + c.refs.length, 0);
  let letters = 0;
  const taken: Taken = [];
  return all.map((c) => {
    const letter = SHARED.has(c.kind) ? ` ${String.fromCharCode(97 + (letters++ % 26))}` : '';
    if ((count > MOST_SIGNS || c.kind === 'fixed') && c.id !== looked) return null;
    // At the place where two pieces meet one sign stands for both.
    const ids =
      c.kind === 'tangent' || c.kind === 'smooth' || c.kind === 'square'
        ? meetingOf(sketch, c.refs)
        : c.refs.map((r) => r.id);
    return ids.map((id) => {
      const found = anchorOf(state, id);
      if (!found) return null;
      const text = `${SIGN[c.kind]}${letter}`;
      const width = 10 + 7 * text.length;
      const place = freePlace(at(found.at), width, taken);
      if (!place) return null;
      return (
        <g
          key={`${c.id} ${id}`}
          transform={`translate(${place.x} ${place.y})`}
          role="img"
          aria-label={relationSentence(sketch, c)}
          pointerEvents="none"
        >
          <rect
            width={width}
            height={18}
            rx={9}
            fill="var(--paper)"
            stroke={c.id === looked ? 'var(--rust)' : 'var(--line)'}
            strokeWidth={c.id === looked ? 2 : 1}
          />
          <text x={width / 2} y={13} textAnchor="middle" className="figure" fontSize={12} fill="var(--ink)">
            {text}
          </text>
        </g>
      );
    });
  });
}

/** The point at which two pieces meet, else both. */
function meetingOf(sketch: SketchState['sketch'], refs: readonly { id: string }[]): string[] {
  const [a, b] = refs.map((r) => (Object.hasOwn(sketch.curves, r.id) ? sketch.curves[r.id] : undefined));
  const ids = refs.map((r) => r.id);
  if (!a || !b || a.kind === 'circle' || b.kind === 'circle') return ids;
  const shared = [a.from, a.to].find((p) => p === b.from || p === b.to);
  return shared === undefined ? ids : [shared];
}

/** A whisker on what can still move, along the way that it can; a crossbar on what is settled. */
function Freedom({ state: { told, place }, at }: { state: SketchState; at(p: Vec2): ScreenPlace }) {
  if (!told) return null;
  const movable = Object.entries(told.points);
  return (
    <g pointerEvents="none" data-testid="freedom">
      {(movable.length <= MOST_WHISKERS ? movable : []).map(([id, { direction, anyWay }]) => {
        const p = place(id);
        if (!p) return null;
        const c = at(p);
        const [dx, dy] = [Math.cos(direction), -Math.sin(direction)];
        const arm = (x: number, y: number) => `M ${c.x - 16 * x} ${c.y - 16 * y} L ${c.x + 16 * x} ${c.y + 16 * y}`;
        return <Cased key={id} d={anyWay ? `${arm(dx, dy)} ${arm(-dy, dx)}` : arm(dx, dy)} dash="2 3" width={1.8} />;
      })}
      {told.settled.map((id) => {
        const p = place(id);
        if (!p) return null;
        const c = at(p);
        return <Cased key={id} d={`M ${c.x - 7} ${c.y + 8} H ${c.x + 7}`} width={2} />;
      })}
    </g>
  );
}
