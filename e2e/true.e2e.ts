import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Bench, openBench, openDemo, openPage, sayThin, takeReadings, truthOf } from './harness';

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
  await sayThin(page);
  const verdict = page.getByText(/100 mm in the middle are good to/);
  const plusMinus = async () =>
    Math.max(...[...((await verdict.textContent()) ?? '').matchAll(/±\s([\d.]+)/g)].map((m) => Number(m[1])));
  const before = await plusMinus();
  expect(before).toBeGreaterThan(3);
  await page.getByRole('button', { name: 'Count the graduations between the readings of known length 1' }).click();
  await page.getByText(/of its graduations taken as lines, and both its long edges/).waitFor({ timeout: 20_000 });
  await expect.poll(plusMinus, { timeout: 20_000 }).toBeLessThan(0.6);
  expect(await page.getByTestId('graduations').count()).toBe(1);
  await page.getByText(/^tilt 6\.\d°/).waitFor();
  // It is one undo, and a moved or another length forgets what was counted for it.
  await page.getByRole('button', { name: 'Undo: count the strokes' }).click();
  await expect.poll(plusMinus, { timeout: 20_000 }).toBe(before);
  const field = page.getByLabel('Known length 1', { exact: true });
  await field.fill('149');
  await field.press('Enter');
  await page.getByRole('button', { name: 'Count the graduations between the readings of known length 1' }).click();
  await page
    .getByRole('alert')
    .getByText(/150 divisions were counted/)
    .waitFor({ timeout: 20_000 });
  expect(faults).toEqual([]);
  await context.close();
});

it('a press on a pick only chooses it, however far beside its middle; drawn away it moves', async () => {
  const { page, context, faults } = await openPage(bench);
  await openDemo(bench, page, 'true');
  await takeReadings(page, truth);
  const first = page.getByRole('img', { name: /Known length 1.*first/ });
  const centre = async () => {
    const box = await first.boundingBox();
    if (!box) throw new Error('no first reading');
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  };
  const before = await centre();
  const undo = page.getByRole('button', { name: /^Undo: / });
  const said = await undo.getAttribute('aria-label');
  for (const [dx, dy] of [
    [7, 3],
    [-5, -6],
  ]) {
    await page.mouse.move(before.x + dx!, before.y + dy!);
    await page.mouse.down();
    await page.mouse.move(before.x + dx! + 1, before.y + dy!);
    await page.mouse.up();
    await page.waitForTimeout(400);
    expect(await undo.getAttribute('aria-label')).toBe(said);
    const now = await centre();
    expect(Math.hypot(now.x - before.x, now.y - before.y)).toBeLessThan(0.5);
  }
  await page.mouse.move(before.x + 3, before.y);
  await page.mouse.down();
  await page.mouse.move(before.x + 20, before.y, { steps: 4 });
  await page.waitForTimeout(400);
  await page.mouse.up();
  await page.getByRole('button', { name: 'Undo: move a reading' }).waitFor();
  expect(faults).toEqual([]);
  await context.close();
});
