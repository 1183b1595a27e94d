import { beforeEach, describe, expect, it } from 'vitest';
import { WorkerDied } from '../compute/startWorker';
import { useJob } from './jobStore';
import { askQuestion, isWaiting, type QuestionKind, type Run, useQuestions } from './questions';
import { useSession } from './sessionStore';

/** A question whose answer is given from outside. */
function open<Answer>(more: Partial<QuestionKind<string, Answer>> = {}) {
  const own = { run: null as Run | null, answer: (_: Answer) => {}, fail: (_: Error) => {} };
  const kind: QuestionKind<string, Answer> = {
    says: (what) => `Looking for ${what}`,
    ask: (_, run) =>
      new Promise<Answer>((resolve, reject) => {
        own.run = run;
        own.answer = resolve;
        own.fail = reject;
      }),
    ...more,
  };
  return { kind, own };
}
const opened = () => useQuestions.getState().open;
const notice = () => useJob.getState().notice;

beforeEach(() => {
  useQuestions.setState({ open: [] });
  useJob.setState({ notice: null });
});

describe('a question', () => {
  it('is shown with what it tells of itself until it is answered', async () => {
    const { kind, own } = open<number>();
    const answer = askQuestion(kind, 'the coin');
    expect(opened()).toMatchObject([{ says: 'Looking for the coin', share: null }]);
    own.run!.progress(0.4);
    expect(opened()).toMatchObject([{ share: 0.4 }]);
    own.answer(7);
    expect(await answer).toBe(7);
    expect(opened()).toEqual([]);
    expect(notice()).toBeNull();
  });

  it('that is stopped has no answer, whatever comes of it later, and nothing is said', async () => {
    const { kind, own } = open<number>();
    const answer = askQuestion(kind, 'the coin');
    opened()[0]!.stop();
    own.answer(7);
    expect(await answer).toBeNull();
    expect(own.run!.signal.aborted).toBe(true);
    expect(notice()).toBeNull();
  });

  it('is stopped by whoever asked it', async () => {
    const stopping = new AbortController();
    const answer = askQuestion(open<number>().kind, 'the coin', stopping.signal);
    stopping.abort();
    expect(await answer).toBeNull();
    expect(opened()).toEqual([]);
  });

  it('that fails says so, in its own words where it has some', async () => {
    const died = open<number>();
    const first = askQuestion(died.kind, 'the coin');
    died.own.fail(new WorkerDied());
    expect(await first).toBeNull();
    expect(notice()).toMatch(/stopped unexpectedly/);
    const wrong = open<number>({ failed: 'The file was not written.' });
    const second = askQuestion(wrong.kind, 'the coin');
    wrong.own.fail(new Error('inner words that nobody understands'));
    expect(await second).toBeNull();
    expect(notice()).toBe('The file was not written.');
  });

  it('may have another answer for when it fails: then nothing is said', async () => {
    const { kind, own } = open<string>({ otherwise: (what) => `${what} as it was drawn` });
    const answer = askQuestion(kind, 'the circle');
    own.fail(new Error('no edge'));
    expect(await answer).toBe('the circle as it was drawn');
    expect(notice()).toBeNull();
  });
});

describe('questions that all else waits for', () => {
  it('are one at a time: a later one ends the one before', async () => {
    const [a, b] = [open<number>({ waits: true }), open<number>({ waits: true })];
    const first = askQuestion(a.kind, 'the coin');
    expect(isWaiting()).toBe(true);
    const second = askQuestion(b.kind, 'the ruler');
    a.own.answer(1);
    b.own.answer(2);
    expect(await first).toBeNull();
    expect(await second).toBe(2);
    expect(isWaiting()).toBe(false);
  });

  it('are over when the tool is laid down; others go on', async () => {
    const [waits, goesOn] = [open<number>({ waits: true }), open<number>()];
    const first = askQuestion(waits.kind, 'the coin');
    const second = askQuestion(goesOn.kind, 'the circle');
    useSession.getState().take('line');
    expect(await first).toBeNull();
    expect(opened().map((o) => o.says)).toEqual(['Looking for the circle']);
    goesOn.own.answer(3);
    expect(await second).toBe(3);
  });
});
