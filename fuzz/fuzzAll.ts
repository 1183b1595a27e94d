import { fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';

/** What came of an input that nobody may bring in: `npm run fuzz -- --seed S --only K` makes it again. */
interface FuzzFault {
  k: number;
  reader: string;
  why: string;
}

export interface FuzzResult {
  /** How many inputs each reader refused and took. */
  counts: Record<string, { refused: number; taken: number; slowestMs: number }>;
  faults: FuzzFault[];
  /** Inputs that were read, of those wanted: fewer where time ran out. */
  read: number;
}

/** Longer than this over one input is a hang, ms. */
const HANG_MS = 2000;
/** Compiling everything takes its time, on a slow machine too. */
const START_MS = 60_000;

interface Said {
  kind: 'begin' | 'end' | 'fault';
  k: number;
  reader: string;
  came: 'refused' | 'taken';
  ms: number;
  why: string;
  mostMs?: number;
}

/** Sets changed inputs upon all readers, in a process of its own that is ended and started again when one hangs. */
export async function fuzzAll(seed: number, from: number, to: number, mostMs: number): Promise<FuzzResult> {
  const result: FuzzResult = { counts: {}, faults: [], read: 0 };
  const until = Date.now() + mostMs;
  let next = from;
  while (next < to && Date.now() < until) next = await stretch(seed, next, to, until, result);
  return result;
}

/** Reads until the end, a hang, or the end of time; answers with the next input to read. */
function stretch(seed: number, from: number, to: number, until: number, result: FuzzResult): Promise<number> {
  const child = fork(fileURLToPath(new URL('./child.ts', import.meta.url)), [seed, from, to].map(String), {
    execArgv: ['--import', 'tsx', '--max-old-space-size=2048'],
    stdio: 'ignore',
  });
  return new Promise((resolve) => {
    let at: Said | null = null;
    let next = from;
    let watch = setTimeout(() => end('it did not start'), START_MS);
    const end = (why: string | null) => {
      clearTimeout(watch);
      child.removeAllListeners();
      child.kill('SIGKILL');
      if (why && at) result.faults.push({ k: at.k, reader: at.reader, why });
      resolve(why && !at ? to : next);
    };
    child.on('message', (message) => {
      const said = message as Said;
      clearTimeout(watch);
      if (said.kind === 'begin') {
        at = said;
        next = said.k + 1;
        const most = said.mostMs ?? HANG_MS;
        watch = setTimeout(() => end(`no answer in ${most} ms`), most);
        return;
      }
      at = null;
      result.read += 1;
      if (said.kind === 'fault') result.faults.push({ k: said.k, reader: said.reader, why: said.why });
      else {
        result.counts[said.reader] ??= { refused: 0, taken: 0, slowestMs: 0 };
        const count = result.counts[said.reader]!;
        count[said.came] += 1;
        count.slowestMs = Math.max(count.slowestMs, said.ms);
      }
      if (Date.now() > until) end(null);
    });
    child.on('exit', () => end(at ? 'the process died' : null));
  });
}
