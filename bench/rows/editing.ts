import { type Form, findAxes, reduced, type Segment, stretchAbout, vec } from '../../core/src/geometry';
import { act, type JobState, joinEnds, NO_HISTORY, newJob, putPaths } from '../../core/src/job';
import { MAIN_SKETCH, newSketch, type Observation, putForm, walkOf } from '../../core/src/sketch';
import { timed } from './timed';

/** Open chains of lines over a field, so many pieces in all, ten a path. */
function field(count: number): Form[] {
  return Array.from({ length: Math.ceil(count / 10) }, (_, n): Form => {
    const at = (k: number) => vec(3 * k + (n % 40) * 7, 5 * Math.floor(n / 40) + 4 * (k % 2) + 0.1 * n);
    const segments = Array.from({ length: 10 }, (_, k): Segment => ({ kind: 'line', from: at(k), to: at(k + 1) }));
    return { kind: 'chain', segments, closed: false };
  });
}

/** What editing costs in a job of so many pieces, ms: a piece trimmed among all of them, two ends joined as one change. */
export function timeEditing(count: number): {
  pieces: number;
  trimMs: number;
  joinMs: number;
  axesMs: number;
  fewerMs: number;
} {
  const forms = field(count);
  const all = forms.flatMap((f) => (f.kind === 'chain' ? f.segments : []));
  const trimMs = timed(9, () => stretchAbout(all[count >> 1]!, 0.4, all));
  let ids = 0;
  const newId = () => `b${ids++}`;
  const see = (p: { x: number; y: number }): Observation => ({
    picture: 'p',
    uPx: 10 * p.x,
    vPx: -10 * p.y,
    sigmaPx: 0.1,
    plane: 'face',
    snappedTo: 'free',
    neighbouringEdge: null,
  });
  const draft = newSketch(MAIN_SKETCH, '', null);
  for (const form of forms) putForm(draft, form, { id: newId(), name: 'path', role: 'cut', layer: null }, see, newId);
  const empty: JobState = { job: newJob('bench', 'bench', '2026-01-01T00:00:00Z', 'mm'), history: NO_HISTORY };
  const state = act(empty, putPaths('draw', draft));
  const sketch = state.job.part.sketches[MAIN_SKETCH]!;
  const [a, b] = sketch.order.map((id) => sketch.paths[id]!);
  const [keep, gone] = [walkOf(sketch, a!)!.points.at(-1)!, walkOf(sketch, b!)!.points[0]!];
  const joinMs = timed(9, () => act(state, joinEnds(keep, gone, a!.id)));
  const round: Segment[] = Array.from({ length: 200 }, (_, k) => {
    const at = (n: number) => vec(40 * Math.cos((n * Math.PI) / 100), 25 * Math.sin((n * Math.PI) / 100));
    return { kind: 'line', from: at(k), to: at(k + 1) };
  });
  const closed: Form = { kind: 'chain', segments: round, closed: true };
  return {
    pieces: count,
    trimMs,
    joinMs,
    axesMs: timed(3, () => findAxes([closed])),
    fewerMs: timed(3, () => reduced(round, true, 0.05)),
  };
}
