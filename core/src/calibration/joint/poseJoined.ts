import type { LeastSquaresProblem, ResidualSink } from '../../numeric';
import type { CalibrationInput } from '../estimate/calibrationInput';
import { layOutUnknowns, type Unknowns } from '../estimate/layOutUnknowns';
import { type JointPart, posedProblem, type Telling } from '../estimate/posedProblem';
import { newPlacedPoint, type PlacedPoint, placePoint } from '../model/backProject';
import { CAMERA_SIZE, prepareCamera } from '../model/camera';
import { PAGE_PARAMETERS } from '../model/page';
import type { CameraPrior } from '../model/priors';
import { RIGID_SIZE, readRigidTransform, transformPoint } from '../model/rigidTransform';
import { COMMON_POINT, type CommonPoint, type JoinedInput, type PictureId, type SharedReference } from './joinedInput';

/** One picture among those that are estimated together. */
export interface Member {
  id: PictureId;
  input: CalibrationInput;
  prior: CameraPrior;
  unknowns: Unknowns;
  part: JointPart;
  /** Where each of its own parameters stands among all: the camera's eight, heights, references, its move. */
  among: number[];
  /** Of a scan, where the camera's eight of the first one from the same scanner stand among all; null of that one. */
  scanner: readonly number[] | null;
}

/**
 * How alike one scanner is from scan to scan, σ: its scale across is the optics', along it the carriage's, which
 * repeats less well than the optics but far better than either is known from the file.
 */
const SAME_SCANNER: readonly (readonly [parameter: number, sigma: number])[] = [
  [PAGE_PARAMETERS.lnScale, 1e-4],
  [PAGE_PARAMETERS.lnRatio, 3e-4],
  [PAGE_PARAMETERS.shear, 1e-4],
];

/** Scans whose files state the same resolution are taken to be from one scanner; null for what is no such scan. */
function scannerOf({ lens, believeResolution, freeRatio, facts: { resolution } }: CalibrationInput): string | null {
  if (lens !== 'page' || !believeResolution || freeRatio || !resolution) return null;
  const { perMmX, perMmY, sigma } = resolution;
  // A page that was drawn and not scanned is as exact as its file.
  return sigma > WIDEST_ALIKE ? `${perMmX} ${perMmY} ${sigma}` : null;
}

const WIDEST_ALIKE = Math.max(...SAME_SCANNER.map(([, sigma]) => sigma));
const ALIKE: ReadonlySet<number> = new Set(SAME_SCANNER.map(([k]) => k));
const NONE: ReadonlySet<number> = new Set();

/** All parameters: those of the first picture, then of each further one what it does not share. */
export interface JointLayout {
  size: number;
  members: Member[];
}

