import type { PicturePoint, PixelPick } from '../../calibration';
import { type Ellipse, fitEllipse, offEllipse } from '../../fit';
import type { Vec2 } from '../../geometry';
import { medianOf, seededRandom } from '../../numeric';
import type { Pixels } from '../../raster';
import type { Rgb } from '../shared/addColour';
import { COARSE_LONG_PX, type CoarseColours, coarseColoursOf } from '../shared/coarse';
import { colourEdges } from '../shared/colourEdges';
import { ellipseOfMost } from '../shared/ellipseOfMost';
import { bandOf, lookAtRim, rimPlaces, SPOKES } from './rim';
import { type Ring, ringsAbout } from './rings';
import { isOutline, silhouetteOf } from './silhouette';

export type DiscFault =
  /** No round edge about the click. */
  | 'not-round'
  /** Too little of its rim is seen. */
  | 'covered'
  /** It runs out of the picture. */
  | 'runs-out';

export type DiscResult = ({ ok: true } & DiscFound) | { ok: false; reason: DiscFault };

export interface DiscFound {
  rim: PixelPick[];
  /** Places of the foot of its wall, where that was told from its upper rim; then `rim` is the upper one alone. */
  foot?: PixelPick[];
  /** Share of the rim that was seen. */
  seen: number;
  ellipse: Ellipse;
  /**
   * What speaks against it: a rim that runs to and fro, another circle of the disc that is seen as well, or that it may be
   * tilted the opposite way.
   */
  doubt: 'ragged' | 'another-circle' | 'opposite' | null;
  /** The rim of that other circle, or the edges as the opposite tilt has them. */
  other: { rim: PixelPick[]; foot?: PixelPick[]; ellipse: Ellipse } | null;
}

/** Edges along one spoke, strongest first, that the rim may be. */
const MOST_EDGES = 7;
const TRIALS = 2500;
/** A circle seen askew is no circle: how far it may be off one in the first look, as a share of its radius. */
const ASKEW = 0.07;
const FEWEST_SEEN = 0.4;
const LEAST_RADIUS_PX = 7;

interface SpokeEdge {
  spoke: number;
  x: number;
  y: number;
  strength: number;
  /** Unit direction across the edge. */
  nx: number;
  ny: number;
}

/**
 * Finds a round edge from one click inside it, of a hole or a disc, small or partly hidden ones too: edges along spokes, the circle that most of them agree
 * on (RANSAC, Fischler & Bolles 1981), then an ellipse, then each place of the rim to a fraction of a pixel.
 * Of two rims of one coin the outer is taken: it is the disc against what lies round it.
 */
export function findRound(pixels: Pixels, click: PicturePoint): DiscResult {
  let first: DiscResult | null = null;
  for (const longPx of LOOKS_PX) {
    const coarse = coarseColoursOf(pixels, longPx);
    const found = findAt(pixels, click, coarse);
    if (found.ok) return found.doubt === 'ragged' ? evenest(pixels, found, coarse) : found;
    first ??= found;
  }
  return first ?? { ok: false, reason: 'not-round' };
}

/** Where else inside a disc one looks from, when its rim does not look like one: as shares of its radius. */
const LOOKS_FROM = [
  [-0.6, -0.1],
  [0.1, -0.6],
] as const;

/**
 * Of what is found from several places inside a disc, the first that is clean, else what lies on its ellipse best: the edges
 * met first decide much. Each look costs as much as the first one did.
 */
function evenest(pixels: Pixels, found: Extract<DiscResult, { ok: true }>, coarse: CoarseColours): DiscResult {
  const { x, y, a, b } = found.ellipse;
  const radius = Math.sqrt(a * b);
  const isSame = (e: Ellipse) => Math.abs(Math.sqrt(e.a * e.b) / radius - 1) < SAME_RING;
  let best = found;
  for (const [dx, dy] of LOOKS_FROM) {
    const click = { uPx: x + dx * radius, vPx: y + dy * radius };
    const again = findAt(pixels, click, coarse);
    if (!again.ok || !isSame(again.ellipse)) continue;
    if (again.doubt !== 'ragged') return again;
    if (unevenness(again) < unevenness(best)) best = again;
  }
  return best;
}

/** How far a rim lies off its own ellipse, RMS, and the more the less of it was seen, px. */
const unevenness = ({ rim, ellipse, seen }: DiscFound): number => offRms(rim, ellipse) / seen;

const offRms = (rim: readonly PixelPick[], ellipse: Ellipse): number =>
  Math.sqrt(rim.reduce((sum, p) => sum + offEllipse(ellipse, { x: p.uPx, y: p.vPx }) ** 2, 0) / rim.length);

