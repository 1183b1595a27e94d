import { type Ellipse, fitEllipse, offEllipse } from '../../fit';
import type { Vec2 } from '../../geometry';
import { medianOf, seededRandom } from '../../numeric';
import type { Pixels } from '../../raster';
import type { Rgb } from '../shared/addColour';
import { type ColourEdge, colourEdges } from '../shared/colourEdges';
import { ellipseOfMost } from '../shared/ellipseOfMost';

const SPOKES = 120;
/** From how far in to how far out edges are sought, as shares of the ellipse that is known roughly. */
const REACH = { from: 0.55, to: 1.45 } as const;
/** Half length of the band along an edge that is averaged, px. */
const BAND_PX = 6;
/** A colour this unlike the ground's, after its own brightness, is another material; as a share of it. */
const OTHER_HUE = 0.07;
/** Brighter than the ground by more than its grain is another material as well: no shadow lights anything. */
const BRIGHTER = 1.05;
const FEWEST_SEEN = 0.55;
const TRIALS = 800;

/**
 * The outline of a disc from outside inwards: in each direction the first edge behind which lies neither the ground nor
 * its shadow, and the ellipse that most of them lie on. What is on the face, and what the lamp draws round it, is never
 * looked at so.
 *
 * In: the ellipse that it roughly lies on; out: the outline's, null where the ground cannot be told from the disc by its
 * hue, nor by being darker.
 */
export function silhouetteOf(pixels: Pixels, rough: Ellipse): { ellipse: Ellipse; ground: Rgb } | null {
  const spokes = Array.from({ length: SPOKES }, (_, k) => lookAlong(pixels, rough, (2 * Math.PI * k) / SPOKES));
  const ground = medianColour(spokes.flatMap((s) => (s ? [s.ground] : [])));
  if (!ground) return null;
  const places = spokes.flatMap((s): Vec2[] => {
    if (!s) return [];
    const own = isOther(s.ground, ground) ? ground : s.ground;
    const edge = s.edges.findLast((e) => isOutline(e, own));
    return edge ? [{ x: s.x + edge.offPx * s.nx, y: s.y + edge.offPx * s.ny }] : [];
  });
  if (places.length < FEWEST_SEEN * SPOKES) return null;
  const ellipse = agreedOn(places, Math.max(2, 0.012 * Math.sqrt(rough.a * rough.b)), rough);
  return ellipse && { ellipse, ground };
}

/** An edge, looked at from the middle outwards, at which a thing may end: inwards a shadow only darkens. */
export const isOutline = ({ before, behind }: ColourEdge, ground: Rgb): boolean =>
  isOther(before, ground) || sum(before) > BRIGHTER * sum(behind);

/** Neither the ground nor the ground in the shade: of another hue, or brighter. */
function isOther(colour: Rgb, ground: Rgb): boolean {
  const [light, own] = [sum(colour), sum(ground)];
  if (light > BRIGHTER * own) return true;
  const scale = light / Math.max(1e-6, own);
  const unlike = Math.hypot(...colour.map((v, c) => v - scale * ground[c]!));
  const shade = Math.max(0, 1 - scale);
  return unlike > (OTHER_HUE + SHADE_HUE * shade) * Math.max(light / 3, LEAST_LIGHT);
}

/** A camera's tone curve deepens the hues of what lies in the shade: so much more unlike is still the ground. */
const SHADE_HUE = 0.3;

/** In the dark a hue is noise, linear light. */
const LEAST_LIGHT = 0.02;
const sum = ([r, g, b]: Rgb): number => r + g + b;

interface Spoke {
  x: number;
  y: number;
  nx: number;
  ny: number;
  edges: ColourEdge[];
  /** What lies at its outer end. */
  ground: Rgb;
}

function lookAlong(pixels: Pixels, { x, y, a, b, turn }: Ellipse, t: number): Spoke | null {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const [p, q] = [a * Math.cos(t), b * Math.sin(t)];
  const [dx, dy] = [c * p - s * q, s * p + c * q];
  const length = Math.hypot(dx, dy);
  const middle = (REACH.from + REACH.to) / 2;
  const [mx, my, nx, ny] = [x + middle * dx, y + middle * dy, dx / length, dy / length];
  const edges = colourEdges(pixels, mx, my, nx, ny, {
    reachPx: ((REACH.to - REACH.from) / 2) * length,
    halfLengthPx: Math.min(BAND_PX, 0.1 * length),
    bend: -1 / length,
    sharpWithinPx: 5,
  });
  const last = edges.at(-1);
  return last ? { x: mx, y: my, nx, ny, edges, ground: last.behind } : null;
}

function medianColour(all: readonly Rgb[]): Rgb | null {
  if (all.length < SPOKES / 4) return null;
  const usual = (c: 0 | 1 | 2) => medianOf(all.map((v) => v[c]));
  return [usual(0), usual(1), usual(2)];
}

/** The ellipse that most places lie on. */
function agreedOn(places: readonly Vec2[], nearPx: number, rough: Ellipse): Ellipse | null {
  const random = seededRandom(23);
  const size = Math.sqrt(rough.a * rough.b);
  const near = (e: Ellipse) => places.filter((p) => Math.abs(offEllipse(e, p)) < nearPx);
  let best = ellipseOfMost({
    directions: places.map((place) => [{ ...place, weight: 1 }]),
    nearPx,
    fades: false,
    trials: TRIALS,
    draw: () => places[Math.floor(random() * places.length)]!,
    accepts: ({ a, b }) => b >= 0.4 * a && Math.abs(Math.sqrt(a * b) / size - 1) <= 0.4,
  });
  for (let round = 0; best && round < 3; round++) best = fitEllipse(near(best));
  return best && near(best).length >= FEWEST_SEEN * SPOKES ? best : null;
}
