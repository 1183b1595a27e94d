import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { pickAll, knobPixel as pixel, knobSilhouette as silhouette } from './demoPlaces';
import { type Bench, goTo, openBench, openJob, openPage } from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const type = async (page: Page, text: string) => {
  await page.keyboard.type(text);
  await page.keyboard.press('Enter');
  await page.waitForTimeout(300);
};

/** The larger rim of the knob, which a caliper finds 30 mm wide, holds against what the picture says. */
const checkRim = async (page: Page) => {
  await page.keyboard.press('o');
  await pickAll(page, [silhouette(2, 15, 1), silhouette(2, 15, -1)]);
  await page.getByRole('heading', { name: 'What does the caliper say?' }).waitFor();
  await type(page, '30');
  const spots = page.getByRole('region', { name: 'Spot checks' });
  await spots.getByRole('radio', { name: 'turned part' }).click();
  await spots.getByText(/, fits within/).waitFor();
};

it('measures a turned part through its limbs, and hands over its section', async () => {
  const { page, context, faults } = await openPage(bench);
  await openJob(bench, page, /Focus knob/);
  await goTo(page, 'True');

  await page.getByRole('button', { name: 'Two lengths at right angles' }).click();
  await pickAll(page, [pixel('plate', 0, 5), pixel('plate', 90, 5)]);
  // A picture that was never looked at before takes its time.
  await page.getByRole('heading', { name: 'How long is this?' }).waitFor();
  await type(page, '90 ± 0.05');
  await page.getByText('Now one end of a length across the first.').waitFor();
  // The picture comes true by the first one, and lies otherwise on the board from then on.
  await page.locator('[role=application][data-map]').waitFor();
  // One that runs as the first does is none across it.
  await pickAll(page, [pixel('plate', 0, 3), pixel('plate', 90, 3)]);
  await page.getByText('That runs as the first length does: pick one across it.').waitFor();
  await pickAll(page, [pixel('plate', 40, 0), pixel('plate', 40, 12)]);
  await page.getByRole('heading', { name: 'How long is this?' }).waitFor();
  await type(page, '12 ± 0.05');
  await page.getByRole('radio', { name: 'flat-on' }).click();
  await page.getByText(/100 mm in the middle are good to/).waitFor();

  await page.getByRole('button', { name: 'A turned part, seen from the side' }).click();
  await pickAll(page, [silhouette(17, 13, 1), silhouette(30, 13, 1), silhouette(17, 13, -1), silhouette(30, 13, -1)]);
  const line = page.getByRole('listitem').filter({ hasText: 'between its outlines where they were picked' });
  await expect.poll(() => line.textContent()).toMatch(/Ø [\d.]+ ± [\d.]+/);
  const [, diameter, spread] = /Ø ([\d.]+) ± ([\d.]+)/.exec((await line.textContent()) ?? '') ?? [];
  expect(Math.abs(Number(diameter) - 26)).toBeLessThan(Number(spread));
  expect(Number(spread)).toBeLessThan(0.5);
  await page.getByRole('button', { name: 'Direction by its axis' }).click();

  await checkRim(page);

  await goTo(page, 'Trace');
  await page.getByRole('button', { name: /Line/ }).waitFor();
  await page.keyboard.press('q');
  const corners = [silhouette(16, 13, 1), silhouette(31, 13, 1), silhouette(31, 13, -1), silhouette(16, 13, -1)];
  await pickAll(page, [...corners, corners[0]!]);
  await page.getByRole('radio', { name: 'turned part' }).click();
  await goTo(page, 'Hand over');
  const overall = page.getByRole('listitem').filter({ hasText: 'Overall' });
  await overall.waitFor();
  const [, width, height] = /([\d.]+) × ([\d.]+)/.exec((await overall.textContent()) ?? '') ?? [];
  expect(Math.abs(Number(width) - 15)).toBeLessThan(0.35);
  expect(Math.abs(Number(height) - 26)).toBeLessThan(0.25);
  expect(faults).toEqual([]);
  await context.close();
});

it('takes a known diameter as the yardstick of the picture, and leaves it out with the turned part', async () => {
  const { page, context, faults } = await openPage(bench);
  await openJob(bench, page, /Focus knob/);
  await goTo(page, 'True');
  await page.getByRole('button', { name: 'A known diameter, seen from the side' }).click();
  await pickAll(page, [silhouette(17, 13, 1), silhouette(30, 13, 1), silhouette(17, 13, -1), silhouette(30, 13, -1)]);
  const known = page.getByLabel('Known diameter of the turned part');
  await known.fill('26 ± 0.02');
  await known.press('Enter');
  await page.getByText(/100 mm in the middle are good to/).waitFor({ timeout: 30_000 });
  const size = page.getByRole('textbox', { name: 'Known diameter 1' });
  await expect.poll(() => size.inputValue()).toBe('26 ± 0.02');
  const line = page.getByRole('listitem').filter({ hasText: 'between its outlines where they were picked' });
  await expect.poll(() => line.textContent()).toMatch(/Ø 26\.0/);
  await checkRim(page);
  // A length along its axis is one too: from station to station of one silhouette, told where the part truly is.
  await page.getByRole('button', { name: /^Readings/ }).click();
  await pickAll(page, [silhouette(16, 13, 1), silhouette(31, 13, 1)]);
  await page.getByRole('heading', { name: 'What lies between the two readings?' }).waitFor();
  await type(page, '15 ± 0.1');
  const along = page.getByRole('listitem').filter({ hasText: 'Known length' });
  await along.getByRole('radio', { name: 'turned part' }).click();
  await expect.poll(() => along.textContent(), { timeout: 30_000 }).toMatch(/agrees with/);
  await page.getByRole('button', { name: 'Remove the turned part' }).click();
  await size.waitFor({ state: 'detached' });
  expect(faults).toEqual([]);
  await context.close();
});
