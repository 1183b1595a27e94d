import { normalRandom, seededRandom, solveLeastSquares } from '../../numeric';
import {
  CALIBRATION,
  type Calibration,
  DOUBTFUL_TILT_SIGMA_RAD,
  drawCalibrations,
  listPlanes,
  type Slots,
} from '../estimate/calibrate';
import type { CalibrationInput } from '../estimate/calibrationInput';
import { type EstimateResult, estimate, FINE_DESCENT, type Solution } from '../estimate/estimate';
import { subsampled } from '../estimate/posedProblem';
import { newPlacedPoint } from '../model/backProject';
import { CAMERA, cameraHeightMm, prepareCamera, tiltRad } from '../model/camera';
import { kindOf } from '../reference/kinds';
import type { Reference } from '../reference/reference';
import { distance, type Figure, figureOf } from '../uncertainty/figure';
import { alignShared } from './alignShared';
import type { CommonPoint, JoinedInput, PictureId } from './joinedInput';
import { commonSigma, type JointLayout, layOutJoined, type Member, ownOf, placeIn, poseJoined } from './poseJoined';
import { type Alone, estimateAlone, startJoined } from './startJoined';

/** Why pictures cannot be joined; `picture` is the one at fault. */
export type JoinFault =
  | { reason: 'too-little-joins'; picture: PictureId }
  | { reason: 'which-is-which'; picture: PictureId }
  | { reason: 'no-agreement' }
  | { reason: 'picture'; picture: PictureId; fault: Extract<EstimateResult, { ok: false }> };

export type JoinResult =
  | {
      ok: true;
      /**
       * Each picture's calibration through the one estimate. The first one's holds the others, in its own frame: what lies in
       * several pictures is measured through it.
       */
      calibrations: Record<PictureId, Calibration>;
      /** How each picture's own frame lies on the first one's: turn, rad, x and y, mm. */
      moves: Record<PictureId, [turn: number, x: number, y: number]>;
      seams: Seam[];
    }
  | { ok: false; fault: JoinFault };

/** How far apart two pictures put one common point, with the ± of that. */
export interface Seam {
  point: string;
  pictures: [PictureId, PictureId];
  apart: Figure;
  fits: boolean;
}

/** Pictures with two poses each make many starts; more than these are not followed. */
const MOST_STARTS = 6;
/** As many draws as for one picture would take too long for several. */
const DRAWS = 200;

/**
 * Coins that several pictures show have one set of unknowns in all of them: by their rim alone, since what light does to rim and
 * foot is each picture's own, and in one of them the foot may not show.
 */
function withoutFeet(joined: JoinedInput): JoinedInput {
  const shared = new Set(joined.references.flatMap((y) => y.seen.map((s) => `${s.picture} ${s.reference}`)));
  const pictures = joined.pictures.map((own) => {
    const isMine = (y: Reference) => y.kind === 'disc' && !!y.foot && shared.has(`${own.id} ${y.id}`);
    if (!own.input.references.some(isMine)) return own;
    const references = own.input.references.map((y) => (isMine(y) ? { ...y, foot: null } : y) as Reference);
    return { ...own, input: { ...own.input, references } };
  });
  return { ...joined, pictures };
}

/**
 * The one estimate over several pictures of one part: each has its camera, heights and references, common points and
 * shared references hold them together, and every ± goes through the joint covariance.
 *
 * In: picks in px of their pictures, lengths in mm; the first picture gives the frame. `single` estimates one picture.
 * Degenerate: a picture that fewer than two places, or one ruler, hold to the others gives a reason, and so does one
 * that cannot be trued, and a shared grid of which nothing tells which crossing is which.
 */
