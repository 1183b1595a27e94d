import { deletePoint, deleteRun, type JobDocument, movePoints, straighten } from '@steady-moth/core/job';
import { useEffect, useRef } from 'react';
import { nudged } from '../../board/nudge';
import { afterPresses } from '../../board/pressQueue';
import { isTyping } from '../../board/useViewControls';
import { type BoardFace, boardMapper } from '../../frames/boardMap';
import { useBench } from '../../session/benchStore';
import { useJob } from '../../session/jobStore';
import type { Growing } from './useTraceTool';

/** Enter ends a run, Delete takes away what is chosen, arrow keys move the chosen point by the readout's step. */
export function useTraceKeys({
  job,
  faces,
  growing,
  setGrowing,
}: {
  job: JobDocument;
  faces: ReadonlyMap<string, BoardFace>;
  growing: Growing | null;
  setGrowing(growing: Growing | null): void;
}): void {
  const latest = useRef(growing);
  latest.current = growing;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event.target) || event.ctrlKey || event.metaKey) return;
      const { selection, select, step } = useBench.getState();
      const apply = useJob.getState().apply;
      if (event.key === 'Enter' && growing) {
        afterPresses(() => {
          const { current: grown } = latest;
          if (!grown) return;
          setGrowing(null);
          select({ kind: 'run', run: grown.run });
        });
        event.preventDefault();
        return;
      }
      if (!selection || selection.kind === 'pick' || selection.kind === 'place') return;
      if (event.key === 'Delete' || event.key === 'Backspace') {
        if (selection.kind === 'point') deleteChosen(job, selection.run, selection.point);
        else if (selection.kind === 'segment') apply(straighten(selection.run, selection.segment));
        else apply(deleteRun(selection.run));
        select(null);
      } else if (selection.kind === 'point' && job.part.points[selection.point]) {
        const point = job.part.points[selection.point];
        const face = faces.get(point.picture);
        const place = face && nudged(boardMapper(face), point, step, event.key);
        if (!place) return;
        apply(movePoints('move a point', { [selection.point]: { ...point, ...place, cling: 'free', beside: null } }));
      } else return;
      event.preventDefault();
      event.stopImmediatePropagation();
    };
    window.addEventListener('keydown', onKey, { capture: true });
    return () => window.removeEventListener('keydown', onKey, { capture: true });
  }, [job, faces, growing, setGrowing]);
}

/** A corner goes out of its run; a point that bends a segment straightens it; a circle's rim point takes the circle. */
function deleteChosen(job: JobDocument, runId: string, pointId: string): void {
  const run = job.part.runs.find((r) => r.id === runId);
  const apply = useJob.getState().apply;
  if (!run) return;
  if (run.kind === 'circle') apply(deleteRun(runId));
  else if (run.points.includes(pointId)) apply(deletePoint(runId, pointId));
  else {
    const bent = run.segments.findIndex(
      (s) =>
        (s.kind === 'arc' && s.via === pointId) ||
        (s.kind === 'curve' && (s.handleFrom === pointId || s.handleTo === pointId)),
    );
    if (bent >= 0) apply(straighten(runId, bent));
  }
}
