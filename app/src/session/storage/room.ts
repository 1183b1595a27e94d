import type { Room } from './roomOf';

/** An answer that takes longer is not waited for: a disk that is slow is not full. */
const PATIENCE_MS = 4000;
/** Of a small thing to be kept, and of tidying up, bytes. */
export const LITTLE = 64 << 10;

let worker: Worker | null = null;
let turn: Promise<unknown> = Promise.resolve();

/**
 * Whether a given number of bytes can be stored. It must be asked before the database is written to: when a write of its own fails
 * on a full disk, a browser may clear all that this application ever stored to make room, other jobs with it. The file
 * that is written here to find out is not of that kind. Where it cannot be told there is room.
 */
export function roomFor(bytes: number): Promise<Room> {
  if (typeof Worker === 'undefined' || !globalThis.navigator?.storage?.getDirectory) return Promise.resolve('plenty');
  const answer = turn.then(() => asked(bytes));
  turn = answer;
  return answer;
}

function asked(bytes: number): Promise<Room> {
  worker ??= new Worker(new URL('./room.worker.ts', import.meta.url), { type: 'module', name: 'room' });
  const mine = worker;
  return new Promise((resolve) => {
    const done = (room: Room | null) => {
      clearTimeout(patience);
      mine.onmessage = null;
      mine.onerror = null;
      resolve(room ?? 'plenty');
    };
    const patience = setTimeout(() => {
      mine.terminate();
      worker = null;
      done(null);
    }, PATIENCE_MS);
    mine.onmessage = ({ data }) => done(data);
    mine.onerror = () => done(null);
    mine.postMessage(bytes);
  });
}

/**
 * Asks the browser once to keep what is stored when the disk runs full. Browsers grant it to pages that are used often,
 * or ask the person.
 */
export async function askToKeep(): Promise<void> {
  const { storage } = navigator;
  if (storage?.persist && !(await storage.persisted())) await storage.persist();
}
