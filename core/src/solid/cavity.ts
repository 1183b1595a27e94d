import {
  between,
  type Form,
  mirrorForm,
  NO_SHARE,
  nearestOn,
  offsetForm,
  offsetSegment,
  pointAt,
  reverseForm,
  reverseSegment,
  type Segment,
  segmentArea,
} from '../geometry';
import { checkForms } from '../proof';
import type { FaceName } from '../sketch';
import { halfProfile, type ProfileAxis } from './halfProfile';
import type { ExtrudeStep, RevolveStep } from './plan';
import { type Loop, type Region, regionsOf } from './region';

/** So far a cavity is drawn out through a face that is open, mm: what is cut there lies outside the body. */
const THROUGH_MM = 1;
const SAME_MM = 1e-6;

/** A form that is cut out, and whether it only opens another one. */
type Cut = Loop & { isOpening: boolean };

type Chain = Extract<Form, { kind: 'chain' }>;

/**
 * What is cut out of a body that is one extrusion or one turned profile to leave a wall: its own profile at that distance, worked as
 * the body was. Exact, where offsetting the finished body would fail at rounds and cones.
 *
 * Out: the step that cuts; null where nothing is left of the profile at that distance.
 */
export function cavityOf<S extends ExtrudeStep | RevolveStep>(
  step: S,
  id: string,
  wallMm: number,
  open: readonly FaceName[],
): S | null {
  const isOpen = (of: FaceName['of']) => open.some((f) => f.feature === step.id && f.of === of);
  const loops: Cut[] = [];
  for (const { outer, holes } of step.regions) {
    const inner = step.kind === 'revolve' ? turnedInner(outer, step.axis, wallMm, open) : inward(outer, wallMm, open);
    if (inner.length === 0) return null;
    loops.push(...inner);
    for (const hole of holes) loops.push(...inward(hole, -wallMm, open));
  }
  const isThere = (f: FaceName) => f.of !== 'side' || loops.length > step.regions.length;
  if (!open.every(isThere)) return null;
  const clash = checkForms(loops.map((l, k) => ({ id: String(k), forms: [l.form] })));
  if (clash.some((f) => f.kind === 'crosses-itself')) return null;
  // An opening begins on the edge of what it opens: whether it lies in it nobody can tell.
  const regions: Region[] = [
    ...regionsOf(loops.filter((l) => !l.isOpening)),
    ...loops.filter((l) => l.isOpening).map((outer) => ({ outer, holes: [] })),
  ];
  if (step.kind === 'revolve') return { ...step, id, does: 'cut', regions };
  const { fromMm, toMm } = step.heights ?? { fromMm: 0, toMm: 0 };
  const heights = {
    fromMm: isOpen('start') ? fromMm - THROUGH_MM : fromMm + wallMm,
    toMm: isOpen('end') ? toMm + THROUGH_MM : toMm - wallMm,
  };
  return heights.toMm - heights.fromMm > SAME_MM ? { ...step, id, does: 'cut', regions, heights } : null;
}

/** A loop at a distance inwards (of a hole, outwards of it), and what opens it through the pieces that are open. */
function inward({ path, form, curves }: Loop, wallMm: number, open: readonly FaceName[]): Cut[] {
  const opened = form.kind === 'circle' ? [] : form.segments.filter((_, k) => names(open, path, curves, k));
  return withOpenings(path, offsetForm(form, -wallMm, 'sharp'), opened, wallMm);
}

const names = (open: readonly FaceName[], path: string, curves: Loop['curves'], k: number): boolean =>
  open.some((f) => f.of === 'side' && f.path === path && (f.curve === null ? f.nth === k : f.curve === curves?.[k]));

/** Inner forms, and a strip from each piece of them that runs beside an open one out through that. */
function withOpenings(path: string, inner: readonly Form[], opened: readonly Segment[], wallMm: number): Cut[] {
  const wide = Math.abs(wallMm);
  const isBeside = (s: Segment) =>
    [0.25, 0.5, 0.75].every((t) => opened.some((o) => Math.abs(nearestOn(o, pointAt(s, t)).distance - wide) < SAME_MM));
  const strips = inner.flatMap((form): Form[] =>
    form.kind === 'circle' ? [] : form.segments.filter(isBeside).flatMap((s) => strip(s, form, wallMm)),
  );
  return [
    ...inner.map((form) => ({ path, form, curves: null, isOpening: false })),
    ...strips.map((form) => ({ path, form, curves: null, isOpening: true })),
  ];
}

