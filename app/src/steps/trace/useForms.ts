import { axisFrom, lensOver } from '@steady-moth/core/calibration';
import { type Form, formsBounds, pathData, type Vec2 } from '@steady-moth/core/geometry';
import {
  formOf,
  type JobDocument,
  type PlaneName,
  placedOnTurned,
  type Run,
  type TracedPoint,
  TURNED,
} from '@steady-moth/core/job';
import { useCallback, useMemo, useRef } from 'react';
import { type BoardFace, boardMapper } from '../../frames/boardMap';
import type { Box } from '../../frames/view';
import { ownPoints } from '../../session/useFigures';

/** A run as it lies on the board. What is not always needed is worked out when it is first asked for. */
export interface DrawnRun {
  run: Run;
  /** In part coordinates, y up, mm; null where a point has no place. */
  form: Form | null;
  /** Path data in board coordinates, y down. */
  readonly path: string;
  /** Box round it in board coordinates, null without a form. */
  readonly bounds: Box | null;
}

export function drawnRun(run: Run, form: Form | null): DrawnRun {
  let path: string | undefined;
  let bounds: Box | null | undefined;
  return {
    run,
    form,
    get path() {
      path ??= form ? pathData(form, (p) => ({ x: p.x, y: -p.y })) : '';
      return path;
    },
    get bounds() {
      if (bounds === undefined) {
        const box = form && formsBounds([form]);
        bounds = box && { left: box.min.x, right: box.max.x, top: -box.max.y, bottom: -box.min.y };
      }
      return bounds;
    },
  };
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

interface Made {
  own: unknown;
  /** The faces of the pictures that it was traced on: another picture's becomes true without it. */
  faces: readonly (BoardFace | undefined)[];
  dragged: boolean;
  truly: boolean;
  drawn: DrawnRun;
}

/** The pictures that a run's own points were picked on. */
const pictures = new WeakMap<object, readonly string[]>();

function picturesOf(own: Readonly<Record<string, TracedPoint>>): readonly string[] {
  const known = pictures.get(own) ?? [...new Set(Object.values(own).map((p) => p.picture))];
  pictures.set(own, known);
  return known;
}

/**
 * The forms of all runs on the board; a point in `draft` stands where it is being dragged. `truly` puts each where it
 * is on its own plane, or on its turned part, as it is handed over. A run of which nothing changed keeps its identity:
 * a drag works out again the run in hand alone.
 */
export function useForms(
  part: JobDocument['part'],
  faces: ReadonlyMap<string, BoardFace>,
  draft: Record<string, TracedPoint> | null,
  truly = false,
): readonly DrawnRun[] {
  const placePoint = usePlacePoint(faces);
  const kept = useRef(new Map<string, Made>());
  const last = useRef<readonly DrawnRun[]>([]);
  return useMemo(() => {
    const next = new Map<string, Made>();
    const moved = Object.keys(draft ?? {});
    const drawn = part.runs.map((run) => {
      const own = ownPoints(run, part.points);
      const dragged = own !== null && moved.some((id) => id in own);
      const on = own ? picturesOf(own).map((id) => faces.get(id)) : [];
      const before = kept.current.get(run.id);
      const same =
        before &&
        !dragged &&
        !before.dragged &&
        before.drawn.run === run &&
        before.own === own &&
        before.truly === truly &&
        before.faces.length === on.length &&
        before.faces.every((face, k) => face === on[k]);
      const made = same
        ? before
        : {
            own,
            faces: on,
            dragged,
            truly,
            drawn: drawnRun(run, formAt(run, part, placePoint, draft, truly ? faces : null)),
          };
      next.set(run.id, made);
      return made.drawn;
    });
    kept.current = next;
    if (drawn.length !== last.current.length || drawn.some((d, k) => d !== last.current[k])) last.current = drawn;
    return last.current;
  }, [part, faces, placePoint, draft, truly]);
}

function formAt(
  run: Run,
  part: JobDocument['part'],
  placePoint: PlacePoint,
  draft: Record<string, TracedPoint> | null,
  truly: ReadonlyMap<string, BoardFace> | null,
): Form | null {
  const seen = (id: string) => {
    const at = placePoint(draft?.[id] ?? part.points[id], truly ? run.plane : undefined);
    return at && { x: at.x, y: -at.y };
  };
  const on = new Set(run.points.map((id) => part.points[id]?.picture));
  // A limb is seen from one lens: a run over several pictures is left as it lies.
  const face = on.size === 1 ? truly?.get([...on][0]) : undefined;
  return formOf(run, truly && run.plane === TURNED ? onTurned(run, seen, face) : seen);
}
