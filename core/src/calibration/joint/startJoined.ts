import type { CalibrationInput } from '../estimate/calibrationInput';
import { type EstimateResult, estimate, type Solution } from '../estimate/estimate';
import { backProject } from '../model/backProject';
import { CAMERA_SIZE, prepareCamera } from '../model/camera';
import { readRigidTransform, rigidOnto } from '../model/rigidTransform';
import { kindOf, type Place } from '../reference/kinds';
import type { KnownLength, ReferenceId } from '../reference/reference';
import type { JoinedInput, PictureId } from './joinedInput';
import type { JointLayout, Member } from './poseJoined';

type Estimated = Extract<EstimateResult, { ok: true }>;

/** One picture on its own, as the joint estimate starts from it. */
export interface Alone {
  id: PictureId;
  /** With its places weighed. */
  input: CalibrationInput;
  prior: Estimated['prior'];
  /** What its own references allow, the likeliest first: the camera's eight and the heights by their planes. */
  solutions: Solution[];
  unknowns: Estimated['unknowns'];
}

/** ± of a length between common points that only helps another picture to begin, as a share. */
const HELPING_SHARE = 0.002;
/** More lengths than these between common points tell nothing new to begin with. */
const MOST_HELPING = 24;

export type AloneResult =
  | { ok: true; alone: Alone[] }
  | { ok: false; picture: PictureId; fault: Extract<EstimateResult, { ok: false }> };

/**
 * Each picture on its own. One in which nothing of known size lies begins by the lengths between common points as
 * another picture has them; they are not left in.
 */
export function estimateAlone(
  { pictures, points }: JoinedInput,
  single: (input: CalibrationInput) => EstimateResult = estimate,
): AloneResult {
  const done = new Map<PictureId, Alone>();
  let open = [...pictures];
  let fault: AloneResult | null = null;
  while (open.length > 0) {
    const before = open.length;
    open = open.filter(({ id, input }) => {
      const helped = done.size ? { ...input, references: [...input.references, ...helping(id, points, done)] } : input;
      let found = single(input);
      if (!found.ok && found.reason === 'no-yardstick') found = single(helped);
      if (!found.ok) {
        fault = { ok: false, picture: id, fault: found };
        return true;
      }
      const own = new Set(input.references.map((y) => y.id));
      const weighed = { ...input, references: found.input.references.filter((y) => own.has(y.id)) };
      done.set(id, { id, input: weighed, prior: found.prior, solutions: found.solutions, unknowns: found.unknowns });
      return false;
    });
    if (open.length === before && fault) return fault;
  }
  return { ok: true, alone: pictures.map(({ id }) => done.get(id) as Alone) };
}

/** Lengths between the common points that a picture shares with one that is settled, as that one has them. */
function helping(id: PictureId, points: JoinedInput['points'], done: ReadonlyMap<PictureId, Alone>): KnownLength[] {
  for (const other of done.values()) {
    const both = points.flatMap((p) => {
      const [mine, theirs] = [id, other.id].map((of) => p.seen.find((s) => s.picture === of));
      const at = theirs && placeAlone(other, 0, theirs.plane)(theirs);
      return mine && at ? [{ mine, at }] : [];
    });
    const lengths: KnownLength[] = [];
    for (const [k, a] of both.entries())
      for (const b of both.slice(k + 1)) {
        if (a.mine.plane !== b.mine.plane || lengths.length >= MOST_HELPING) continue;
        const lengthMm = Math.hypot(b.at[0] - a.at[0], b.at[1] - a.at[1]);
        const plusMinusMm = HELPING_SHARE * lengthMm + 0.1;
        const said = { id: `between ${lengths.length}`, kind: 'known-length', plane: a.mine.plane } as const;
        lengths.push({ ...said, from: a.mine, to: b.mine, lengthMm, plusMinusMm });
      }
    if (lengths.length) return lengths;
  }
  return [];
}

/** Where a pick lies on a plane by one of a picture's own solutions. */
function placeAlone({ solutions, unknowns, input }: Alone, which: number, plane: string): Place {
  const { parameters } = solutions[which]!;
  const camera = prepareCamera(parameters.subarray(0, CAMERA_SIZE), input.lens);
  const height = unknowns.heightOf(parameters, plane);
  const out = new Float64Array(2);
  return (pick, raise = 0) =>
    backProject(camera, pick.uPx, pick.vPx, height + raise, out) ? [out[0]!, out[1]!] : null;
}

/**
 * All parameters to begin with: each picture as it is on its own by `which` of its solutions, moved onto the first by
 * what they share. A string names a picture that too little joins with the others.
 */
