import type {
  ChainRun,
  CircleRun,
  JobDocument,
  Part,
  PlaneName,
  Role,
  Run,
  SegmentRecord,
  TracedPoint,
} from './document';
import type { JobAction } from './history';

/** A point to come into the part, with the name it shall have. */
export interface NewPoint {
  id: string;
  point: TracedPoint;
}

/** Begins a run with its first point. */
export function startRun(run: { id: string; name: string; role: Role }, first: NewPoint): JobAction {
  return {
    label: 'begin a path',
    recipe(job) {
      job.part.points[first.id] = first.point;
      job.part.runs.push({
        ...run,
        layer: null,
        plane: 'face',
        kind: 'chain',
        points: [first.id],
        segments: [],
        closed: false,
      });
    },
  };
}

/** Draws a line on from one end of an open run. */
export function extendRun(runId: string, end: 'head' | 'tail', next: NewPoint): JobAction {
  return onChain(runId, 'draw a line', (run, part) => {
    if (run.closed) return;
    part.points[next.id] = next.point;
    if (end === 'tail') run.points.push(next.id);
    else run.points.unshift(next.id);
    if (run.points.length > 1) {
      if (end === 'tail') run.segments.push({ kind: 'line' });
      else run.segments.unshift({ kind: 'line' });
    }
  });
}

/**
 * Closes a run with a line from its end to its start; where both lie in one place already, by making them one: a line
 * of no length would go into the files.
 */
export function closeRun(runId: string): JobAction {
  return onChain(runId, 'close the path', (run, part) => {
    if (run.closed || run.points.length < 3) return;
    run.closed = true;
    const last = run.points[run.points.length - 1];
    if (isSamePlace(part.points[run.points[0]], part.points[last])) {
      run.points.pop();
      delete part.points[last];
    } else run.segments.push({ kind: 'line' });
    nameByForm(run, part);
  });
}

/** Two points nearer than this in one picture are one place, px: far below what any pick can tell. */
const SAME_PLACE_PX = 1e-3;

const isSamePlace = (a: TracedPoint, b: TracedPoint): boolean =>
  a.picture === b.picture && Math.hypot(a.uPx - b.uPx, a.vPx - b.vPx) < SAME_PLACE_PX;

/** A name that nobody gave. */
const NAMED_BY_ITSELF = /^(Path|Run) \d+$/;

/** A closed path that has the form of a slot is called one, unless somebody named it. */
function nameByForm(run: ChainRun, part: Part): void {
  if (run.closed && NAMED_BY_ITSELF.test(run.name) && isSlot(run)) run.name = nextName(part, 'Slot');
}

/** Two lines and two arcs in turn. */
function isSlot({ segments }: ChainRun): boolean {
  const kinds = segments.map((s) => s.kind).join(' ');
  return kinds === 'line arc line arc' || kinds === 'arc line arc line';
}

/** The first name of its kind that is free: `Hole 3` again only once the other was deleted. */
export function nextName({ runs }: Part, kind: 'Path' | 'Hole' | 'Slot'): string {
  const taken = new Set(runs.map((run) => run.name));
  for (let k = 1; ; k++) if (!taken.has(`${kind} ${k}`)) return `${kind} ${k}`;
}

/** Takes a path away that never came further than its first point. */
export function dropStub(runId: string): JobAction {
  return {
    label: 'leave a path of one point',
    recipe(job) {
      const run = job.part.runs.find((r) => r.id === runId);
      if (run?.kind === 'chain' && run.points.length < 2) dropRun(job, run);
    },
  };
}

/** Opens a closed run by taking its last segment away. */
export function openRun(runId: string): JobAction {
  return onChain(runId, 'open the path', (run, part) => {
    if (!run.closed) return;
    const last = run.segments.pop();
    run.closed = false;
    forgetBend(part, last);
  });
}

export function addCircle(
  run: Omit<CircleRun, 'points' | 'kind' | 'layer' | 'plane'>,
  rim: [NewPoint, NewPoint, NewPoint],
): JobAction {
  return {
    label: 'draw a circle',
    recipe(job) {
      for (const p of rim) job.part.points[p.id] = p.point;
      job.part.runs.push({
        ...run,
        layer: null,
        plane: 'face',
        kind: 'circle',
        points: [rim[0].id, rim[1].id, rim[2].id],
      });
    },
  };
}

/** Moves points; together, so that a circle or a curve's handles move as one. */
export function movePoints(label: string, moves: Record<string, TracedPoint>): JobAction {
  return {
    label,
    recipe(job) {
      for (const [id, point] of Object.entries(moves))
        if (Object.hasOwn(job.part.points, id)) job.part.points[id] = point;
    },
  };
}

