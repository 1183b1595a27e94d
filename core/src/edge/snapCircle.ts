import type { PicturePoint } from '../calibration';
import { type CircleFit, fitCircle } from '../fit';
import type { Circle, Vec2 } from '../geometry';
import type { Pixels } from '../raster';
import { edgesBeside, type Located, locateEdge, locateEdges } from './locate';
import { locateInk } from './locateInk';
import { type PlaneSeen, pxPerUnit } from './planeSeen';
import { type GroundOfRim, rimThroughShade } from './rimThroughShade';

export interface SnappedCircle extends CircleFit {
  /** σ of the radius, px: by what its places scatter, by what they were known to, and by what they all share. */
  radiusSigmaPx: number;
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
/** Places along a rim closer together than this many share what they stray by. */
const RIM_CORRELATION = 6;
/**
 * What all places of a rim share, px: light that darkens towards it, and the wall of a hole that shows on one side. It
 * moved the radii of 120 holes by 0.06 to 0.11 px in the mean (npm run bench -- --only harder).
 */
const SHARED_PX = 0.1;

/** What the rim is: the edge of a hole or a disc, or the middle of an ink line. */
export type RimKind = 'edge' | 'line';

/**
 * Lets a roughly drawn circle settle on a round edge, or on the middle of a round line: sub-pixel places along spokes,
 * then a geometric fit on the plane. Of two rims close together, the near and the far one of a hole, it is the one that
 * was drawn nearer to, and not the stronger.
 *
 * In: pixels, the plane's map, the circle as drawn, and on which side of an edge the ground lies, if that is known; out:
 * the fitted circle in the plane's unit.
 * Degenerate: fewer than 40 % of the spokes meeting a round edge gives null: the circle is then kept as drawn.
 */
export function snapCircle(
  pixels: Pixels,
  plane: PlaneSeen,
  drawn: Circle,
  rim: RimKind = 'edge',
  ground: GroundOfRim = null,
): SnappedCircle | null {
  const found = nearestOf(pixels, plane, drawn, rim);
  const clear = found && rim === 'edge' ? rimThroughShade(pixels, plane, found, ground) : null;
  return found && clear ? { ...found, ...clear, radiusSigmaPx: Math.hypot(SHARED_PX, clear.radiusSigmaPx) } : found;
}

function nearestOf(pixels: Pixels, plane: PlaneSeen, drawn: Circle, rim: RimKind): SnappedCircle | null {
  const near = rim === 'edge' ? nearestRim(pixels, plane, drawn) : null;
  const first = (near && settle(pixels, plane, near, rim, 1)) ?? settle(pixels, plane, drawn, rim, 0);
  if (!first || rim === 'line') return first;
  const second = otherCircle(plane, first);
  const off = (circle: Circle) => Math.abs(circle.radius - drawn.radius);
  if (!second || off(second) > NEARER * off(first)) return first;
  const settled = settle(pixels, plane, second, rim, 1);
  return settled && off(settled) < off(first) ? settled : first;
}

/** The other rim must be this much nearer to what was drawn, as a share, to be taken in place of the stronger one. */
const NEARER = 0.6;

/**
 * σ of a radius through places of a rim, px, from what was located, its scatter, px, and how many places stray each by
 * itself. A rim that is soft all round is so by one cause, the shade at its foot, and as wrong all round.
 */
export function radiusSigma(
  places: readonly Pick<Located, 'sigmaPx' | 'softPx'>[],
  scatterPx: number,
  free: number,
): number {
  let [weights, squares] = [0, 0];
  for (const { sigmaPx, softPx } of places) {
    weights += 1 / sigmaPx ** 2;
    squares += softPx ** 2;
  }
  // As unsure as its places are: one that looks surer may have a sharp shadow for its edge.
  const soft = Math.sqrt(squares / Math.max(1, places.length));
  const known = places.length / weights;
  const own = Math.sqrt(Math.max(known, scatterPx ** 2) / Math.max(1, free));
  // What scatters more than it is known to lies now on one edge and now on another, on one side of the rim: no mean of it.
  const apart = Math.sqrt(Math.max(0, scatterPx ** 2 - known));
  return Math.hypot(SHARED_PX, soft, own, apart);
}

/** The second round starts on the rim itself, so that the search no longer depends on how well it was drawn. */
function settle(pixels: Pixels, plane: PlaneSeen, from: Circle, rim: RimKind, firstRound: 0 | 1): SnappedCircle | null {
  let circle = from;
  let result: SnappedCircle | null = null;
  for (let round = firstRound; round < firstRound + 2; round++) {
    const located = lookAlongSpokes(pixels, plane, circle, round, rim);
    if (located.length < FEWEST_SHARE * SPOKES) return result;
    const fit = fitCircle(
      located.map((l) => l.place),
      located.map((l) => l.sigmaPx),
    );
    if (!fit || fit.used < FEWEST_SHARE * SPOKES) return result;
    const scatterPx = fit.scatter * pxPerUnit(plane, fit);
    const radiusSigmaPx = radiusSigma(
      located.map((l) => l.edge),
      scatterPx,
      fit.used / RIM_CORRELATION,
    );
    result = { ...fit, radiusSigmaPx, beside: [] };
    circle = fit;
    if (round > firstRound && rim === 'edge') result.beside = otherRims(pixels, plane, located, fit);
  }
  return result;
}

/**
 * The rim nearest to what was drawn, told by every edge along every second spoke: where two rims lie close together the
 * stronger edge may be now the one and now the other, and a circle through both, moved aside, would look well seen.
 */
function nearestRim(pixels: Pixels, plane: PlaneSeen, drawn: Circle): Circle | null {
  const places: Vec2[] = [];
  const spokes = spokesOf(plane, drawn);
  for (const { at, centre, radiusPx } of spokes.filter((_, k) => k % BESIDE.every === 0)) {
    const edges = locateEdges(pixels, at.uPx, at.vPx, {
      searchPx: searchOn(radiusPx),
      halfLengthPx: halfLengthOn(radiusPx),
    });
    const away = (edge: PicturePoint) => Math.hypot(edge.uPx - at.uPx, edge.vPx - at.vPx);
    const along = edges.filter((edge) => isAlong(edge, at, centre)).sort((p, q) => away(p) - away(q));
    const place = along.length ? plane.toPlane(along[0]!) : null;
    if (place) places.push(place);
  }
  return places.length < (FEWEST_SHARE * SPOKES) / BESIDE.every ? null : fitCircle(places);
}

/** The circle through the other rim, where enough of it was seen. */
function otherCircle(plane: PlaneSeen, { beside }: SnappedCircle): Circle | null {
  const places = beside.flatMap(({ other }) => plane.toPlane(other) ?? []);
  return places.length < (FEWEST_SHARE * SPOKES) / BESIDE.every ? null : fitCircle(places);
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

/** How far from the drawn rim an edge is looked for, px. */
const searchOn = (radiusPx: number): number =>
  Math.min(SEARCH.mostPx, Math.max(SEARCH.leastPx, SEARCH.share * radiusPx));

/** Where a circle's rim is pictured along each spoke, and its centre. */
function spokesOf(plane: PlaneSeen, { centre: middle, radius }: Circle) {
  const centre = plane.toPicture(middle);
  return Array.from({ length: SPOKES }, (_, k) => (2 * Math.PI * k) / SPOKES).flatMap((angle) => {
    const at = plane.toPicture({ x: middle.x + radius * Math.cos(angle), y: middle.y + radius * Math.sin(angle) });
    if (!at || !centre) return [];
    return [{ at, centre, radiusPx: Math.hypot(at.uPx - centre.uPx, at.vPx - centre.vPx) }];
  });
}

function lookAlongSpokes(pixels: Pixels, plane: PlaneSeen, circle: Circle, round: number, rim: RimKind): OnRim[] {
  const found: OnRim[] = [];
  for (const { at, centre, radiusPx } of spokesOf(plane, circle)) {
    const searchPx = round > 0 ? SEARCH.leastPx : searchOn(radiusPx);
    const halfLengthPx = halfLengthOn(radiusPx);
    const edge =
      rim === 'line'
        ? locateInk(pixels, at.uPx, at.vPx, { searchPx, halfLengthPx })
        : locateEdge(pixels, at.uPx, at.vPx, { searchPx, halfLengthPx });
    if (!edge || !isAlong(edge, at, centre)) continue;
    const place = plane.toPlane(edge);
    if (place) found.push({ place, sigmaPx: edge.sigmaPx, edge });
  }
  // A line is followed by its middle all the way round, or by none of it.
  const lines = found.filter(({ edge }) => edge.kind === 'line');
  return rim === 'line' && lines.length >= FEWEST_SHARE * SPOKES ? lines : found;
}

function isAlong(edge: Located, at: PicturePoint, centre: PicturePoint): boolean {
  const dx = at.uPx - centre.uPx;
  const dy = at.vPx - centre.vPx;
  const length = Math.hypot(dx, dy) || 1;
  return Math.abs((dx * Math.cos(edge.normal) + dy * Math.sin(edge.normal)) / length) > ALONG_SPOKE;
}
