import {
  between,
  type Form,
  isClosedForm,
  meetings,
  ONE_PLACE_MM,
  type PieceOf,
  piecesOf,
  pointAt,
  type Segment,
  segmentLength,
  speedAt,
  type Vec2,
  vec,
} from '../geometry';

/** A path as it is cut: its forms where they truly lie, mm. */
export interface CutPath {
  id: string;
  forms: readonly Form[];
  /** What it lies on: paths of different planes, as views of several sides are, do not meet. Left out: all on one. */
  plane?: string;
}

/** What a cutter would stumble over, and where, mm. */
export interface Flaw {
  kind: 'open' | 'crosses-itself' | 'crosses' | 'touches' | 'drawn-twice' | 'stray' | 'kink';
  path: string;
  /** The other path of two; null where both are one. */
  other: string | null;
  at: Vec2;
  /** How far the ends are apart, or how long a stray piece is, mm; how sharp a kink is, degrees. */
  size: number | null;
}

/** Pieces shorter than this are stray clicks, mm: less than any cutter is wide. */
const STRAY_MM = 0.1;
/** Pieces whose ends and middles are nearer than this lie on one another, mm. */
const SAME_MM = 0.01;
/** A corner at an arc or a curve between these angles looks meant to be smooth, degrees. */
const KINK_DEG = { from: 1.5, to: 12 } as const;
/** More findings than this are a picture of their own: the first ones are told. */
export const MOST_FLAWS = 500;

/** A piece, and whose it is. */
interface Piece extends PieceOf {
  path: string;
}

/**
 * Looks paths that are cut through for what a cutter would stumble over: open ends, crossings, pieces that lie on one
 * another, stray bits, kinks at arcs and curves.
 *
 * In: the paths' forms; out: the findings in the order of the paths, at most `MOST_FLAWS`.
 */
export function checkForms(paths: readonly CutPath[]): Flaw[] {
  const planes = new Set(paths.map((p) => p.plane));
  const findings = [...planes].flatMap((plane) => checkPlane(paths.filter((p) => p.plane === plane)));
  const order = new Map(paths.map((p, k) => [p.id, k]));
  return findings.sort((a, b) => (order.get(a.path) ?? 0) - (order.get(b.path) ?? 0)).slice(0, MOST_FLAWS);
}

function checkPlane(paths: readonly CutPath[]): Flaw[] {
  let forms = 0;
  const pieces = paths.flatMap(({ id, forms: own }): Piece[] => {
    const made = piecesOf(own, forms).map((piece) => ({ ...piece, path: id }));
    forms += own.length;
    return made;
  });
  const twice = drawnTwice(pieces);
  return [
    ...paths.flatMap(({ id, forms: own }) => own.flatMap((form) => openEnds(id, form))),
    ...twice,
    ...crossings(pieces, twice),
    ...strays(pieces),
    ...kinks(pieces),
  ];
}

function openEnds(path: string, form: Form): Flaw[] {
  if (form.kind === 'circle' || form.segments.length === 0 || isClosedForm(form)) return [];
  const [from, to] = [form.segments[0]!.from, form.segments[form.segments.length - 1]!.to];
  return [{ kind: 'open', path, other: null, at: to, size: between(from, to) }];
}

/** Where pieces pass through one another, or closed forms touch: each place once. */
function crossings(pieces: readonly Piece[], twice: readonly Flaw[]): Flaw[] {
  const found: Flaw[] = [];
  const all = meetings(pieces);
  for (const { i, j, at, passes } of [...all.filter((m) => m.passes), ...all.filter((m) => !m.passes)]) {
    const [a, b] = [pieces[i]!, pieces[j]!];
    // An end that stops on a line is how it was trimmed; closed forms that touch leave nothing between them.
    if (!passes && !(a.closed && b.closed)) continue;
    const itself = a.path === b.path;
    const isTold = (f: Flaw) => f.path === a.path && between(f.at, at) < SAME_MM;
    if (twice.some(isTold) || found.some(isTold)) continue;
    const kind = !passes ? 'touches' : itself ? 'crosses-itself' : 'crosses';
    found.push({ kind, path: a.path, other: itself ? null : b.path, at, size: null });
    if (found.length >= MOST_FLAWS) break;
  }
  return found;
}

