import { type Form, pathData, type Vec2 } from '@steady-moth/core/geometry';
import {
  formOf,
  type JobDocument,
  type PlaneName,
  placedOnTurned,
  type Run,
  type TracedPoint,
  TURNED,
} from '@steady-moth/core/job';
import { axisFrom, lensOver } from '@steady-moth/core/truing';
import { useCallback, useMemo } from 'react';
import { type BoardFace, boardMapper } from '../board/boardMap';

/** A run as it lies on the board: in part coordinates (y up), and as path data in board coordinates (y down). */
export interface DrawnRun {
  run: Run;
  form: Form | null;
  path: string;
}

/**
 * Where a traced point lies on the board, through the picture that it was picked on; null where that has no place. With
 * a plane it is where it truly is on that; without, where it is seen, since the board shows the face's plane.
 */
export type PlacePoint = (point: TracedPoint | undefined, plane?: PlaneName) => Vec2 | null;

export function usePlacePoint(faces: ReadonlyMap<string, BoardFace>): PlacePoint {
  return useCallback(
    (point, plane) => {
      const face = point && faces.get(point.picture);
      return face ? boardMapper(onPlane(face, plane)).toBoard(point) : null;
    },
    [faces],
  );
}

/** A face at the height of one of its planes: kept, so that all points of a run share one. */
const raised = new WeakMap<BoardFace, Map<PlaneName, BoardFace>>();

function onPlane(face: BoardFace, plane: PlaneName | undefined): BoardFace {
  const heightMm = face.kind === 'true' && plane !== undefined ? heightOf(face, plane) : undefined;
  if (face.kind !== 'true' || plane === undefined || heightMm === undefined || heightMm === face.map.heightMm)
    return face;
  const planes = raised.get(face) ?? new Map<PlaneName, BoardFace>();
  raised.set(face, planes);
  const found = planes.get(plane) ?? { ...face, map: { ...face.map, heightMm } };
  planes.set(plane, found);
  return found;
}

const heightOf = (face: Extract<BoardFace, { kind: 'true' }>, plane: PlaneName): number | undefined =>
  plane === TURNED ? face.turned?.heightMm : face.heights[plane];

/** Where the points of a run on a turned part truly lie, in part coordinates. */
function onTurned(
  run: Run,
  seen: (id: string) => Vec2 | null,
  face: BoardFace | undefined,
): (id: string) => Vec2 | null {
  if (face?.kind !== 'true' || !face.turned) return seen;
  const axisFace = onPlane(face, TURNED) as typeof face;
  const limbs = face.turned.limbs.map((p) => boardMapper(axisFace).toBoard(p));
  if (limbs.some((p) => p === null)) return seen;
  const places = limbs.flatMap((p) => (p ? [p.x, -p.y] : []));
  const lens = lensOver(axisFace.map);
  return placedOnTurned(run, seen, axisFrom(places, 0, lens), lens);
}

/**
 * The forms of all runs on the board; a point in `draft` stands where it is being dragged. With the faces in `truly`
 * each lies where it is on its own plane, or on its turned part, as it is handed over.
 */
export function useForms(
  part: JobDocument['part'],
  placePoint: PlacePoint,
  draft: Record<string, TracedPoint> | null,
  truly: ReadonlyMap<string, BoardFace> | null = null,
): DrawnRun[] {
  return useMemo(() => {
    return part.runs.map((run) => {
      const seen = (id: string) => {
        const at = placePoint(draft?.[id] ?? part.points[id], truly ? run.plane : undefined);
        return at && { x: at.x, y: -at.y };
      };
      const on = new Set(run.points.map((id) => part.points[id]?.picture));
      // A limb is seen from one lens: a run over several pictures is left as it lies.
      const face = on.size === 1 ? truly?.get([...on][0]) : undefined;
      const form = formOf(run, truly && run.plane === TURNED ? onTurned(run, seen, face) : seen);
      return { run, form, path: form ? pathData(form, (p) => ({ x: p.x, y: -p.y })) : '' };
    });
  }, [part, placePoint, draft, truly]);
}
