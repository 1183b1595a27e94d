import { parseLength } from '@steady-moth/core/units';
import { useMemo, useReducer, useRef } from 'react';
import type { BoardTool } from '../board/boardTool';
import { lengthSentence } from '../kit/lengthSentence';
import { useJob } from '../session/jobStore';
import { askQuestion, type QuestionKind, type Questions } from '../session/questions';
import { useReadout } from '../session/readoutStore';
import { useSession } from '../session/sessionStore';
import { useAsk } from '../session/useAsk';
import type { Outcome, Tool, ToolEvent } from './tool';

/** How far round the pointer a press takes hold of things, px of the screen. */
const REACH_PX = 12;

export interface ToolInHand<State, Preview> {
  board: BoardTool;
  state: State;
  preview: Preview;
  /** Ends what was begun, as Enter does. */
  finish(): void;
}

/**
 * Runs whichever tool is in hand: hands it what happens on the board, applies what it wants done, asks workers what it
 * asks. `context` is called at each event, so that of two quick presses the second sees what the first has done.
 */
export function useTool<State, Context, Preview, Held, Question extends { kind: string }, Answer, Effect>({
  tool,
  nothing,
  context,
  questions,
  perform,
  unit,
}: {
  tool: Tool<State, Context, Preview, Held, Question, Answer, Effect>;
  /** What is shown of a tool that did nothing yet. */
  nothing: Preview;
  context(): Context;
  /** What answers each kind of question that the tool may ask. */
  questions: Questions<Question, Answer>;
  /** Does what else a tool wants done. */
  perform(effect: Effect): void;
  unit: 'mm' | 'in';
}): ToolInHand<State, Preview> {
  const [, draw] = useReducer((n: number) => n + 1, 0);
  const latest = useRef({ context, questions, perform });
  latest.current = { context, questions, perform };
  const hand = useRef<Hand<State, Context, Preview, Held, Question, Answer, Effect> | null>(null);

  const dispatch = useMemo(() => {
    const step = (
      own: Hand<State, Context, Preview, Held, Question, Answer, Effect>,
      event: ToolEvent<Held, Answer>,
    ): Outcome<State, Preview, Held, Question, Effect> => {
      const outcome = own.tool.step(own.state, event, latest.current.context());
      const isSeen = outcome.state !== own.state || outcome.preview !== undefined;
      own.state = outcome.state;
      if (outcome.preview !== undefined) own.preview = outcome.preview;
      if (outcome.held !== undefined) own.held = outcome.held;
      if (outcome.action) useJob.getState().apply(outcome.action);
      if (outcome.select !== undefined) useSession.getState().select(outcome.select);
      if (outcome.show) useReadout.getState().show(outcome.show);
      if (outcome.effect !== undefined) latest.current.perform(outcome.effect);
      if (outcome.isDone && own === hand.current) useSession.getState().take(null);
      // What lands, or is answered, after another tool was taken still counts: it was drawn with this one.
      const question = outcome.ask;
      if (question !== undefined)
        void askQuestion(kindOf(latest.current.questions, question), question).then(
          (answer) => answer !== null && step(own, { kind: 'answer', answer }),
        );
      if (isSeen && own === hand.current) draw();
      return outcome;
    };
    return step;
  }, []);

  // Another tool: what the one before had begun is over.
  if (hand.current?.tool !== tool) {
    const before = hand.current;
    if (before) before.state = before.tool.step(before.state, { kind: 'cancel' }, context()).state;
    hand.current = { tool, state: tool.start(), preview: nothing, held: null, letGo: null };
  }
  const own = hand.current;

  const wish = tool.wish(own.state, context());
  const snaps = tool.snaps?.(context()) ?? true;
  const board = useMemo<BoardTool>(() => {
    const now = () => latest.current.context();
    return {
      wish,
      snaps,
      looks: tool.looks ?? true,
      targets: (at, reach) => tool.targets?.(own.letGo ?? own.state, at, reach, now()) ?? [],
      choose: (edges) => tool.choose?.(own.state, edges, now()) ?? 0,
      grab(at, view, shift) {
        own.letGo = null;
        const { held } = dispatch(own, { kind: 'press', at, reach: REACH_PX / view.scale, shift });
        return held !== undefined && held !== null;
      },
      hover(aim, isHeld) {
        own.letGo = null;
        dispatch(own, { kind: 'move', aim, isHeld });
      },
      place: (aim) => void dispatch(own, { kind: 'place', aim }),
      letGo(isMoved) {
        const { held } = own;
        own.held = null;
        // Where it lands is told by what was held: that decides what it may snap to.
        own.letGo = own.state;
        dispatch(own, { kind: 'let-go' });
        return (aim) => {
          own.letGo = null;
          if (held !== null) dispatch(own, { kind: 'drop', held, isMoved, aim });
        };
      },
      twice: () => void dispatch(own, { kind: 'finish' }),
    };
  }, [tool, own, wish, snaps, dispatch]);

  const awaits = tool.awaits?.(own.state, context()) ?? null;
  useAsk(awaits, (text) => {
    if (tool.reads?.(own.state, context())) return dispatch(own, { kind: 'said', text, unit }).refused ?? null;
    const found = parseLength(text, unit);
    if (!found.ok) return lengthSentence(found.reason);
    const typed = { kind: 'typed' as const, value: { text: text.trim(), unit }, mm: found.mm };
    return dispatch(own, typed).refused ?? null;
  });

  return { board, state: own.state, preview: own.preview, finish: () => void dispatch(own, { kind: 'finish' }) };
}

/** The entry of a question's own kind. */
const kindOf = <Question extends { kind: string }, Answer>(
  questions: Questions<Question, Answer>,
  question: Question,
): QuestionKind<Question, Answer> => questions[question.kind as Question['kind']] as QuestionKind<Question, Answer>;

/** A tool in hand, and what it has begun. */
interface Hand<State, Context, Preview, Held, Question, Answer, Effect> {
  tool: Tool<State, Context, Preview, Held, Question, Answer, Effect>;
  state: State;
  preview: Preview;
  held: Held | null;
  /** As it was when something was let go, until that has landed. */
  letGo: State | null;
}