export function startJoined(
  layout: JointLayout,
  alone: readonly Alone[],
  { points, references }: JoinedInput,
  which: readonly number[],
): Float64Array | PictureId {
  const start = new Float64Array(layout.size);
  const spots = spotsOf(alone, { points, references }, which);
  const moves = new Map<PictureId, [number, number, number]>([[layout.members[0]!.id, [0, 0, 0]]]);
  while (moves.size < layout.members.length) {
    const next = layout.members.find(({ id }) => !moves.has(id) && onto(id, spots, moves));
    if (!next) return (layout.members.find(({ id }) => !moves.has(id)) as Member).id;
    moves.set(next.id, onto(next.id, spots, moves) as [number, number, number]);
  }
  for (const [n, member] of layout.members.entries()) {
    const { solutions, unknowns } = alone[n]!;
    const { parameters } = solutions[which[n]!]!;
    const own = new Float64Array(member.among.length);
    own.set(parameters.subarray(0, CAMERA_SIZE));
    for (const [plane, at] of Object.entries(member.unknowns.heights))
      if (at !== undefined) own[at] = unknowns.heightOf(parameters, plane);
    const move = moves.get(member.id) as [number, number, number];
    if (member.part.moveAt !== null) own.set(move, member.part.moveAt);
    const moved = readRigidTransform(move, 0);
    for (const y of member.input.references) {
      const place = placeAlone(alone[n]!, which[n]!, y.plane);
      const inJoint: Place = (pick, raise) => {
        const at = place(pick, raise);
        if (!at) return null;
        return [moved.cos * at[0] - moved.sin * at[1] + moved.x, moved.sin * at[0] + moved.cos * at[1] + moved.y];
      };
      const shared = member.part.shared.has(y.id);
      // What was settled on its own already is not begun anew.
      if (shared || !(y.id in unknowns.own))
        kindOf(y).start(y, shared ? inJoint : place, own, member.unknowns.own[y.id]!);
      else {
        const count = kindOf(y).unknowns(y);
        const from = unknowns.own[y.id]!;
        own.set(parameters.subarray(from, from + count), member.unknowns.own[y.id]);
      }
    }
    for (let k = 0; k < own.length; k++) {
      // The first that shows a shared thing says where it begins.
      const isKnown = layout.members.slice(0, n).some((m) => m.among.includes(member.among[k]!));
      if (!isKnown) start[member.among[k]!] = own[k]!;
    }
  }
  return start;
}

/** Where each thing that joins pictures is, in each one's own frame. */
export type Spots = Map<PictureId, [number, number]>[];

/** Common points and the landmarks of shared references, of those pictures that are given. */
export function spotsOf(
  alone: readonly Alone[],
  { points, references }: Pick<JoinedInput, 'points' | 'references'>,
  which: readonly number[],
): Spots {
  const spots: Spots = [];
  const indexOf = (id: PictureId) => alone.findIndex((a) => a.id === id);
  for (const { seen } of points) {
    const spot = new Map<PictureId, [number, number]>();
    for (const s of seen) {
      const n = indexOf(s.picture);
      if (n < 0) continue;
      const at = placeAlone(alone[n]!, which[n]!, s.plane)(s);
      if (at) spot.set(s.picture, [at[0], at[1]]);
    }
    spots.push(spot);
  }
  for (const { seen } of references) {
    const here = seen.filter((s) => indexOf(s.picture) >= 0);
    if (here.length < 2) continue;
    const all = here.map((s) => ({
      s,
      own: ownLandmarks(alone[indexOf(s.picture)]!, which[indexOf(s.picture)]!, s.reference),
    }));
    const count = Math.min(...all.map(({ own }) => own.length));
    for (let k = 0; k < count; k++)
      spots.push(new Map(all.map(({ s, own }) => [s.picture, [...own[k]!] as [number, number]])));
  }
  return spots;
}

/** Two places of a reference, or the one of a coin, in its picture's own frame; none where it cannot be placed. */
export function ownLandmarks(alone: Alone, which: number, id: ReferenceId): readonly (readonly [number, number])[] {
  const y = alone.input.references.find((other) => other.id === id);
  if (!y) return [];
  const kind = kindOf(y);
  const own = new Float64Array(kind.unknowns(y));
  return kind.start(y, placeAlone(alone, which, y.plane), own, 0) ? (kind.landmarks?.(y, own, 0) ?? []) : [];
}

/** How a picture lies on those that are placed already; null where too little says so. */
function onto(
  id: PictureId,
  spots: Spots,
  moves: ReadonlyMap<PictureId, [number, number, number]>,
): [number, number, number] | null {
  const from: number[] = [];
  const to: number[] = [];
  for (const spot of spots) {
    const mine = spot.get(id);
    const placed = [...spot].find(([other]) => moves.has(other));
    if (!mine || !placed) continue;
    const move = readRigidTransform(moves.get(placed[0]) as number[], 0);
    const [x, y] = placed[1];
    from.push(...mine);
    to.push(move.cos * x - move.sin * y + move.x, move.sin * x + move.cos * y + move.y);
  }
  return rigidOnto(from, to);
}