function drawnTwice(pieces: readonly Piece[]): Flaw[] {
  const by = new Map<string, Piece[]>();
  const key = ({ x, y }: Vec2) => `${Math.round(x / SAME_MM)} ${Math.round(y / SAME_MM)}`;
  const found: Flaw[] = [];
  for (const piece of pieces) {
    const middle = pointAt(piece.segment, 0.5);
    // The middle may be rounded either way: its neighbours are asked as well.
    const near = [-1, 0, 1].flatMap((dx) =>
      [-1, 0, 1].flatMap((dy) => by.get(key(vec(middle.x + dx * SAME_MM, middle.y + dy * SAME_MM))) ?? []),
    );
    const other = near.find((o) => isSame(o.segment, piece.segment));
    if (other)
      found.push({
        kind: 'drawn-twice',
        path: other.path,
        other: other.path === piece.path ? null : piece.path,
        at: middle,
        size: null,
      });
    by.set(key(middle), [...(by.get(key(middle)) ?? []), piece]);
  }
  return found;
}

function isSame(a: Segment, b: Segment): boolean {
  if (between(pointAt(a, 0.5), pointAt(b, 0.5)) > SAME_MM) return false;
  const along = between(a.from, b.from) < SAME_MM && between(a.to, b.to) < SAME_MM;
  return along || (between(a.from, b.to) < SAME_MM && between(a.to, b.from) < SAME_MM);
}

/** Bits that no cutter can follow; the arc by which an offset goes round a corner smoothly is none, however short. */
function strays(pieces: readonly Piece[]): Flaw[] {
  return pieces.flatMap((piece, n): Flaw[] => {
    const { path, segment } = piece;
    const length = segmentLength(segment);
    if (length >= STRAY_MM || length <= ONE_PLACE_MM) return [];
    const [before, next] = [besides(pieces, n, -1), besides(pieces, n, 1)];
    const isSmooth =
      segment.kind === 'arc' &&
      before !== null &&
      next !== null &&
      Math.max(turnBetween(before.segment, segment), turnBetween(segment, next.segment)) < KINK_DEG.from;
    return isSmooth ? [] : [{ kind: 'stray', path, other: null, at: pointAt(segment, 0.5), size: length }];
  });
}

/** The piece before or after one in its own form; null at an open end. */
function besides(pieces: readonly Piece[], n: number, by: 1 | -1): Piece | null {
  const { k, count, closed } = pieces[n]!;
  const other = k + by;
  if (other >= 0 && other < count) return pieces[n + by]!;
  return closed && count > 1 ? pieces[n + by - by * count]! : null;
}

/** By how much the way turns from the end of one piece to the beginning of the next, degrees. */
function turnBetween(one: Segment, next: Segment): number {
  const [p, q] = [speedAt(one, 1), speedAt(next, 0)];
  return (Math.abs(Math.atan2(p.x * q.y - p.y * q.x, p.x * q.x + p.y * q.y)) * 180) / Math.PI;
}

function kinks(pieces: readonly Piece[]): Flaw[] {
  return pieces.flatMap((piece, n): Flaw[] => {
    const { path, count, segment } = piece;
    const next = count < 2 ? null : besides(pieces, n, 1);
    if (!next || (segment.kind === 'line' && next.segment.kind === 'line')) return [];
    const angle = turnBetween(segment, next.segment);
    return angle > KINK_DEG.from && angle < KINK_DEG.to
      ? [{ kind: 'kink', path, other: null, at: segment.to, size: angle }]
      : [];
  });
}
