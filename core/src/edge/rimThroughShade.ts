import type { PicturePoint } from '../calibration';
import type { Circle, Vec2 } from '../geometry';
import { factorCholesky, solveCholesky } from '../numeric';
import { type Pixels, sampleCubic } from '../raster';
import { asLight, cutColours, directionAcross, LUMINANCE, type Weights } from './colours';
import { lensBlurOf } from './lensBlur';
import { type PlaneSeen, pxPerUnit } from './planeSeen';
import { type Shaded, throughShade } from './throughShade';

/** On which side of a rim the ground lies: inside that of a hole, outside that of a disc; null where nobody knows. */
export type GroundOfRim = Side | null;
type Side = 'inside' | 'outside';

export interface RimThroughShade extends Circle {
  /** σ of the radius by what shade and wall may hide all round, and by what each part of the rim errs, px. */
  radiusSigmaPx: number;
}

/** Parts of the rim, each looked at by itself: shade and wall differ round it. */
const PARTS = 8;
/** Rows across each part, about a pixel apart. */
const ROWS = { least: 6, most: 40 } as const;
const REACH_PX = 8;
const SPACING_PX = 0.5;
/** To the middle of a small hole no further than this share of its radius. */
const REACH_SHARE = 0.6;
/** What is likely before anything is seen: that something stands on its ground, and shades it. */
const BEFORE: Record<Side, Record<Shaded, number>> = {
  inside: { none: 0.1, before: 0.9, behind: 0 },
  outside: { none: 0.1, before: 0, behind: 0.9 },
};
/** What each part of a rim errs by itself, px. */
const PART_SIGMA_PX = 0.1;
/** A file keeps differences of colour at half the size: what that shifts an edge of colour by, px. */
const COLOUR_SIGMA_PX = 0.3;
/** From this share on, brightness tells both sides apart by itself. */
const BY_BRIGHTNESS = 0.25;
/** Where along a wall that is seen its edge is found: at the rim 0, at the foot 1; the same all round, but for a little. */
const WALL = { share: 0.5, sigma: 0.4, own: 0.15 } as const;
/** Light within a pixel of the edge that differs from part to part, linear. */
const LIGHT_NOISE = 0.002;
/** A part shows its own rim where it shows less of a wall than this share of what another shows. */
const BARE_SHARE = 0.3;
const FEWEST_PARTS = 5;

interface Part {
  angle: number;
  /** Where the edge lies beyond the circle, and σ of that by shade, px. */
  offsetPx: number;
  sigmaPx: number;
  /** How much of a wall is seen there, px. */
  wallPx: number;
}

/**
 * A circle that was fitted to a rim, through what darkens the ground along it and past the walls that are seen: each
 * eighth of the rim by its own mean light, then radius, middle and the walls' share together.
 *
 * In: pixels, the plane's map, the circle fitted, and on which side the ground lies; out: the circle in the plane's unit.
 * Degenerate: a rim of a few px, and one of which fewer than five eighths show a step, give null.
 */
export function rimThroughShade(
  pixels: Pixels,
  plane: PlaneSeen,
  circle: Circle,
  ground: GroundOfRim,
): RimThroughShade | null {
  if (ground) return settled(pixels, plane, circle, ground);
  // A disc is looked at once, from the rim found: look upon look it walks off to the end of a hole's shade.
  const [hole, disc] = [settled(pixels, plane, circle, 'inside'), withGround(pixels, plane, circle, 'outside')];
  return hole && disc ? either(hole, disc, pxPerUnit(plane, circle)) : (hole ?? disc);
}

/**
 * Of a hole in a dark thing and a bright disc the light is the same, so that what is likelier by the light is no help:
 * the middle of both, and as much doubt as holds what either would.
 */
function either(a: RimThroughShade, b: RimThroughShade, pxPer: number): RimThroughShade {
  const reach = (pxPer * Math.abs(a.radius - b.radius)) / 2 / 2;
  return {
    centre: { x: (a.centre.x + b.centre.x) / 2, y: (a.centre.y + b.centre.y) / 2 },
    radius: (a.radius + b.radius) / 2,
    radiusSigmaPx: reach + Math.max(a.radiusSigmaPx, b.radiusSigmaPx),
  };
}

