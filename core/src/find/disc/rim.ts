import type { PixelPick } from '../../calibration';
import { type Ellipse, fitEllipse, offEllipse } from '../../fit';
import type { Vec2 } from '../../geometry';
import { medianOf, seededRandom } from '../../numeric';
import type { Pixels } from '../../raster';
import type { Rgb } from '../shared/addColour';
import { colourEdges } from '../shared/colourEdges';
import { ellipseOfMost } from '../shared/ellipseOfMost';
import { isOutline } from './silhouette';

/** Directions in which a rim is looked at. */
export const SPOKES = 120;

/** Half length of the band along a rim: short enough that its bend stays a parabola, px. */
export const bandOf = ({ b }: Ellipse): number => Math.max(3, Math.min(11, 0.1 * b));

export interface RimPlace {
  at: Vec2;
  /** Outward. */
  normal: Vec2;
  /** 1/px. */
  bend: number;
}

export function rimPlaces({ x, y, a, b, turn }: Ellipse): RimPlace[] {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  return Array.from({ length: SPOKES }, (_, k) => {
    const t = (2 * Math.PI * k) / SPOKES;
    const [p, q] = [a * Math.cos(t), b * Math.sin(t)];
    const [np, nq] = [b * Math.cos(t), a * Math.sin(t)];
    const size = Math.hypot(np, nq);
    return {
      at: { x: x + c * p - s * q, y: y + s * p + c * q },
      normal: { x: (c * np - s * nq) / size, y: (s * np + c * nq) / size },
      bend: -(a * b) / size ** 3,
    };
  });
}

/** How far from the ellipse that is known roughly the rim is sought: px, and as a share of its size. */
const REACH = { px: 8, share: 0.04 } as const;
/**
 * A place this far from the ellipse of the others is of something else, px, and as a share of its size: the two rims of
 * a thick coin are no one ellipse, but nearly.
 */
const NEAR = { px: 1.2, share: 0.012 } as const;
/** A place this far from where its neighbours are follows something else, px. */
const STRAY_PX = 1;
/** Of the edges near the rim the outermost counts that is at least so clear against the clearest. */
const CLEAR_SHARE = 0.12;
const TRIALS = 1200;
/** The ellipse sought is so much like the rough one, as a share of its size. */
const LIKE = 0.06;
/** Of two ellipses as well seen the outer is meant, the outline: the size counts to this power. */
const OUTER = 1.5;

interface Candidate {
  pick: PixelPick;
  at: Vec2;
  contrast: number;
}

/**
 * The places of a disc's rim: those edges near a rough ellipse that lie on one ellipse all together, and that one. An
 * edge beside them, of the shadow or of what is on the face, lies on no ellipse with them, however strong it is.
 */
export function lookAtRim(
  pixels: Pixels,
  rough: Ellipse,
  ground: Rgb | null,
): { rim: PixelPick[]; ellipse: Ellipse } | null {
  const size = Math.sqrt(rough.a * rough.b);
  const spokes = candidatesOf(pixels, rough, ground, Math.max(REACH.px, REACH.share * size));
  const nearPx = Math.max(NEAR.px, NEAR.share * size);
  const usable = spokes.filter((s) => s.length);
  if (usable.length < 12) return null;
  const clearest = usable.map((s) => Math.max(...s.map((e) => e.contrast)));
  const usual = medianOf(clearest);
  const random = seededRandom(29);
  const any = () => {
    const spoke = usable[Math.floor(random() * usable.length)]!;
    return spoke[Math.floor(random() * spoke.length)]!.at;
  };
  const voiceOf = ({ at, contrast }: Candidate) => ({ ...at, weight: Math.min(1, 0.4 + contrast / usual) });
  let best =
    ellipseOfMost({
      directions: usable.map((spoke) => spoke.map(voiceOf)),
      nearPx,
      fades: true,
      trials: TRIALS,
      draw: any,
      accepts: (ellipse) => isLike(ellipse, rough, size),
      factor: ({ a, b }) => (Math.sqrt(a * b) / size) ** OUTER,
      from: rough,
    }) ?? rough;
  let kept: Candidate[] = [];
  for (let round = 0; round < 4; round++) {
    kept = outermostOf(spokes, best, nearPx);
    const fit = kept.length >= 12 ? fitEllipse(kept.map((e) => e.at)) : null;
    if (!fit || !isLike(fit, rough, size)) break;
    best = fit;
  }
  return { rim: kept.map((e) => e.pick), ellipse: best };
}

const isLike = (e: Ellipse, rough: Ellipse, size: number): boolean =>
  Math.abs(Math.sqrt(e.a * e.b) / size - 1) < LIKE &&
  Math.abs(e.b / e.a - rough.b / rough.a) < LIKE &&
  Math.hypot(e.x - rough.x, e.y - rough.y) < LIKE * size;

/** In each direction the outermost clear edge near an ellipse, of those that go on from their neighbours. */
function outermostOf(spokes: readonly Candidate[][], ellipse: Ellipse, nearPx: number): Candidate[] {
  const found = spokes.map((spoke) => {
    const near = spoke
      .map((candidate) => ({ candidate, off: offEllipse(ellipse, candidate.at) }))
      .filter((e) => Math.abs(e.off) < nearPx);
    const clearest = Math.max(0, ...near.map((e) => e.candidate.contrast));
    return near.findLast((e) => e.candidate.contrast > CLEAR_SHARE * clearest) ?? null;
  });
  return found.flatMap((own, k) => {
    if (!own) return [];
    const near: number[] = [];
    for (let j = -4; j <= 4; j++) {
      const other = found[(k + j + SPOKES) % SPOKES];
      if (other) near.push(other.off);
    }
    return Math.abs(own.off - medianOf(near)) < STRAY_PX ? [own.candidate] : [];
  });
}

function candidatesOf(pixels: Pixels, rough: Ellipse, ground: Rgb | null, reachPx: number): Candidate[][] {
  return rimPlaces(rough).map(({ at, normal, bend }) =>
    colourEdges(pixels, at.x, at.y, normal.x, normal.y, { reachPx, halfLengthPx: bandOf(rough), bend })
      .filter((edge) => !ground || isOutline(edge, ground))
      .map(({ offPx, sigmaPx, contrast }) => {
        const place = { x: at.x + offPx * normal.x, y: at.y + offPx * normal.y };
        return { at: place, contrast, pick: { uPx: place.x, vPx: place.y, sigmaPx } };
      }),
  );
}
