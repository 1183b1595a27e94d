import type { PicturePoint } from '../calibration';
import { type Box, formsBounds, type Vec2 } from '../geometry';
import type { JobDocument, Picture } from '../job';
import {
  type EvaluatedPart,
  type EvaluatedPath,
  type Id,
  type NewPick,
  nearestOther,
  type Observation,
  observationOf,
  type PictureMap,
} from '../sketch';

/** The part as it is drawn: where everything lies, and what of it cannot be taken hold of. */
export interface Traced {
  paths: readonly EvaluatedPath[];
  locked: ReadonlySet<Id>;
  settled: EvaluatedPart['settled'];
  /** Of a point or a pick by its name. */
  placeOf(id: Id): Vec2 | null;
  /** Of anything that was seen, where it shows. */
  placeSeen(at: Pick<Observation, 'picture' | 'uPx' | 'vPx'>): Vec2 | null;
}

/** What drawing and changing look at: the job, the picture that is drawn on, and where everything lies. */
export interface Setting {
  job: JobDocument;
  picture: Picture;
  drawn: Traced;
  mapper: PictureMap;
  newId(): Id;
}

/** What says where a place of the part is seen. */
export type Seeing = Pick<Setting, 'mapper' | 'picture' | 'newId'>;

/** What a press means: a place of the part, and what of the picture is there. */
export interface Aimed {
  place: Vec2;
  picture: PicturePoint;
  /** Which picture that is in. */
  pictureId: Id;
  sigmaPx: number;
  snappedTo: 'edge' | 'line' | 'point' | 'free';
  /** Name of the existing point that it is; null for none. */
  point: Id | null;
  /** Every edge that runs along the one snapped to, that one included; one of them is `edge`. */
  edges: readonly PicturePoint[];
  edge: number;
}

/** What was seen where an aim is. */
export const seenAt = (aim: Aimed): Observation => ({
  picture: aim.pictureId,
  uPx: aim.picture.uPx,
  vPx: aim.picture.vPx,
  sigmaPx: aim.sigmaPx,
  plane: 'face',
  snappedTo: aim.snappedTo,
  neighbouringEdge: aim.edges.length > 1 ? placeOnly(nearestOther(aim.edges, aim.edges[aim.edge]!)) : null,
});

const placeOnly = ({ uPx, vPx }: PicturePoint): PicturePoint => ({ uPx, vPx });

/** A place that was worked out, not picked: it carries the scatter given, px. Null beyond what the camera could see. */
export function derivedAt({ mapper, picture }: Seeing, place: Vec2, sigmaPx: number): Observation | null {
  const at = mapper.toPicture(place);
  return at && { picture: picture.id, ...at, sigmaPx, plane: 'face', snappedTo: 'free', neighbouringEdge: null };
}

/** As `derivedAt`, for a pick of its own. */
export function derivedPick(context: Seeing, place: Vec2, sigmaPx: number): NewPick | null {
  const at = derivedAt(context, place, sigmaPx);
  return at && { id: context.newId(), at };
}

/** Where each place of the part is seen, with a scatter of its own, px. */
export const seeingWith =
  (context: Seeing, sigmaPx: number) =>
  (place: Vec2): Observation | null =>
    derivedAt(context, place, sigmaPx);

/** Points and picks taken elsewhere, each as well known as it was. What has no place there stays. */
export function taken(
  ids: readonly Id[],
  to: (place: Vec2) => Vec2,
  { job, drawn, mapper, picture }: Pick<Setting, 'job' | 'drawn' | 'mapper' | 'picture'>,
): Record<Id, Observation> {
  const moved: Record<Id, Observation> = {};
  for (const id of ids) {
    const start = observationOf(job.part, id);
    const place = start && drawn.placeSeen(start);
    if (!start || !place) continue;
    const at = mapper.toPicture(to(place));
    moved[id] = at ? { ...start, ...at, picture: picture.id, snappedTo: 'free', neighbouringEdge: null } : start;
  }
  return moved;
}

const boxes = new WeakMap<EvaluatedPath, Box | null>();

/** The box round all of a path and what is made of it; null without a form. Worked out when it is first asked for. */
export function boxOfPath(own: EvaluatedPath): Box | null {
  const known = boxes.get(own);
  if (known !== undefined) return known;
  const bounds = own.form && formsBounds([own.form, ...(own.made ?? [])]);
  const box = bounds && { left: bounds.min.x, right: bounds.max.x, bottom: bounds.min.y, top: bounds.max.y };
  boxes.set(own, box);
  return box;
}

/** Encloses something, by itself or by what is made of it. */
export const isClosed = ({ path, made }: EvaluatedPath): boolean =>
  made ? made.some((f) => f.kind === 'circle' || f.closed) : path.closed;
