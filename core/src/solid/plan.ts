import type { Segment, Vec2 } from '../geometry';
import type { Does, FaceName, Feature, Id } from '../sketch';
import type { Region } from './region';
import type { Axis, Frame, Vec3 } from './space';

/*
 * What a body is made of in plain figures: everything that was typed is worked out, every profile lies where it truly
 * lies. It depends on the document and the calibration alone, and can be sent to a worker.
 */

interface Step {
  id: Id;
  does: Does;
}

/** A profile drawn out square to its plane, from one height over it to another; null: through all there is. */
export interface ExtrudeStep extends Step {
  kind: 'extrude';
  frame: Frame;
  regions: Region[];
  heights: { fromMm: number; toMm: number } | null;
  /** By how much its sides lean inwards, rad. */
  draftRad: number;
  /** What it is kept inside, for marks on a face; null for nothing. */
  inside: Region[] | null;
}

/** A profile turned about a line of its plane. */
export interface RevolveStep extends Step {
  kind: 'revolve';
  frame: Frame;
  regions: Region[];
  axis: { at: Vec2; along: Vec2 };
  angleRad: number;
}

export interface Hole {
  path: Id;
  centre: Vec2;
  diameterMm: number;
}

export interface HolesStep extends Step {
  kind: 'holes';
  frame: Frame;
  holes: Hole[];
  /** From the face that they are drilled from; null: through. */
  depthMm: number | null;
  from: 'end' | 'start';
  head:
    | { kind: 'none' }
    | { kind: 'countersink'; diameterMm: number; angleRad: number }
    | { kind: 'counterbore'; diameterMm: number; depthMm: number };
}

export interface EdgesStep extends Step {
  kind: 'edges';
  how: 'round' | 'cut';
  sizeMm: number;
  which: Extract<Feature, { kind: 'edges' }>['which'];
}

export interface HollowStep extends Step {
  kind: 'hollow';
  wallMm: number;
  open: FaceName[];
  /** What is cut out, where the body is one extrusion or one turned profile; null: the finished body is offset. */
  cavity: ExtrudeStep | RevolveStep | null;
  /** The turned profile, where the body is nothing else yet: the cavity is taken out of it before it is turned. */
  base: RevolveStep | null;
}

export interface RepeatStep extends Step {
  kind: 'repeat';
  of: Id[];
  how:
    | { kind: 'mirror'; across: Axis; atMm: number }
    | { kind: 'row'; along: Axis; stepMm: number; count: number }
    | { kind: 'round'; at: Vec3; about: Vec3; count: number; stepRad: number };
}

/**
 * What lies beyond a face bowed two ways, cut off. Both lines run onwards along their own axis; they rise along
 * `rise`, which points away from the body. The second one's highest place lies on the first.
 */
export interface DomeStep extends Step {
  kind: 'dome';
  run: Vec3;
  runAcross: Vec3;
  rise: Vec3;
  /** x along the run, y along the rise. */
  along: Segment[];
  across: Segment[];
  /** The path across, which its faces are called by. */
  path: Id;
}

export type BodyStep = ExtrudeStep | RevolveStep | DomeStep | HolesStep | EdgesStep | HollowStep | RepeatStep;

/** Why a feature cannot be made: it is left out, and the others go on. */
export type FeatureReason =
  /** What it goes by is gone, or has no place. */
  | 'nothing-to-go-by'
  | 'open-profile'
  | 'crosses-itself'
  /** Forms of one profile that only touch: nothing would be left between them. */
  | 'touches'
  /** What was typed is no length. */
  | 'no-length'
  | 'no-thickness'
  | 'no-number'
  /** A line that is closed, or goes back on itself: no face is swept along it. */
  | 'no-bow'
  /** A dome that is typed, and straight both ways. */
  | 'no-bow-typed'
  /** An arc that does not reach from end to end of the body. */
  | 'bow-too-round'
  | 'bow-goes-back'
  /** Two lines of views that are seen from one and the same side. */
  | 'one-side'
  | 'crosses-axis'
  /** A profile on both sides of its axis, whose sides are not two pictures of one. */
  | 'unlike-halves'
  /** An edge or a face that it names is not there. */
  | 'edge-gone'
  | 'too-large'
  /** A wall of an open line, or sides that lean, where that makes no form. */
  | 'no-form'
  /** Nothing of the body is left, or nothing was there to be cut. */
  | 'nothing-left'
  | 'no-body'
  | 'sides-cannot-lean'
  /** The kernel gave up, with its own words. */
  | 'failed';

export interface FeatureFault {
  feature: Id;
  reason: FeatureReason;
  /** What says it more closely: a path's name, or the kernel's words. */
  detail: string | null;
  /** Where it is seen, where that is one place. */
  where?: FaultPlace;
}

/** A place at which a profile is at fault, in the frame of its sketch, mm. */
export interface FaultPlace {
  path: Id;
  at: Vec2;
  /** The other path; null where one path is at fault with itself. */
  other: Id | null;
}

/** What was found out about a feature and is worth knowing. */
export type FeatureNote = { feature: Id } & (
  | { kind: 'closed-on-axis' }
  /** Both halves of a turned part made one, and how unlike they are at most, mm. */
  | { kind: 'halves-averaged'; unlikeMm: number }
  /** A view that is longer along an axis than the body there is, mm: shorter where it is negative. */
  | { kind: 'longer'; along: Axis; mm: number }
  /** A view that stays where it was drawn, and how far along an axis it begins from where the body does, mm. */
  | { kind: 'apart'; along: Axis; mm: number }
  /** A line that ends before the body does, drawn on straight, mm. */
  | { kind: 'drawn-on'; mm: number }
  /** Where edges meet with a slight kink what is made of them is only so good, mm. */
  | { kind: 'inexact'; mm: number }
);

export interface BodyPlan {
  steps: BodyStep[];
  faults: FeatureFault[];
  notes: FeatureNote[];
}