/** Looked at from where it was found, until it stays there; what it still moved at last is doubt. */
function settled(pixels: Pixels, plane: PlaneSeen, from: Circle, ground: Side): RimThroughShade | null {
  const pxPer = pxPerUnit(plane, from);
  let rim: RimThroughShade | null = null;
  for (let look = 0; look < MOST_LOOKS; look++) {
    const before: Circle = rim ?? from;
    const next = withGround(pixels, plane, before, ground);
    if (!next) return rim;
    const off = Math.hypot(next.centre.x - before.centre.x, next.centre.y - before.centre.y);
    const movedPx = pxPer * Math.max(off, Math.abs(next.radius - before.radius));
    if (movedPx < STAYS_PX) return next;
    rim = { ...next, radiusSigmaPx: Math.hypot(next.radiusSigmaPx, look ? movedPx / 2 : 0) };
  }
  return rim;
}

const MOST_LOOKS = 4;
const STAYS_PX = 0.5;

function withGround(pixels: Pixels, plane: PlaneSeen, circle: Circle, ground: Side): RimThroughShade | null {
  const parts = Array.from({ length: PARTS }, (_, k) => lookAt(pixels, plane, circle, k, ground)).filter(
    (part): part is Part => part !== null,
  );
  if (parts.length < FEWEST_PARTS) return null;
  const solved = together(parts, ground);
  const pxPer = pxPerUnit(plane, circle);
  if (!solved || !(pxPer > 0)) return null;
  const radius = circle.radius + solved.radiusPx / pxPer;
  if (!(radius > 0)) return null;
  return {
    centre: { x: circle.centre.x + solved.xPx / pxPer, y: circle.centre.y + solved.yPx / pxPer },
    radius,
    radiusSigmaPx: solved.sigmaPx,
  };
}

const onCircle = ({ centre, radius }: Circle, angle: number): Vec2 => ({
  x: centre.x + radius * Math.cos(angle),
  y: centre.y + radius * Math.sin(angle),
});

/** A place on the rim as it is pictured, and the direction in which the circle grows there. */
function rowAt(plane: PlaneSeen, circle: Circle, angle: number) {
  const place = onCircle(circle, angle);
  const at = plane.toPicture(place);
  const out = plane.toPicture(onCircle({ ...circle, radius: 1.01 * circle.radius }, angle));
  if (!at || !out) return null;
  const long = Math.hypot(out.uPx - at.uPx, out.vPx - at.vPx);
  return { place, at, nx: (out.uPx - at.uPx) / long, ny: (out.vPx - at.vPx) / long, radiusPx: 100 * long };
}

function lookAt(pixels: Pixels, plane: PlaneSeen, circle: Circle, part: number, ground: Side): Part | null {
  const middle = (2 * Math.PI * (part + 0.5)) / PARTS;
  const seat = rowAt(plane, circle, middle);
  if (!seat) return null;
  const reach = Math.min(REACH_PX, SPACING_PX * Math.floor((REACH_SHARE * seat.radiusPx) / SPACING_PX));
  const arcPx = (2 * Math.PI * seat.radiusPx) / PARTS;
  const colours = cutColours(pixels, seat.at.uPx, seat.at.vPx, reach + arcPx / 2 + 4);
  if (!colours) return null;
  const count = Math.round(Math.min(ROWS.most, Math.max(ROWS.least, arcPx)));
  const rows = Array.from({ length: count }, (_, k) =>
    rowAt(plane, circle, middle + ((k + 0.5) / count - 0.5) * ((2 * Math.PI) / PARTS)),
  ).filter((row): row is NonNullable<typeof row> => row !== null);
  const across = { uPx: seat.at.uPx, vPx: seat.at.vPx, normal: Math.atan2(seat.ny, seat.nx) };
  const step = directionAcross(colours, across);
  const lens = lensBlurOf(pixels);
  const seen = (weights: Weights) => {
    const patch = asLight(colours, weights);
    const light = new Float64Array(2 * Math.round(reach / SPACING_PX) + 1);
    for (const { at, nx, ny } of rows)
      for (let k = 0; k < light.length; k++) {
        const d = k * SPACING_PX - reach;
        light[k]! += sampleCubic(patch, at.uPx + d * nx, at.vPx + d * ny) / rows.length;
      }
    if (!light.every(Number.isFinite)) return null;
    const mean = { firstPx: -reach, spacingPx: SPACING_PX, light, noise: LIGHT_NOISE };
    return throughShade(mean, lens, BEFORE[ground]);
  };
  const found = [seen(LUMINANCE)];
  if (step && step.byBrightness < BY_BRIGHTNESS) {
    const byColour = seen(step.weights);
    found.push(byColour && { ...byColour, sigmaPx: Math.hypot(byColour.sigmaPx, COLOUR_SIGMA_PX) });
  }
  const both = weighed(found.filter((f): f is NonNullable<typeof f> => f !== null));
  return both && { angle: middle, ...both, wallPx: wallSeen(plane, rows, ground) };
}

