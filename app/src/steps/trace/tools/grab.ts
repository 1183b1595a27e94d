import { handlesThrough, type Vec2 } from '@steady-moth/core/geometry';
import { bend, decideDiameter, decideDistance, joinPoints, movePicks } from '@steady-moth/core/job';
import {
  type Bend,
  findPath,
  type Id,
  type Observation,
  observationOf,
  observedOf,
  type Path,
  pathsIn,
  picksOfCurve,
  pointsOfCurve,
  type Sketch,
  sketchesOf,
  walkOf,
} from '@steady-moth/core/sketch';
import {
  derivedPick,
  type Hit,
  hitSegment,
  hitTest,
  type Item,
  idsOf,
  isInMiddle,
  ledWith,
  seenAt,
  taken,
} from '@steady-moth/core/tracing';
import type { Aim, SnapTarget } from '../../../board/useAim';
import { isItemChosen, itemsOf, toggled } from '../../../part/chosen';
import { NO_PREVIEW, spanBetween } from '../../../part/preview';
import type { ToolEvent } from '../../../tool/tool';
import type { TraceAnswer, TraceContext, TraceHeld, TraceOutcome } from './context';

type State = { held: TraceHeld | null };

/**
 * Takes hold of what is there: points are moved, a circle by its centre, pieces bowed at their middle and moved nearer
 * to their ends. `bow` is the form that every piece is bowed into, where that was chosen.
 */
export const grabbing = {
  /** An open end that is dragged snaps to the ends that it can be joined with. */
  targets: ({ held }: State, at: Vec2, reach: number, context: TraceContext): SnapTarget[] =>
    held?.kind === 'points' && held.ids.length === 1 ? endsNear(held.ids[0]!, at, reach, context) : [],

  /** What a typed figure says of what is chosen. */
  awaits(context: TraceContext): string | null {
    const chosen = context.isTrue ? chosenSize(context) : null;
    return chosen && (chosen.kind === 'distance' ? 'Length of this line' : 'Diameter of this circle');
  },

  step(
    state: State,
    event: ToolEvent<TraceHeld, TraceAnswer>,
    context: TraceContext,
    bow: 'arc' | 'curve' | null,
  ): TraceOutcome<State> {
    switch (event.kind) {
      case 'press':
        return pressed(bow, event, context);
      case 'move':
        return event.isHeld && state.held ? { state, ...dragged(state.held, event.aim, context) } : { state };
      case 'let-go':
        return { state: { held: null } };
      case 'drop':
        if (event.isMoved) return { state, preview: NO_PREVIEW, ...dropped(event.held, event.aim, context) };
        return {
          state,
          preview: NO_PREVIEW,
          ...(event.held.chooses === undefined ? {} : { select: event.held.chooses }),
        };
      case 'typed':
        return { state, ...sized(event.value, context) };
      case 'cancel':
        return { state: { held: null }, preview: NO_PREVIEW };
      default:
        return { state };
    }
  },
};

function pressed(
  bow: 'arc' | 'curve' | null,
  { at, reach, shift }: { at: Vec2; reach: number; shift: boolean },
  { drawn, job, selection }: TraceContext,
): TraceOutcome<State> {
  const found = bow === null ? hitTest(drawn, at, reach) : hitSegment(drawn, at, reach);
  const whole = found && findPath(job.part, found.path);
  if (!found || !whole)
    return { state: { held: null }, held: null, ...(shift || bow !== null ? {} : { select: null }) };
  const own = itemOf(found);
  // With Shift held a press adds to what is chosen, or takes from it; a drag bows a piece into a curve.
  const items = itemsOf(selection);
  const isChosen = isItemChosen(selection, own) || isItemChosen(selection, { kind: 'path', path: own.path });
  if (items.length > 1 && !shift && isChosen) {
    const ids = idsOf(items, job.part);
    const held: TraceHeld = { kind: 'points', ids, from: at, label: 'move what is chosen', chooses: own };
    return { state: { held }, held };
  }
  const held = heldOf(bow, found, whole, at, shift);
  // With a drawing tool in hand a press is the first place of what is drawn, until it is dragged.
  const select = shift || bow !== null ? {} : { select: own };
  if (!held && bow !== null) return { state: { held: null }, held: null };
  if (!held) return { state: { held: null }, held: null, select: shift ? toggled(selection, own) : own };
  const adds: TraceHeld = shift ? { ...held, chooses: toggled(selection, own) } : held;
  return { state: { held: adds }, held: adds, ...select };
}