/** Makes a segment an arc through a point, or moves that point if it is one. */
export function bowToArc(runId: string, segment: number, via: NewPoint): JobAction {
  return bend(runId, segment, 'bow into an arc', { kind: 'arc', via: via.id }, [via]);
}

/** Makes a segment a curve with two handles. */
export function bowToCurve(runId: string, segment: number, handleFrom: NewPoint, handleTo: NewPoint): JobAction {
  return bend(runId, segment, 'bow into a curve', { kind: 'curve', handleFrom: handleFrom.id, handleTo: handleTo.id }, [
    handleFrom,
    handleTo,
  ]);
}

export function straighten(runId: string, segment: number): JobAction {
  return bend(runId, segment, 'straighten a segment', { kind: 'line' }, []);
}

function bend(runId: string, segment: number, label: string, record: SegmentRecord, points: NewPoint[]): JobAction {
  return onChain(runId, label, (run, part) => {
    if (!run.segments[segment]) return;
    forgetBend(part, run.segments[segment]);
    for (const p of points) part.points[p.id] = p.point;
    run.segments[segment] = record;
    nameByForm(run, part);
  });
}

/** Puts a point into a segment, which becomes two; `first` and `second` say how each is bent. */
export function insertPoint(
  runId: string,
  segment: number,
  at: NewPoint,
  first: SegmentRecord,
  second: SegmentRecord,
  bends: NewPoint[],
): JobAction {
  return onChain(runId, 'insert a point', (run, part) => {
    if (!run.segments[segment]) return;
    forgetBend(part, run.segments[segment]);
    for (const p of [at, ...bends]) part.points[p.id] = p.point;
    run.points.splice(segment + 1, 0, at.id);
    run.segments.splice(segment, 1, first, second);
  });
}

/** Takes a point out of a run; its neighbours are joined by a line. A run without a segment left goes as well. */
export function deletePoint(runId: string, pointId: string): JobAction {
  return {
    label: 'delete a point',
    recipe(job) {
      const run = job.part.runs.find((r) => r.id === runId);
      if (run?.kind !== 'chain') return;
      const at = run.points.indexOf(pointId);
      if (at < 0) return;
      if (run.points.length <= 2 || (run.closed && run.points.length <= 3)) {
        dropRun(job, run);
        return;
      }
      const before = at === 0 ? (run.closed ? run.segments.length - 1 : -1) : at - 1;
      const after = at < run.segments.length ? at : -1;
      for (const k of [before, after]) if (k >= 0) forgetBend(job.part, run.segments[k]);
      if (before >= 0 && after >= 0) run.segments[before] = { kind: 'line' };
      run.segments.splice(after >= 0 ? after : before, 1);
      run.points.splice(at, 1);
      delete job.part.points[pointId];
    },
  };
}

export function deleteRun(runId: string): JobAction {
  return {
    label: 'delete a path',
    recipe(job) {
      const run = job.part.runs.find((r) => r.id === runId);
      if (run) dropRun(job, run);
    },
  };
}

export function changeRun(runId: string, change: { name?: string; role?: Role }): JobAction {
  return {
    label: change.role ? 'say cut or mark' : 'name a path',
    recipe(job) {
      const run = job.part.runs.find((r) => r.id === runId);
      if (run) Object.assign(run, change);
    },
  };
}

function dropRun(job: JobDocument, run: Run): void {
  for (const id of pointsOfRun(run)) delete job.part.points[id];
  job.part.runs = job.part.runs.filter((r) => r.id !== run.id);
}

/** Every point that a run is made of: its own first, then what bends its segments. */
export function pointsOfRun(run: Run): string[] {
  if (run.kind === 'circle') return [...run.points];
  return [
    ...run.points,
    ...run.segments.flatMap((s) => (s.kind === 'arc' ? [s.via] : s.kind === 'curve' ? [s.handleFrom, s.handleTo] : [])),
  ];
}

function forgetBend(part: Part, segment: SegmentRecord | undefined): void {
  if (segment?.kind === 'arc') delete part.points[segment.via];
  if (segment?.kind === 'curve') {
    delete part.points[segment.handleFrom];
    delete part.points[segment.handleTo];
  }
}

function onChain(runId: string, label: string, change: (run: ChainRun, part: Part) => void): JobAction {
  return {
    label,
    recipe(job) {
      const run = job.part.runs.find((r) => r.id === runId);
      if (run?.kind === 'chain') change(run, job.part);
    },
  };
}

/** Says which plane a run was traced on. */
export function setRunPlane(runId: string, plane: PlaneName): JobAction {
  return {
    label: 'set the height of a path',
    recipe(job) {
      const run = job.part.runs.find((r) => r.id === runId);
      if (run) run.plane = plane;
    },
  };
}
