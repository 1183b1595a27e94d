import { readFileSync } from 'node:fs';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, it } from 'vitest';
import {
  type Bench,
  DEMO_FOLDER,
  markOf,
  openBareRack,
  openBench,
  openDemo,
  openPage,
  openRackWith,
  pictureShown,
  press,
  truthOf,
  untruePlace,
} from './harness';

let bench: Bench;
let page: Page;
beforeAll(async () => {
  bench = await openBench();
  page = (await openPage(bench)).page;
  await openRackWith(bench, page, /Latch plate/);
});
afterAll(() => bench.close());

const smallPng = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#888' } })
  .png({ compressionLevel: 0 })
  .toBuffer();
const jpeg = readFileSync(`${DEMO_FOLDER}/latch-plate.jpg`);
const give = (name: string, buffer: Buffer) =>
  page.getByLabel('Picture or job file').setInputFiles({ name, mimeType: 'image/jpeg', buffer });

it.each([
  ['empty.jpg', Buffer.alloc(0), /empty \(0 bytes\)/],
  ['notes.png', Buffer.from('a line of text that calls itself a picture'), /not a picture that can be read here/],
  ['half.jpg', jpeg.subarray(0, jpeg.length >> 1), /breaks off before its end/],
  ['huge.png', hugePng(), /300 megapixels/],
  ['damaged.png', damagedPng(), /damaged/],
  [
    'bomb.moth',
    Buffer.from('PK not really an archive, but long enough to be looked at as one, is it not? yes yes'),
    /not a Steady Moth job file/,
  ],
])('refuses %s with a sentence, and leaves the rack as it was', async (name, buffer, sentence) => {
  await give(name, buffer);
  await page.getByRole('alert').getByText(sentence).waitFor();
  await page.getByRole('button', { name: 'Understood' }).click();
  expect(await page.getByRole('link', { name: /Latch plate/ }).count()).toBe(1);
});

it('refuses lengths that are none, and keeps both picks', async () => {
  const own = await openPage(bench);
  await openDemo(bench, own.page, 'true');
  const truth = truthOf('latch-plate');
  await own.page.keyboard.press('q');
  for (const g of ['graduation 0', 'graduation 150']) {
    await press(own.page, await untruePlace(own.page, ...markOf(truth, 'rule', g)));
    await own.page.waitForTimeout(250);
  }
  const field = own.page.getByLabel('Known length', { exact: true }).last();
  for (const [text, sentence] of [
    ['0', /length of 0/],
    ['-5', /without the minus/],
    ['abc', /not a length/],
    ['1/0', /cannot have 0 below the line/],
  ] as const) {
    await field.fill(text);
    await field.press('Enter');
    await own.page.getByRole('alert').getByText(sentence).waitFor();
  }
  await field.fill('5 29/32 in');
  await field.press('Enter');
  await own.page.getByText(/100 mm in the middle/).waitFor();
  await own.context.close();
});

it('takes an EXIF-turned picture upright', async () => {
  const own = await openPage(bench);
  await openBareRack(bench, own.page);
  const turned = await sharp(jpeg).resize(1600).rotate(90).withMetadata({ orientation: 8 }).jpeg().toBuffer();
  await own.page
    .getByLabel('Picture or job file')
    .setInputFiles({ name: 'turned.jpg', mimeType: 'image/jpeg', buffer: turned });
  await own.page.getByRole('navigation', { name: 'Steps' }).waitFor();
  await pictureShown(own.page);
  await own.page.getByRole('link', { name: /^Picture/ }).click();
  await own.page.getByText('1600 × 1200').waitFor();
  await own.context.close();
});

it.each([
  ['WebP', () => sharp(jpeg).resize(900).webp().toBuffer(), '900 × 675'],
  [
    'TIFF, 16 bits, LZW',
    () => sharp(jpeg).resize(600).toColourspace('rgb16').tiff({ compression: 'lzw' }).toBuffer(),
    '600 × 450',
  ],
  [
    'TIFF, gray, deflate',
    () => sharp(jpeg).resize(600).grayscale().tiff({ compression: 'deflate' }).toBuffer(),
    '600 × 450',
  ],
  [
    'HEIC',
    async () => readFileSync(new URL('../core/src/format/picture/samples/small.heic', import.meta.url)),
    '480 × 360',
  ],
])('takes a picture as %s, and judges it', async (name, make, size) => {
  const own = await openPage(bench);
  await openBareRack(bench, own.page);
  await own.page
    .getByLabel('Picture or job file')
    .setInputFiles({ name: 'part.bin', mimeType: 'application/octet-stream', buffer: await make() });
  await own.page.getByRole('navigation', { name: 'Steps' }).waitFor();
  await pictureShown(own.page);
  await own.page.getByRole('link', { name: /^Picture/ }).click();
  await own.page.getByText(size).waitFor();
  await own.page.getByText(/edges run over/).waitFor();
  expect(own.faults, name).toEqual([]);
  await own.context.close();
});

function hugePng(): Buffer {
  const png = Buffer.from(smallPng);
  png.writeUInt32BE(20_000, 16);
  png.writeUInt32BE(15_000, 20);
  return png;
}

function damagedPng(): Buffer {
  const png = Buffer.from(smallPng);
  for (let at = 45; at < png.length - 16; at++) png[at]! ^= 0x5a;
  return png;
}
