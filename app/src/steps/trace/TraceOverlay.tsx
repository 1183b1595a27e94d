import type { Figure } from '@steady-moth/core/calibration';
import { handlesThrough, pathData, type Vec2 } from '@steady-moth/core/geometry';
import { type JobDocument, pointsOfRun, type Run } from '@steady-moth/core/job';
import type { LengthUnit } from '@steady-moth/core/units';
import type { Drawing } from '../../board/Board';
import { Cased, Tag } from '../../board/marks';
import { toScreen } from '../../frames/view';
import { LengthFigure } from '../../kit';
import { type Selection, useBench } from '../../session/benchStore';
import type { DrawnRun, PlacePoint } from './useForms';
import type { Growing, TraceDraft } from './useTraceTool';

type Props = Drawing & {
  job: JobDocument;
  placePoint: PlacePoint;
  drawn: readonly DrawnRun[];
  draft: TraceDraft;
  growing: Growing | null;
  selection: Selection;
  isTrue: boolean;
  unit: LengthUnit;
  measured: Figure | null;
};

/** So many points are drawn as elements of the page, each of which takes the keyboard's focus. */
const MOST_ELEMENTS = 600;
/** Of one run in hand so many points are shown, those in sight. */
const MOST_HANDLES = 400;
/** A path of no more shows them all; those of others stand at least so far apart on screen, px. */
const FEW_HANDLES = 24;
const CROWDED_PX = 14;

/**
 * The runs that are drawn as elements of the page: all of them, or where they are many those in hand alone. The others
 * are painted on one canvas, and come in hand by a click or from the slip.
 */
export function inHand(
  drawn: readonly DrawnRun[],
  selection: Selection,
  growing: Growing | null,
  draft: TraceDraft,
): { live: readonly DrawnRun[]; painted: readonly DrawnRun[] } {
  let points = 0;
  for (const { run } of drawn) points += run.points.length;
  if (points <= MOST_ELEMENTS) return { live: drawn, painted: NONE };
  const isLive = ({ run }: DrawnRun) =>
    (selection !== null && 'run' in selection && selection.run === run.id) ||
    growing?.run === run.id ||
    draft.bow?.run === run.id ||
    (draft.points !== null && run.points.some((id) => id in (draft.points ?? {})));
  return { live: drawn.filter(isLive), painted: drawn.filter((d) => !isLive(d)) };
}

const NONE: readonly DrawnRun[] = [];

/** Runs on the board: closed ones shaded, open ends shown, points that can be taken hold of. */
export function TraceOverlay({
  view,
  aim,
  job,
  placePoint,
  drawn,
  draft,
  growing,
  selection,
  isTrue,
  unit,
  measured,
}: Props) {
  const transform = `translate(${-view.x * view.scale} ${-view.y * view.scale}) scale(${view.scale})`;
  const at = (id: string): Vec2 | null => {
    const place = placePoint(draft.points?.[id] ?? job.part.points[id]);
    return place && toScreen(view, place);
  };
  const inSight = (p: Vec2) => p.x >= 0 && p.y >= 0 && p.x <= view.width && p.y <= view.height;
  const region = drawn
    .filter((d) => d.run.role === 'cut' && isClosed(d.run))
    .map((d) => d.path)
    .join(' ');
  const bow = draft.bow && bowPath(drawn, draft.bow);
  const growingRun = growing && job.part.runs.find((r) => r.id === growing.run);
  const last =
    growingRun?.kind === 'chain'
      ? at(growing?.end === 'head' ? growingRun.points[0] : (growingRun.points.at(-1) as string))
      : null;
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
      {drawn.map(({ run, path }) => (
        <Cased
          key={run.id}
          d={path}
          transform={transform}
          dash={run.role === 'mark' ? '7 4' : undefined}
          colour={selection && 'run' in selection && selection.run === run.id ? 'var(--rust)' : 'var(--soot)'}
        />
      ))}
      {bow && <Cased d={bow} transform={transform} colour="var(--rust)" dash="5 4" />}
      {draft.circle && (
        <Cased
          d={circlePath(draft.circle.centre, draft.circle.radius)}
          transform={transform}
          colour="var(--rust)"
          dash="5 4"
        />
      )}
      {last && aim && (
        <Cased
          d={`M ${last.x} ${last.y} L ${aim.screen.x} ${aim.screen.y}`}
          colour="var(--rust)"
          dash="5 4"
          width={1.6}
        />
      )}
      {drawn.map(({ run, form }) => (
        <g key={run.id}>
          <Points run={run} at={at} job={job} selection={selection} inSight={inSight} />
          {form?.kind === 'circle' && <CentreMark at={toScreen(view, { x: form.centre.x, y: -form.centre.y })} />}
          {!isClosed(run) && run.kind === 'chain' && run.points.length > 1 && (
            <OpenEnds
              run={run}
              at={at}
              gap={isTrue && growing?.run !== run.id ? gapOf(run, job, placePoint) : null}
              unit={unit}
            />
          )}
        </g>
      ))}
      {draft.measure && (
        <MeasureLine draft={draft.measure} aim={aim?.screen ?? null} view={view} measured={measured} unit={unit} />
      )}
    </>
  );
}

const isClosed = (run: Run): boolean => run.kind === 'circle' || run.closed;

