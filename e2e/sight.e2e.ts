import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Bench, DEMO_FOLDER, openBareRack, openBench, openJob, openPage, pictureShown } from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

it('is dropped, found and true in two actions: one key for the ruler, one figure for the thickness', async () => {
  const { page, context } = await openPage(bench, undefined, 'as they come');
  await openBareRack(bench, page);
  await page
    .getByLabel(/picture/i)
    .first()
    .setInputFiles(`${DEMO_FOLDER}/latch-plate.jpg`);
  await page.getByRole('navigation', { name: 'Steps' }).waitFor();
  await pictureShown(page);
  await page.getByRole('link', { name: /^True/ }).click();
  const found = page.getByRole('region', { name: 'Found in the picture' });
  await found.getByText('A ruler, 0 to 15 cm').waitFor({ timeout: 30_000 });
  await page.keyboard.press('Enter');
  const verdict = page.getByText(/100 mm in the middle are good to/);
  await verdict.waitFor();
  const spread = async () =>
    Math.max(...[...((await verdict.textContent()) ?? '').matchAll(/±\s([\d.]+)/g)].map((m) => Number(m[1])));
  // Nobody has said how thick the part is: the ± says so, and the slip asks.
  await expect.poll(spread, { timeout: 20_000 }).toBeGreaterThan(0.5);
  await page.getByText('How thick is the part?').waitFor();
  await page.getByText(/in this picture 100 mm come out 0\.\d+ mm too long for each millimetre/).waitFor();
  const thickness = page.getByLabel('Thickness of the part');
  await thickness.fill('3');
  await thickness.press('Enter');
  await expect.poll(spread, { timeout: 20_000 }).toBeLessThan(0.3);
  expect(await page.getByText('How thick is the part?').count()).toBe(0);
  // All of it is in one screen; what is seldom used is folded, with its state in a word, and opens by its heading.
  const aside = page.locator('aside');
  expect(await aside.evaluate((a) => a.scrollHeight - a.clientHeight)).toBeLessThanOrEqual(0);
  await page.getByRole('button', { name: 'Heights part 3 mm' }).click();
  await page.getByLabel('Height of the traced face (part thickness)').waitFor();
  await page.getByRole('button', { name: 'Spot checks none' }).waitFor();
  await context.close();
});

it('offers a sheet and a coin where both lie there, says what it searches, and can be told to stop', async () => {
  const { page, context } = await openPage(bench);
  await openJob(bench, page, /Lamp gasket/);
  await page.getByRole('link', { name: /^True/ }).click();
  const found = page.getByRole('region', { name: 'Found in the picture' });
  await found.getByText('A sheet of paper, or a card').waitFor({ timeout: 30_000 });
  await found.getByRole('button', { name: /Use this: A coin/ }).click();
  await page.getByRole('heading', { name: 'Which coin or disc is it?' }).waitFor();
  await context.close();

  const other = await openPage(bench);
  await openJob(bench, other.page, /Focus knob/);
  await other.page.getByRole('link', { name: /^True/ }).click();
  await other.page.getByRole('button', { name: 'Stop looking' }).click();
  await other.page.getByText(/^Looking for rulers/).waitFor({ state: 'detached' });
  await other.context.close();
});
