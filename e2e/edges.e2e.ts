import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Bench, openBench, openDemo, openPage, pixelPlace, platePixel, press, truthOf } from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const truth = truthOf('latch-plate');
/** The lower long edge of the plate shows its foot about two pixels beside the face. */
const [FIRST, SECOND, THIRD] = [30, 60, 45].map((x) => platePixel(truth, x, 0));
const snaps = (page: Page, what: RegExp) => page.locator('footer, [role=status], body').getByText(what).first();

/** Moves the pointer to a pixel as under the loupe, the board zoomed in on it. */
async function lookAt(page: Page, pixel: readonly [number, number]): Promise<void> {
  const far = await pixelPlace(page, pixel);
  await page.mouse.move(far.x, far.y);
  await page.mouse.wheel(0, -1200);
  await page.waitForTimeout(200);
  const near = await pixelPlace(page, pixel);
  await page.mouse.move(near.x - 2, near.y - 2);
  await page.mouse.move(near.x, near.y);
}

async function pressHere(page: Page, pixel: readonly [number, number]): Promise<void> {
  await press(page, await pixelPlace(page, pixel));
  await page.waitForTimeout(300);
  await page.mouse.wheel(0, 1200);
  await page.waitForTimeout(200);
}

it('offers edges close together one by one, keeps to the chosen one, and says which the run follows', async () => {
  const { page, faults } = await openPage(bench);
  await openDemo(bench, page, 'trace');
  await page.keyboard.press('q');

  await lookAt(page, FIRST!);
  await snaps(page, /edge 1 of 2, ±/).waitFor();
  await page.keyboard.press('g');
  await snaps(page, /edge 2 of 2, ±/).waitFor();
  await page.keyboard.press('g');
  await snaps(page, /edge 1 of 2, ±/).waitFor();
  await pressHere(page, FIRST!);

  // The second point keeps to the face edge without being asked, the third is set on the foot by hand.
  await lookAt(page, SECOND!);
  await snaps(page, /edge 1 of 2, ±/).waitFor();
  await pressHere(page, SECOND!);
  await page.keyboard.press('Enter');
  await page.getByText(/it follows the (left|right) one, as it was drawn, seen at 2 of 2 points/).waitFor();

  await page.keyboard.press('t');
  await lookAt(page, THIRD!);
  await snaps(page, /edge 1 of 2, ±/).waitFor();
  await page.keyboard.press('g');
  await snaps(page, /edge 2 of 2, ±/).waitFor();
  await pressHere(page, THIRD!);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Outer edge' }).click();
  await page.getByText(/Point 2 lies on the (left|right) one/).waitFor();
  await page.getByRole('button', { name: 'Show it' }).click();
  await page.keyboard.press('Delete');
  await page.getByRole('button', { name: 'Outer edge' }).click();
  await page.getByText(/seen at 2 of 2 points/).waitFor();
  expect(await page.getByText(/Point 2 lies/).count()).toBe(0);
  expect(faults).toEqual([]);
}, 60_000);
