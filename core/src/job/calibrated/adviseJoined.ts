import {
  type CommonPoint,
  distance,
  figureOf,
  type JoinedInput,
  type JoinResult,
  joinedMap,
  joinPictures,
  type KnownLength,
  type PlanePick,
  planeMap,
  planeMapper,
  rulerWidths,
} from '../../calibration';
import { datumOf } from '../calibrationInput';
import { joinedInput, type PictureGroup } from '../joinedPictures';
import { middleOf, rememberEstimates, type Single } from './settlePicture';
import { withWidths } from './withWidths';

/** What to add so that joined pictures hold better, each with the ± from middle to middle that it would bring. */
export interface JoinAdvice {
  /** The picture whose middle is known worst from that of the first one. */
  picture: string;
  nowMm: number;
  options: { what: 'point' | 'length' | 'width'; wouldBeMm: number }[];
}

/** Advice that does not bring the ± below this share of the present one is not worth the trouble. */
const WORTH_IT = 0.8;
/** A pick by hand under the loupe, and a caliper reading. */
const PICK_SIGMA_PX = 0.3;
const CALIPER_MM = 0.05;
/** Shares of a picture within which something may be tried. */
const [LOW, HIGH] = [0.08, 0.92];
const STEPS = 9;

/**
 * Tries what one more common point would do, as far from the others as both pictures reach, one known length in the
 * picture that is held worst, and the widths of the rulers by a caliper. Null where the pictures do not hold together
 * or nothing would help much. `single` makes the estimates of single pictures, and may remember them.
 */
export function adviseJoined(group: PictureGroup, single: Single = rememberEstimates()): JoinAdvice | null {
  const join = (asked: JoinedInput) => joinPictures(asked, { draws: 0, single });
  const input = joinedInput(group);
  const joined = join(input);
  if (!joined.ok) return null;
  const [first, ...others] = reachesOf(joined, group);
  // A middle that has no place on the face, past the horizon, reaches nowhere.
  if (!first) return null;
  const worst = others.reduce((a, b) => (b.plusMinus > a.plusMinus ? b : a), first);
  const options: JoinAdvice['options'] = [];
  const consider = (what: JoinAdvice['options'][number]['what'], changed: JoinedInput | null) => {
    const again = changed && join(changed);
    const found = again?.ok && reachesOf(again, group).find((r) => r.picture === worst.picture);
    if (found && found.plusMinus < WORTH_IT * worst.plusMinus) options.push({ what, wouldBeMm: found.plusMinus });
  };
  consider('point', withPoint(input, joined, group, worst.picture));
  consider('length', withLength(input, joined, group, worst.picture));
  consider('width', measured(input));
  options.sort((a, b) => a.wouldBeMm - b.wouldBeMm);
  return options.length ? { picture: worst.picture, nowMm: worst.plusMinus, options } : null;
}

type Joined = Extract<JoinResult, { ok: true }>;

/** ± from the middle of the first picture to that of each other one, mm. */
function reachesOf(joined: Joined, { pictures }: PictureGroup): { picture: string; plusMinus: number }[] {
  const first = pictures[0]!;
  const others = pictures.slice(1);
  const middle = (p: PictureGroup['pictures'][number]): PlanePick => ({
    ...middleOf(p),
    sigmaPx: 0.1,
    plane: 'face',
    picture: p.id,
  });
  return others.flatMap((other) => {
    const figure = figureOf(joined.calibrations[first.id]!, [middle(first), middle(other)], distance);
    return figure ? [{ picture: other.id, plusMinus: figure.plusMinus }] : [];
  });
}

/** One more common point with the first picture that overlaps this one. */
function withPoint(
  input: JoinedInput,
  joined: Joined,
  { pictures }: PictureGroup,
  pictureId: string,
): JoinedInput | null {
  const first = pictures[0]!;
  const firstMap = planeMap(joined.calibrations[first.id]!, datumOf(first), 'face', middleOf(first));
  const mapperOf = (id: string) =>
    planeMapper(id === first.id ? firstMap : joinedMap(joined.calibrations[id]!, 'face', firstMap, joined.moves[id]!));
  const other = pictures.find((p) => p.id === pictureId);
  if (!other) return null;
  const there = mapperOf(other.id);
  for (const one of pictures) {
    if (one.id === other.id) continue;
    const here = mapperOf(one.id);
    const taken = input.points.flatMap(({ seen }) => seen.filter((s) => s.picture === other.id));
    let best: { point: CommonPoint; away: number } | null = null;
    for (let n = 0; n < STEPS * STEPS; n++) {
      const share = (k: number) => LOW + ((HIGH - LOW) * k) / (STEPS - 1);
      const at = {
        uPx: one.facts.widthPx * share(n % STEPS),
        vPx: one.facts.heightPx * share(Math.floor(n / STEPS)),
      };
      const place = here.toPart(at);
      const seen = place && there.toPicture(place);
      const { widthPx, heightPx } = other.facts;
      if (!seen || Math.min(seen.uPx / widthPx, seen.vPx / heightPx) < LOW) continue;
      if (Math.max(seen.uPx / widthPx, seen.vPx / heightPx) > HIGH) continue;
      const away = Math.min(widthPx, ...taken.map((t) => Math.hypot(t.uPx - seen.uPx, t.vPx - seen.vPx)));
      if (best && away <= best.away) continue;
      const said = { sigmaPx: PICK_SIGMA_PX, plane: 'face' };
      const both = [
        { ...at, ...said, picture: one.id },
        { ...seen, ...said, picture: other.id },
      ];
      best = { point: { id: 'tried', seen: both }, away };
    }
    if (best) return { ...input, points: [...input.points, best.point] };
  }
  return null;
}

/** A known length across the picture, as the present estimate has it. */
function withLength(
  input: JoinedInput,
  joined: Joined,
  { pictures }: PictureGroup,
  pictureId: string,
): JoinedInput | null {
  const facts = pictures.find((p) => p.id === pictureId)?.facts;
  if (!facts) return null;
  const end = (share: number): PlanePick => ({
    uPx: share * facts.widthPx,
    vPx: share * facts.heightPx,
    sigmaPx: PICK_SIGMA_PX,
    plane: 'face',
  });
  const [from, to] = [end(0.2), end(0.8)];
  const found = figureOf(joined.calibrations[pictureId]!, [from, to], distance);
  if (!found) return null;
  const tried: KnownLength = {
    id: 'tried',
    kind: 'known-length',
    plane: 'face',
    from,
    to,
    lengthMm: found.value,
    plusMinusMm: CALIPER_MM,
  };
  const added = (p: JoinedInput['pictures'][number]) =>
    p.id === pictureId ? { ...p, input: { ...p.input, references: [...p.input.references, tried] } } : p;
  return { ...input, pictures: input.pictures.map(added) };
}

/** All rulers with their widths measured; null where no two long edges are seen. */
function measured(input: JoinedInput): JoinedInput | null {
  const pictures = input.pictures.map((p) => {
    const wide = withWidths(p.input.references, rulerWidths(p.input, 0));
    return wide ? { ...p, input: { ...p.input, references: wide } } : p;
  });
  return pictures.some((p, k) => p !== input.pictures[k]) ? { ...input, pictures } : null;
}
