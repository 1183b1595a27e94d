import type { PicturePoint } from '../calibration';
import { pointAt, type Segment, segmentLength, speedAt, type Vec2 } from '../geometry';
import { type PictureMap, pxPerUnit } from '../sketch';

/** An edge or a thin line that the picture has near a place. */
export interface EdgeSeen extends PicturePoint {
  sigmaPx: number;
  /** What shade beside the edge may make of it, px. */
  softPx: number;
  /** Direction of its normal, rad, in the picture's axes. */
  normal: number;
}

/** The edges near a place of the picture, the nearest first. */
export type LookForEdges = (at: PicturePoint, searchPx: number) => readonly EdgeSeen[];

/** Places lie so far apart, px, as an edge is averaged over as much to either side of each. */
const PLACES = { apartPx: 12, averagedPx: 24, fewest: 3 } as const;
/** Corners are rounded and the edge of the neighbour is near: so much is left out at both ends, px, or as a share. */
const ENDS = { px: 9, share: 0.18 } as const;
/** An edge runs along the piece within this. */
const ALONG = Math.cos((25 * Math.PI) / 180);
/** Of a piece with fewer places, or a smaller share of those that were looked at, nothing is said. */
const ENOUGH = { places: 3, share: 0.4 } as const;
/** So large a share of one order of brightness makes the other one something else. */
const ONE_WAY = 0.75;

/** What the picture has along a piece. */
export interface Found {
  asked: number;
  places: readonly { at: Vec2; sigma: number }[];
  /** What shade may make of all of it, px. */
  softPx: number;
}

export const NOTHING_FOUND: Found = { asked: 0, places: [], softPx: 0 };

/** Whether that says where the piece lies. */
export const isEnough = ({ asked, places }: Found): boolean =>
  places.length >= ENOUGH.places && places.length >= ENOUGH.share * asked;

/** Places of edges along a piece: those that run along it, and have the light on the side where most have it. */
export function foundAlong(
  segment: Segment,
  mapper: PictureMap,
  look: LookForEdges,
  searchPx: number,
  most: number,
  endPx: number = ENDS.px,
): Found {
  const px = segmentLength(segment) * pxPerUnit(mapper, pointAt(segment, 0.5));
  const left = Math.min(endPx, ENDS.share * px) / px;
  const count = Math.min(most, Math.max(PLACES.fewest, Math.floor((px * (1 - 2 * left)) / PLACES.apartPx)));
  const apartPx = (px * (1 - 2 * left)) / count;
  const shared = Math.sqrt(Math.max(1, PLACES.averagedPx / apartPx));
  const all = Array.from({ length: count }, (_, k) => {
    const t = left + ((1 - 2 * left) * (k + 0.5)) / count;
    return candidatesAt(segment, t, mapper, look, searchPx);
  });
  const nearest = all.flatMap((c) => c[0] ?? []);
  const up = nearest.filter((c) => c.way > 0).length / Math.max(1, nearest.length);
  const way = up >= ONE_WAY ? 1 : up <= 1 - ONE_WAY ? -1 : 0;
  const kept = all.flatMap((c) => c.find((x) => way === 0 || x.way === way) ?? []);
  const places = kept.map(({ at, sigma }) => ({ at, sigma: sigma * shared }));
  const softs = kept.map((c) => c.softPx);
  return { asked: count, places, softPx: softs.length ? softs.reduce((s, v) => s + v, 0) / softs.length : 0 };
}

interface Candidate {
  at: Vec2;
  sigma: number;
  softPx: number;
  /** On which side of the piece it is lighter: 1 left in the picture's axes, -1 right. */
  way: 1 | -1;
}

function candidatesAt(
  segment: Segment,
  t: number,
  mapper: PictureMap,
  look: LookForEdges,
  searchPx: number,
): Candidate[] {
  const at = pointAt(segment, t);
  const speed = speedAt(segment, t);
  const here = mapper.toPicture(at);
  const length = Math.hypot(speed.x, speed.y);
  if (!here || !(length > 0)) return [];
  const px = pxPerUnit(mapper, at);
  const ahead = mapper.toPicture({ x: at.x + speed.x / length / px, y: at.y + speed.y / length / px });
  if (!ahead) return [];
  const run = Math.hypot(ahead.uPx - here.uPx, ahead.vPx - here.vPx);
  const square = { u: -(ahead.vPx - here.vPx) / run, v: (ahead.uPx - here.uPx) / run };
  return look(here, searchPx).flatMap((e): Candidate[] => {
    const along = Math.cos(e.normal) * square.u + Math.sin(e.normal) * square.v;
    const place = Math.abs(along) >= ALONG ? mapper.toPlace(e) : null;
    return place ? [{ at: place, sigma: e.sigmaPx / px, softPx: e.softPx, way: along > 0 ? 1 : -1 }] : [];
  });
}