/** What a press chooses. */
function itemOf(found: Hit): Item {
  if (found.kind === 'point') return { kind: 'point', path: found.path, point: found.point };
  if (found.kind === 'piece') return { kind: 'piece', path: found.path, curve: found.curve };
  return { kind: 'path', path: found.path };
}

/** What a press takes hold of; null for the rim of a circle, which is chosen and not moved. */
function heldOf(
  bow: 'arc' | 'curve' | null,
  found: Hit,
  { sketch, path }: { sketch: Sketch; path: Path },
  at: Vec2,
  shift: boolean,
): TraceHeld | null {
  if (found.kind === 'circle') return null;
  if (found.kind === 'point') return { kind: 'points', ids: [found.point], from: at, label: 'move a point' };
  if (found.kind === 'centre')
    return { kind: 'points', ids: observedOf(sketch, path), from: at, label: 'move a circle' };
  const curve = sketch.curves[found.curve]!;
  if (bow === null && !isInMiddle(found.t))
    return {
      kind: 'points',
      ids: [...pointsOfCurve(curve), ...picksOfCurve(curve)],
      from: at,
      label: 'move a piece',
    };
  const how = bow ?? (shift || curve.kind === 'cubic' ? 'curve' : 'arc');
  return { kind: 'bow', path: found.path, curve: found.curve, bow: how, from: at };
}

function dragged(held: TraceHeld, aim: Aim, context: TraceContext): Partial<TraceOutcome<State>> {
  if (held.kind === 'bow') {
    const { path, curve, bow } = held;
    return { preview: { ...NO_PREVIEW, bow: { path, curve, kind: bow, through: aim.place } } };
  }
  if (held.kind !== 'points') return {};
  const preview = { ...NO_PREVIEW, points: movedTo(held, aim, context) };
  const beside = held.ids.length === 1 ? neighbourOf(held.ids[0]!, context) : null;
  const show = beside && context.isTrue ? spanBetween(beside, aim.place) : { lengthMm: null, angle: null };
  return { preview, show };
}

function dropped(held: TraceHeld, aim: Aim, context: TraceContext): Partial<TraceOutcome<State>> {
  if (held.kind === 'points') {
    const [only] = held.ids as [string];
    if (held.ids.length === 1 && aim.point !== null && aim.point !== only) return joined(aim.point, only, context);
    const moves = movedTo(held, aim, context);
    return { action: movePicks(held.label, context.isTrue ? ledWith(moves, context) : moves) };
  }
  if (held.kind !== 'bow') return {};
  const how = bowed(held, aim, context);
  return how ? { action: bend(held.curve, how), select: { kind: 'piece', path: held.path, curve: held.curve } } : {};
}

/** An end that was dragged onto another path's end: of both becomes one, the path that was there. */
function joined(keep: Id, gone: Id, { job }: TraceContext): Partial<TraceOutcome<State>> {
  const path = sketchesOf(job.part)
    .flatMap((s) => pathsIn(s).filter((p) => walkOf(s, p)?.points.includes(keep)))
    .at(0);
  return path ? { action: joinPoints(keep, gone, path.id), select: { kind: 'path', path: path.id } } : {};
}

