import { speedAt } from './crossings';
import type { Segment } from './segment';
import { add, between, dot, norm, scale, sub, type Vec2, vec } from './vector';

/** Ways whose sum is shorter are opposite: nothing lies between them. */
const OPPOSITE = 1e-6;

/** Along what a smooth joint runs: as both pieces ask for, level, plumb, or along a direction, whichever way of it. */
export type SmoothWay = 'as it comes' | 'level' | 'plumb' | { along: Vec2 };

/** How far a piece that cannot turn may run off the way that is asked for, as a share of 1. */
const ALONG = 1e-3;

/**
 * Two pieces that meet, made to go on smoothly: handles of curves are turned about their joint and keep their length;
 * beside a line or an arc, which cannot turn, the curve takes its way.
 *
 * Out: null where neither is a curve, or a line or an arc does not run the way that is asked for.
 */
export function smoothJoint(before: Segment, after: Segment, way: SmoothWay): [Segment, Segment] | null {
  const unit = (v: Vec2) => scale(v, 1 / (norm(v) || 1));
  const [a, b] = [unit(speedAt(before, 1)), unit(speedAt(after, 0))];
  if (before.kind !== 'curve' && after.kind !== 'curve') return null;
  const sum = add(a, b);
  const wanted = (): Vec2 | null => {
    if (way === 'level') return vec(Math.sign(sum.x) || 1, 0);
    if (way === 'plumb') return vec(0, Math.sign(sum.y) || 1);
    if (typeof way === 'object') return scale(unit(way.along), dot(sum, way.along) < 0 ? -1 : 1);
    if (before.kind !== 'curve') return a;
    if (after.kind !== 'curve') return b;
    return norm(sum) > OPPOSITE ? unit(sum) : null;
  };
  const t = wanted();
  if (!t) return null;
  const runs = (v: Vec2) => dot(v, t) > 1 - ALONG;
  if (before.kind !== 'curve' && !runs(a)) return null;
  if (after.kind !== 'curve' && !runs(b)) return null;
  return [
    before.kind === 'curve'
      ? { ...before, handleTo: sub(before.to, scale(t, between(before.handleTo, before.to))) }
      : before,
    after.kind === 'curve'
      ? { ...after, handleFrom: add(after.from, scale(t, between(after.handleFrom, after.from))) }
      : after,
  ];
}

/**
 * The open end of a curve made to run level, plumb or along a direction: its handle there is turned and keeps its length.
 * Null for a line or an arc, which cannot turn.
 */
export function smoothEnd(piece: Segment, end: 'from' | 'to', way: Exclude<SmoothWay, 'as it comes'>): Segment | null {
  if (piece.kind !== 'curve') return null;
  const [at, handle] = end === 'from' ? [piece.from, piece.handleFrom] : [piece.to, piece.handleTo];
  const off = sub(handle, at);
  const along = way === 'level' ? vec(1, 0) : way === 'plumb' ? vec(0, 1) : way.along;
  const unit = scale(along, 1 / (norm(along) || 1));
  const turned = add(at, scale(unit, (dot(off, unit) < 0 ? -1 : 1) * norm(off)));
  return end === 'from' ? { ...piece, handleFrom: turned } : { ...piece, handleTo: turned };
}
