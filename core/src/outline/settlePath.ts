import { between, type Segment, type Vec2 } from '../geometry';
import {
  endOf,
  type Id,
  type Observation,
  observationIn,
  type Path,
  type PictureMap,
  picksOfCurve,
  pxPerUnit,
  type Sketch,
  startOf,
  type Walk,
  walkOf,
} from '../sketch';
import { fitPath, type PathFit, type PieceToFit, type Sure } from './fitPath';
import { type Found, foundAlong, isEnough, type Looking, NOTHING_FOUND } from './foundAlong';
import { settleCircle } from './settleCircle';
import { COMMON_PX, LOOKS, type PieceSettled, type SettledPick, type SettleResult } from './settled';

/** What settles. */
export interface ToSettle {
  sketch: Sketch;
  path: Path;
  /** The only pieces that settle; null for all. */
  only: readonly Id[] | null;
  /** The picture whose edges they settle on. */
  picture: Id;
}

/** A hand is off by so much along an edge, px: where only one neighbour says where a corner is. */
const HAND_PX = 3;
/** A corner between two edges is held more weakly than that. */
const CORNER_HOLD_PX = 12;
/** Of a fitted piece so many places must be left. */
const FEWEST_USED = 3;

/**
 * Settles a path that lies roughly over edges on them: each piece by all places along it, corners where neighbours cross.
 *
 * In: the path in its sketch, the map of the plane that it lies on, and what looks edges up in the picture. Pieces that are
 * worn, not asked for, or along which too little is found lie as they do. Out: new places of what was seen, with σ.
 * Source: docs/measurement.md, "Settling on the edge".
 */
export function settlePath({ sketch, path, only, picture }: ToSettle, mapper: PictureMap, look: Looking): SettleResult {
  const walk = walkOf(sketch, path);
  const seen = (id: Id): Observation | null => observationIn(sketch, id) ?? null;
  const place = (id: Id): Vec2 | null => {
    const at = seen(id);
    return at && mapper.toPlace(at);
  };
  const all = walk?.points.concat(walk.pieces.flatMap((p) => picksOfCurve(p.curve))).flatMap((id) => seen(id) ?? []);
  if (!walk || !all?.every((o) => o.picture === picture && o.plane === all[0]!.plane))
    return { ok: false, reason: 'not-here' };
  const [first] = walk.pieces;
  if (first?.curve.kind === 'circle')
    return settleCircle(first.curve.id, picksOfCurve(first.curve), place, mapper, look);
  const drawn = drawnPieces(walk, place);
  if (!drawn) return { ok: false, reason: 'not-here' };
  const isAsked = walk.pieces.map(
    ({ curve: { id } }) => !Object.hasOwn(sketch.worn, id) && (!only || only.includes(id)),
  );
  const fitted = fitToEdges(drawn, isAsked, mapper, look);
  if (!fitted) return { ok: false, reason: 'no-edge' };
  const picks = picksOf(walk, path.closed, drawn, fitted, mapper);
  return {
    ok: true,
    picks,
    moved: Math.max(
      0,
      ...drawn.ids.map((id, k) => (picks[id] ? between(drawn.joints[k]!, fitted.fit.joints[k]!.at) : 0)),
    ),
    pieces: walk.pieces.flatMap(({ curve }, k) => (isAsked[k] ? [tellPiece(curve.id, k, drawn, fitted, mapper)] : [])),
  };
}

interface DrawnPieces {
  ids: readonly Id[];
  joints: readonly Vec2[];
  /** Each the way that the path runs. */
  pieces: readonly PieceToFit[];
}

interface Fitted {
  fit: PathFit;
  found: readonly Found[];
}

/** A path as it was drawn, in the units of its map; null where something of it has no place. */
function drawnPieces(walk: Walk, place: (id: Id) => Vec2 | null): DrawnPieces | null {
  const ids = [...new Set(walk.points)];
  const joints = ids.flatMap((id) => place(id) ?? []);
  if (joints.length < ids.length) return null;
  const pieces: PieceToFit[] = [];
  for (const { curve, reversed } of walk.pieces) {
    if (curve.kind === 'circle') return null;
    const ends = { from: ids.indexOf(startOf(curve, { reversed })), to: ids.indexOf(endOf(curve, { reversed })) };
    const [a, b] = picksOfCurve(curve).map(place);
    if (curve.kind === 'line') pieces.push({ ...ends, kind: 'line' });
    else if (curve.kind === 'arc' && a) pieces.push({ ...ends, kind: 'arc', via: a });
    else if (curve.kind === 'cubic' && a && b)
      pieces.push({ ...ends, kind: 'cubic', handles: reversed ? [b, a] : [a, b] });
    else return null;
  }
  return { ids, joints, pieces };
}

