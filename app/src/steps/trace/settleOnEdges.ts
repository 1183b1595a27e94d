import type { GroundOfRim } from '@steady-moth/core/edge';
import { type JobAction, movePicks, type Picture } from '@steady-moth/core/job';
import type { SettleResult, ToSettle } from '@steady-moth/core/outline';
import {
  excerptOf,
  findPath,
  type Id,
  type Observation,
  observationIn,
  planeOfPath,
  type Sketch,
} from '@steady-moth/core/sketch';
import { circleOf, groundOf, type Item, pathsOfItems, type Setting } from '@steady-moth/core/tracing';
import { inkOf } from '../../board/inkOf';
import { pixels } from '../../compute';
import type { BoardFrame } from '../../frames/boardMap';
import { useJob } from '../../session/jobStore';
import { askQuestion, type QuestionKind } from '../../session/questions';
import { settledSentence } from './settledSentence';
import { useTrace } from './traceStore';

type Asked = { picture: Picture; frame: BoardFrame; all: readonly Settling[] };
/** What settles; of a circle also on which side of its rim the ground lies, where that is known. */
type Settling = { to: ToSettle; ground: GroundOfRim };
type Settled = { to: ToSettle; result: SettleResult };

/** What settles is worked out a path at a time: so that progress is told, and what was given up ends soon. */
const SETTLING: QuestionKind<Asked, Settled[]> = {
  says: () => 'Settling on the picture’s edges',
  async ask({ picture, frame, all }, { signal, progress }) {
    const settled: Settled[] = [];
    for (const [k, { to, ground }] of all.entries()) {
      progress(k / all.length);
      const plane = planeOfPath(to.sketch, to.path);
      const asked = await pixels.call((w) => w.settleOnEdges(picture.blob, frame, to, plane, inkOf(picture), ground), {
        signal,
        silentMs: LONGEST_MS,
      });
      settled.push({ to, result: asked ?? { ok: false, reason: 'not-here' } });
    }
    return settled;
  },
};

/** A path of many pieces takes some seconds. */
const LONGEST_MS = 60_000;

/**
 * Settles what is chosen on the edges of the picture that it lies over, as one step, and says what came of it. Of paths of
 * which only pieces are chosen, those alone.
 */
export async function settleChosen(items: readonly Item[], setting: Setting, frame: BoardFrame): Promise<void> {
  const all = toSettle(items, setting);
  if (all.length === 0) return;
  const settled = await askQuestion(SETTLING, { picture: setting.picture, frame, all });
  if (!settled) return;
  const { apply, state } = useJob.getState();
  const action =
    state && settling(settled, (to) => findPath(state.job.part, to.path.id)?.sketch ?? null, setting.picture);
  if (action) apply(action);
  const says = settledSentence(settled, frame.kind === 'true' ? setting.job.unit : null);
  useTrace.getState().setSettled({ paths: pathsKey(items), says });
}

/** The paths that something is chosen of, as one word. */
export const pathsKey = (items: readonly Item[]): string => pathsOfItems(items).join(' ');

function toSettle(items: readonly Item[], { job, picture, drawn }: Setting): Settling[] {
  return pathsOfItems(items).flatMap((id): Settling[] => {
    const found = findPath(job.part, id);
    if (!found || drawn.locked.has(id)) return [];
    const own = items.filter((i) => i.path === id);
    const pieces = own.flatMap((i) => (i.kind === 'piece' ? [i.curve] : []));
    const only = pieces.length === own.length ? pieces : null;
    const sketch = excerptOf(found.sketch, found.path);
    const shown = drawn.paths.find((p) => p.path.id === id);
    const circle = shown && circleOf(shown);
    const ground = circle ? groundOf(circle, drawn.paths) : null;
    return sketch ? [{ to: { sketch, path: found.path, only, picture: picture.id }, ground }] : [];
  });
}

/** All that settled as one change; null where nothing did. What was changed since it was asked stays as it is now. */
function settling(
  settled: readonly Settled[],
  now: (to: ToSettle) => Sketch | null,
  picture: Picture,
): JobAction | null {
  const moves: Record<Id, Observation> = {};
  for (const { to, result } of settled) {
    const sketch = now(to);
    if (!result.ok || !sketch) continue;
    for (const [id, pick] of Object.entries(result.picks)) {
      const before = observationIn(sketch, id);
      const asked = observationIn(to.sketch, id);
      if (!before || before.uPx !== asked?.uPx || before.vPx !== asked.vPx) continue;
      moves[id] = { ...before, ...pick, snappedTo: inkOf(picture), neighbouringEdge: before.neighbouringEdge };
    }
  }
  return Object.keys(moves).length > 0 ? movePicks('settle on the edge', moves) : null;
}
