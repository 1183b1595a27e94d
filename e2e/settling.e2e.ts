import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Bench, goTo, openBench, openPage, openRack, pictureShown, press, truePlace } from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

async function openFinished(page: Page, name: string): Promise<void> {
  await openRack(bench, page);
  await page.getByRole('button', { name, exact: true }).click();
  await page.getByRole('navigation', { name: 'Steps' }).waitFor();
  await goTo(page, 'Size');
  await pictureShown(page);
  await page.getByRole('button', { name: 'Show the part' }).click();
  await page.waitForTimeout(600);
}

/** Presses places of the board, mm, the first alone and the others with Shift. */
async function choose(page: Page, ...places: [number, number][]): Promise<void> {
  for (const [k, [x, y]] of places.entries()) {
    if (k > 0) await page.keyboard.down('Shift');
    await press(page, await truePlace(page, x, y));
    if (k > 0) await page.keyboard.up('Shift');
  }
}

const chosen = (page: Page) => page.getByRole('region', { name: 'Chosen' });

async function decide(page: Page, value: string, ...places: [number, number][]): Promise<void> {
  await choose(page, ...places);
  await page.getByText('Decide the size of what is chosen').waitFor();
  await page.keyboard.type(value);
  await page.keyboard.press('Enter');
  await page.waitForTimeout(300);
}

async function relate(page: Page, what: string, ...places: [number, number][]): Promise<void> {
  await choose(page, ...places);
  await chosen(page).getByRole('button', { name: what, exact: true }).click();
  await page.waitForTimeout(300);
}

it('settles the funnel bracket as its drawing says, from what was proposed to the last size', async () => {
  const { page, faults } = await openPage(bench);
  await openFinished(page, 'Funnel bracket');
  const free = page.getByTestId('free');
  await expect.poll(() => free.textContent()).toBe('32 of 32');
  // Ways that the form seems to go; nothing was taken before.
  const proposals = page.getByRole('region', { name: 'Proposals' });
  await expect.poll(() => proposals.getByRole('button', { name: 'Take them all' }).count()).toBe(4);
  expect(await page.getByTestId('held').count()).toBe(0);
  for (const kind of ['Tangent', 'At right angles', 'Equal'])
    await proposals
      .getByText(new RegExp(`^${kind}, \\d of them`))
      .getByRole('button', { name: 'Take them all' })
      .click();
  await expect.poll(() => free.textContent()).toBe('15 of 32');
  await proposals
    .getByText(/^Hole 1, Ø 3/)
    .getByRole('button', { name: 'Leave' })
    .click();
  await expect.poll(() => proposals.getByText(/^Hole 1, Ø 3/).count()).toBe(0);
  await proposals
    .getByText(/^Hole 2, Ø 5.499 ± 0.022: made 5.5 mm\? clearance for M5, medium/)
    .getByRole('button', { name: 'Take' })
    .click();
  await expect.poll(() => free.textContent()).toBe('14 of 32');
  // Once one of four equal holes is decided nothing is left to be proposed of the others.
  await expect.poll(() => proposals.getByText(/made 5.5/).count()).toBe(0);

  await relate(page, 'Level', [-6, -6.2]);
  await decide(page, '34', [-6.2 + 17, -31.2]);
  await decide(page, '6', [33.8 - 1.8, -6.2 - 1.8]);
  await decide(page, '80', [-46.2, -31], [33.8, -35]);
  await decide(page, '50', [-6, -6.2], [0, -56.2]);
  const [left, right, top, bottom] = [-38.2, 25.8, -14.2, -48.2];
  const rim = (x: number, y: number): [number, number] => [x + 2.75, y];
  await relate(page, 'Level', rim(left, top), rim(right, top));
  await relate(page, 'Level', rim(left, bottom), rim(right, bottom));
  await relate(page, 'Plumb', rim(left, top), rim(left, bottom));
  await relate(page, 'Plumb', rim(right, top), rim(right, bottom));
  await decide(page, '64', rim(left, top), rim(right, top));
  await decide(page, '34', rim(left, top), rim(left, bottom));
  await decide(page, '8', rim(left, top), [-46.2, -31]);
  await decide(page, '8', rim(left, top), [-6, -6.2]);
  await relate(page, 'In the middle', [-6.2 + 17, -31.2], rim(left, top), rim(right, bottom));
  await expect.poll(() => free.textContent(), { timeout: 20_000 }).toBe('0 of 32');
  await page.getByText('Everything is settled.').waitFor();

  // A size that the rest gives is shown in brackets and holds nothing up.
  await decide(page, '64', rim(left, bottom), rim(right, bottom));
  await page.getByText('(the rest already gives it)').waitFor();
  await expect.poll(() => free.textContent()).toBe('0 of 32');
  // One that contradicts it is said, with each way out; taking it away mends it.
  await page
    .getByLabel('middle of Hole 5 to middle of Hole 4', { exact: true })
    .or(page.getByLabel(/^Hole \d to Hole \d$/))
    .last()
    .fill('65');
  await page.keyboard.press('Enter');
  const contradiction = page.getByRole('alert').filter({ hasText: 'These cannot all be' });
  await contradiction.waitFor({ timeout: 20_000 });
  expect(await contradiction.getByRole('button', { name: 'Take it away' }).count()).toBeGreaterThan(2);
  await page.keyboard.press('Control+z');
  await contradiction.waitFor({ state: 'detached' });
  expect(faults).toEqual([]);
  await page.close();
});
