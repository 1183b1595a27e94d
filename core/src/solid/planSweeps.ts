import { type Form, pointAt } from '../geometry';
import type { Feature } from '../sketch';
import { halfProfile, ON_AXIS_MM, type ProfileAxis } from './halfProfile';
import type { BodyStep, ExtrudeStep } from './plan';
import { figure, frameOfSketch, length, NOTHING_MM, type PlanInput, type PlanState, rad, thickness } from './planState';
import { laidOut } from './planViews';
import { loopsOf, pathsOfFeature, regionsOfMarks, regionsOfPaths, type Told } from './profiles';
import type { Region } from './region';
import { type Frame, frameOf, normalOf } from './space';

/** Unit normals that differ by less are of one plane. */
const SAME_NORMAL = 1e-9;

/* What is made of profiles: extrusions, turned bodies, marks. */

export function extrudeOf(
  feature: Extract<Feature, { kind: 'extrude' }>,
  state: PlanState,
  tell: Told,
): BodyStep | null {
  const { input } = state;
  const { found, gone } = pathsOfFeature(feature, input.evaluated, input.part.sketches);
  if (gone || found.length === 0) {
    tell('nothing-to-go-by');
    if (found.length === 0) return null;
  }
  const wallMm = feature.wall && thickness(feature.wall, tell);
  if (feature.wall && wallMm === null) return null;
  const regions = regionsOfPaths(found, wallMm, tell);
  if (regions.length === 0) return null;
  const heights = feature.heights && { from: length(feature.heights.from, tell), to: length(feature.heights.to, tell) };
  if (heights && (heights.from === null || heights.to === null)) return null;
  if (heights && Math.abs(heights.to! - heights.from!) < NOTHING_MM) {
    tell('no-thickness');
    return null;
  }
  const draft = figure(feature.draft, -60, 60, tell);
  if (draft === null) return null;
  if (!heights && !state.box) {
    tell('no-body');
    return null;
  }
  return {
    kind: 'extrude',
    id: feature.id,
    does: feature.does,
    frame: frameOfSketch(input, feature.sketch),
    regions: laidOut(feature, regions, state),
    heights: heights && {
      fromMm: Math.min(heights.from!, heights.to!),
      toMm: Math.max(heights.from!, heights.to!),
    },
    draftRad: rad(draft),
    inside: null,
  };
}

/** Turned by less than this, degrees, nothing comes of a profile. */
const LEAST_TURN = 0.01;

export function revolveOf(
  feature: Extract<Feature, { kind: 'revolve' }>,
  state: PlanState,
  tell: Told,
): BodyStep | null {
  const { input, notes } = state;
  const own = input.evaluated.paths.find((p) => p.path.id === feature.path);
  const loops = own ? loopsOf(own) : [];
  const axis = axisOf(feature, input);
  if (!own || loops.length === 0 || !axis) {
    tell('nothing-to-go-by', own?.path.name);
    return null;
  }
  const degrees = figure(feature.degrees, LEAST_TURN, 360, tell);
  if (degrees === null) return null;
  const regions: Region[] = [];
  for (const { form, curves } of loops) {
    const half = halfProfile(form, axis);
    if (!half.ok) {
      tell(half.reason, own.path.name);
      return null;
    }
    if (half.closed) notes.push({ feature: feature.id, kind: 'closed-on-axis' });
    if (half.unlikeMm !== null) notes.push({ feature: feature.id, kind: 'halves-averaged', unlikeMm: half.unlikeMm });
    regions.push({
      outer: {
        path: feature.path,
        form: half.form,
        curves: curves && half.from.map((k) => (k === null ? null : (curves[k] ?? null))),
      },
      holes: [],
    });
  }
  return {
    kind: 'revolve',
    id: feature.id,
    does: feature.does,
    frame: frameOfSketch(input, feature.sketch),
    regions,
    axis,
    angleRad: rad(degrees),
  };
}