/** Long sides of the small copies looked at: coins first, then holes of a few millimetres, px. */
const LOOKS_PX = [COARSE_LONG_PX, 2400] as const;

function findAt(pixels: Pixels, click: PicturePoint, coarse: CoarseColours): DiscResult {
  const at = { x: click.uPx / coarse.step, y: click.vPx / coarse.step };
  const spokes = lookAlongSpokes(coarse, at);
  const rough = roundest(spokes, at);
  if (!rough) return { ok: false, reason: 'not-round' };
  const { step } = coarse;
  const fine = settleEllipse(pixels, { x: rough.x * step, y: rough.y * step, radius: rough.radius * step }, step);
  if (!fine) return { ok: false, reason: 'not-round' };
  const outline = silhouetteOf(pixels, fine);
  if (outline) {
    const rings = ringsAbout(pixels, outline.ellipse, (e) => isOutline(e, outline.ground));
    const own = checked(pixels, { ...outline, rings }, step);
    if (own.ok) return own;
  }
  // A disc of the ground's own hue, and darker, has no outline that could be told from a shadow's.
  const rings = ringsAbout(pixels, fine);
  const outer = rings.findLast((r) => r.share > 1 + SAME_RING && r.seen >= OUTER_SEEN);
  const grown = outer && grownTo(pixels, fine, outer.share, step);
  const further = grown && checked(pixels, { ellipse: grown, rings: ringsAbout(pixels, grown), ground: null }, step);
  return further?.ok ? further : checked(pixels, { ellipse: fine, rings, ground: null }, step);
}

/**
 * From this share on a ring further out is the disc's own rim, and what was found is something on its face: a face has
 * circles of its own, the ground round it has none.
 */
const OUTER_SEEN = 0.6;

/** Rings that differ by less are one, as a share. */
const SAME_RING = 0.05;

function grownTo(pixels: Pixels, { x, y, a, b }: Ellipse, share: number, step: number): Ellipse | null {
  return settleEllipse(pixels, { x, y, radius: Math.sqrt(a * b) * share }, step);
}

/** A circle of the same disc that is seen so nearly as well is told, and offered. */
const AS_WELL = 0.12;
/** A rim that scatters so many σ about its ellipse, or so many px, is no clean one. */
const RAGGED = { sigmas: 5, px: 0.5 } as const;

/** A clean rim lies on its ellipse within a thousandth of its radius, RMS; one of other edges lies three times as far off. */
const UNEVEN = { share: 0.0018, px: 0.25 } as const;

/** Holds what was found against itself. */
function checked(
  pixels: Pixels,
  { ellipse: rough, rings, ground }: { ellipse: Ellipse; rings: Ring[]; ground: Rgb | null },
  step: number,
): DiscResult {
  const looked = lookAtRim(pixels, rough, ground);
  const outside = rimPlaces(rough).filter(
    ({ at: p }) => p.x < 0 || p.y < 0 || p.x > pixels.width || p.y > pixels.height,
  );
  const seen = looked ? looked.rim.length / SPOKES : 0;
  if (!looked || seen < FEWEST_SEEN)
    return { ok: false, reason: outside.length > SPOKES / 10 ? 'runs-out' : 'covered' };
  const { rim, ellipse } = looked;
  // From one place to the next: the two heights of a thick rim are a step, a rim that is none runs to and fro.
  const off = rim.map((p) => offEllipse(ellipse, { x: p.uPx, y: p.vPx }));
  const jumps = off.map((d, k) => Math.abs(d - off[(k + 1) % off.length]!));
  const scatter = (1.4826 / Math.SQRT2) * medianOf(jumps);
  const usual = medianOf(rim.map((p) => p.sigmaPx));
  // Stretches of different edges, of the rim and of its shadow, run smoothly each, and lie on no one ellipse.
  const apart = offRms(rim, ellipse);
  const isUneven = apart > Math.max(UNEVEN.px, UNEVEN.share * Math.sqrt(ellipse.a * ellipse.b));
  const isRagged = isUneven || scatter > Math.max(RAGGED.px, RAGGED.sigmas * usual);
  const unsure = isUneven ? Math.max(scatter, apart) : scatter;
  const own = rings.find((r) => Math.abs(r.share - 1) <= SAME_RING)?.seen ?? 0;
  const rival = rings
    // An outline that was found from outside has only what lies outside of it for a rival.
    .filter((r) => (ground ? r.share - 1 : Math.abs(r.share - 1)) > SAME_RING && r.seen >= own - AS_WELL)
    .reduce<Ring | null>((best, r) => (best && best.seen >= r.seen ? best : r), null);
  const otherEllipse = rival && grownTo(pixels, rough, rival.share, step);
  const other = otherEllipse && lookAtRim(pixels, otherEllipse, null);
  return {
    ok: true,
    // What scatters more than it should is known no better than that.
    rim: isRagged ? rim.map((p) => ({ ...p, sigmaPx: Math.hypot(p.sigmaPx, unsure) })) : rim,
    seen,
    ellipse,
    doubt: isRagged ? 'ragged' : other ? 'another-circle' : null,
    other,
  };
}

