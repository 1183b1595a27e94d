import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import {
  type Bench,
  goTo,
  markOf,
  openBench,
  openDemo,
  openPage,
  pictureShown,
  plateInRule,
  press,
  takeReadings,
  truePlace,
  truthOf,
  untruePlace,
} from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const truth = truthOf('latch-plate');
const viewOf = async (page: Page) =>
  ((await page.locator('[role=application][data-view]').getAttribute('data-view')) ?? '').split(' ').map(Number);

/** The view once nothing moves it any more: calibrations come after one another, each up to about a second. */
async function restingView(page: Page): Promise<number[]> {
  let [last, same] = [await viewOf(page), 0];
  for (let i = 0; i < 60 && same < 4; i++) {
    await page.waitForTimeout(400);
    const now = await viewOf(page);
    same = now.join() === last.join() ? same + 1 : 0;
    last = now;
  }
  return last;
}

it('zooms and pans with wheel, trackpad, keys and by dragging the board, and goes on looking there in the next step', async () => {
  const { page, context } = await openPage(bench);
  await openDemo(bench, page, 'true');
  const whole = await viewOf(page);
  const at = await untruePlace(page, ...markOf(truth, 'rule', 'graduation 80'));
  await page.mouse.move(at.x, at.y);
  await page.mouse.wheel(0, -600);
  await expect.poll(async () => (await viewOf(page))[2]).toBeGreaterThan(whole[2]! * 2);
  // The place under the pointer stays there.
  const [x, y, scale] = (await viewOf(page)) as [number, number, number];
  const box = (await page.getByRole('application').boundingBox())!;
  const [u, v] = markOf(truth, 'rule', 'graduation 80');
  expect(Math.hypot(box.x + (u - x) * scale - at.x, box.y + (v - y) * scale - at.y)).toBeLessThan(1);

  // Two fingers on a trackpad pan.
  await page.mouse.wheel(13, 7);
  await expect.poll(async () => (await viewOf(page))[0]).toBeCloseTo(x + 13 / scale, 6);
  await page.keyboard.press('Home');
  await expect.poll(() => viewOf(page)).toEqual(whole);
  await page.keyboard.press('+');
  await expect.poll(async () => (await viewOf(page))[2]).toBeCloseTo(whole[2]! * 1.3, 9);
  await page.keyboard.press('-');

  // Dragging with nothing in hand draws the board along, and changes nothing of the job.
  const before = await viewOf(page);
  await page.mouse.move(at.x, at.y - 150);
  await page.mouse.down();
  await page.mouse.move(at.x + 120, at.y - 60, { steps: 4 });
  await page.mouse.up();
  const [movedX, movedY] = await viewOf(page);
  expect(movedX).toBeCloseTo(before[0]! - 120 / before[2]!, 6);
  expect(movedY).toBeCloseTo(before[1]! - 90 / before[2]!, 6);
  await page.getByRole('button', { name: 'Nothing to undo' }).waitFor();

  // Whoever looks closely goes on looking there in the next step.
  for (let k = 0; k < 3; k++) await page.keyboard.press('+');
  const close = await viewOf(page);
  await page.keyboard.press('n');
  await page.getByRole('heading', { name: 'Trace', exact: true }).waitFor();
  await expect.poll(() => viewOf(page)).toEqual(close);
  await context.close();
});

it('clings to the picture, not with F held, and sets points by the keyboard alone', async () => {
  const { page, context } = await openPage(bench);
  await openDemo(bench, page, 'true');
  await takeReadings(page, truth);
  await goTo(page, 'Trace');
  await pictureShown(page);
  await page.keyboard.press('q');
  const readout = page.getByRole('region', { name: 'Readout' });
  const edge = await truePlace(page, ...plateInRule(truth, 40, 47.5));
  await page.mouse.move(edge.x, edge.y + 1);
  await readout.getByText(/^edge, ± 0\.\d+ px$/).waitFor();
  await page.keyboard.down('f');
  await page.mouse.move(edge.x + 1, edge.y + 1);
  await readout.getByText('nothing: F is held').waitFor();
  await page.keyboard.up('f');

  await page.getByRole('application').focus();
  for (let k = 0; k < 3; k++) await page.keyboard.press('ArrowLeft');
  await page.keyboard.press(' ');
  for (let k = 0; k < 6; k++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press(' ');
  await page.getByText('1 line').waitFor();
  // A typed figure sets the length of the next line, in the direction of the pointer.
  await page.keyboard.press('ArrowDown');
  await page.waitForTimeout(300);
  await page.keyboard.type('12,5');
  await page.keyboard.press('Enter');
  await page.getByText('2 lines').waitFor();
  await page
    .getByText(/^12\.\d+/)
    .first()
    .waitFor();
  await page.keyboard.press('Enter');

  // Arrow keys move a chosen point by the step.
  await page.keyboard.press('Escape');
  await page.getByRole('img', { name: 'Outer edge, point 3' }).focus();
  await page.keyboard.press('ArrowUp');
  await page.getByRole('button', { name: 'Undo: move a point' }).waitFor();
  await page.keyboard.press('Delete');
  await page.getByText('1 line').waitFor();
  await context.close();
});

it('follows a dragged reading, and changes zero and direction without upsetting the size', async () => {
  const { page, context } = await openPage(bench);
  await openDemo(bench, page, 'true');
  await takeReadings(page, truth);
  await page.keyboard.press('Home');
  await page.keyboard.press('i');
  await press(page, await truePlace(page, ...plateInRule(truth, 0, 25)));
  await page.getByText('a point of its own').waitFor();
  const before = await restingView(page);
  await page
    .getByRole('radiogroup', { name: 'That line runs along' })
    .or(page.getByLabel('That line runs along'))
    .getByText('Y')
    .click();
  await page.getByRole('button', { name: 'Undo: set the direction of X' }).waitFor();
  // All of the picture was seen, and so it is as it lies now: upright, and therefore smaller.
  await expect.poll(async () => (await viewOf(page))[2], { timeout: 10_000 }).toBeLessThan(before[2]! * 0.9);
  const turned = await restingView(page);
  await page.locator('[role=application]').focus();
  await page.keyboard.press('Home');
  await page.waitForTimeout(300);
  expect(await viewOf(page)).toEqual(turned);
  await page.getByRole('radio', { name: 'X' }).click();
  await page.keyboard.press('Home');
  await page.waitForTimeout(600);
  // The second reading goes one graduation further: the part becomes smaller by 1/150.
  const from = await page.getByRole('img', { name: 'Known length 1, second' }).boundingBox();
  if (!from) throw new Error('no reading');
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(from.x + from.width / 2 - 30, from.y + from.height / 2, { steps: 5 });
  await page.mouse.up();
  await page.getByRole('button', { name: 'Undo: move a reading' }).waitFor();
  await context.close();
});