function axisOf({ axis, path }: Extract<Feature, { kind: 'revolve' }>, input: PlanInput): ProfileAxis | null {
  const { evaluated, placing } = input;
  if (axis !== null) {
    const form = evaluated.paths.find((p) => p.path.id === axis)?.form;
    if (axis === path) return ownSide(form ?? null);
    if (form?.kind !== 'chain' || form.segments.length === 0) return null;
    const [a, b] = [form.segments[0]!.from, form.segments[form.segments.length - 1]!.to];
    const long = Math.hypot(b.x - a.x, b.y - a.y);
    return long < NOTHING_MM ? null : { at: a, along: { x: (b.x - a.x) / long, y: (b.y - a.y) / long } };
  }
  const sketch = evaluated.paths.find((p) => p.path.id === path)?.sketch;
  const seen = sketch && Object.values(sketch.points).flatMap(({ at }) => (at.kind === 'observed' ? [at.picture] : []));
  const turned = seen?.[0] === undefined ? null : placing.get(seen[0])?.turned;
  if (!turned) return null;
  const { x, y, dx, dy } = turned.axis;
  const long = Math.hypot(dx, dy);
  return { at: { x, y }, along: { x: dx / long, y: dy / long } };
}

/** The longest straight side of a form that all of it lies on one side of, to turn it about; null without one. */
function ownSide(form: Form | null): ProfileAxis | null {
  if (form?.kind !== 'chain') return null;
  const places = form.segments.flatMap((s) => [0, 0.25, 0.5, 0.75].map((t) => pointAt(s, t)));
  let best: { axis: ProfileAxis; long: number } | null = null;
  for (const { kind, from, to } of form.segments) {
    const long = Math.hypot(to.x - from.x, to.y - from.y);
    if (kind !== 'line' || long < NOTHING_MM || long <= (best?.long ?? 0)) continue;
    const along = { x: (to.x - from.x) / long, y: (to.y - from.y) / long };
    const off = places.map((p) => along.x * (p.y - from.y) - along.y * (p.x - from.x));
    if (Math.min(...off) < -ON_AXIS_MM && Math.max(...off) > ON_AXIS_MM) continue;
    best = { axis: { at: from, along }, long };
  }
  return best?.axis ?? null;
}

/** Marks stand on what the last extrusion of their own side made, or are sunk into it. */
export function marksOf(feature: Extract<Feature, { kind: 'marks' }>, state: PlanState, tell: Told): BodyStep | null {
  const { input } = state;
  const { side } = input.sideOf(feature.sketch);
  const ground = state.steps.findLast(
    (s): s is ExtrudeStep =>
      s.kind === 'extrude' && s.does === 'add' && s.heights !== null && isSameWay(s.frame, frameOf(side, 0)),
  );
  const byMm = thickness(feature.by, tell);
  const widthMm = thickness(feature.width, tell);
  if (byMm === null || widthMm === null) return null;
  if (!ground?.heights) {
    tell('no-body');
    return null;
  }
  const { found } = pathsOfFeature(feature, input.evaluated, input.part.sketches);
  if (found.length === 0) {
    tell('nothing-to-go-by');
    return null;
  }
  const regions = regionsOfMarks(found, widthMm, tell);
  if (regions.length === 0) return null;
  const top = ground.heights.toMm;
  const raised = feature.does === 'add';
  return {
    kind: 'extrude',
    id: feature.id,
    does: raised ? 'add' : 'cut',
    frame: ground.frame,
    regions,
    heights: raised ? { fromMm: top, toMm: top + byMm } : { fromMm: top - byMm, toMm: top },
    draftRad: 0,
    inside: ground.regions,
  };
}

const isSameWay = (a: Frame, b: Frame): boolean => {
  const [n, m] = [normalOf(a), normalOf(b)];
  return Math.abs(n.x - m.x) + Math.abs(n.y - m.y) + Math.abs(n.z - m.z) < SAME_NORMAL;
};