/** Lays out the unknowns of pictures that are estimated together. Heights said alike are one height. */
export function layOutJoined(
  pictures: readonly { id: PictureId; input: CalibrationInput; prior: CameraPrior }[],
  shared: readonly SharedReference[],
): JointLayout {
  let size = 0;
  const heights = new Map<string, number>();
  const owns = new Map<SharedReference, number>();
  const scanners = new Map<string, readonly number[]>();
  // biome-ignore lint/complexity/noExcessiveCognitiveComplexity: what pictures share is known only in their order; parted, each part would need all five tables
  const members = pictures.map(({ id, input, prior }, n): Member => {
    const unknowns = layOutUnknowns(input);
    const among = new Array<number>(unknowns.size).fill(-1);
    const known = new Set<string>();
    const mine = new Set<string>();
    for (const { id: planeId, heightMm, plusMinusMm } of input.planes) {
      const at = unknowns.heights[planeId];
      if (at === undefined) continue;
      const key = `${planeId} ${heightMm} ${plusMinusMm}`;
      const there = heights.get(key);
      if (there === undefined) continue;
      among[at] = there;
      known.add(planeId);
    }
    for (const join of shared) {
      const y = join.seen.find((s) => s.picture === id)?.reference;
      if (y === undefined) continue;
      mine.add(y);
      const there = owns.get(join);
      if (there === undefined) continue;
      known.add(y);
      const at = unknowns.own[y]!;
      for (let k = at; k < endOf(unknowns, y); k++) among[k] = there + k - at;
    }
    for (let k = 0; k < among.length; k++) if (among[k]! < 0) among[k] = size++;
    for (const { id: planeId, heightMm, plusMinusMm } of input.planes) {
      const at = unknowns.heights[planeId];
      if (at !== undefined) heights.set(`${planeId} ${heightMm} ${plusMinusMm}`, among[at]!);
    }
    for (const join of shared) {
      const y = join.seen.find((s) => s.picture === id)?.reference;
      if (y !== undefined && !owns.has(join)) owns.set(join, among[unknowns.own[y]!]!);
    }
    const moveAt = n === 0 ? null : among.length;
    if (moveAt !== null) for (let k = 0; k < RIGID_SIZE; k++) among.push(size++);
    const key = scannerOf(input);
    const scanner = (key !== null && scanners.get(key)) || null;
    if (key !== null && !scanner) scanners.set(key, among.slice(0, CAMERA_SIZE));
    const alike = scanner ? ALIKE : NONE;
    return { id, input, prior, unknowns, among, scanner, part: { moveAt, shared: mine, known, alike } };
  });
  return { size, members };
}

/** Where a reference's own unknowns end. */
function endOf({ own, size }: Unknowns, reference: string): number {
  const starts = Object.values(own).filter((at) => at > own[reference]!);
  return starts.length ? Math.min(...starts) : size;
}

/** A picture's own parameters out of all of them. */
export function ownOf({ among }: Member, parameters: ArrayLike<number>, into = new Float64Array(among.length)) {
  for (let k = 0; k < among.length; k++) into[k] = parameters[among[k]!]!;
  return into;
}

/**
 * The residuals of several pictures together: each one's own, and how far its picks of common points lie from those of
 * the pictures before it. `sigmas` are those picks' scatters, mm, by point and pick.
 */
export function poseJoined(
  { size, members }: JointLayout,
  points: JoinedInput['points'],
  sigmas: readonly (readonly number[])[],
  scatter: (() => number) | null,
  tell: ((picture: PictureId) => Telling) | null = null,
): LeastSquaresProblem {
  const problems = members.map((m) =>
    posedProblem(m.input, m.prior, m.unknowns, null, tell?.(m.id) ?? null, false, m.part),
  );
  const owns = members.map((m) => new Float64Array(m.among.length));
  const rooms = members.map(() => newPlacedPoint());
  return {
    size,
    residuals(parameters, sink) {
      const all: ResidualSink = scatter
        ? { add: (residual, indices, derivatives) => sink.add(residual + scatter(), indices, derivatives) }
        : sink;
      for (const [n, member] of members.entries()) {
        ownOf(member, parameters, owns[n]);
        if (!problems[n]!.residuals(owns[n]!, among(member, all))) return false;
        if (member.scanner) addSameScanner(member, member.scanner, parameters, all);
      }
      return points.every((point, k) => addCommonPoint(point, sigmas[k]!, members, owns, rooms, all));
    },
  };
}

function addSameScanner(
  { among: own }: Member,
  first: readonly number[],
  parameters: Float64Array,
  sink: ResidualSink,
): void {
  for (const [k, sigma] of SAME_SCANNER)
    sink.add((parameters[own[k]!]! - parameters[first[k]!]!) / sigma, [own[k]!, first[k]!], [1 / sigma, -1 / sigma]);
}

/** A sink that puts a picture's own indices among all. */
function among(member: Member, sink: ResidualSink): ResidualSink {
  const mapped: number[] = [];
  return {
    add(residual, indices, derivatives) {
      mapped.length = indices.length;
      for (let k = 0; k < indices.length; k++) mapped[k] = member.among[indices[k]!]!;
      sink.add(residual, mapped, derivatives);
    },
  };
}