/** What two kinds of light say, the surer one more; where they disagree it is known no better than that. */
function weighed(
  found: readonly { offsetPx: number; sigmaPx: number }[],
): { offsetPx: number; sigmaPx: number } | null {
  if (!found.length) return null;
  let [sum, weights] = [0, 0];
  for (const { offsetPx, sigmaPx } of found) {
    const weight = 1 / (sigmaPx ** 2 + PART_SIGMA_PX ** 2);
    sum += weight * offsetPx;
    weights += weight;
  }
  const offsetPx = sum / weights;
  const apart = found.reduce((a, f) => a + (f.offsetPx - offsetPx) ** 2 / (f.sigmaPx ** 2 + PART_SIGMA_PX ** 2), 0);
  const stretched = Math.sqrt(Math.max(1, found.length > 1 ? apart : 1) / weights);
  return { offsetPx, sigmaPx: Math.sqrt(Math.max(0, stretched ** 2 - PART_SIGMA_PX ** 2 / found.length)) };
}

/** How far the foot of the wall lies off the rim, to the side of the ground, on the mean of a part's rows. */
function wallSeen(
  plane: PlaneSeen,
  rows: readonly { place: Vec2; at: PicturePoint; nx: number; ny: number }[],
  ground: Side,
): number {
  let sum = 0;
  for (const { place, at, nx, ny } of rows) {
    const foot = plane.toFoot?.(place);
    if (!foot) continue;
    const out = (foot.uPx - at.uPx) * nx + (foot.vPx - at.vPx) * ny;
    sum += Math.max(0, ground === 'inside' ? -out : out);
  }
  return sum / Math.max(1, rows.length);
}

/**
 * Radius, middle and the walls' share by least squares. What shade hides is one doubt for all of them; what the parts are
 * apart beyond their own σ, where a hard shadow is taken for the rim, say, makes the rest as much less sure.
 */
function together(parts: readonly Part[], ground: Side) {
  const size = 4;
  const normal = new Float64Array(size * size);
  const right = new Float64Array(size);
  const side = ground === 'outside' ? 1 : -1;
  // Where a wall is seen all round, nothing tells rim and foot apart: which of them was traced is then asked.
  const most = Math.max(...parts.map((part) => part.wallPx));
  const isToldApart = parts.some((part) => part.wallPx < BARE_SHARE * most);
  // All round alike, as unsure as its parts are: one that looks surer may have a sharp shadow for its edge.
  const shade = Math.sqrt(parts.reduce((sum, { sigmaPx }) => sum + sigmaPx ** 2, 0) / parts.length);
  const rows = parts.map(({ angle, offsetPx, sigmaPx, wallPx: seenPx }) => {
    const wallPx = isToldApart ? seenPx : 0;
    const sigma = Math.hypot(sigmaPx, PART_SIGMA_PX, WALL.own * wallPx);
    return { by: [1, Math.cos(angle), Math.sin(angle), side * wallPx], value: offsetPx, sigma };
  });
  rows.push({ by: [0, 0, 0, 1], value: WALL.share, sigma: WALL.sigma });
  for (const { by, value, sigma } of rows)
    for (let i = 0; i < size; i++) {
      right[i]! += (by[i]! * value) / sigma ** 2;
      for (let j = 0; j < size; j++) normal[i * size + j]! += (by[i]! * by[j]!) / sigma ** 2;
    }
  if (!factorCholesky(normal, size)) return null;
  solveCholesky(normal, size, right);
  const unit = Float64Array.of(1, 0, 0, 0);
  solveCholesky(normal, size, unit);
  const squares = rows.reduce(
    (sum, { by, value, sigma }) => sum + ((value - by.reduce((a, w, k) => a + w * right[k]!, 0)) / sigma) ** 2,
    0,
  );
  const apart = Math.max(1, squares / Math.max(1, rows.length - size));
  const [radiusPx, xPx, yPx] = right as unknown as [number, number, number];
  return { radiusPx, xPx, yPx, sigmaPx: Math.hypot(Math.sqrt(unit[0]! * apart), shade) };
}
