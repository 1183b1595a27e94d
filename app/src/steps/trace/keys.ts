import type { Vec2 } from '@steady-moth/core/geometry';
import { bend, deletePath, deletePaths, deletePoint, type JobDocument, movePicks } from '@steady-moth/core/job';
import { findPath, observationOf, pathsOf, pxPerUnit, walkOf } from '@steady-moth/core/sketch';
import { bowedBy, idsOf, pathsOfItems, taken } from '@steady-moth/core/tracing';
import { useEffect } from 'react';
import { nudged } from '../../board/nudge';
import { afterPresses } from '../../board/pressQueue';
import { type BoardFrame, boardMapper } from '../../frames/boardMap';
import { arrowWay } from '../../frames/place';
import { chosenOf, itemsOf } from '../../part/chosen';
import { spanBetween } from '../../part/preview';
import type { Drawn } from '../../part/useDrawn';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { useReadout } from '../../session/readoutStore';
import { useSession } from '../../session/sessionStore';
import { neighbourOf } from './tools/grab';
import { useTrace } from './traceStore';

/** What the keys go by. */
export interface Setting {
  /** Settles what is chosen on its edge. */
  settle(): void;
  job: JobDocument;
  drawn: Drawn;
  frames: ReadonlyMap<string, BoardFrame>;
  /** A path is being drawn. */
  isGrowing: boolean;
  finish(): void;
}

/**
 * Enter ends a path, Delete takes away what is chosen, arrow keys move what is chosen, or bow the one chosen piece; a key
 * changes between straight and tangent, another looks through the trace.
 */
export function onTraceKey(event: KeyboardEvent, now: { current: Setting }): boolean {
  if (!event.ctrlKey && !event.metaKey) return held(event.code, event.repeat, now) || handled(event.key, now);
  if (event.key.toLowerCase() !== 'a') return false;
  chooseAll(now.current.job);
  return true;
}

/** The trace comes back as soon as its key is let go, or can no longer be seen to be. */
export function useSeenAgain(): void {
  useEffect(() => {
    const seenAgain = () => useTrace.getState().setSeeThrough(false);
    const onUp = (event: KeyboardEvent) => event.code === THROUGH_KEY && seenAgain();
    window.addEventListener('keyup', onUp);
    window.addEventListener('blur', seenAgain);
    return () => {
      window.removeEventListener('keyup', onUp);
      window.removeEventListener('blur', seenAgain);
      seenAgain();
    };
  }, []);
}

/** Beside the key of the free hand: a line, or an arc tangent to what came before. */
const TANGENT_KEY = 'KeyD';
/** As long as it is held the trace is out of the way. */
const THROUGH_KEY = 'KeyV';
/** What is chosen settles on its edge. */
const SETTLE_KEY = 'KeyS';

/** Keys by their place; true where one meant something here. */
function held(code: string, repeats: boolean, now: { current: Setting }): boolean {
  if (code === THROUGH_KEY) useTrace.getState().setSeeThrough(true);
  else if (code === TANGENT_KEY && useSession.getState().tool === 'line') {
    if (!repeats) afterPresses(() => useTrace.getState().setTangent(!useTrace.getState().tangent));
  } else if (code === SETTLE_KEY && itemsOf(useSession.getState().selection).length > 0) {
    if (!repeats) afterPresses(() => now.current.settle());
  } else return false;
  return true;
}

/** Enter means what has the focus: not a tool of the roll nor the step's own link, which are only where it was left. */
const isOnControl = (target: Element | null): boolean =>
  target?.closest('button, a:not([aria-current]), [role="radio"]') != null && !target.closest('[role="toolbar"]');

/** Everything that is traced. */
function chooseAll({ part }: JobDocument): void {
  useSession.getState().select(chosenOf(pathsOf(part).map((p) => ({ kind: 'path', path: p.id }))));
}

/** True where the key meant something here. */
function handled(key: string, latest: { current: Setting }): boolean {
  const { selection, select, step } = useSession.getState();
  const { apply } = useJob.getState();
  const { job, drawn, frames, isGrowing } = latest.current;
  if (key === 'Enter' && isGrowing && !isOnControl(document.activeElement)) {
    afterPresses(() => latest.current.isGrowing && latest.current.finish());
    return true;
  }
  if (!selection || selection.kind === 'pick' || selection.kind === 'place') return false;
  if (key === 'Delete' || key === 'Backspace') {
    if (selection.kind === 'point') deleteChosen(job, selection.path, selection.point);
    else if (selection.kind === 'piece') apply(bend(selection.curve, { kind: 'line' }));
    else apply(deletePaths(pathsOfItems(itemsOf(selection))));
    select(null);
    return true;
  }
  if (selection.kind === 'point') {
    const seen = observationOf(job.part, selection.point);
    const frame = seen && frames.get(seen.picture);
    const place = seen && frame && nudged(boardMapper(frame), seen, step, key);
    if (!seen || !frame || !place) return false;
    const moved = { ...seen, ...place, snappedTo: 'free' as const, neighbouringEdge: null };
    apply(movePicks('move a point', { [selection.point]: moved }));
    const at = drawn.placeSeen(moved);
    const beside = neighbourOf(selection.point, { job, drawn });
    if (frame.kind === 'true' && at)
      useReadout.getState().show({
        xMm: at.x,
        yMm: at.y,
        ...(beside ? spanBetween(beside, at) : { lengthMm: null, angle: null }),
      });
    return true;
  }
  if (selection.kind === 'piece') {
    const way = BOWS[key];
    const mapOf = (picture: string) => {
      const frame = frames.get(picture);
      return frame ? boardMapper(frame) : null;
    };
    const how = way ? bowedBy(selection.curve, way, step, { job, drawn, mapOf, newId }) : null;
    if (how) apply(bend(selection.curve, how));
    return how !== null;
  }
  const by = arrowWay(key);
  const perMm = step.unit === 'px' ? null : step.size;
  const ids = idsOf(itemsOf(selection), job.part);
  const first = ids.flatMap((id) => observationOf(job.part, id) ?? [])[0];
  const frame = first && frames.get(first.picture);
  const picture = first && job.pictures.find((p) => p.id === first.picture);
  if (!by || !frame || !picture) return false;
  const mapper = boardMapper(frame);
  const here = drawn.placeSeen(first);
  // A step in pixels is as long on the board as a pixel is about what is chosen.
  const size = perMm ?? (here ? step.size / pxPerUnit(mapper, here) : 0);
  // Up on screen is up on the part.
  const to = (p: Vec2) => ({ x: p.x + size * by.x, y: p.y - size * by.y });
  apply(movePicks('move what is chosen', taken(ids, to, { job, drawn, mapper, picture })));
  return true;
}

/** Which way an arrow key bows a piece: to the left of the way that it runs, or to the right. */
const BOWS: Record<string, 1 | -1> = { ArrowUp: 1, ArrowLeft: 1, ArrowDown: -1, ArrowRight: -1 };

/** A corner goes out of its path; a pick that bends a piece straightens it; a circle's rim or centre takes the circle. */
function deleteChosen(job: JobDocument, pathId: string, id: string): void {
  const { apply } = useJob.getState();
  const found = findPath(job.part, pathId);
  const walk = found && walkOf(found.sketch, found.path);
  if (!walk) return;
  const bent = walk.pieces.find(({ curve }) => curve.evidence.some((e) => e.picks.includes(id)))?.curve;
  if (walk.pieces[0]?.curve.kind === 'circle') apply(deletePath(pathId));
  else if (bent) apply(bend(bent.id, { kind: 'line' }));
  else apply(deletePoint(pathId, id));
}
