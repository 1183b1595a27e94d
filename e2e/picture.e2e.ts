import sharp from 'sharp';
import { afterAll, beforeAll, expect, it } from 'vitest';
import {
  type Bench,
  openBench,
  openDemo,
  openPage,
  openRack,
  pictureShown,
  pixelPlace,
  platePixel,
  takeReadings,
  truthOf,
} from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const truth = truthOf('latch-plate');
const HOLE = platePixel(truth, 11, 35.5);

it('turns the picture and changes its tones, and what was measured stays as it was', async () => {
  const { page, context, faults } = await openPage(bench);
  await openDemo(bench, page, 'true');
  await takeReadings(page, truth);
  const length = async () => (await page.getByText(/100 mm in the middle/).textContent()) ?? '';
  const said = await length();
  await page.getByRole('link', { name: /^Picture/ }).click();
  await pictureShown(page);
  await page.getByText(/A pixel is 0\.05\d mm/).waitFor();

  // Turned clockwise, the board is higher than wide, and undo turns it back.
  await page.getByRole('button', { name: 'A quarter right' }).click();
  await page.getByText('90°').waitFor();
  await page.keyboard.press('Control+z');
  await page.getByText('0°', { exact: true }).waitFor();
  await page.keyboard.press('Control+Shift+z');

  // The darkest end goes up: the dark plate becomes black on screen.
  const colour = () =>
    page.evaluate(() => {
      const canvas = document.querySelector('[role=application] canvas') as HTMLCanvasElement;
      const { data } = (canvas.getContext('2d') as CanvasRenderingContext2D).getImageData(
        canvas.width >> 1,
        canvas.height >> 1,
        4,
        4,
      );
      return data[0] + data[1] + data[2];
    });
  await expect.poll(colour, { timeout: 10_000 }).toBeGreaterThan(0);
  const before = await colour();
  const thumb = page.getByRole('slider', { name: 'Darkest' });
  await thumb.focus();
  for (let k = 0; k < 7; k++) await thumb.press('PageUp');
  await expect.poll(colour, { timeout: 10_000 }).toBeLessThan(before - 30);
  await page.getByRole('button', { name: /Undo: change the tones/ }).waitFor();
  const dark = await colour();
  for (let k = 0; k < 7; k++) await page.keyboard.press('Control+z');
  await expect.poll(colour, { timeout: 10_000 }).toBeGreaterThan(dark);
  await page.getByRole('radio', { name: 'gray' }).click();

  // Measuring knows nothing of it.
  await page.getByRole('link', { name: /^True/ }).click();
  await pictureShown(page);
  await expect.poll(length, { timeout: 15_000 }).toBe(said);
  const place = await pixelPlace(page, HOLE);
  expect(place.x).toBeGreaterThan(126);
  expect(faults).toEqual([]);
  await context.close();
});

it('takes several files at once, each to its own job; one dropped in a job joins it', async () => {
  const { page, context } = await openPage(bench);
  await openRack(bench, page);
  const small = await sharp({ create: { width: 300, height: 200, channels: 3, background: '#789' } })
    .jpeg()
    .toBuffer();
  const file = (name: string, buffer: Buffer) => ({ name, mimeType: 'image/jpeg', buffer });
  await page
    .getByLabel('Picture or job file')
    .setInputFiles([file('one.jpg', small), file('not-one.jpg', Buffer.from('text')), file('two.jpg', small)]);
  await page.getByRole('heading', { name: 'Two' }).waitFor();
  await page.getByRole('heading', { name: 'One', exact: true }).waitFor();
  await page
    .getByRole('alert')
    .getByText(/not-one\.jpg: This is not a picture/)
    .waitFor();

  await page.getByRole('link', { name: /^Two/ }).click();
  await pictureShown(page);
  const data = await page.evaluateHandle(
    (bytes) => {
      const transfer = new DataTransfer();
      transfer.items.add(new File([new Uint8Array(bytes)], 'three.jpg', { type: 'image/jpeg' }));
      return transfer;
    },
    [...small],
  );
  await page.locator('[role=application]').dispatchEvent('drop', { dataTransfer: data });
  await page.getByRole('button', { name: /Undo: bring in a picture/ }).waitFor();
  await page.getByRole('link', { name: /^Picture/ }).click();
  const list = page.getByRole('region', { name: 'Pictures of this job' });
  await expect.poll(() => list.getByRole('listitem').count()).toBe(2);
  await list.getByRole('button', { name: 'three.jpg', exact: true, pressed: true }).waitFor();
  await context.close();
});