/** Furthest rim looked for in a small copy, px. */
const MOST_SPOKE_PX = 480;

/** The clear edges along each spoke from the click, in the small copy. */
function lookAlongSpokes(coarse: CoarseColours, from: Vec2): SpokeEdge[][] {
  const far = MOST_SPOKE_PX;
  return Array.from({ length: SPOKES }, (_, spoke) => {
    const angle = (2 * Math.PI * spoke) / SPOKES;
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    const found: SpokeEdge[] = [];
    let [before, here] = [0, 0];
    for (let r = LEAST_RADIUS_PX / 2; r < far; r += 1) {
      const [x, y] = [from.x + r * c, from.y + r * s];
      if (x < 2 || y < 2 || x > coarse.width - 2 || y > coarse.height - 2) break;
      const after = steepness(coarse, x + c, y + s).strength;
      if (here > LEAST_STEP && here >= before && here > after) {
        const { strength, nx, ny } = steepness(coarse, x, y);
        if (Math.abs(nx * c + ny * s) > ALONG_SPOKE) found.push({ spoke, x, y, strength, nx, ny });
      }
      [before, here] = [here, after];
    }
    return found.sort((p, q) => q.strength - p.strength).slice(0, MOST_EDGES);
  });
}

/** Levels of 255 within two pixels that make an edge. */
const LEAST_STEP = 6;
/** Cosine of the angle at which an edge may cross a spoke. */
const ALONG_SPOKE = 0.4;

/** How steeply colour changes at a place, as the gray of a gray picture would, and across which direction. */
function steepness({ width, height, levels }: CoarseColours, x: number, y: number) {
  const i = Math.min(Math.max(Math.floor(x - 0.5), 1), width - 3);
  const j = Math.min(Math.max(Math.floor(y - 0.5), 1), height - 3);
  const [fx, fy] = [Math.min(Math.max(x - 0.5 - i, 0), 1), Math.min(Math.max(y - 0.5 - j, 0), 1)];
  const row = 3 * width;
  let [xx, xy, yy] = [0, 0, 0];
  for (let c = 0, k = j * row + 3 * i; c < 3; c++, k++) {
    // Four samples and their neighbours: what is mixed of them a pixel on, less what is a pixel back.
    const [a, b] = [levels[k]!, levels[k + 3]!];
    const [p, q] = [levels[k + row]!, levels[k + row + 3]!];
    const gx =
      ((b - levels[k - 3]!) * (1 - fx) + (levels[k + 6]! - a) * fx) * (1 - fy) +
      ((q - levels[k + row - 3]!) * (1 - fx) + (levels[k + row + 6]! - p) * fx) * fy;
    const gy =
      ((p - levels[k - row]!) * (1 - fx) + (q - levels[k - row + 3]!) * fx) * (1 - fy) +
      ((levels[k + 2 * row]! - a) * (1 - fx) + (levels[k + 2 * row + 3]! - b) * fx) * fy;
    xx += gx * gx;
    xy += gx * gy;
    yy += gy * gy;
  }
  const angle = Math.atan2(2 * xy, xx - yy) / 2;
  const half = (xx - yy) / 2;
  const strength = Math.sqrt(((xx + yy) / 2 + Math.sqrt(half * half + xy * xy)) / 3);
  return { strength, nx: Math.cos(angle), ny: Math.sin(angle) };
}

interface Round {
  x: number;
  y: number;
  radius: number;
}

