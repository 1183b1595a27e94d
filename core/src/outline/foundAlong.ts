import type { PicturePoint } from '../calibration';
import { type Circle, pointAt, type Segment, segmentLength, speedAt, type Vec2 } from '../geometry';
import { type PictureMap, pxPerUnit } from '../sketch';

/** An edge or a thin line that the picture has near a place. */
interface EdgeSeen extends PicturePoint {
  sigmaPx: number;
  /** What shade beside the edge may make of it, px. */
  softPx: number;
  /** Direction of its normal, rad, in the picture's axes. */
  normal: number;
}

/** What looks a picture's edges up. */
export interface Looking {
  /** Those near a place, the nearest first. */
  edges(at: PicturePoint, searchPx: number): readonly EdgeSeen[];
  /** The round edge that a circle of the plane lies over, by so many places, and how they scatter; null where there is none. */
  round(drawn: Circle): (Circle & { radiusSigmaPx: number; scatter: number; used: number }) | null;
}

/** Places lie so far apart, px, as an edge is averaged over as much to either side of each. */
const PLACES = { apartPx: 12, averagedPx: 24, fewest: 3 } as const;
/** Corners are rounded and the edge of the neighbour is near: so much is left out at both ends, px, or as a share. */
const ENDS = { px: 9, share: 0.18 } as const;
/** An edge runs along the piece within this. */
const ALONG = Math.cos((25 * Math.PI) / 180);
/** Of a piece with fewer places, or a smaller share of those that were looked at, nothing is said. */
const ENOUGH = { places: 3, share: 0.4 } as const;
/** Edges of one kind lie in line within this, px; of a piece whose bend was drawn by hand, within this share of how far they are looked for. */
const NEAR_LINE_PX = 0.5;
const NEAR_BENT = 0.15;
/** Two places say how the edge runs where they lie this far apart, as a share of the piece. */
const FAR_APART = 0.3;
/** An edge is sharper than this by the model's own error, px; and what was drawn lies this near to what was meant. */
const WEIGHT = { sharpPx: 0.15, nearPx: 4 } as const;
/** Another line is a rival with this share of the best one's merit, so far apart at one end of the piece, px. */
const RIVAL = { merit: 0.6, apartPx: 1 } as const;

/** What the picture has along a piece. */
export interface Found {
  asked: number;
  places: readonly { at: Vec2; sigma: number }[];
  /** What shade may make of all of it, or another edge beside it, px. */
  softPx: number;
}

export const NOTHING_FOUND: Found = { asked: 0, places: [], softPx: 0 };

/** Whether that says where the piece lies. */
export const isEnough = ({ asked, places }: Found): boolean =>
  places.length >= ENOUGH.places && places.length >= ENOUGH.share * asked;

/** Places of edges along a piece: those that run along it, and have the light on the side where most have it. */
export function foundAlong(segment: Segment, mapper: PictureMap, look: Looking, searchPx: number, most: number): Found {
  const px = segmentLength(segment) * pxPerUnit(mapper, pointAt(segment, 0.5));
  const left = Math.min(ENDS.px, ENDS.share * px) / px;
  const count = Math.min(most, Math.max(PLACES.fewest, Math.floor((px * (1 - 2 * left)) / PLACES.apartPx)));
  const apartPx = (px * (1 - 2 * left)) / count;
  const shared = Math.sqrt(Math.max(1, PLACES.averagedPx / apartPx));
  const all = Array.from({ length: count }, (_, k) => {
    const t = left + ((1 - 2 * left) * (k + 0.5)) / count;
    return candidatesAt(segment, t, mapper, look, searchPx);
  });
  const { kept, doubtPx } = inLine(all, segment.kind === 'line' ? NEAR_LINE_PX : searchPx * NEAR_BENT);
  const places = kept.map(({ at, sigma }) => ({ at, sigma: sigma * shared }));
  const softs = kept.map((c) => c.softPx);
  return {
    asked: count,
    places,
    softPx: Math.max(doubtPx, softs.length ? softs.reduce((s, v) => s + v, 0) / softs.length : 0),
  };
}

interface Candidate {
  at: Vec2;
  sigma: number;
  softPx: number;
  /** How far along the piece it was looked for, 0 to 1; how far to one side of it it lies, px. */
  t: number;
  offPx: number;
  sigmaPx: number;
  weight: number;
}

/** How an edge may run beside a piece: so far off it where that begins, so much farther along all of it, px. */
interface Line {
  at: number;
  slope: number;
  merit: number;
}

/**
 * Of several edges at each place those that lie in one line, as the edge runs along all of the piece: a glint, the foot and a
 * printed line beside it are edges too, here and there the nearer or the sharper ones.
 *
 * Every two candidates far apart say how it may run; the line wins that most and sharpest edges lie near. Another one that
 * is nearly as good might be meant as well: half of what they are apart is in doubt.
 */
function inLine(all: readonly (readonly Candidate[])[], withinPx: number): { kept: Candidate[]; doubtPx: number } {
  const flat = all.flat();
  const offOf = ({ at, slope }: Line, c: Candidate) => Math.abs(c.offPx - at - slope * c.t);
  const lines: Line[] = [{ at: 0, slope: 0, merit: 0 }];
  for (const [k, a] of flat.entries()) {
    for (const b of flat.slice(k + 1)) {
      if (Math.abs(b.t - a.t) < FAR_APART) continue;
      const slope = (b.offPx - a.offPx) / (b.t - a.t);
      const line = { at: a.offPx - slope * a.t, slope, merit: 0 };
      const near = (c: Candidate) => c.weight / (1 + (offOf(line, c) / Math.hypot(withinPx, c.sigmaPx)) ** 4);
      const merit = all.reduce((sum, own) => sum + own.reduce((most, c) => Math.max(most, near(c)), 0), 0);
      lines.push({ ...line, merit: merit * Math.exp(-(((line.at + slope / 2) / WEIGHT.nearPx) ** 2) / 2) });
    }
  }
  const best = lines.reduce((p, q) => (q.merit > p.merit ? q : p));
  const farthest = (line: Line) =>
    Math.max(Math.abs(line.at - best.at), Math.abs(line.at + line.slope - best.at - best.slope));
  const rivals = lines.filter((line) => line.merit > RIVAL.merit * best.merit);
  const gapPx = rivals.reduce((most, line) => Math.max(most, farthest(line)), 0);
  const kept = all.flatMap((own) =>
    own
      .filter((c) => offOf(best, c) <= 2 * Math.hypot(withinPx, c.sigmaPx))
      .sort((p, q) => offOf(best, p) - offOf(best, q))
      .slice(0, 1),
  );
  return { kept, doubtPx: gapPx > RIVAL.apartPx ? gapPx / 2 : 0 };
}

function candidatesAt(segment: Segment, t: number, mapper: PictureMap, look: Looking, searchPx: number): Candidate[] {
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
  return look.edges(here, searchPx).flatMap((e): Candidate[] => {
    const along = Math.cos(e.normal) * square.u + Math.sin(e.normal) * square.v;
    const place = Math.abs(along) >= ALONG ? mapper.toPlace(e) : null;
    if (!place) return [];
    const offPx = (e.uPx - here.uPx) * square.u + (e.vPx - here.vPx) * square.v;
    const weight = 1 / Math.hypot(e.sigmaPx, WEIGHT.sharpPx);
    return [{ at: place, sigma: e.sigmaPx / px, softPx: e.softPx, sigmaPx: e.sigmaPx, t, offPx, weight }];
  });
}
