import { type Form, pathData } from '@steady-moth/core/geometry';
import { formOf, type JobDocument, type Run, type TracedPoint } from '@steady-moth/core/job';
import { useMemo } from 'react';
import { type BoardFace, boardMapper } from '../board/boardMap';

/** A run as it lies on the board: in part coordinates (y up), and as path data in board coordinates (y down). */
export interface DrawnRun {
  run: Run;
  form: Form | null;
  path: string;
}

/** The forms of all runs on the board's face; a point in `draft` stands where it is being dragged. */
export function useForms(
  part: JobDocument['part'],
  face: BoardFace,
  draft: Record<string, TracedPoint> | null,
): DrawnRun[] {
  return useMemo(() => {
    const mapper = boardMapper(face);
    const place = (id: string) => {
      const at = mapper.toBoard(draft?.[id] ?? part.points[id]);
      return at && { x: at.x, y: -at.y };
    };
    return part.runs.map((run) => {
      const form = formOf(run, place);
      return { run, form, path: form ? pathData(form, (p) => ({ x: p.x, y: -p.y })) : '' };
    });
  }, [part, face, draft]);
}
