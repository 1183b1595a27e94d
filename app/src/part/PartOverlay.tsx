import type { Figure } from '@steady-moth/core/calibration';
import { handlesThrough, pathData, type Vec2 } from '@steady-moth/core/geometry';
import type { JobDocument } from '@steady-moth/core/job';
import type { Deviation } from '@steady-moth/core/proof';
import { observedOf, type Path, planeOfPath, type Sketch, walkOf } from '@steady-moth/core/sketch';
import { isClosed, lastPlace } from '@steady-moth/core/tracing';
import type { LengthUnit } from '@steady-moth/core/units';
import { useRef } from 'react';
import type { Drawing } from '../board/Board';
import { Cased, Tag } from '../board/marks';
import { onBoard, type ScreenPlace, screenPlace } from '../frames/place';
import { toScreen, transformOf, type View } from '../frames/view';
import { LengthFigure } from '../kit';
import { type Selection, useSession } from '../session/sessionStore';
import { isItemChosen, isPathChosen } from './chosen';
import { legsOf, type TracePreview } from './preview';
import { DASH_OF_ROLE } from './roles';
import type { Drawn, DrawnPath } from './useDrawn';
import { Whiskers } from './Whiskers';

type Props = Drawing & {
  job: JobDocument;
  drawn: Drawn;
  /** Those of them that are elements of the page. */
  live: readonly DrawnPath[];
  preview: TracePreview;
  selection: Selection;
  isTrue: boolean;
  unit: LengthUnit;
  measured: readonly (Figure | null)[];
  deviation: Deviation | null;
  /** Points only, without what bends curves. */
  plain?: boolean;
  /** Each press of a measurement goes on from the one before. */
  measuresOn?: boolean;
};

/** So many points are drawn as elements of the page, each of which takes the keyboard's focus. */
const MOST_ELEMENTS = 600;
/** At most this many points of the path in hand are shown: those in sight. */
const MOST_HANDLES = 400;
/** A path with no more points than this shows them all; those of other paths stand at least this far apart on screen, px. */
const FEW_HANDLES = 24;
const CROWDED_PX = 14;

/**
 * The paths that are drawn as elements of the page: all of them, or where they are many those in hand alone. The others
 * are painted on one canvas, and come in hand by a click or from the slip.
 */
export function inHand(
  drawn: readonly DrawnPath[],
  selection: Selection,
  preview: TracePreview,
): { live: readonly DrawnPath[]; painted: readonly DrawnPath[] } {
  let points = 0;
  for (const { path } of drawn) points += path.uses.length + 1;
  if (points <= MOST_ELEMENTS) return { live: drawn, painted: NONE };
  const dragged = Object.keys(preview.points ?? {});
  const isLive = ({ path, sketch }: DrawnPath) =>
    isPathChosen(selection, path.id) ||
    preview.growing?.path === path.id ||
    preview.bow?.path === path.id ||
    dragged.some((id) => Object.hasOwn(sketch.points, id) || Object.hasOwn(sketch.picks, id));
  return { live: drawn.filter(isLive), painted: drawn.filter((d) => !isLive(d)) };
}

const NONE: readonly DrawnPath[] = [];