/** How a piece runs through where it was dragged to. */
function bowed(
  { path, curve, bow }: Extract<TraceHeld, { kind: 'bow' }>,
  aim: Aim,
  context: TraceContext,
): Bend | null {
  if (bow === 'arc') return { kind: 'arc', via: { id: context.newId(), at: seenAt(aim) } };
  const found = context.drawn.paths.find((d) => d.path.id === path);
  const own = found?.sketch.curves[curve];
  if (!own || own.kind === 'circle') return null;
  const [from, to] = [own.from, own.to].map((id) => context.drawn.placeOf(id));
  if (!from || !to) return null;
  const handles = handlesThrough(from, aim.place, to);
  const [a, b] = [handles.handleFrom, handles.handleTo].map((p) => derivedPick(context, p, aim.sigmaPx));
  return a && b ? { kind: 'cubic', handles: [a, b] } : null;
}

/** One point goes where the aim is; several move along together. */
function movedTo(
  { ids, from }: Extract<TraceHeld, { kind: 'points' }>,
  aim: Aim,
  context: TraceContext,
): Record<Id, Observation> {
  const plane = observationOf(context.job.part, ids[0]!)?.plane ?? 'face';
  if (ids.length === 1) return { [ids[0]!]: { ...seenAt(aim), plane } };
  const by = { x: aim.place.x - from.x, y: aim.place.y - from.y };
  return taken(ids, (p) => ({ x: p.x + by.x, y: p.y + by.y }), context);
}

/** The next point along the path from one, the one before it first. */
export function neighbourOf(id: Id, { job, drawn }: Pick<TraceContext, 'job' | 'drawn'>): Vec2 | null {
  for (const sketch of sketchesOf(job.part))
    for (const path of pathsIn(sketch)) {
      const points = walkOf(sketch, path)?.points ?? [];
      const k = points.indexOf(id);
      if (k < 0 || points.length < 2) continue;
      const beside = points[k - 1] ?? (path.closed ? points[points.length - 1]! : points[k + 1]!);
      return drawn.placeOf(beside);
    }
  return null;
}

/** Ends of open paths that an open end can be joined with. */
function endsNear(own: Id, at: Vec2, reach: number, { job, drawn }: TraceContext) {
  const ends = sketchesOf(job.part).map((sketch) =>
    pathsIn(sketch).flatMap((path) => {
      const points = path.closed ? [] : (walkOf(sketch, path)?.points ?? []);
      return points.length > 1 ? [points[0]!, points[points.length - 1]!] : [];
    }),
  );
  const mine = ends.find((all) => all.includes(own)) ?? [];
  return mine.flatMap((id) => {
    const place = id === own ? null : drawn.placeOf(id);
    if (!place || Math.hypot(place.x - at.x, place.y - at.y) > reach) return [];
    return [{ id, place, sigmaPx: observationOf(job.part, id)?.sigmaPx ?? 1, name: 'point', isWeak: false }];
  });
}

/** What of what is chosen has a size that can be typed. */
export function chosenSize({ selection, job }: TraceContext) {
  if (selection?.kind !== 'piece' && selection?.kind !== 'path') return null;
  const found = findPath(job.part, selection.path);
  const id = selection.kind === 'piece' ? selection.curve : found?.path.uses[0]?.curve;
  const curve = found && id ? found.sketch.curves[id] : undefined;
  if (curve?.kind === 'circle') return { kind: 'diameter' as const, path: selection.path, curve };
  return curve?.kind === 'line' && selection.kind === 'piece'
    ? { kind: 'distance' as const, path: selection.path, curve }
    : null;
}

/** A typed figure decides the size of what is chosen. */
export function sized(
  value: { text: string; unit: 'mm' | 'in' },
  context: TraceContext,
): Pick<TraceOutcome<State>, 'action'> {
  const chosen = chosenSize(context);
  if (!chosen) return {};
  const { path, curve } = chosen;
  return chosen.kind === 'diameter'
    ? { action: decideDiameter(path, context.newId(), curve.id, value) }
    : { action: decideDistance(path, context.newId(), [chosen.curve.from, chosen.curve.to], value) };
}