export function joinPictures(
  joined: JoinedInput,
  { draws = DRAWS, single = estimate }: { draws?: number; single?: (input: CalibrationInput) => EstimateResult } = {},
): JoinResult {
  const input = withoutFeet({ ...joined, references: joined.references.filter((y) => isShared(joined, y)) });
  const begun = estimateAlone(input, single);
  if (!begun.ok) return { ok: false, fault: { reason: 'picture', picture: begun.picture, fault: begun.fault } };
  const alone = alignShared(begun.alone, input);
  if (typeof alone === 'string') return { ok: false, fault: { reason: 'which-is-which', picture: alone } };
  const layout = layOutJoined(alone, input.references);
  const solutions: Solution[] = [];
  let sigmas: number[][] = [];
  for (const which of starts(alone)) {
    const start = startJoined(layout, alone, input, which);
    if (typeof start === 'string') return { ok: false, fault: { reason: 'too-little-joins', picture: start } };
    sigmas = input.points.map(({ seen }) => seen.map((pick) => sigmaAt(layout, start, pick)));
    const found = solveLeastSquares(poseJoined(layout, input.points, sigmas, null), start, FINE_DESCENT);
    if (found.ok) solutions.push(found);
  }
  if (solutions.length === 0) return { ok: false, fault: { reason: 'no-agreement' } };
  solutions.sort((a, b) => a.cost - b.cost);
  const allowed = distinct(solutions, layout);
  const best = allowed[0]!;
  const few = thinnedLayout(layout);
  const drawn =
    draws > 0 && (allowed.length > 1 || doubtful(best, layout))
      ? drawCalibrations(
          allowed,
          (scatter) => poseJoined(few, input.points, sigmas, scatter),
          draws,
          normalRandom(seededRandom(CALIBRATION.seed)),
        )
      : null;
  const calibrations = Object.fromEntries(
    layout.members.map((m) => [m.id, calibrationOf(m, layout, best, allowed, drawn)]),
  );
  return {
    ok: true,
    calibrations,
    moves: Object.fromEntries(layout.members.map((m) => [m.id, moveOf(m, best.parameters)])),
    seams: input.points.flatMap((p, k) => seamsOf(calibrations[layout.members[0]!.id]!, p, sigmas[k]!)),
  };
}

/** A reference that every picture has, of a kind with places that can be told again. */
const isShared = ({ pictures }: JoinedInput, { seen }: JoinedInput['references'][number]): boolean =>
  seen.every((s) => {
    const y = pictures.find((p) => p.id === s.picture)?.input.references.find((other) => other.id === s.reference);
    return y !== undefined && kindOf(y).landmarks !== undefined;
  });

/** Which solution of each picture to begin with: the likeliest of all first. */
function starts(alone: readonly Alone[]): number[][] {
  let all: number[][] = [[]];
  for (const { solutions } of alone) all = all.flatMap((w) => solutions.map((_, k) => [...w, k]));
  const cost = (w: readonly number[]) => w.reduce((sum, k, n) => sum + alone[n]!.solutions[k]!.cost, 0);
  return all.sort((a, b) => cost(a) - cost(b)).slice(0, MOST_STARTS);
}

function sigmaAt({ members }: JointLayout, parameters: Float64Array, pick: CommonPoint['seen'][number]): number {
  const member = members.find((m) => m.id === pick.picture) as Member;
  const placed = placeIn(member, ownOf(member, parameters), pick, newPlacedPoint());
  return placed ? commonSigma(pick, placed) : Number.POSITIVE_INFINITY;
}

/** What is exp(−6) as likely as the best is not kept; nearer than half a σ in every tilt is the same. */
const MOST_EXTRA_COST = 6;
const SAME_SIGMAS = 0.5;

function distinct(solutions: readonly Solution[], { size, members }: JointLayout): Solution[] {
  const kept: Solution[] = [];
  const tilts = members.flatMap((m) => [m.among[CAMERA.a]!, m.among[CAMERA.b]!]);
  for (const s of solutions) {
    if (s.cost - solutions[0]!.cost > MOST_EXTRA_COST) break;
    const same = (other: Solution) =>
      tilts.every(
        (k) =>
          Math.abs(s.parameters[k]! - other.parameters[k]!) < SAME_SIGMAS * Math.sqrt(s.covariance[k * (size + 1)]!),
      );
    if (!kept.some(same)) kept.push(s);
  }
  return kept;
}