/** Paths on the board: closed ones shaded, open ends shown, points that can be taken hold of. */
export function PartOverlay({
  view,
  aim,
  job,
  drawn,
  live,
  preview,
  selection,
  isTrue,
  unit,
  measured,
  deviation,
  plain = false,
  measuresOn = false,
}: Props) {
  const transform = transformOf(view);
  const at = (id: string): ScreenPlace | null => {
    const place = drawn.placeOf(id);
    return place && toScreen(view, place);
  };
  const inSight = (p: ScreenPlace) => p.x >= 0 && p.y >= 0 && p.x <= view.width && p.y <= view.height;
  const region = live
    .filter((d) => d.path.role === 'cut' && isClosed(d))
    .map((d) => d.madeData || d.data)
    .join(' ');
  const { growing } = preview;
  const bow = preview.bow && bowPath(drawn, preview.bow);
  const from = growing && lastPlace(growing, { job, drawn });
  const last = from && toScreen(view, from);
  const through = growing?.through ? toScreen(view, growing.through.place) : null;
  return (
    <>
      {region && (
        <path
          d={region}
          transform={transform}
          fillRule="evenodd"
          fill="var(--verdigris)"
          fillOpacity={0.28}
          pointerEvents="none"
          data-testid="region"
        />
      )}
      {live.map(
        ({ path, madeData }) =>
          madeData && (
            <g key={path.id} data-testid="made">
              <Cased
                d={madeData}
                transform={transform}
                dash={DASH_OF_ROLE[path.role].join(' ') || undefined}
                colour="var(--verdigris)"
              />
            </g>
          ),
      )}
      {live.map(({ path, data, madeData }) => (
        <Cased
          key={path.id}
          d={data}
          transform={transform}
          // What it is made into is cut in its stead.
          dash={(madeData ? DASH_OF_ROLE.reference : DASH_OF_ROLE[path.role]).join(' ') || undefined}
          width={madeData ? 1.4 : undefined}
          colour={isPathChosen(selection, path.id) ? 'var(--rust)' : 'var(--trace)'}
        />
      ))}
      {bow && <Cased d={bow} transform={transform} colour="var(--rust)" dash="5 4" />}
      {preview.forms.length > 0 && (
        <Cased
          d={preview.forms.map((form) => pathData(form, onBoard)).join(' ')}
          transform={transform}
          colour="var(--rust)"
          dash="5 4"
        />
      )}
      {preview.box && <ChoosingBox box={preview.box} view={view} />}
      {preview.circle && (
        <Cased
          d={circlePath(preview.circle.centre, preview.circle.radius)}
          transform={transform}
          colour="var(--rust)"
          dash="5 4"
        />
      )}
      {last && aim && preview.forms.length === 0 && (
        <Cased
          d={`M ${last.x} ${last.y} ${through ? `L ${through.x} ${through.y} ` : ''}L ${aim.screen.x} ${aim.screen.y}`}
          colour="var(--rust)"
          dash="5 4"
          width={1.6}
        />
      )}
      {last && growing?.path === null && <circle cx={last.x} cy={last.y} r={4.4} {...DOT} />}
      {live.map(({ sketch, path, form, made }) => (
        <g key={path.id}>
          <Points sketch={sketch} path={path} at={at} selection={selection} inSight={inSight} plain={plain} />
          {form?.kind === 'circle' && <CentreMark at={toScreen(view, form.centre)} />}
          {path.role === 'cut' && !path.closed && !made && (
            <OpenEnds
              ends={endsOf(sketch, path)}
              at={at}
              gap={isTrue && growing?.path !== path.id ? gapOf(sketch, path, drawn) : null}
              unit={unit}
            />
          )}
        </g>
      ))}
      {deviation && <Whiskers deviation={deviation} view={view} />}
      {preview.measure && (
        <MeasureLine
          draft={preview.measure}
          aim={aim?.screen ?? null}
          view={view}
          measured={measured}
          unit={unit}
          goesOn={measuresOn}
        />
      )}
    </>
  );
}

/** A focus that comes so soon after a press is the press's own. */
const FOCUS_OF_PRESS_MS = 400;

const DOT = { fill: 'var(--trace)', stroke: 'var(--trace-casing)', strokeWidth: 1.6 } as const;