/** From a piece outwards, through the wall and a little farther. */
function strip(s: Segment, form: Chain, wallMm: number): Form[] {
  const area = form.segments.reduce((sum, own) => sum + segmentArea(own), 0);
  const out = offsetSegment(s, Math.sign(area) * -(Math.abs(wallMm) + THROUGH_MM) * Math.sign(wallMm));
  if (out.length !== 1) return [];
  const back = reverseSegment(out[0]!);
  return [
    {
      kind: 'chain',
      closed: true,
      segments: [s, { kind: 'line', from: s.to, to: back.from }, back, { kind: 'line', from: back.to, to: s.from }],
    },
  ];
}

/**
 * Of a half profile both halves together, offset: the axis is no wall. Where it is open it stays whole, since what is cut out of a
 * half profile must not end on the axis, where that does itself; closed all round it is halved again, and turned by itself.
 */
function turnedInner(loop: Loop, axis: ProfileAxis, wallMm: number, open: readonly FaceName[]): Cut[] {
  const { form, path, curves } = loop;
  if (form.kind === 'circle') return inward(loop, wallMm, open);
  const far = { x: axis.at.x + axis.along.x, y: axis.at.y + axis.along.y };
  const isOn = (p: { x: number; y: number }) =>
    Math.abs(axis.along.x * (p.y - axis.at.y) - axis.along.y * (p.x - axis.at.x)) < SAME_MM;
  const off = form.segments.map((s) => !(isOn(s.from) && isOn(s.to)));
  const first = off.findIndex((is, k) => is && !off[(k + off.length - 1) % off.length]);
  // It does not touch the axis: a ring, with a wall all round.
  if (first < 0) return inward(loop, wallMm, open);
  const order = form.segments.map((_, k) => (first + k) % form.segments.length).filter((k) => off[k]);
  const half: Chain = { kind: 'chain', closed: false, segments: order.map((k) => form.segments[k]!) };
  const image = reverseForm(mirrorForm(half, axis.at, far)!) as Chain;
  const whole: Chain = { kind: 'chain', closed: true, segments: [...half.segments, ...image.segments] };
  const opened = order.filter((k) => names(open, path, curves, k)).map((k) => form.segments[k]!);
  const both = [...opened, ...opened.map((s) => (mirrorForm(only(s), axis.at, far) as Chain).segments[0]!)];
  const inner = withOpenings(path, offsetForm(joinedAcross(whole), -wallMm, 'sharp'), both, wallMm);
  if (both.length > 0) return inner;
  return inner.flatMap((own): Cut[] => {
    const halved = halfProfile(own.form, axis, true);
    return halved.ok ? [{ ...own, form: halved.form }] : [];
  });
}

const only = (s: Segment): Chain => ({ kind: 'chain', closed: false, segments: [s] });

/** Straight pieces that run on across the axis as one line: no corner is there. */
function joinedAcross(whole: Chain): Chain {
  const joined: Segment[] = [];
  for (const s of whole.segments) {
    const last = joined[joined.length - 1];
    if (last?.kind === 'line' && s.kind === 'line' && isStraightOn(last, s))
      joined[joined.length - 1] = { ...last, to: s.to };
    else joined.push(s);
  }
  const [first, last] = [joined[0]!, joined[joined.length - 1]!];
  if (joined.length > 2 && first.kind === 'line' && last.kind === 'line' && isStraightOn(last, first)) {
    joined[0] = { ...first, from: last.from };
    joined.pop();
  }
  return { ...whole, segments: joined };
}

const isStraightOn = (a: Segment, b: Segment): boolean => {
  const [ux, uy, vx, vy] = [a.to.x - a.from.x, a.to.y - a.from.y, b.to.x - b.from.x, b.to.y - b.from.y];
  const long = between(a.from, a.to) * between(b.from, b.to);
  return Math.abs(ux * vy - uy * vx) < NO_SHARE * long && ux * vx + uy * vy > 0;
};
