import type { PicturePoint } from '@steady-moth/core/calibration';
import type { Vec2 } from '@steady-moth/core/geometry';
import type { JobAction } from '@steady-moth/core/job';
import type { Expression } from '@steady-moth/core/sketch';
import type { Aim, SnapTarget } from '../board/useAim';
import type { SnapWish } from '../compute/pixels.worker';
import type { Reading } from '../session/readoutStore';
import type { Selection } from '../session/sessionStore';

/** What happens to a tool. Places are of the part; aims have snapped already. */
export type ToolEvent<Held, Answer> =
  /** The pointer goes down, `reach` being how far round it counts. */
  | { kind: 'press'; at: Vec2; reach: number; shift: boolean }
  | { kind: 'move'; aim: Aim; isHeld: boolean }
  /** A press that took hold of nothing, or the space key. */
  | { kind: 'place'; aim: Aim }
  /** What was held is let go, at once, before it is known what is there. */
  | { kind: 'let-go' }
  /** What was let go lands; `isMoved` where the pointer came away from where it was pressed. */
  | { kind: 'drop'; held: Held; isMoved: boolean; aim: Aim }
  /** A second press in one place, or Enter. */
  | { kind: 'finish' }
  | { kind: 'typed'; value: Expression; mm: number }
  /** Typed and read by the tool itself (`reads`). */
  | { kind: 'said'; text: string; unit: 'mm' | 'in' }
  | { kind: 'answer'; answer: Answer }
  /** The tool is laid down, or another one taken. */
  | { kind: 'cancel' };

/** What a tool makes of an event. What is left out stays as it was. */
export interface Outcome<State, Preview, Held, Question, Effect> {
  state: State;
  /** Shown until the next one. */
  preview?: Preview;
  /** The press took hold of something: what is held until it is let go. */
  held?: Held | null;
  action?: JobAction;
  select?: Selection;
  show?: Partial<Reading>;
  /** Asked of a worker; the answer comes back as an event. */
  ask?: Question;
  /** Why a typed figure was not taken. */
  refused?: string;
  /** Something else that the step shall do: fill a form, go to another picture. */
  effect?: Effect;
  /** The tool has done what it was taken for: it is laid down. */
  isDone?: boolean;
}

/**
 * A tool as a function of its state and what happens: nothing of it depends on the page, on time, or on what was on
 * screen before. `Context` is what it may look at: the job, what is drawn, the picture's map.
 */
export interface Tool<State, Context, Preview, Held, Question, Answer, Effect> {
  start(): State;
  step(state: State, event: ToolEvent<Held, Answer>, context: Context): Outcome<State, Preview, Held, Question, Effect>;
  /** What new points snap to; null where the pointer takes hold of what is there. */
  wish(state: State, context: Context): SnapWish | null;
  /** False where places are taken as they are pointed at; left out, they snap. */
  snaps?(context: Context): boolean;
  /** False where what is pointed at is no place of the picture: it is not looked at closely. */
  looks?: boolean;
  /** Points that a new one may snap to, within reach of a place. */
  targets?(state: State, at: Vec2, reach: number, context: Context): readonly SnapTarget[];
  /** Which of several edges close together is meant, the nearest first. */
  choose?(state: State, edges: readonly PicturePoint[], context: Context): number;
  /** What a figure typed now would be; null where none is awaited. */
  awaits?(state: State, context: Context): string | null;
  /** What is typed now is more than a length: the tool reads it itself. */
  reads?(state: State, context: Context): boolean;
}
