import type { Vec2 } from '../geometry';
import type { JobAction } from '../job';
import type { Id } from '../sketch';

/** Where something is wrong. */
type Where =
  /** At a place of a path, mm, in the frame of its sketch; of two paths that are in each other's way with the other one. */
  | { kind: 'place'; path: Id; other: Id | null; at: Vec2 }
  /** In a path, or in what one of its makers makes of it. */
  | { kind: 'path'; path: Id; maker: Id | null }
  | { kind: 'parameter'; parameter: Id }
  /** In relations and sizes of a sketch. */
  | { kind: 'conditions'; sketch: Id; conditions: readonly Id[] }
  /** In a feature of the body; with the place of its profile, where it is one. */
  | { kind: 'feature'; feature: Id; place: { path: Id; other: Id | null; at: Vec2 } | null }
  | { kind: 'reference'; picture: Id; reference: Id }
  | { kind: 'spot-checks'; picture: Id; spotChecks: readonly Id[] };

/** One thing that would mend it. */
export interface Repair {
  /** What would then be taken for true, or what goes, with its figures; null where the button says it. */
  says: string | null;
  /** What is pressed, and what that changes, worked out when it is: a sentence where it cannot be. Null: it is only told. */
  press: { name: string; act(): JobAction | string } | null;
}

/** Something that is wrong, or worth a look: where, how grave, how sure, and what would mend it. */
export interface Finding {
  /** The same for the same thing at the same place: no two findings of one list share it. */
  key: string;
  /** Whose it is, as the sentence begins; null where it has no bearer. */
  subject: string | null;
  /** What is said of it; with the subject before it a whole sentence. */
  says: string;
  where: Where;
  /** What is wrong goes out otherwise than it was said, or is left out; what is doubtful goes out as it is. */
  gravity: 'wrong' | 'doubtful';
  /** It is so; or it looks like it, and may be meant. */
  certainty: 'sure' | 'likely';
  repairs: readonly Repair[];
}

/** A finding as one sentence. */
export const sentenceOf = ({ subject, says }: Pick<Finding, 'subject' | 'says'>): string =>
  subject === null ? says : `${subject} ${says}`;

/** The place that a finding can be shown at; null where it is none. */
export const placeOfFinding = ({ where }: Finding): { path: Id; other: Id | null; at: Vec2 } | null =>
  where.kind === 'place' ? where : where.kind === 'feature' ? where.place : null;
