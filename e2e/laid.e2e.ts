import type { Page } from 'playwright-core';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, it } from 'vitest';
import {
  type Bench,
  goTo,
  openBench,
  openDemo,
  openPage,
  pictureShown,
  plateInRule,
  press,
  sayThin,
  takeReadings,
  truePlace,
  truthOf,
} from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const truth = truthOf('latch-plate');
const PER_MM = 10;

/** Artwork for a face, 60 × 40 mm, that states its resolution; the middle of a mark in it at 45, 10 from its lower left corner. */
const artwork = () =>
  sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="600" height="400"><rect width="600" height="400" fill="#f4f1e8"/><circle cx="450" cy="300" r="40" fill="#273"/><path d="M0 0h600v400h-600z" fill="none" stroke="#273" stroke-width="8"/></svg>`,
    ),
  )
    .withMetadata({ density: 25.4 * PER_MM })
    .png()
    .toBuffer();

const choose = async (page: Page, name: string) => {
  await page.getByLabel('Picture', { exact: true }).selectOption({ label: name });
  await pictureShown(page);
};

/** Where a pixel of the artwork is on the part by the map of the board, mm. */
async function onPart(page: Page, uPx: number, vPx: number): Promise<{ x: number; y: number }> {
  const { planeMapper } = await import('../core/src/calibration');
  const map = await page.locator('[role=application][data-map]').getAttribute('data-map');
  const place = planeMapper(JSON.parse(map!)).toPart({ uPx, vPx })!;
  return { x: place.xMm, y: place.yMm };
}

it('lays artwork on a face where it is typed, and where it is pressed in the photograph', async () => {
  const { page, context, faults } = await openPage(bench);
  await openDemo(bench, page, 'true');
  await takeReadings(page, truth);
  await sayThin(page);
  await goTo(page, 'Picture');
  await page.getByLabel('Pictures to add').setInputFiles({
    name: 'artwork.png',
    mimeType: 'image/png',
    buffer: await artwork(),
  });
  await page.getByRole('button', { name: 'artwork.png', exact: true }).click();
  await goTo(page, 'True');
  await choose(page, 'artwork.png');
  // Its zero is the middle of it: laid at 30, −12.5 and turned a quarter.
  const x = page.getByLabel('X of its zero on the part');
  await x.fill('30');
  await x.press('Enter');
  const y = page.getByLabel('Y of its zero on the part');
  await y.fill('-12.5');
  await y.press('Enter');
  const turn = page.getByLabel(/degrees its X is turned on the part/);
  await turn.fill('90');
  await turn.press('Enter');
  // The mark lies 15 to the right of the middle and 10 below it: turned left by a quarter, 10 to the right and 15 above.
  await expect.poll(() => onPart(page, 450, 300).then((p) => Math.hypot(p.x - 40, p.y - 2.5))).toBeLessThan(0.02);

  await page.getByRole('button', { name: 'Press its place in latch-plate.jpg' }).click();
  await page.getByText('Press where the zero of the other picture lies on the part.').waitFor();
  await pictureShown(page);
  const target = plateInRule(truth, 40, 10);
  await page.keyboard.down('f');
  await press(page, await truePlace(page, ...target));
  await page.keyboard.up('f');
  // Back at the artwork, which kept its turn.
  await expect
    .poll(() =>
      page.getByLabel('Picture', { exact: true }).evaluate((s) => (s as HTMLSelectElement).selectedOptions[0]!.label),
    )
    .toBe('artwork.png');
  await expect
    .poll(() => onPart(page, 300, 200).then((p) => Math.hypot(p.x - target[0], p.y - target[1])), { timeout: 10_000 })
    .toBeLessThan(0.4);
  // It goes with undo, and stays after a reload.
  await page.keyboard.press('Control+z');
  await expect.poll(() => onPart(page, 450, 300).then((p) => Math.hypot(p.x - 40, p.y - 2.5))).toBeLessThan(0.02);
  await page.getByText(/^Saved/).waitFor();
  await page.reload();
  await pictureShown(page);
  await choose(page, 'artwork.png');
  await expect.poll(() => onPart(page, 450, 300).then((p) => Math.hypot(p.x - 40, p.y - 2.5))).toBeLessThan(0.02);
  expect(faults).toEqual([]);
  await context.close();
}, 120_000);
