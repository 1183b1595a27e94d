import { readFileSync } from 'node:fs';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import {
  type Bench,
  DEMO_FOLDER,
  openBench,
  openJob,
  openPage,
  pictureShown,
  pixelPlace,
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

type Side = 'left' | 'right';
interface Mark {
  name: string;
  own: [number, number];
  picture: [number, number] | null;
}
const marks = (side: Side): Record<string, Mark[]> => {
  const text = readFileSync(`${DEMO_FOLDER}/hanger-rail-${side}.truth.json`, 'utf8');
  const { things } = JSON.parse(text) as { things: { kind: string; marks: Mark[] }[] };
  return Object.fromEntries(things.map((t) => [t.kind, t.marks]));
};
const TRUTH = { left: marks('left'), right: marks('right') };
const pixel = (side: Side, kind: string, name: string): [number, number] => {
  const found = TRUTH[side][kind].find((m) => m.name === name)?.picture;
  if (!found) throw new Error(`${name} is not pictured`);
  return found;
};

const pick = async (page: Page, at: [number, number]) => {
  await press(page, await pixelPlace(page, at));
  await page.waitForTimeout(300);
};
const choose = async (page: Page, side: Side) => {
  await page.getByLabel('Picture', { exact: true }).selectOption({ label: `hanger-rail-${side}.jpg` });
  await pictureShown(page);
};
/** Two readings of the rule, and the strokes between them. */
const readRule = async (page: Page, side: Side, from: number, to: number) => {
  await page.keyboard.press('q');
  await pick(page, pixel(side, 'rule', `graduation ${from}`));
  await pick(page, pixel(side, 'rule', `graduation ${to}`));
  await page.keyboard.type(`${from} to ${to}`);
  await page.keyboard.press('Enter');
  await page.getByText(/100 mm in the middle are good to/).waitFor();
  await page.getByRole('button', { name: /Count the strokes/ }).click();
  await page.getByTestId('strokes').first().waitFor({ timeout: 20_000 });
  for (const [label, height] of [
    ['Ruler above table', '1'],
    ['Face above table', '4'],
  ]) {
    const field = page.getByLabel(label, { exact: true });
    await field.fill(height);
    await field.press('Enter');
  }
};
const length = (text: string | null): { mm: number; plusMinus: number } => {
  const [, mm, plusMinus] = /(\d+(?:\.\d+)?) ± (\d+(?:\.\d+)?)/.exec(text ?? '') ?? [];
  return { mm: Number(mm), plusMinus: Number(plusMinus) };
};

it('joins two pictures by one rule and common points, and measures a run over both', async () => {
  const { page, context, faults } = await openPage(bench);
  await openJob(bench, page, /Hanger rail/);
  await page.getByRole('link', { name: /^True/ }).click();
  await pictureShown(page);
  await readRule(page, 'left', 20, 210);
  await choose(page, 'right');
  await readRule(page, 'right', 190, 380);

  const joined = page.getByRole('region', { name: 'Joined pictures' });
  await joined.getByRole('button', { name: 'Ruler 1 is ruler 1 of hanger-rail-left.jpg' }).click();
  await joined.getByText(/From the middle of hanger-rail-left\.jpg to that of hanger-rail-right\.jpg/).waitFor();
  await page.getByText('come from hanger-rail-left.jpg, which this one is joined with.').waitFor();
  const reach = async () => length(await joined.getByText(/From the middle of/).textContent());
  const before = await reach();
  expect(before.mm).toBeGreaterThan(150);

  await page.keyboard.press('p');
  await page.keyboard.down('f');
  for (const hole of ['centre 3', 'centre 4', 'centre 5']) {
    await pick(page, pixel('right', 'plate', hole));
    await page.getByText('Now the same place in this picture.').waitFor();
    await pictureShown(page);
    await pick(page, pixel('left', 'plate', hole));
    await page.getByText('Pick a place of the part that the other picture shows as well').waitFor();
    await pictureShown(page);
  }
  await page.keyboard.up('f');
  await page.keyboard.press('Escape');
  await joined.getByText(/At the seam both put common points/).waitFor();
  await expect.poll(() => joined.getByText(/^\d\.\d+ apart$/).count()).toBe(3);
  expect((await reach()).plusMinus).toBeLessThanOrEqual(before.plusMinus);

  // A run from one end of the rail to the other, over both pictures: 340 mm between its outer holes.
  await page.getByRole('link', { name: /^Trace/ }).click();
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
  await page.getByRole('link', { name: /^True/ }).click();
  await joined.getByRole('button', { name: 'Remove common point 1' }).click();
  await expect.poll(() => joined.getByText(/^\d\.\d+ apart$/).count()).toBe(2);
  await page.keyboard.press('Control+z');
  await expect.poll(() => joined.getByText(/^\d\.\d+ apart$/).count()).toBe(3);
  expect(faults).toEqual([]);
  await context.close();
});

it('trues a picture in which nothing is known by four common points, and says when they are too few', async () => {
  const { page, context, faults } = await openPage(bench);
  await openJob(bench, page, /Hanger rail/);
  await page.getByRole('link', { name: /^True/ }).click();
  await pictureShown(page);
  await readRule(page, 'left', 20, 210);
  const joined = page.getByRole('region', { name: 'Joined pictures' });
  const share = async (at: (side: Side) => [number, number]) => {
    await page.keyboard.press('p');
    await page.keyboard.down('f');
    await pick(page, at('left'));
    await page.getByText('Now the same place in this picture.').waitFor();
    await pictureShown(page);
    await pick(page, at('right'));
    await page.keyboard.up('f');
    await page.keyboard.press('Escape');
    await pictureShown(page);
  };
  await share((side) => pixel(side, 'plate', 'centre 3'));
  await joined.getByText(/nothing of known size is in it, and too few common points hold it/).waitFor();
  await share((side) => pixel(side, 'plate', 'centre 5'));
  for (const g of ['graduation 180', 'graduation 210']) await share((side) => pixel(side, 'rule', g));
  await joined.getByText(/From the middle of hanger-rail-left\.jpg to that of hanger-rail-right\.jpg/).waitFor();
  expect(faults).toEqual([]);
  await context.close();
});