/** The circle round the click that most spokes have an edge on, square to it. */
function roundest(spokes: readonly SpokeEdge[][], click: Vec2): Round | null {
  const random = seededRandom(5);
  const usable = spokes.filter((s) => s.length);
  if (usable.length < FEWEST_SEEN * SPOKES) return null;
  const all = usable.flat().sort((p, q) => p.strength - q.strength);
  const usual = all[Math.floor(0.8 * all.length)]!.strength;
  let best: Round | null = null;
  let most = 0;
  const any = () => {
    const spoke = usable[Math.floor(random() * usable.length)]!;
    return spoke[Math.min(spoke.length - 1, Math.floor(random() * random() * spoke.length))]!;
  };
  for (let trial = 0; trial < TRIALS; trial++) {
    const circle = through(any(), any(), any());
    if (!circle || circle.radius < LEAST_RADIUS_PX) continue;
    if (Math.hypot(circle.x - click.x, circle.y - click.y) > 0.9 * circle.radius) continue;
    let merit = 0;
    for (const spoke of usable) {
      let own = 0;
      for (const e of spoke) {
        const [dx, dy] = [e.x - circle.x, e.y - circle.y];
        const away = Math.hypot(dx, dy);
        const off =
          Math.abs(away - circle.radius) / Math.max(1.5, Math.min(ASKEW * circle.radius, 2 + 0.02 * circle.radius));
        if (off > 1 || Math.abs(dx * e.nx + dy * e.ny) < 0.85 * away) continue;
        own = Math.max(own, (1 - off * off) * Math.min(1, 0.4 + e.strength / usual));
      }
      merit += own;
    }
    // Of two rims as well seen, the outer.
    merit *= circle.radius ** 0.05;
    if (merit > most) {
      most = merit;
      best = circle;
    }
  }
  return best && most / best.radius ** 0.05 > FEWEST_SEEN * SPOKES * 0.6 ? best : null;
}

function through(a: Vec2, b: Vec2, c: Vec2): Round | null {
  const d = 2 * (a.x * (b.y - c.y) + b.x * (c.y - a.y) + c.x * (a.y - b.y));
  if (Math.abs(d) < 1e-3) return null;
  const [aa, bb, cc] = [a, b, c].map((p) => p.x * p.x + p.y * p.y) as [number, number, number];
  const x = (aa * (b.y - c.y) + bb * (c.y - a.y) + cc * (a.y - b.y)) / d;
  const y = (aa * (c.x - b.x) + bb * (a.x - c.x) + cc * (b.x - a.x)) / d;
  return { x, y, radius: Math.hypot(a.x - x, a.y - y) };
}

/** Ellipses tried through a few edges each. */
const ELLIPSES = 1500;
const NEAR_PX = 2.5;

/** From a circle to the ellipse that most spokes have a sharp edge on. */
function settleEllipse(pixels: Pixels, { x, y, radius }: Round, step: number): Ellipse | null {
  const circle: Ellipse = { x, y, a: radius, b: radius, turn: 0 };
  const reachPx = ASKEW * radius + 2 * step;
  const spokes = rimPlaces(circle).map(({ at, normal, bend }) =>
    colourEdges(pixels, at.x, at.y, normal.x, normal.y, { reachPx, halfLengthPx: bandOf(circle), bend }).map((e) => ({
      x: at.x + e.offPx * normal.x,
      y: at.y + e.offPx * normal.y,
      contrast: e.contrast,
    })),
  );
  const usable = spokes.filter((s) => s.length);
  if (usable.length < FEWEST_SEEN * SPOKES) return null;
  const clearest = usable.map((s) => Math.max(...s.map((e) => e.contrast)));
  const usual = medianOf(clearest);
  const random = seededRandom(11);
  const any = () => {
    const spoke = usable[Math.floor(random() * usable.length)]!;
    // Mostly the clearest edge of a spoke, since it mostly is the rim.
    return random() < 0.6
      ? spoke.reduce((best, e) => (e.contrast > best.contrast ? e : best))
      : spoke[Math.floor(random() * spoke.length)]!;
  };
  const near = (ellipse: Ellipse) =>
    usable.flatMap((spoke) => {
      const on = spoke.filter((e) => Math.abs(offEllipse(ellipse, e)) < NEAR_PX);
      return on.length ? [on.reduce((best, e) => (e.contrast > best.contrast ? e : best))] : [];
    });
  let best = ellipseOfMost({
    directions: usable.map((spoke) => spoke.map((e) => ({ ...e, weight: Math.min(1, e.contrast / usual) }))),
    nearPx: NEAR_PX,
    fades: false,
    trials: ELLIPSES,
    draw: any,
    accepts: ({ a, b }) => b >= 0.4 * a && Math.abs(a / radius - 1) <= 0.3,
  });
  for (let round = 0; best && round < 3; round++) best = fitEllipse(near(best));
  return best && near(best).length >= FEWEST_SEEN * SPOKES ? best : null;
}
