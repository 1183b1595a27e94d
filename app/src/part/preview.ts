import type { Circle, Form, Vec2 } from '@steady-moth/core/geometry';
import type { Observation } from '@steady-moth/core/sketch';
import type { Growing } from '@steady-moth/core/tracing';
import type { Aim } from '../board/useAim';
import type { Reading } from '../session/readoutStore';

/** What is being done and is not yet a change. */
export interface TracePreview {
  /** Points and picks where they are being dragged. */
  points: Readonly<Record<string, Observation>> | null;
  /** A piece being bowed, through this place. */
  bow: { path: string; curve: string; kind: 'arc' | 'curve'; through: Vec2 } | null;
  /** A circle being drawn. */
  circle: Circle | null;
  /** What would come, or go. */
  forms: readonly Form[];
  /** Two corners of a box that chooses what lies in it. */
  box: { from: Vec2; to: Vec2 } | null;
  /** From and to of a measurement. */
  measure: { from: Aim; to: Aim | null; before: readonly Aim[] } | null;
  /** The path that is being drawn on. */
  growing: Growing | null;
}

export const NO_PREVIEW: TracePreview = {
  points: null,
  bow: null,
  circle: null,
  forms: [],
  box: null,
  measure: null,
  growing: null,
};

/** Places that are measured between, one after the other. */
export const legsOf = (measure: NonNullable<TracePreview['measure']>): [Aim, Aim][] => {
  const places = [...measure.before, measure.from, ...(measure.to ? [measure.to] : [])];
  return places.slice(1).map((to, k): [Aim, Aim] => [places[k]!, to]);
};

/** How far and in which direction one place lies from another, for the readout. */
export function spanBetween(from: Vec2, to: Vec2): Partial<Reading> {
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  return { lengthMm: Math.hypot(dx, dy), lengthPlusMinusMm: null, angle: Math.atan2(dy, dx) };
}