function Points({
  run,
  at,
  job,
  selection,
  inSight,
}: {
  run: Run;
  at(id: string): Vec2 | null;
  job: JobDocument;
  selection: Selection;
  inSight(place: Vec2): boolean;
}) {
  const select = useBench((s) => s.select);
  const own = new Set(run.points);
  const all = pointsOfRun(run);
  let left = MOST_HANDLES;
  let last: Vec2 | null = null;
  return all.map((id, k) => {
    const p = at(id);
    if (!p || !job.part.points[id]) return null;
    if (all.length > MOST_HANDLES && (!inSight(p) || left-- <= 0)) return null;
    // Zoomed out, the points of a long path would hide it.
    const crowded = all.length > FEW_HANDLES && last !== null && Math.hypot(p.x - last.x, p.y - last.y) < CROWDED_PX;
    if (crowded && !(selection?.kind === 'point' && selection.point === id)) return null;
    last = p;
    const chosen = selection?.kind === 'point' && selection.point === id;
    const corner = own.has(id) && run.kind === 'chain';
    return (
      <g
        key={id}
        tabIndex={0}
        role="img"
        aria-label={`${run.name}, ${corner ? `point ${k + 1}` : run.kind === 'circle' ? `rim point ${k + 1}` : 'bend'}`}
        onFocus={() => select({ kind: 'point', run: run.id, point: id })}
        className="outline-none"
      >
        {chosen && (
          <circle cx={p.x} cy={p.y} r={10} fill="none" stroke="var(--rust)" strokeWidth={2} strokeDasharray="3 3" />
        )}
        {corner ? (
          <circle cx={p.x} cy={p.y} r={4.4} fill="var(--soot)" stroke="white" strokeWidth={1.6} />
        ) : (
          <rect
            x={p.x - 3.6}
            y={p.y - 3.6}
            width={7.2}
            height={7.2}
            transform={`rotate(45 ${p.x} ${p.y})`}
            fill="white"
            stroke="var(--soot)"
            strokeWidth={1.6}
          />
        )}
      </g>
    );
  });
}

function CentreMark({ at }: { at: Vec2 }) {
  return <Cased d={`M ${at.x - 6} ${at.y} H ${at.x + 6} M ${at.x} ${at.y - 6} V ${at.y + 6}`} width={1.3} />;
}

/** Both ends of an open run, ringed; and how far apart they are. */
function OpenEnds({
  run,
  at,
  gap,
  unit,
}: {
  run: Extract<Run, { kind: 'chain' }>;
  at(id: string): Vec2 | null;
  gap: number | null;
  unit: LengthUnit;
}) {
  const [a, b] = [at(run.points[0]), at(run.points.at(-1) as string)];
  return (
    <g pointerEvents="none" fill="none" stroke="var(--amber)" strokeWidth={2.4} strokeDasharray="4 3">
      {[a, b].map((p, k) => p && <circle key={k} cx={p.x} cy={p.y} r={11} />)}
      {b && gap !== null && (
        <Tag at={{ x: b.x, y: b.y + 32 }} tone="doubt">
          open, gap <LengthFigure mm={gap} plusMinusMm={null} unit={unit} />
        </Tag>
      )}
    </g>
  );
}

function gapOf(run: Extract<Run, { kind: 'chain' }>, job: JobDocument, placePoint: PlacePoint): number | null {
  const [a, b] = [run.points[0], run.points.at(-1) as string].map((id) => placePoint(job.part.points[id]));
  return a && b ? Math.hypot(a.x - b.x, a.y - b.y) : null;
}

function MeasureLine({
  draft,
  aim,
  view,
  measured,
  unit,
}: {
  draft: NonNullable<TraceDraft['measure']>;
  aim: Vec2 | null;
  view: Drawing['view'];
  measured: Figure | null;
  unit: LengthUnit;
}) {
  const a = toScreen(view, draft.from.board);
  const b = draft.to ? toScreen(view, draft.to.board) : aim;
  if (!b) return null;
  return (
    <>
      <Cased d={`M ${a.x} ${a.y} L ${b.x} ${b.y}`} colour="var(--verdigris)" width={1.8} />
      {measured && (
        <Tag at={{ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 - 20 }}>
          <LengthFigure mm={measured.value} plusMinusMm={measured.plusMinus} unit={unit} />
        </Tag>
      )}
    </>
  );
}

const circlePath = (centre: Vec2, radius: number): string =>
  pathData({ kind: 'circle', centre: { x: centre.x, y: -centre.y }, radius: Math.max(radius, 1e-6) }, (p) => ({
    x: p.x,
    y: -p.y,
  }));

function bowPath(drawn: readonly DrawnRun[], bow: NonNullable<TraceDraft['bow']>): string | null {
  const form = drawn.find((d) => d.run.id === bow.run)?.form;
  if (form?.kind !== 'chain') return null;
  const { from, to } = form.segments[bow.segment];
  const through = { x: bow.through.x, y: -bow.through.y };
  const segment =
    bow.kind === 'arc'
      ? ({ kind: 'arc', from, via: through, to } as const)
      : ({ kind: 'curve', from, ...handlesThrough(from, through, to), to } as const);
  return pathData({ kind: 'chain', closed: false, segments: [segment] }, (p) => ({ x: p.x, y: -p.y }));
}
