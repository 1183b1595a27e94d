import { type Form, flattenForm, formsBounds, mapForm, reverseForm, type Segment, type Vec2 } from '../geometry';
import type { Feature, Id } from '../sketch';
import type { DomeStep } from './plan';
import { type PlanState, thickness } from './planState';
import type { Told } from './profiles';
import { AXES, AXES_OF_SIDE, type Axis, type SideName, unitOf, type Vec3 } from './space';

/** A line drawn on by more than this to reach the body's end is told, mm. */
const TOLD_MM = 0.3;
/** Half circles stand upright at their ends, where nothing can be drawn on. */
const MOST_DEEP = 0.98;
/** Flat enough to see whether a line goes back on itself, mm. */
const FLAT_MM = 0.01;

/** Two lines of two views, laid to the body, in figures of their own runs and of the rise that both views share. */
export function domeOf(feature: Extract<Feature, { kind: 'dome' }>, state: PlanState, tell: Told): DomeStep | null {
  if (feature.bow) return typedDome({ ...feature, bow: feature.bow }, state, tell);
  const { input, box } = state;
  const sides = [input.sideOf(feature.sketch).side, input.sideOf(feature.acrossSketch).side] as const;
  const shared = sharedAxis(...sides);
  if (!shared) {
    tell('one-side');
    return null;
  }
  if (!box) {
    tell('no-body');
    return null;
  }
  const lines = [feature.path, feature.across].map((id, k) => {
    const own = input.evaluated.paths.find((p) => p.path.id === id);
    const form = own?.made?.[0] ?? own?.form ?? null;
    if (!form) tell('nothing-to-go-by', own?.path.name);
    const bow = form && bowOf(form, AXES_OF_SIDE[sides[k]!].y === shared, feature.from === 'end');
    if (form && !bow) tell('no-bow', own?.path.name);
    return bow;
  });
  const [along, across] = lines;
  if (!along || !across) return null;
  const runs = sides.map((side) => otherAxis(side, shared)) as [Axis, Axis];
  const far = feature.from === 'end' ? box.max[shared] : -box.min[shared];
  const isLaid = feature.laid === 'body';
  const laid = [along, across].map((chain, k) => {
    const { min, max } = formsBounds([chain])!;
    const [low, high] = [box.min[runs[k]!], box.max[runs[k]!]];
    const shift = isLaid ? (low + high - min.x - max.x) / 2 : 0;
    // Of the line across only its form counts: its highest place lies on the other.
    const lift = k === 1 ? -max.y : isLaid ? far - max.y : 0;
    const moved = mapForm(chain, (p) => ({ x: p.x + shift, y: p.y + lift })) as Chain;
    const missing = Math.max(min.x + shift - low, high - max.x - shift);
    if (missing > TOLD_MM) state.notes.push({ feature: feature.id, kind: 'drawn-on', mm: missing });
    return moved.segments;
  });
  return {
    kind: 'dome',
    id: feature.id,
    does: 'cut',
    run: unitOf(runs[0]),
    runAcross: unitOf(runs[1]),
    rise: turnedAway(unitOf(shared), feature.from === 'start'),
    along: laid[0]!,
    across: laid[1]!,
    path: feature.across satisfies Id,
  };
}

type Typed = Extract<Feature, { kind: 'dome' }> & { bow: object };

/** The same of two typed arcs over all of the body, along and across the view. */
function typedDome(feature: Typed, { input, box }: PlanState, tell: Told): DomeStep | null {
  if (!box) {
    tell('no-body');
    return null;
  }
  const { side } = input.sideOf(feature.sketch);
  const runs = [AXES_OF_SIDE[side].x, AXES_OF_SIDE[side].y] as const;
  const rise = AXES.find((axis) => !runs.includes(axis as never))!;
  const { by, along, across } = feature.bow;
  const arcs = [along, across].map((typed, k): Segment | null => {
    const [low, high] = [box.min[runs[k]!], box.max[runs[k]!]];
    const mm = typed === null ? 0 : thickness(typed, tell);
    if (mm === null) return null;
    const deep = by === 'height' || mm === 0 ? mm : sagitta(mm, high - low);
    if (deep === null || deep > (MOST_DEEP * (high - low)) / 2) {
      tell('bow-too-round');
      return null;
    }
    const top = k === 1 ? 0 : feature.from === 'end' ? box.max[rise] : -box.min[rise];
    const [from, to] = [low, high].map((x) => ({ x, y: top - deep })) as [Vec2, Vec2];
    return deep === 0 ? { kind: 'line', from, to } : { kind: 'arc', from, via: { x: (low + high) / 2, y: top }, to };
  });
  const [first, second] = arcs;
  if (!first || !second) return null;
  if (first.kind === 'line' && second.kind === 'line') {
    tell('no-bow-typed');
    return null;
  }
  return {
    kind: 'dome',
    id: feature.id,
    does: 'cut',
    run: unitOf(runs[0]),
    runAcross: unitOf(runs[1]),
    rise: turnedAway(unitOf(rise), feature.from === 'start'),
    along: [first],
    across: [second],
    path: feature.across satisfies Id,
  };
}

/** How much lower the ends of an arc lie than its middle; null where it is too round to reach from end to end. */
function sagitta(radius: number, chord: number): number | null {
  const half = chord / 2;
  return radius < half ? null : radius - Math.sqrt(radius * radius - half * half);
}

type Chain = Extract<Form, { kind: 'chain' }>;

/** The axis that two views both show; null of one and the same side. */
function sharedAxis(a: SideName, b: SideName): Axis | null {
  if (a === b) return null;
  const own = Object.values(AXES_OF_SIDE[a]);
  return Object.values(AXES_OF_SIDE[b]).find((axis) => own.includes(axis)) ?? null;
}

const otherAxis = (side: SideName, shared: Axis): Axis => {
  const { x, y } = AXES_OF_SIDE[side];
  return x === shared ? y : x;
};

const turnedAway = ({ x, y, z }: Vec3, turn: boolean): Vec3 => (turn ? { x: -x, y: -y, z: -z } : { x, y, z });

/** A line over its run, from its lower end on; null where it is closed or goes back on itself. */
function bowOf(form: Form, risesAlongY: boolean, isUp: boolean): Chain | null {
  if (form.kind === 'circle' || form.closed || form.segments.length === 0) return null;
  const sign = isUp ? 1 : -1;
  const turned = mapForm(
    form,
    (p): Vec2 => (risesAlongY ? { x: p.x, y: sign * p.y } : { x: p.y, y: sign * p.x }),
  ) as Chain;
  const [first, last] = [turned.segments[0]!.from, turned.segments[turned.segments.length - 1]!.to];
  const chain = (first.x <= last.x ? turned : reverseForm(turned)) as Chain;
  const places = flattenForm(chain, FLAT_MM);
  return places.every((p, k) => k === 0 || p.x > places[k - 1]!.x) ? chain : null;
}
