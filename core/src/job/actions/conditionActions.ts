import { MOST } from '../../schema/bounds';
import {
  type Constraint,
  type Dimension,
  type Expression,
  type Id,
  movePicks,
  type Observation,
  type Part,
  type Sketch,
} from '../../sketch';
import type { JobAction } from '../document/history';

const inSketch = (label: string, sketch: Id, change: (sketch: Sketch, part: Part) => void): JobAction => ({
  label,
  recipe({ part }) {
    const own = Object.hasOwn(part.sketches, sketch) ? part.sketches[sketch] : undefined;
    if (own) change(own, part);
  },
});

/** Takes relations up; those of them that are there already stay. */
export const addConstraints = (sketch: Id, constraints: readonly Constraint[]): JobAction =>
  inSketch(constraints.length === 1 ? 'relate' : `relate ${constraints.length} times`, sketch, (own) => {
    for (const c of constraints) own.constraints[c.id] = c;
  });

/** Holds points or curves where they were measured; those that are held already are let loose. */
export const holdOrLoose = (sketch: Id, ids: readonly Id[], constraint: Id): JobAction =>
  inSketch('hold as measured, or let loose', sketch, (own) => {
    const held = Object.values(own.constraints).filter((c) => c.kind === 'fixed');
    const isHeld = (id: Id) => held.some((c) => c.refs.some((r) => r.id === id));
    if (!ids.every(isHeld)) {
      const refs = ids.filter((id) => !isHeld(id)).map((id) => ({ sketch, id }));
      own.constraints[constraint] = { id: constraint, kind: 'fixed', refs, count: null };
      return;
    }
    for (const c of held) {
      c.refs = c.refs.filter((r) => !ids.includes(r.id));
      if (c.refs.length === 0) delete own.constraints[c.id];
    }
  });

/** Takes sizes up, measured or decided. */
export const addDimensions = (sketch: Id, dimensions: readonly Dimension[]): JobAction =>
  inSketch(dimensions.length === 1 ? 'put a size' : `put ${dimensions.length} sizes`, sketch, (own) => {
    for (const d of dimensions) own.dimensions[d.id] = d;
  });

/** Leaves proposals: they are not made again, in this job. */
export const passOver = (keys: readonly string[]): JobAction => ({
  label: keys.length === 1 ? 'leave a proposal' : `leave ${keys.length} proposals`,
  recipe: ({ part }) => {
    const fresh = keys.filter((key) => key.length <= MOST.key && !part.passedOver.includes(key));
    part.passedOver.push(...fresh.slice(0, MOST.passedOver - part.passedOver.length));
  },
});

/** Makes all proposals again that were left. */
export const lookAgain = (): JobAction => ({
  label: 'look at proposals again',
  recipe: ({ part }) => {
    part.passedOver = [];
  },
});

/** Takes relations and sizes away; the only size of a circle that nobody saw stays. */
export const dropConditions = (sketch: Id, ids: readonly Id[]): JobAction =>
  inSketch('take a relation or a size away', sketch, (own) => {
    for (const id of ids) {
      delete own.constraints[id];
      const d = own.dimensions[id];
      const curve = d?.kind === 'diameter' ? own.curves[d.refs[0]!.id] : undefined;
      if (curve?.evidence.length !== 0) delete own.dimensions[id];
    }
  });

/** Decides a size that was measured, or says anew what it is and why. */
export const decideSize = (sketch: Id, id: Id, value: Expression, why?: string): JobAction =>
  inSketch('decide a size', sketch, ({ dimensions }) => {
    const d = dimensions[id];
    if (!d) return;
    const before = d.origin.kind === 'decided' ? d.origin.why : '';
    d.origin = { kind: 'decided', value, why: why ?? before };
  });

/** Has a size measured again. */
export const measureSize = (sketch: Id, id: Id): JobAction =>
  inSketch('measure a size', sketch, ({ dimensions, curves }) => {
    const d = dimensions[id];
    const curve = d?.kind === 'diameter' ? curves[d.refs[0]!.id] : undefined;
    if (d && curve?.evidence.length !== 0) d.origin = { kind: 'measured' };
  });

/** Puts the figure of a size where it reads well: how far from where it stands by itself, mm; null for there. */
export const moveLabel = (sketch: Id, id: Id, label: Dimension['label']): JobAction =>
  inSketch('move a size', sketch, ({ dimensions }) => {
    const d = dimensions[id];
    if (d) d.label = label;
  });

/** Leads what was free to where it was dragged: what went along is said anew where it now lies. */
export const leadTo = (moves: Readonly<Record<Id, Observation>>): JobAction => ({
  label: 'move what is free',
  recipe: ({ part }) => movePicks(part, moves),
});