/** Looks edges up along what was drawn and fits it to them; then once more along that, nearer and at more places. */
function fitToEdges(
  { ids, joints, pieces }: DrawnPieces,
  isAsked: readonly boolean[],
  mapper: PictureMap,
  look: Looking,
): Fitted | null {
  const unit = 1 / pxPerUnit(mapper, joints[0]!);
  let now = { joints, pieces };
  let fitted: Fitted | null = null;
  for (const { searchPx, most } of LOOKS) {
    const { joints: here } = now;
    const found = now.pieces.map((piece, k) =>
      isAsked[k] ? foundAlong(segmentOf(piece, here), mapper, look, searchPx, most) : NOTHING_FOUND,
    );
    const places = found.flatMap((f, piece) => (isEnough(f) ? f.places.map((p) => ({ ...p, piece })) : []));
    const hold = ids.map((_, j) => {
      const beside = pieces.flatMap((p, k) => (p.from === j || p.to === j ? [isEnough(found[k]!)] : []));
      return (beside.length > 1 && beside.every(Boolean) ? CORNER_HOLD_PX : HAND_PX) * unit;
    });
    const fit = places.length > 0 ? fitPath(joints, pieces, places, hold) : null;
    if (!fit) return null;
    fitted = { fit, found };
    now = {
      joints: fit.joints.map((j) => j.at),
      pieces: pieces.map((p, k): PieceToFit => {
        const [a, b] = fit.bends[k]!.map((s) => s.at);
        if (p.kind === 'arc') return { ...p, via: a! };
        return p.kind === 'cubic' ? { ...p, handles: [a!, b!] } : p;
      }),
    };
  }
  return fitted;
}

const isFitted = ({ fit, found }: Fitted, k: number): boolean =>
  isEnough(found[k]!) && fit.pieces[k]!.used >= FEWEST_USED;

/** What was seen where, of all that a fitted piece tells of. */
function picksOf(
  walk: Walk,
  closed: boolean,
  { ids, pieces }: DrawnPieces,
  fitted: Fitted,
  mapper: PictureMap,
): Record<Id, SettledPick> {
  const { fit, found } = fitted;
  const picks: Record<Id, SettledPick> = {};
  const put = (id: Id, { at }: Sure, sigma: number, softPx: number) => {
    const point = mapper.toPicture(at);
    if (point) picks[id] = { ...point, sigmaPx: Math.hypot(sigma * pxPerUnit(mapper, at), COMMON_PX, softPx) };
  };
  for (const [j, id] of ids.entries()) {
    const own = pieces.flatMap((p, k) => ((p.from === j || p.to === j) && isFitted(fitted, k) ? [k] : []));
    if (own.length === 0) continue;
    // Where a line ends that ends in nothing, the hand has said: it is known across.
    const isEnd = !closed && (id === walk.points[0] || id === walk.points.at(-1));
    const sure = fit.joints[j]!;
    put(id, sure, isEnd ? sure.least : sure.sigma, Math.max(...own.map((k) => found[k]!.softPx)));
  }
  for (const [k, { curve, reversed }] of walk.pieces.entries()) {
    if (!isFitted(fitted, k)) continue;
    const bends = reversed ? [...fit.bends[k]!].reverse() : fit.bends[k]!;
    for (const [n, id] of picksOfCurve(curve).entries()) put(id, bends[n]!, bends[n]!.sigma, found[k]!.softPx);
  }
  return picks;
}

function tellPiece(curve: Id, k: number, { pieces }: DrawnPieces, fitted: Fitted, mapper: PictureMap): PieceSettled {
  const { used, rms } = fitted.fit.pieces[k]!;
  const { asked, places } = fitted.found[k]!;
  const isDoubtful = !isFitted(fitted, k);
  const px = pxPerUnit(mapper, fitted.fit.joints[pieces[k]!.from]!.at);
  return { curve, found: isDoubtful ? places.length : used, asked, rmsPx: rms * px, isDoubtful };
}

function segmentOf(piece: PieceToFit, joints: readonly Vec2[]): Segment {
  const [from, to] = [joints[piece.from]!, joints[piece.to]!];
  if (piece.kind === 'line') return { kind: 'line', from, to };
  if (piece.kind === 'arc') return { kind: 'arc', from, via: piece.via, to };
  return { kind: 'curve', from, handleFrom: piece.handles[0], handleTo: piece.handles[1], to };
}
