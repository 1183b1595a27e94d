import { type Form, pathData, type Vec2 } from '@steady-moth/core/geometry';
import { formOf, type JobDocument, type Run, type TracedPoint } from '@steady-moth/core/job';
import { useCallback, useMemo } from 'react';
import { type BoardFace, boardMapper } from '../board/boardMap';

/** A run as it lies on the board: in part coordinates (y up), and as path data in board coordinates (y down). */
export interface DrawnRun {
  run: Run;
  form: Form | null;
  path: string;
}

/** Where a traced point lies on the board, through the picture that it was picked on; null where that has no place. */
export type PlacePoint = (point: TracedPoint | undefined) => Vec2 | null;

export function usePlacePoint(faces: ReadonlyMap<string, BoardFace>): PlacePoint {
  return useCallback(
    (point) => {
      const face = point && faces.get(point.picture);
      return face ? boardMapper(face).toBoard(point) : null;
    },
    [faces],
  );
}

/** The forms of all runs on the board; a point in `draft` stands where it is being dragged. */
export function useForms(
  part: JobDocument['part'],
  placePoint: PlacePoint,
  draft: Record<string, TracedPoint> | null,
): DrawnRun[] {
  return useMemo(() => {
    const place = (id: string) => {
      const at = placePoint(draft?.[id] ?? part.points[id]);
      return at && { x: at.x, y: -at.y };
    };
    return part.runs.map((run) => {
      const form = formOf(run, place);
      return { run, form, path: form ? pathData(form, (p) => ({ x: p.x, y: -p.y })) : '' };
    });
  }, [part, placePoint, draft]);
}
