import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Bench, drag, goTo, openBareRack, openBench, openPage, pictureShown, press, truePlace } from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

async function openBracket(page: Page): Promise<void> {
  await openBareRack(bench, page);
  await page.getByRole('button', { name: 'Funnel bracket', exact: true }).click();
  await page.getByRole('navigation', { name: 'Steps' }).waitFor();
  await goTo(page, 'Size');
  await pictureShown(page);
  await page.getByRole('button', { name: 'Show the part' }).click();
  await page.waitForTimeout(600);
}

const pressAt = async (page: Page, x: number, y: number) => press(page, await truePlace(page, x, y));
const hoverAt = async (page: Page, x: number, y: number) => {
  const at = await truePlace(page, x, y);
  await page.mouse.move(at.x, at.y);
  await page.waitForTimeout(250);
};

it('sizes, relates, holds, fits, drags and compares with the tools of the step', async () => {
  const { page, faults } = await openPage(bench);
  await openBracket(page);
  const free = page.getByTestId('free');
  await expect.poll(() => free.textContent()).toBe('32 of 32');
  const sizes = page.getByTestId('size');

  // From hole to hole; the size is shown as the pointer goes, and its figure stands where it is pressed.
  await page.keyboard.press('q');
  await pressAt(page, -38.2 + 2.75, -14.2);
  await pressAt(page, 25.8 + 2.75, -14.2);
  await hoverAt(page, 0, 2);
  await expect.poll(() => sizes.count()).toBe(1);
  await pressAt(page, 0, 2);
  await page.getByRole('button', { name: 'Undo: put a size' }).waitFor();
  await page.getByText('Decide this size').waitFor();
  await page.keyboard.type('64');
  await page.keyboard.press('Enter');
  await expect.poll(() => free.textContent()).toBe('31 of 32');
  await page.getByRole('img', { name: /^Hole \d to Hole \d: 64$/ }).waitFor();

  // Enter puts a figure where it reads well by itself.
  await page.keyboard.press('Escape');
  await page.keyboard.press('q');
  await pressAt(page, -6.2 + 17, -31.2);
  await page.getByRole('application').focus();
  await page.keyboard.press('Enter');
  await expect.poll(() => sizes.count()).toBe(2);
  await page.getByRole('img', { name: /^Ø of Hole \d+: Ø 3\d\.\d+ ± / }).waitFor();

  await page.keyboard.press('w');
  await pressAt(page, -6, -6.2);
  await page.getByRole('region', { name: 'Chosen' }).getByRole('button', { name: 'Level', exact: true }).waitFor();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Undo: relate' }).waitFor();
  // How the whole lies on the sheet is not counted as free.
  await expect.poll(() => free.textContent()).toBe('31 of 32');

  const held = async () => Number((await free.textContent())?.split(' ')[0]);
  await page.keyboard.press('e');
  await pressAt(page, -46.2, -31);
  await page.getByRole('button', { name: 'Undo: hold as measured, or let loose' }).waitFor();
  await expect.poll(held).toBeLessThan(31);
  await pressAt(page, -46.2, -31);
  await expect.poll(held).toBe(31);

  // A funnel of so much shall go in with a tenth to spare.
  await page.keyboard.press('r');
  await pressAt(page, -6.2 + 17, -31.2);
  const fit = page.getByRole('region', { name: 'Tool' });
  await fit.getByLabel('It measures, with its ±').fill('33.9 ± 0.05');
  await fit.getByText('34.050 mm').waitFor();
  await fit.getByRole('button', { name: 'Decide it' }).click();
  await page.getByRole('img', { name: /^Ø of Hole \d+: Ø 34\.05/ }).waitFor();
  await expect.poll(() => free.textContent()).toBe('30 of 32');

  // What is free is dragged, and what is held by a size goes along.
  await page.keyboard.press('t');
  const [from, to] = [await truePlace(page, 25.8 + 2.75, -14.2), await truePlace(page, 25.8 + 2.75, -24.2)];
  await drag(page, from, to);
  await page.getByRole('button', { name: 'Undo: move what is free' }).waitFor();
  await page.getByRole('button', { name: 'Undo: move what is free' }).click();

  await page.keyboard.press('y');
  await page.getByTestId('laid-over').waitFor();
  await pressAt(page, -6, -6.2);
  await fit.getByText(/σ/).first().waitFor();
  await page.keyboard.press('Escape');
  await expect.poll(() => page.getByTestId('laid-over').count()).toBe(0);
  expect(faults).toEqual([]);
});
