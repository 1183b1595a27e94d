import type { PicturePoint } from '../calibration';
import { type CircleFit, fitCircle } from '../fit';
import type { Circle, Vec2 } from '../geometry';
import type { Pixels } from '../raster';
import { edgesBeside, type Located, locateEdge } from './locate';

/** How the plane of the circle and the picture map onto each other; places in mm (or px while nothing is true). */
export interface PlaneSeen {
  toPlane(point: PicturePoint): Vec2 | null;
  toPicture(place: Vec2): PicturePoint | null;
}

export interface SnappedCircle extends CircleFit {
  /** σ of one located rim point, px. */
  sigmaPx: number;
  /** Where another rim runs along this one, the far edge of a hole or its chamfer: places on this rim and on that. */
  beside: { place: Vec2; other: PicturePoint }[];
}

/** Directions in which the rim is looked for. */
const SPOKES = 48;
/** Share of the radius, and bounds in px, within which the rim may lie from where it was drawn. */
const SEARCH = { share: 0.3, leastPx: 4, mostPx: 36 } as const;
/** Another rim is looked for along every second spoke, as far from this one as this share of the radius, within bounds. */
const BESIDE = { every: 2, share: 0.25, leastPx: 6, mostPx: 30 } as const;
/** Located normals must lie this near to the spoke, or it is another edge: cosine of 30°. */
const ALONG_SPOKE = Math.cos(Math.PI / 6);
const FEWEST_SHARE = 0.4;

/**
 * Lets a roughly drawn circle cling to a round edge: sub-pixel edges along spokes, then a geometric fit on the plane.
 *
 * In: pixels, the plane's map, the circle as drawn; out: the fitted circle in the plane's unit.
 * Degenerate: fewer than 40 % of the spokes meeting a round edge gives null: the circle is then kept as drawn.
 */
export function snapCircle(pixels: Pixels, plane: PlaneSeen, drawn: Circle): SnappedCircle | null {
  let circle = drawn;
  let result: SnappedCircle | null = null;
  // The second round starts on the rim itself, so that the search no longer depends on how well it was drawn.
  for (let round = 0; round < 2; round++) {
    const located = lookAlongSpokes(pixels, plane, circle, round);
    if (located.length < FEWEST_SHARE * SPOKES) return result;
    const fit = fitCircle(located.map((l) => l.place));
    if (!fit || fit.used < FEWEST_SHARE * SPOKES) return result;
    const sigmaPx = Math.sqrt(located.reduce((s, l) => s + l.sigmaPx ** 2, 0) / located.length);
    result = { ...fit, sigmaPx, beside: [] };
    circle = fit;
    if (round > 0) result.beside = otherRims(pixels, plane, located, fit);
  }
  return result;
}

/** Other round edges along the one that was fitted, from places that lie on it. */
function otherRims(
  pixels: Pixels,
  plane: PlaneSeen,
  located: readonly OnRim[],
  circle: Circle,
): SnappedCircle['beside'] {
  const centre = plane.toPicture(circle.centre);
  if (!centre) return [];
  return located.flatMap(({ place, edge }, k) => {
    if (k % BESIDE.every) return [];
    const radiusPx = Math.hypot(edge.uPx - centre.uPx, edge.vPx - centre.vPx);
    const searchPx = Math.min(BESIDE.mostPx, Math.max(BESIDE.leastPx, BESIDE.share * radiusPx));
    const [other] = edgesBeside(pixels, edge, { searchPx, halfLengthPx: halfLengthOn(radiusPx) });
    return other && isAlong(other, edge, centre) ? [{ place, other: { uPx: other.uPx, vPx: other.vPx } }] : [];
  });
}

interface OnRim {
  place: Vec2;
  sigmaPx: number;
  edge: Located;
}

/** A short band on a small circle, so that its bend stays a parabola, px. */
const halfLengthOn = (radiusPx: number): number => Math.max(3, Math.min(10, 0.25 * radiusPx));

function lookAlongSpokes(pixels: Pixels, plane: PlaneSeen, circle: Circle, round: number): OnRim[] {
  const found: OnRim[] = [];
  for (let k = 0; k < SPOKES; k++) {
    const angle = (2 * Math.PI * k) / SPOKES;
    const rim = {
      x: circle.centre.x + circle.radius * Math.cos(angle),
      y: circle.centre.y + circle.radius * Math.sin(angle),
    };
    const at = plane.toPicture(rim);
    const centre = plane.toPicture(circle.centre);
    if (!at || !centre) continue;
    const radiusPx = Math.hypot(at.uPx - centre.uPx, at.vPx - centre.vPx);
    const searchPx =
      round > 0 ? SEARCH.leastPx : Math.min(SEARCH.mostPx, Math.max(SEARCH.leastPx, SEARCH.share * radiusPx));
    const edge = locateEdge(pixels, at.uPx, at.vPx, { searchPx, halfLengthPx: halfLengthOn(radiusPx) });
    if (!edge || !isAlong(edge, at, centre)) continue;
    const place = plane.toPlane(edge);
    if (place) found.push({ place, sigmaPx: edge.sigmaPx, edge });
  }
  return found;
}

function isAlong(edge: Located, at: PicturePoint, centre: PicturePoint): boolean {
  const dx = at.uPx - centre.uPx;
  const dy = at.vPx - centre.vPx;
  const length = Math.hypot(dx, dy) || 1;
  return Math.abs((dx * Math.cos(edge.normal) + dy * Math.sin(edge.normal)) / length) > ALONG_SPOKE;
}
