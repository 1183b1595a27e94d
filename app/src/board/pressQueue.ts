/** The last press on the board: each waits for what the pixels say of its place. */
let last: Promise<unknown> = Promise.resolve();
let underWay = 0;

/** Places a press after those before it. */
export function inTurn(place: () => Promise<void>): void {
  underWay += 1;
  last = last.then(place, place).finally(() => {
    underWay -= 1;
  });
}

/** A press still waits for what the pixels say of its place. */
export const isPlacing = (): boolean => underWay > 0;

/** Longer than this no key waits for a press: the pixels may not answer at all, ms. */
const LONGEST_WAIT_MS = 1500;

/** Does something once every press made so far is placed: a key in a hurry must not come before the press before it. */
export function afterPresses(work: () => void): void {
  const late = new Promise((resolve) => setTimeout(resolve, LONGEST_WAIT_MS));
  void Promise.race([last.catch(() => {}), late]).then(work);
}
