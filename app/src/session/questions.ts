import { create } from 'zustand';
import { WorkerDied } from '../compute/startWorker';
import { useJob } from './jobStore';
import { onLayDown } from './sessionStore';

/** What a question tells while it is worked on, and hears of. */
export interface Run {
  /** Aborted where nobody waits for the answer any more. */
  signal: AbortSignal;
  /** The share that is done, 0 to 1. */
  progress(share: number): void;
}

/** A kind of question that a tool or a slip asks a worker. */
export interface QuestionKind<Question, Answer> {
  /** Shown while it is waited for: "Looking for the coin". */
  says(question: Question): string;
  ask(question: Question, run: Run): Promise<Answer>;
  /**
   * Everything waits for it: a later one of its like ends it, and so does laying down the tool. Left out, each is answered, however
   * many there are.
   */
  waits?: boolean;
  /** Said where it failed. */
  failed?: string;
  /** The answer for when it failed or was stopped; without one, whoever asked gets null. */
  otherwise?(question: Question): Answer;
}

/** The kinds that a tool may ask, one entry each. */
export type Questions<Question extends { kind: string }, Answer> = {
  [K in Question['kind']]: QuestionKind<Extract<Question, { kind: K }>, Answer>;
};

interface Open {
  id: number;
  says: string;
  /** The share that is done; null while nothing tells it. */
  share: number | null;
  waits: boolean;
  stop(): void;
}

/** What workers were asked and have not answered yet, the oldest first. */
export const useQuestions = create<{ open: readonly Open[] }>(() => ({ open: [] }));

/** Something is asked that all else waits for. */
export const isWaiting = (): boolean => useQuestions.getState().open.some((o) => o.waits);

const stopWaiting = (): void => {
  for (const own of useQuestions.getState().open) if (own.waits) own.stop();
};
onLayDown(stopWaiting);

let asked = 0;

/**
 * Asks a question. That it takes long is said, with a way to stop it; so is that it failed.
 *
 * @param given stops it too
 * @returns the answer; null where it was stopped or failed and its kind has no other answer for that
 */
export async function askQuestion<Question, Answer>(
  kind: QuestionKind<Question, Answer>,
  question: Question,
  given?: AbortSignal,
): Promise<Answer | null> {
  const { waits = false } = kind;
  if (waits) stopWaiting();
  const stopping = new AbortController();
  const id = ++asked;
  const own: Open = { id, says: kind.says(question), share: null, waits, stop: () => stopping.abort() };
  const { getState, setState } = useQuestions;
  const progress = (share: number) =>
    setState(({ open }) => ({ open: open.map((o) => (o.id === id ? { ...o, share } : o)) }));
  setState({ open: [...getState().open, own] });
  given?.addEventListener('abort', own.stop);
  const stopped = new Promise<never>((_, reject) => {
    stopping.signal.addEventListener('abort', () => reject(stopping.signal.reason));
  });
  if (given?.aborted) own.stop();
  try {
    return await Promise.race([kind.ask(question, { signal: stopping.signal, progress }), stopped]);
  } catch (error) {
    const otherwise = kind.otherwise?.(question) ?? null;
    if (!stopping.signal.aborted && otherwise === null)
      useJob.setState({ notice: kind.failed ?? failureSentence(error) });
    return otherwise;
  } finally {
    given?.removeEventListener('abort', own.stop);
    setState(({ open }) => ({ open: open.filter((o) => o.id !== id) }));
  }
}

const failureSentence = (error: unknown): string =>
  error instanceof WorkerDied ? error.message : 'That could not be worked out. Nothing was changed; please try again.';
