import { bend, deletePath, deletePoint, type JobDocument, movePicks } from '@steady-moth/core/job';
import { findPath, observationOf, walkOf } from '@steady-moth/core/sketch';
import { useEffect, useRef } from 'react';
import { nudged } from '../../board/nudge';
import { afterPresses } from '../../board/pressQueue';
import { isTyping } from '../../board/useViewControls';
import { type BoardFace, boardMapper } from '../../frames/boardMap';
import { useBench } from '../../session/benchStore';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { useReadout } from '../../session/readoutStore';
import { bowedBy } from './bowedBy';
import { spanBetween } from './tools/context';
import { neighbourOf } from './tools/hold';
import type { Drawn } from './useDrawn';

interface Setting {
  job: JobDocument;
  drawn: Drawn;
  faces: ReadonlyMap<string, BoardFace>;
  /** A path is being drawn. */
  isGrowing: boolean;
  finish(): void;
}

/** Enter ends a path, Delete takes away what is chosen, arrow keys move the chosen point, or bow the chosen piece. */
export function useTraceKeys(setting: Setting): void {
  const latest = useRef(setting);
  latest.current = setting;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event.target) || event.ctrlKey || event.metaKey) return;
      if (!handled(event.key, latest)) return;
      event.preventDefault();
      event.stopImmediatePropagation();
    };
    window.addEventListener('keydown', onKey, { capture: true });
    return () => window.removeEventListener('keydown', onKey, { capture: true });
  }, []);
}

/** True where the key meant something here. */
function handled(key: string, latest: { current: Setting }): boolean {
  const { selection, select, step } = useBench.getState();
  const { apply } = useJob.getState();
  const { job, drawn, faces, isGrowing } = latest.current;
  if (key === 'Enter' && isGrowing) {
    afterPresses(() => latest.current.isGrowing && latest.current.finish());
    return true;
  }
  if (!selection || selection.kind === 'pick' || selection.kind === 'place') return false;
  if (key === 'Delete' || key === 'Backspace') {
    if (selection.kind === 'point') deleteChosen(job, selection.path, selection.point);
    else if (selection.kind === 'piece') apply(bend(selection.curve, { kind: 'line' }));
    else apply(deletePath(selection.path));
    select(null);
    return true;
  }
  if (selection.kind === 'point') {
    const seen = observationOf(job.part, selection.point);
    const face = seen && faces.get(seen.picture);
    const place = seen && face && nudged(boardMapper(face), seen, step, key);
    if (!seen || !face || !place) return false;
    const moved = { ...seen, ...place, snappedTo: 'free' as const, neighbouringEdge: null };
    apply(movePicks('move a point', { [selection.point]: moved }));
    const at = drawn.placeSeen(moved);
    const beside = neighbourOf(selection.point, { job, drawn });
    if (face.kind === 'true' && at)
      useReadout.getState().show({
        xMm: at.x,
        yMm: -at.y,
        ...(beside ? spanBetween(beside, at) : { lengthMm: null, angle: null }),
      });
    return true;
  }
  if (selection.kind === 'piece') {
    const how = bowedBy(selection.curve, key, step, { job, drawn, faces, newId });
    if (how) apply(bend(selection.curve, how));
    return how !== null;
  }
  return false;
}

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
