import type { Page } from 'playwright-core';
import { afterAll, beforeAll, beforeEach, expect, it } from 'vitest';
import { type Bench, goTo, openBench, openPage, openTrued, pixelPlace, platePixel, press, truthOf } from './harness';

let bench: Bench;
let page: Page;
let faults: string[];
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const truth = truthOf('latch-plate');
type Place = readonly [number, number];

beforeEach(async () => {
  await page?.context().close();
  ({ page, faults } = await openPage(bench));
  await openTrued(bench, page, truth, true);
});

/** Presses places of the plate with nothing snapping. */
async function freely(places: readonly Place[]): Promise<void> {
  await page.keyboard.down('f');
  for (const [x, y] of places) {
    await press(page, await pixelPlace(page, platePixel(truth, x, y)));
    await page.waitForTimeout(220);
  }
  await page.keyboard.up('f');
}

const undoSays = (label: string) => page.getByRole('button', { name: `Undo: ${label}` }).waitFor();

/* The plate runs straight from (90, 24) to (84, 28) and on to (84, 43); what is pressed is up to 0.15 mm off it. */
const CORNERS: Place[] = [
  [90.1, 15.2],
  [89.87, 24.12],
  [84.12, 28.1],
  [83.9, 41],
];

it('settles a hasty trace on the edge by one key, as one step, and says how far it moved', async () => {
  await goTo(page, 'Trace');
  await page.keyboard.press('q');
  await freely(CORNERS);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+a');
  const before = await lengths();
  await page.keyboard.press('s');
  await page.getByText(/Settled on the edge; it moved by up to 0\.\d+ mm/).waitFor();
  await undoSays('settle on the edge');
  const after = await lengths();
  expect(after).not.toEqual(before);
  // The middle one runs from corner to corner.
  expect(after[1]!.mm).toBeCloseTo(Math.hypot(6, 4), 1);
  await page.keyboard.press('Control+z');
  await expect.poll(lengths).toEqual(before);
  expect(faults).toEqual([]);
});

/** The lengths of the path's lines as the slip tells them. */
async function lengths(): Promise<{ mm: number; text: string }[]> {
  const rows = page.getByRole('listitem').filter({ hasText: /^line \d/ });
  const texts = await rows.allInnerTexts();
  return texts.map((text) => ({ text, mm: Number(/(\d+\.\d+)/.exec(text)?.[1]) }));
}