const doubtful = ({ covariance }: Solution, { size, members }: JointLayout): boolean =>
  members.some(
    ({ input, among }) =>
      input.lens === 'photo' &&
      [CAMERA.a, CAMERA.b].some((k) => Math.sqrt(covariance[among[k]! * (size + 1)]!) > DOUBTFUL_TILT_SIGMA_RAD),
  );

const thinnedLayout = ({ size, members }: JointLayout): JointLayout => ({
  size,
  members: members.map((m) => ({ ...m, input: subsampled(m.input) })),
});

/** A picture's calibration: its own parameters first, then all others, whose scatter it shares. */
function calibrationOf(
  member: Member,
  { size, members }: JointLayout,
  best: Solution,
  allowed: readonly Solution[],
  draws: Float64Array[] | null,
): Calibration {
  const mine = new Set(member.among);
  const order = [...member.among, ...Array.from({ length: size }, (_, k) => k).filter((k) => !mine.has(k))];
  const sorted = (p: Float64Array) => Float64Array.from(order, (k) => p[k]!);
  const covariance = new Float64Array(size * size);
  for (let i = 0; i < size; i++)
    for (let j = 0; j < size; j++) covariance[i * size + j] = best.covariance[order[i]! * size + order[j]!]!;
  const parameters = sorted(best.parameters);
  const sigma = (k: number) => Math.sqrt(covariance[k * (size + 1)]!);
  const { lens } = member.input;
  const tilts = lens === 'photo';
  const isFirst = member === members[0];
  return {
    lens,
    parameters,
    covariance,
    planes: listPlanes(member.input, member.unknowns, parameters),
    draws: draws?.map(sorted) ?? null,
    tiltRad: tiltRad(parameters),
    tiltPlusMinusRad: [2 * sigma(CAMERA.a), 2 * sigma(CAMERA.b)],
    cameraHeightMm: cameraHeightMm(prepareCamera(parameters)),
    otherTilts: allowed.slice(1).map((s) => ({
      a: s.parameters[member.among[CAMERA.a]!]!,
      b: s.parameters[member.among[CAMERA.b]!]!,
    })),
    tiltUnseen: tilts
      ? [sigma(CAMERA.a) / member.prior.sigma[CAMERA.a]!, sigma(CAMERA.b) / member.prior.sigma[CAMERA.b]!]
      : [0, 0],
    ...(isFirst && { joined: Object.fromEntries(members.slice(1).map((m) => [m.id, slotsOf(m, best.parameters)])) }),
  };
}

/** Where a further picture stands among the parameters of the first one's calibration, which come in their own order. */
function slotsOf(member: Member, parameters: Float64Array): Slots {
  const planes = listPlanes(member.input, member.unknowns, ownOf(member, parameters));
  const { moveAt } = member.part;
  return {
    lens: member.input.lens,
    cameraAt: member.among[0]!,
    moveAt: moveAt === null ? null : member.among[moveAt]!,
    planes: Object.fromEntries(
      Object.entries(planes).map(([id, p]) => [id, { ...p, index: p.index === null ? null : member.among[p.index]! }]),
    ),
  };
}

function moveOf({ part, among }: Member, parameters: Float64Array): [number, number, number] {
  if (part.moveAt === null) return [0, 0, 0];
  const at = among[part.moveAt]!;
  return [parameters[at]!, parameters[at + 1]!, parameters[at + 2]!];
}

/** 95 % of normal scatter in two directions lies within so many σ. */
const WITHIN_SIGMAS = 2.45;

/** How far apart the first picture that shows a point and each further one put it, against what their picks scatter. */
function seamsOf(calibration: Calibration, { id, seen }: CommonPoint, sigmas: readonly number[]): Seam[] {
  const first = seen[0]!;
  return seen.slice(1).flatMap((other, k): Seam[] => {
    const apart = figureOf({ ...calibration, draws: null }, [first, other], distance);
    if (!apart) return [];
    const plusMinus = WITHIN_SIGMAS * Math.hypot(sigmas[0]!, sigmas[k + 1]!);
    return [
      {
        point: id,
        pictures: [first.picture, other.picture],
        apart: { value: apart.value, plusMinus },
        fits: apart.value <= plusMinus,
      },
    ];
  });
}
