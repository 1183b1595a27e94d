import { type Crossing, crossingsWithin, speedAt } from './crossings';
import { nearestOn } from './nearest';
import type { Form } from './run';
import { pointAt, type Segment, segmentLength } from './segment';
import { segmentsOf } from './trim';
import { add, between, cross, type Vec2 } from './vector';

/**
 * What lies nearer than this is one place, mm: a micrometre, far below any cutter and any picture, and far above what is
 * left by working one place out twice. Ends within it are welded; what dips into another by less only touches it.
 */
export const WELD_MM = 1e-3;

/** A piece of a form, and where it stands in it. */
export interface PieceOf {
  /** Which form it belongs to. */
  form: number;
  /** Its number in the form, and how many there are. */
  k: number;
  count: number;
  closed: boolean;
  segment: Segment;
}

/** A place where two pieces meet. */
export interface Meeting extends Crossing {
  i: number;
  j: number;
  /** Each runs on to the other side of the other one, farther than `WELD_MM`; else they only touch. */
  passes: boolean;
}

/** All pieces of forms, in their order. */
export function piecesOf(forms: readonly Form[], from = 0): PieceOf[] {
  return forms.flatMap((form, n) => {
    const segments = segmentsOf(form);
    const closed = isClosedForm(form);
    return segments.map((segment, k) => ({ form: from + n, k, count: segments.length, closed, segment }));
  });
}

/** A circle, a chain that is said to be closed, and one whose ends are one place. */
export function isClosedForm(form: Form): boolean {
  if (form.kind === 'circle' || form.closed) return true;
  const [first, last] = [form.segments[0], form.segments[form.segments.length - 1]];
  if (!first || !last || between(first.from, last.to) > WELD_MM) return false;
  return form.segments.length > 1 || segmentLength(first) > 4 * WELD_MM;
}

/** A chain whose ends are one place, closed; its pieces joined end to end to the last digit. Anything else as it is. */
export function weldedForm(form: Form): Form {
  if (form.kind === 'circle' || form.closed || !isClosedForm(form)) return form;
  const last = form.segments.length - 1;
  const segments = form.segments.map((s, k) => (k === last ? { ...s, to: form.segments[0]!.from } : s));
  return { ...form, closed: true, segments };
}

/**
 * Where pieces meet beside the joints of their own chain, and whether they truly pass through one another there.
 *
 * In: pieces of forms, each form's one after the other. Out: every meeting of two pieces that do not simply go on from
 * one another. A piece passes where it is on one side of the other before the meeting and on the other side after it, by
 * more than `WELD_MM` both times: ends that stop on a line, circles that touch and joints are no passing. What runs along
 * another is on neither side of it until it leaves.
 */
export function meetings(pieces: readonly PieceOf[]): Meeting[] {
  const raw = crossingsWithin(pieces.map((p) => p.segment));
  const cuts = new Map<number, { t: number; other: number }[]>();
  const note = (n: number, t: number, other: number) => cuts.set(n, [...(cuts.get(n) ?? []), { t, other }]);
  for (const { i, j, t, u } of raw) {
    note(i, t, j);
    note(j, u, i);
  }
  return raw.flatMap((c): Meeting[] => {
    const [a, b] = [pieces[c.i]!, pieces[c.j]!];
    if (isJoint(a, b, c.at)) return [];
    const one = changesSide(pieces, c.i, c.t, c.j, c.at, cuts);
    const two = changesSide(pieces, c.j, c.u, c.i, c.at, cuts);
    return [{ ...c, passes: one && two }];
  });
}

/** Whether a meeting of two pieces is where one goes on from the other. */
function isJoint(a: PieceOf, b: PieceOf, at: Vec2): boolean {
  if (a.form !== b.form) return false;
  const joints: Vec2[] = [];
  if (b.k === a.k + 1 || (a.closed && a.k === a.count - 1 && b.k === 0)) joints.push(a.segment.to);
  if (a.k === b.k + 1 || (a.closed && b.k === b.count - 1 && a.k === 0)) joints.push(b.segment.to);
  return joints.some((p) => between(p, at) <= WELD_MM);
}

/** So far along a stretch it is asked where it lies, as shares of it: near the meeting first, where the other one is surely meant. */
const ASKED = [1 / 4096, 1 / 1024, 1 / 256, 1 / 64, 1 / 16, 1 / 8, 1 / 4, 3 / 8, 1 / 2, 3 / 4, 1];
/** Pieces shorter than what is welded are passed over, at most this many. */
const MOST_SHORT = 4;

/** Whether a path lies on one side of another before it meets it and on the other after it, each time farther than what is welded. */
function changesSide(
  pieces: readonly PieceOf[],
  n: number,
  t: number,
  other: number,
  at: Vec2,
  cuts: ReadonlyMap<number, readonly { t: number; other: number }[]>,
): boolean {
  const own = new Set([n, neighbour(pieces, n, -1), neighbour(pieces, n, 1)]);
  const side = (way: 1 | -1): number => {
    let [piece, from] = [n, t];
    // The other one, and what goes on from it, where that is not the path itself.
    const met = new Set(
      [other, ...[neighbour(pieces, other, -1), neighbour(pieces, other, 1)].filter((m) => !own.has(m))].filter(
        (m) => m !== null,
      ),
    );
    for (let k = 0; k <= MOST_SHORT; k++) {
      met.delete(piece);
      if (met.size === 0) return 0;
      const { segment } = pieces[piece]!;
      const beside = [...met].map((m) => pieces[m]!.segment);
      const end = way > 0 ? 1 : 0;
      // Only as far as to where both meet again.
      const until = (cuts.get(piece) ?? []).reduce(
        (best, c) =>
          met.has(c.other) &&
          way * (c.t - from) > 0 &&
          way * (best - c.t) > 0 &&
          between(pointAt(segment, c.t), at) > WELD_MM
            ? c.t
            : best,
        end,
      );
      for (const share of ASKED) {
        const here = sideOf(pointAt(segment, from + (until - from) * share), beside);
        if (here !== 0) return here;
      }
      const following = until === end ? neighbour(pieces, piece, way) : null;
      if (following === null || following === other) return 0;
      [piece, from] = [following, way > 0 ? 0 : 1];
    }
    return 0;
  };
  return side(-1) * side(1) < 0;
}

/** The number of the piece before or after one in its form; null at an open end. */
function neighbour(pieces: readonly PieceOf[], n: number, way: 1 | -1): number | null {
  const { k, count, closed } = pieces[n]!;
  const next = k + way;
  if (next >= 0 && next < count) return n + way;
  return closed && count > 1 ? n - k + ((next + count) % count) : null;
}

/** Left of a chain of pieces 1, right of it −1; 0 on it. */
function sideOf(p: Vec2, chain: readonly Segment[]): number {
  const all = chain.map((s) => nearestOn(s, p));
  const best = all.reduce((a, b) => (b.distance < a.distance ? b : a));
  if (best.distance <= WELD_MM) return 0;
  // At a corner both pieces are as near: their ways together tell the side.
  const way = all.reduce(
    (sum, near, k) => {
      if (near.distance > best.distance + WELD_MM / 1000) return sum;
      const speed = speedAt(chain[k]!, near.t);
      const long = Math.hypot(speed.x, speed.y) || 1;
      return add(sum, { x: speed.x / long, y: speed.y / long });
    },
    { x: 0, y: 0 },
  );
  return Math.sign(cross(way, { x: p.x - best.point.x, y: p.y - best.point.y }));
}