function Points({
  sketch,
  path,
  at,
  selection,
  inSight,
  plain,
}: {
  sketch: Sketch;
  path: Path;
  at(id: string): ScreenPlace | null;
  selection: Selection;
  inSight(place: ScreenPlace): boolean;
  plain: boolean;
}) {
  const select = useSession((s) => s.select);
  const pressedAt = useRef(Number.NEGATIVE_INFINITY);
  const own = new Set(walkOf(sketch, path)?.points);
  const round = sketch.curves[path.uses[0]?.curve ?? '']?.kind === 'circle';
  const all = observedOf(sketch, path);
  let left = MOST_HANDLES;
  let last: ScreenPlace | null = null;
  return all.map((id, k) => {
    const p = at(id);
    if (!p) return null;
    if (all.length > MOST_HANDLES && (!inSight(p) || left-- <= 0)) return null;
    // Zoomed out, the points of a long path would hide it.
    const crowded = all.length > FEW_HANDLES && last !== null && Math.hypot(p.x - last.x, p.y - last.y) < CROWDED_PX;
    const chosen = isItemChosen(selection, { kind: 'point', path: path.id, point: id });
    if (crowded && !chosen) return null;
    last = p;
    const corner = own.has(id);
    if (plain && !corner && !chosen) return null;
    const what = !corner ? (round ? `rim point ${k + 1}` : 'bend') : round ? 'middle' : `point ${k + 1}`;
    return (
      <g
        key={id}
        tabIndex={0}
        role="img"
        aria-label={`${path.name}, ${what}`}
        // A press chooses by what the tool makes of it, the keyboard what it comes to.
        onPointerDown={(e) => {
          pressedAt.current = e.timeStamp;
        }}
        onFocus={(e) => {
          const isPress = e.timeStamp - pressedAt.current < FOCUS_OF_PRESS_MS;
          if (!isPress) select({ kind: 'point', path: path.id, point: id });
        }}
        className="outline-none"
      >
        {chosen && (
          <circle cx={p.x} cy={p.y} r={10} fill="none" stroke="var(--rust)" strokeWidth={2} strokeDasharray="3 3" />
        )}
        {corner ? (
          <circle cx={p.x} cy={p.y} r={4.4} {...DOT} />
        ) : (
          <rect
            x={p.x - 3.6}
            y={p.y - 3.6}
            width={7.2}
            height={7.2}
            transform={`rotate(45 ${p.x} ${p.y})`}
            fill="var(--trace-casing)"
            stroke="var(--trace)"
            strokeWidth={1.6}
          />
        )}
      </g>
    );
  });
}

/** A box that chooses what lies in it. */
function ChoosingBox({ box: { from, to }, view }: { box: NonNullable<TracePreview['box']>; view: View }) {
  const [a, b] = [toScreen(view, from), toScreen(view, to)];
  return (
    <rect
      x={Math.min(a.x, b.x)}
      y={Math.min(a.y, b.y)}
      width={Math.abs(b.x - a.x)}
      height={Math.abs(b.y - a.y)}
      fill="var(--rust)"
      fillOpacity={0.08}
      stroke="var(--rust)"
      strokeWidth={1.4}
      strokeDasharray="2 3"
      pointerEvents="none"
      data-testid="choosing-box"
    />
  );
}

function CentreMark({ at }: { at: ScreenPlace }) {
  return <Cased d={`M ${at.x - 6} ${at.y} H ${at.x + 6} M ${at.x} ${at.y - 6} V ${at.y + 6}`} width={1.3} />;
}

/** Both ends of an open path. */
function endsOf(sketch: Sketch, path: Path): string[] {
  const points = walkOf(sketch, path)?.points ?? [];
  return points.length > 1 ? [points[0]!, points[points.length - 1]!] : [];
}

/** Both ends of an open path, ringed; and how far apart they are. */
function OpenEnds({
  ends,
  at,
  gap,
  unit,
}: {
  ends: readonly string[];
  at(id: string): ScreenPlace | null;
  gap: number | null;
  unit: LengthUnit;
}) {
  const places = ends.map(at);
  const b = places[1] ?? null;
  return (
    <g pointerEvents="none" fill="none" stroke="var(--amber)" strokeWidth={2.4} strokeDasharray="4 3">
      {places.map((p, k) => p && <circle key={k} cx={p.x} cy={p.y} r={11} />)}
      {b && gap !== null && (
        <Tag at={screenPlace(b.x, b.y + 32)} tone="doubt">
          open, gap <LengthFigure mm={gap} plusMinusMm={null} unit={unit} />
        </Tag>
      )}
    </g>
  );
}

