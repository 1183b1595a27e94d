import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Bench, openBench, openDemo, openPage, takeReadings, truthOf } from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const truth = truthOf('latch-plate');

it('counts the strokes of the rule, which show the tilt, and leaves them out again', async () => {
  const { page, context, faults } = await openPage(bench);
  await openDemo(bench, page, 'true');
  await takeReadings(page, truth);
  const verdict = page.getByText(/100 mm in the middle are good to/);
  const plusMinus = async () =>
    Math.max(...[...((await verdict.textContent()) ?? '').matchAll(/±\s([\d.]+)/g)].map((m) => Number(m[1])));
  const before = await plusMinus();
  expect(before).toBeGreaterThan(3);
  await page.getByRole('button', { name: 'Count the strokes of 1' }).click();
  await page.getByText(/of its strokes taken as lines, and its edge/).waitFor({ timeout: 20_000 });
  await expect.poll(plusMinus, { timeout: 20_000 }).toBeLessThan(0.6);
  expect(await page.getByTestId('strokes').count()).toBe(1);
  await page.getByText(/^tilt 6\.\d°/).waitFor();
  // It is one undo, and a moved or another length forgets what was counted for it.
  await page.getByRole('button', { name: 'Undo: count the strokes' }).click();
  await expect.poll(plusMinus, { timeout: 20_000 }).toBe(before);
  const field = page.getByLabel('Known length 1', { exact: true });
  await field.fill('149');
  await field.press('Enter');
  await page.getByRole('button', { name: 'Count the strokes of 1' }).click();
  await page
    .getByRole('alert')
    .getByText(/150 spacings were counted/)
    .waitFor({ timeout: 20_000 });
  expect(faults).toEqual([]);
  await context.close();
});
