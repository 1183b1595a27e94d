import type { Feature } from '../sketch';
import { cavityOf } from './cavity';
import type { BodyStep, Hole } from './plan';
import { copies, figure, frameOfSketch, length, type PlanState, rad, thickness } from './planState';
import { loopsOf, pathsOfFeature, type Told } from './profiles';
import { inSpace, normalOf } from './space';

/* What is worked upon the body there is: holes, hollows, repeats. */

export function holesOf(feature: Extract<Feature, { kind: 'holes' }>, state: PlanState, tell: Told): BodyStep | null {
  const { input } = state;
  const { found, gone } = pathsOfFeature(feature, input.evaluated, input.part.sketches);
  if (gone) tell('nothing-to-go-by');
  const diameterMm = feature.diameter && thickness(feature.diameter, tell);
  const depthMm = feature.depth && thickness(feature.depth, tell);
  if ((feature.diameter && diameterMm === null) || (feature.depth && depthMm === null)) return null;
  const head = headOf(feature.head, tell);
  if (!head) return null;
  const holes = found.flatMap((one): Hole[] =>
    loopsOf(one).flatMap(({ form }) =>
      form.kind === 'circle'
        ? [{ path: one.path.id, centre: form.centre, diameterMm: diameterMm ?? 2 * form.radius }]
        : [],
    ),
  );
  if (holes.length === 0) {
    tell('nothing-to-go-by');
    return null;
  }
  if (head.kind !== 'none' && holes.some((h) => h.diameterMm >= head.diameterMm)) {
    tell('too-large');
    return null;
  }
  const { id, does, from } = feature;
  return { kind: 'holes', id, does, frame: frameOfSketch(input, feature.sketch), holes, depthMm, from, head };
}

type Head = Extract<BodyStep, { kind: 'holes' }>['head'];

function headOf(head: Extract<Feature, { kind: 'holes' }>['head'], tell: Told): Head | null {
  if (head.kind === 'none') return head;
  const diameterMm = thickness(head.diameter, tell);
  if (diameterMm === null) return null;
  if (head.kind === 'countersink') {
    const degrees = figure(head.degrees, 20, 160, tell);
    return degrees === null ? null : { kind: 'countersink', diameterMm, angleRad: rad(degrees) };
  }
  const depthMm = thickness(head.depth, tell);
  return depthMm === null ? null : { kind: 'counterbore', diameterMm, depthMm };
}

export function hollowOf(
  { id, does, wall, open }: Extract<Feature, { kind: 'hollow' }>,
  state: PlanState,
  tell: Told,
): BodyStep | null {
  const wallMm = thickness(wall, tell);
  if (wallMm === null) return null;
  const [first, ...rest] = state.steps;
  const isOwn = open.every((f) => f.feature === first?.id);
  const base =
    isOwn && first?.kind === 'revolve' && rest.length === 0
      ? first
      : isOwn &&
          first?.kind === 'extrude' &&
          first.heights &&
          first.draftRad === 0 &&
          rest.every((s) => s.kind === 'edges')
        ? first
        : null;
  if (!base) return { kind: 'hollow', id, does, wallMm, open, cavity: null, base: null };
  const cavity = cavityOf(base, id, wallMm, open);
  if (cavity) return { kind: 'hollow', id, does, wallMm, open, cavity, base: base.kind === 'revolve' ? base : null };
  tell('too-large');
  return null;
}

export function repeatOf(feature: Extract<Feature, { kind: 'repeat' }>, state: PlanState, tell: Told): BodyStep | null {
  const { id, does, of, how } = feature;
  const known = of.filter((f) => state.steps.some((s) => s.id === f && s.kind !== 'edges' && s.kind !== 'hollow'));
  if (known.length < of.length) tell('nothing-to-go-by');
  if (known.length === 0) return null;
  const made = { kind: 'repeat' as const, id, does, of: known };
  if (how.kind === 'mirror') {
    const atMm = length(how.at, tell);
    return atMm === null ? null : { ...made, how: { kind: 'mirror', across: how.across, atMm } };
  }
  if (how.kind === 'row') {
    const stepMm = length(how.step, tell);
    const count = copies(how.count, tell);
    if (stepMm === null || count === null) return null;
    return { ...made, how: { kind: 'row', along: how.along, stepMm, count } };
  }
  const count = copies(how.count, tell);
  const degrees = figure(how.degrees, -360, 360, tell);
  if (count === null || degrees === null) return null;
  const form = state.input.evaluated.paths.find((p) => p.path.id === how.path)?.form;
  if (form?.kind !== 'circle') {
    tell('nothing-to-go-by');
    return null;
  }
  const frame = frameOfSketch(state.input, how.sketch);
  const step = Math.abs(degrees) >= 360 ? degrees / count : degrees;
  return {
    ...made,
    how: {
      kind: 'round',
      at: inSpace(frame, form.centre),
      about: normalOf(frame),
      count,
      stepRad: rad(step),
    },
  };
}
