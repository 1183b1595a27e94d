import type { Vec2 } from '../geometry';
import type { Feature } from '../sketch';
import type { BodyPlan, BodyStep } from './plan';
import { domeOf } from './planDome';
import { type PlanInput, type PlanState, thickness } from './planState';
import { extrudeOf, marksOf, revolveOf } from './planSweeps';
import { holesOf, hollowOf, repeatOf } from './planWork';
import { boundsOfRegions, type Told, teller } from './profiles';
import { type Box, boxOf, inSpace } from './space';

/**
 * What the features of a part come to: one step each, in plain figures. One that cannot be made is told and left out.
 *
 * Order and frames: `space.ts`; heights count from the sketch's plane towards whoever looks at it.
 */
export function planBody(input: PlanInput): BodyPlan {
  const faults: BodyPlan['faults'] = [];
  const state: PlanState = { input, box: null, base: null, notes: [], steps: [] };
  for (const feature of input.part.features) {
    const step = stepOf(feature, state, teller(feature.id, faults));
    if (!step) continue;
    state.steps.push(step);
    const grown = step.does === 'add' ? boxOfStep(step) : null;
    if (grown) state.box = state.box ? boxOf([state.box.min, state.box.max, grown.min, grown.max]) : grown;
    if ('sketch' in feature) state.base ??= input.sideOf(feature.sketch).side;
  }
  return { steps: state.steps, faults, notes: state.notes };
}

function stepOf(feature: Feature, state: PlanState, tell: Told): BodyStep | null {
  switch (feature.kind) {
    case 'extrude':
      return extrudeOf(feature, state, tell);
    case 'revolve':
      return revolveOf(feature, state, tell);
    case 'dome':
      return domeOf(feature, state, tell);
    case 'marks':
      return marksOf(feature, state, tell);
    case 'holes':
      return holesOf(feature, state, tell);
    case 'edges': {
      const sizeMm = thickness(feature.size, tell);
      const { id, does, how, which } = feature;
      return sizeMm === null ? null : { kind: 'edges', id, does, how, sizeMm, which };
    }
    case 'hollow':
      return hollowOf(feature, state, tell);
    case 'repeat':
      return repeatOf(feature, state, tell);
  }
}

/** Round what a step adds, as far as plain figures tell; null where they do not. */
function boxOfStep(step: BodyStep): Box | null {
  if (step.kind === 'extrude' && step.heights) {
    const bounds = boundsOfRegions(step.regions);
    if (!bounds) return null;
    const { fromMm, toMm } = step.heights;
    return boxOf([inSpace(step.frame, bounds.min, fromMm), inSpace(step.frame, bounds.max, toMm)]);
  }
  if (step.kind === 'revolve') {
    const bounds = boundsOfRegions(step.regions);
    if (!bounds) return null;
    const { at, along } = step.axis;
    const away = (p: Vec2) => Math.abs(along.x * (p.y - at.y) - along.y * (p.x - at.x));
    const corners = [
      bounds.min,
      bounds.max,
      { x: bounds.min.x, y: bounds.max.y },
      { x: bounds.max.x, y: bounds.min.y },
    ];
    const reach = Math.max(...corners.map(away));
    const across = { x: -along.y * 2 * reach, y: along.x * 2 * reach };
    const all = corners.flatMap((c) => [-1, 1].map((s) => ({ x: c.x + s * across.x, y: c.y + s * across.y })));
    return boxOf(all.flatMap((c) => [-reach, reach].map((up) => inSpace(step.frame, c, up))));
  }
  return null;
}