/**
 * Each further pick of a common point against the weighted mean of those before it: as many residuals as there are
 * picks too many, free of each other (Helmert).
 */
function addCommonPoint(
  { seen }: CommonPoint,
  sigmas: readonly number[],
  members: readonly Member[],
  owns: readonly Float64Array[],
  rooms: readonly PlacedPoint[],
  sink: ResidualSink,
): boolean {
  let weights = 0;
  const mean = [0, 0];
  /** Slopes of the mean, x and y, by index among all. */
  let slopes = new Map<number, [number, number]>();
  for (const [k, pick] of seen.entries()) {
    const n = members.findIndex((m) => m.id === pick.picture);
    const placed = placeIn(members[n]!, owns[n]!, pick, rooms[n]!);
    if (!placed) return false;
    const mine = slopesOf(members[n]!, owns[n]!, pick.plane, placed);
    const weight = 1 / sigmas[k]! ** 2;
    if (k > 0) {
      const sigma = Math.sqrt(1 / weight + 1 / weights);
      const indices = [...new Set([...slopes.keys(), ...mine.keys()])];
      for (const axis of [0, 1] as const)
        sink.add(
          (placed.place[axis]! - mean[axis]!) / sigma,
          indices,
          indices.map((i) => ((mine.get(i)?.[axis] ?? 0) - (slopes.get(i)?.[axis] ?? 0)) / sigma),
        );
    }
    const share = weight / (weights + weight);
    for (const axis of [0, 1] as const) mean[axis]! += share * (placed.place[axis]! - mean[axis]!);
    const next = new Map<number, [number, number]>();
    for (const i of new Set([...slopes.keys(), ...mine.keys()])) {
      const [a, b] = [slopes.get(i) ?? [0, 0], mine.get(i) ?? [0, 0]];
      next.set(i, [a[0]! + share * (b[0]! - a[0]!), a[1]! + share * (b[1]! - a[1]!)]);
    }
    slopes = next;
    weights += weight;
  }
  return true;
}

/** A pick in the joint frame, by its picture's own parameters. */
export function placeIn(
  { input, unknowns, part }: Member,
  own: Float64Array,
  pick: CommonPoint['seen'][number],
  room: PlacedPoint,
): PlacedPoint | null {
  const camera = prepareCamera(own.subarray(0, CAMERA_SIZE), input.lens);
  const placed = placePoint(camera, pick.uPx, pick.vPx, unknowns.heightOf(own, pick.plane), room);
  if (placed && part.moveAt !== null) transformPoint(placed, readRigidTransform(own, part.moveAt));
  return placed;
}

function slopesOf(
  { among, unknowns, part }: Member,
  own: Float64Array,
  plane: string,
  { place, byCamera, byHeight }: PlacedPoint,
): Map<number, [number, number]> {
  const slopes = new Map<number, [number, number]>();
  for (let k = 0; k < CAMERA_SIZE; k++) slopes.set(among[k]!, [byCamera[k]!, byCamera[CAMERA_SIZE + k]!]);
  const height = unknowns.heights[plane];
  if (height !== undefined) slopes.set(among[height]!, [byHeight[0]!, byHeight[1]!]);
  if (part.moveAt !== null) {
    const move = readRigidTransform(own, part.moveAt);
    slopes.set(among[part.moveAt]!, [move.y - place[1]!, place[0]! - move.x]);
    slopes.set(among[part.moveAt + 1]!, [1, 0]);
    slopes.set(among[part.moveAt + 2]!, [0, 1]);
  }
  return slopes;
}

/** σ of a pick on its plane, mm, with what the place itself may differ. */
export function commonSigma(pick: CommonPoint['seen'][number], { byPicture: p }: PlacedPoint): number {
  const mmPerPx = Math.sqrt(Math.abs(p[0]! * p[3]! - p[1]! * p[2]!));
  return Math.hypot(pick.sigmaPx * mmPerPx, COMMON_POINT.sigmaMm);
}