/** The board shows the part's face at true size: only there a distance on it is one of the part. */
const MEASURED_ON = 'face';

/** From the end of an open path to the nearest thing that it could be closed with: its own start, or another open end. */
function gapOf(sketch: Sketch, path: Path, { paths, placeOf }: Drawn): number | null {
  if (planeOfPath(sketch, path) !== MEASURED_ON) return null;
  const [start, end] = endsOf(sketch, path).map(placeOf);
  if (!start || !end) return null;
  const others = paths.flatMap((d) =>
    d.path.closed || d.path.id === path.id || planeOfPath(d.sketch, d.path) !== MEASURED_ON
      ? []
      : endsOf(d.sketch, d.path).flatMap((id) => placeOf(id) ?? []),
  );
  return Math.min(...[start, ...others].map((p) => Math.hypot(p.x - end.x, p.y - end.y)));
}

function MeasureLine({
  draft,
  aim,
  view,
  measured,
  unit,
  goesOn,
}: {
  draft: NonNullable<TracePreview['measure']>;
  aim: ScreenPlace | null;
  view: Drawing['view'];
  measured: readonly (Figure | null)[];
  unit: LengthUnit;
  /** The next press measures on from the last one. */
  goesOn: boolean;
}) {
  const legs = legsOf(draft).map(([from, to]) => [toScreen(view, from.place), toScreen(view, to.place)] as const);
  const last = toScreen(view, (draft.to ?? draft.from).place);
  const ahead = aim && (goesOn || !draft.to) ? `M ${last.x} ${last.y} L ${aim.x} ${aim.y}` : '';
  const figures = measured.filter((f) => f !== null);
  const whole = figures.length > 1 && figures.length === legs.length;
  return (
    <>
      <Cased
        d={`${legs.map(([a, b]) => `M ${a.x} ${a.y} L ${b.x} ${b.y}`).join(' ')} ${ahead}`}
        colour="var(--verdigris)"
        width={1.8}
      />
      {legs.map(([a, b], k) => {
        const figure = measured[k];
        return (
          figure && (
            <Tag key={k} at={screenPlace((a.x + b.x) / 2, (a.y + b.y) / 2 - 20)}>
              <LengthFigure mm={figure.value} plusMinusMm={figure.plusMinus} unit={unit} />
            </Tag>
          )
        );
      })}
      {whole && (
        <Tag at={screenPlace(last.x, last.y + 30)}>
          in all{' '}
          <LengthFigure
            mm={figures.reduce((sum, f) => sum + f.value, 0)}
            // What all of them share, the scale above all, adds up.
            plusMinusMm={figures.reduce((sum, f) => sum + f.plusMinus, 0)}
            unit={unit}
          />
        </Tag>
      )}
    </>
  );
}

const circlePath = (centre: Vec2, radius: number): string =>
  pathData({ kind: 'circle', centre, radius: Math.max(radius, 1e-6) }, onBoard);

function bowPath({ paths, placeOf }: Drawn, bow: NonNullable<TracePreview['bow']>): string | null {
  const curve = paths.find((d) => d.path.id === bow.path)?.sketch.curves[bow.curve];
  if (!curve || curve.kind === 'circle') return null;
  const [from, to, through] = [placeOf(curve.from), placeOf(curve.to), bow.through];
  if (!from || !to) return null;
  const segment =
    bow.kind === 'arc'
      ? ({ kind: 'arc', from, via: through, to } as const)
      : ({ kind: 'curve', from, ...handlesThrough(from, through, to), to } as const);
  return pathData({ kind: 'chain', closed: false, segments: [segment] }, onBoard);
}
