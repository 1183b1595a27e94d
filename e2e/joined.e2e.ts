import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { readRailRule, type Side, shareRailPoint } from './demoPlaces';
import {
  type Bench,
  goTo,
  openBench,
  openJob,
  openPage,
  pictureShown,
  plateInRule,
  press,
  truePlace,
  truthOf,
} from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const choose = async (page: Page, side: Side) => {
  await page.getByLabel('Picture', { exact: true }).selectOption({ label: `hanger-rail-${side}.jpg` });
  await pictureShown(page);
};
const length = (text: string | null): { mm: number; plusMinus: number } => {
  const [, mm, plusMinus] = /(\d+(?:\.\d+)?) ± (\d+(?:\.\d+)?)/.exec(text ?? '') ?? [];
  return { mm: Number(mm), plusMinus: Number(plusMinus) };
};

it('joins two pictures by one rule and common points, and measures a run over both', async () => {
  const { page, context, faults } = await openPage(bench);
  await openJob(bench, page, /Hanger rail/);
  await goTo(page, 'True');
  await pictureShown(page);
  await readRailRule(page, 'left', 20, 210);
  await choose(page, 'right');
  await readRailRule(page, 'right', 190, 380);

  const joined = page.getByRole('region', { name: 'Joined pictures' });
  await joined.getByRole('button', { name: 'Ruler 1 is ruler 1 of hanger-rail-left.jpg' }).click();
  await joined.getByText(/From the middle of hanger-rail-left\.jpg to that of hanger-rail-right\.jpg/).waitFor();
  await page.getByText('come from hanger-rail-left.jpg, which this one is joined with.').waitFor();
  const reach = async () => length(await joined.getByText(/From the middle of/).textContent());
  const before = await reach();
  expect(before.mm).toBeGreaterThan(150);

  await page.keyboard.press('p');
  for (const hole of ['centre 3', 'centre 4', 'centre 5']) await shareRailPoint(page, 'right', 'plate', hole);
  await page.keyboard.press('Escape');
  await joined.getByText(/At the seam both put common points/).waitFor();
  await expect.poll(() => joined.getByText(/^\d\.\d+ mm apart$/).count()).toBe(3);
  expect((await reach()).plusMinus).toBeLessThanOrEqual(before.plusMinus);

  // A run from one end of the rail to the other, over both pictures: 340 mm between its outer holes.
  await goTo(page, 'Trace');
  await expect.poll(() => page.locator('canvas[data-shown=true]').count()).toBe(2);
  await page.getByRole('application').hover();
  for (let k = 0; k < 4; k++) await page.mouse.wheel(0, 250);
  await page.waitForTimeout(500);
  await page.keyboard.press('q');
  await page.keyboard.down('f');
  for (const x of [20, 360]) {
    const [xMm, yMm] = plateInRule(truthOf('hanger-rail-left'), x, 22);
    await press(page, await truePlace(page, xMm - 20, yMm));
    await page.waitForTimeout(300);
  }
  await page.keyboard.up('f');
  await page.keyboard.press('Enter');
  const figure = page.locator('aside .figure').filter({ hasText: '±' }).first();
  await expect.poll(() => figure.textContent(), { timeout: 20_000 }).toMatch(/^[\d.]+ ± [\d.]+$/);
  const run = length(await figure.textContent());
  expect(Math.abs(run.mm - 340)).toBeLessThan(run.plusMinus);
  expect(run.plusMinus).toBeLessThan(3);

  // What joins them can be taken away, and undone.
  await goTo(page, 'True');
  await joined.getByRole('button', { name: 'Remove common point 1' }).click();
  await expect.poll(() => joined.getByText(/^\d\.\d+ mm apart$/).count()).toBe(2);
  await page.keyboard.press('Control+z');
  await expect.poll(() => joined.getByText(/^\d\.\d+ mm apart$/).count()).toBe(3);
  expect(faults).toEqual([]);
  await context.close();
});

it('trues a picture in which nothing is known by four common points, and says when they are too few', async () => {
  const { page, context, faults } = await openPage(bench);
  await openJob(bench, page, /Hanger rail/);
  await goTo(page, 'True');
  await pictureShown(page);
  await readRailRule(page, 'left', 20, 210);
  const joined = page.getByRole('region', { name: 'Joined pictures' });
  await page.keyboard.press('p');
  await shareRailPoint(page, 'left', 'plate', 'centre 3');
  await joined.getByText(/nothing of known size is in it, and too few common points hold it/).waitFor();
  await shareRailPoint(page, 'left', 'plate', 'centre 5');
  for (const mark of ['graduation 180', 'graduation 210']) await shareRailPoint(page, 'left', 'rule', mark);
  await joined.getByText(/From the middle of hanger-rail-left\.jpg to that of hanger-rail-right\.jpg/).waitFor();
  expect(faults).toEqual([]);
  await context.close();
});
