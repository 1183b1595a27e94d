import {
  type Form,
  flattenForm,
  formsBounds,
  mapForm,
  reverseForm,
  type Segment,
  smoothOver,
  type Vec2,
} from '../geometry';
import type { Expression, Feature, Id } from '../sketch';
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
  if (feature.bow) return ownDome({ ...feature, bow: feature.bow }, state, tell);
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

/** The same of two lines of its own over all of the body, along and across the view. */
function ownDome(feature: Typed, { input, box }: PlanState, tell: Told): DomeStep | null {
  if (!box) {
    tell('no-body');
    return null;
  }
  const { side } = input.sideOf(feature.sketch);
  const runs = [AXES_OF_SIDE[side].x, AXES_OF_SIDE[side].y] as const;
  const rise = AXES.find((axis) => !runs.includes(axis as never))!;
  const { bow } = feature;
  const lines = (['along', 'across'] as const).map((way, k): readonly Segment[] | null => {
    const run = { low: box.min[runs[k]!], high: box.max[runs[k]!] };
    // Of the line across only its form counts: its highest place lies on the other.
    const top = k === 1 ? 0 : feature.from === 'end' ? box.max[rise] : -box.min[rise];
    if (bow.by !== 'places') return typedArc(bow.by, bow[way], run, top, tell);
    const drawn = bow[way];
    if (drawn === null) return [levelLine(run, top)];
    const lift = k === 1 ? -Math.max(...drawn.map((p) => p.y)) : 0;
    const middle = (run.low + run.high) / 2;
    const line = smoothOver(drawn.map((p) => ({ x: p.x + middle, y: p.y + top + lift })));
    if (!line) tell('bow-goes-back');
    return line;
  });
  const [first, second] = lines;
  if (!first || !second) return null;
  if (bow.along === null && bow.across === null) {
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
    along: [...first],
    across: [...second],
    path: feature.across satisfies Id,
  };
}

interface Run {
  low: number;
  high: number;
}

const levelLine = ({ low, high }: Run, y: number): Segment => ({
  kind: 'line',
  from: { x: low, y },
  to: { x: high, y },
});

/** An arc over a run by how deep its ends lie or by its radius; null, and told, where that cannot be. */
function typedArc(
  by: 'height' | 'radius',
  typed: Expression | null,
  run: Run,
  top: number,
  tell: Told,
): readonly Segment[] | null {
  const mm = typed === null ? 0 : thickness(typed, tell);
  if (mm === null) return null;
  const wide = run.high - run.low;
  const deep = by === 'height' || mm === 0 ? mm : sagitta(mm, wide);
  if (deep === null || deep > (MOST_DEEP * wide) / 2) {
    tell('bow-too-round');
    return null;
  }
  if (deep === 0) return [levelLine(run, top)];
  const [from, to] = [run.low, run.high].map((x) => ({ x, y: top - deep })) as [Vec2, Vec2];
  return [{ kind: 'arc', from, via: { x: (run.low + run.high) / 2, y: top }, to }];
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
