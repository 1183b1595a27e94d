import type { Page } from 'playwright-core';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, it } from 'vitest';
import {
  type Bench,
  drag,
  goTo,
  openBareRack,
  openBench,
  openDemo,
  openPage,
  pictureShown,
  pixelPlace,
  platePixel,
  press,
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
/** Where a pixel is on screen while the picture is turned once clockwise. */
const turnedPlace = (page: Page, [u, v]: readonly [number, number]) => pixelPlace(page, [3024 - v, u]);

it('turns the picture and changes its tones, and what was measured stays as it was', async () => {
  const { page, context, faults } = await openPage(bench);
  await openDemo(bench, page, 'true');
  await takeReadings(page, truth);
  const length = async () => (await page.getByText(/100 mm in the middle/).textContent()) ?? '';
  const said = await length();
  await goTo(page, 'Picture');
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
      return data[0]! + data[1]! + data[2]!;
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
  // What is picked as darkest becomes the darkest; seen from behind and back.
  await page.keyboard.press('r');
  await press(page, await turnedPlace(page, platePixel(truth, 40, 30)));
  await page.getByRole('button', { name: 'Undo: change the tones' }).waitFor();
  await expect.poll(async () => page.getByText(/^\d+ to 100 %$/).textContent()).not.toBe('0 to 100 %');
  await page.getByRole('button', { name: 'Mirror' }).click();
  await page.getByText('270°, flipped').waitFor();
  await page.getByRole('button', { name: 'Mirror' }).click();
  await page.getByText('90°', { exact: true }).waitFor();

  // Measuring knows nothing of it.
  await goTo(page, 'True');
  await pictureShown(page);
  await expect.poll(length, { timeout: 15_000 }).toBe(said);
  const place = await pixelPlace(page, HOLE);
  expect(place.x).toBeGreaterThan(126);
  expect(faults).toEqual([]);
  await context.close();
});

it('takes several files at once, each to its own job; one dropped in a job joins it', async () => {
  const { page, context } = await openPage(bench);
  await openBareRack(bench, page);
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
  await goTo(page, 'Picture');
  const list = page.getByRole('region', { name: 'Pictures of this job' });
  await expect.poll(() => list.getByRole('listitem').count()).toBe(2);
  await list.getByRole('button', { name: 'three.jpg', exact: true, pressed: true }).waitFor();
  await context.close();
});

it('swaps a picture for a newer one by common points, compares both, and undoes it', async () => {
  const { page, context, faults } = await openPage(bench);
  await openBareRack(bench, page);
  /** A sheet with three dots and one bar; the newer one is turned, larger, and has a second bar. */
  const sheet = (newer: boolean) =>
    sharp(
      Buffer.from(
        `<svg xmlns="http://www.w3.org/2000/svg" width="900" height="700"><rect width="900" height="700" fill="#fff"/><g transform="${newer ? 'translate(40 20) rotate(4) scale(1.05)' : ''}"><g fill="#000"><circle cx="100" cy="100" r="14"/><circle cx="700" cy="120" r="14"/><circle cx="120" cy="500" r="14"/><rect x="300" y="200" width="200" height="30"/>${newer ? '<rect x="300" y="320" width="200" height="60"/>' : ''}</g></g></svg>`,
      ),
    )
      .png()
      .toBuffer();
  const file = (name: string, buffer: Buffer) => ({ name, mimeType: 'image/png', buffer });
  await page.getByLabel('Picture or job file').setInputFiles(file('sheet.png', await sheet(false)));
  await page.getByRole('navigation', { name: 'Steps' }).waitFor();
  await goTo(page, 'Picture');
  await pictureShown(page);
  await page.getByLabel('Picture that takes its place').setInputFiles(file('sheet-2.png', await sheet(true)));
  const slip = page.getByRole('region', { name: 'Swap the picture' });
  await slip.waitFor();
  const angle = (4 * Math.PI) / 180;
  const onto = ([x, y]: readonly [number, number]): [number, number] => [
    40 + 1.05 * (Math.cos(angle) * x - Math.sin(angle) * y),
    20 + 1.05 * (Math.sin(angle) * x + Math.cos(angle) * y),
  ];
  // F held: the dots' middles are picked as they are pointed at.
  await page.keyboard.down('f');
  for (const dot of [
    [100, 100],
    [700, 120],
    [120, 500],
  ] as const) {
    await slip.getByText(/Pick a point that both/).waitFor();
    await press(page, await pixelPlace(page, dot));
    await slip.getByText(/Now the same point/).waitFor();
    await pictureShown(page);
    await press(page, await pixelPlace(page, onto(dot)));
  }
  await page.keyboard.up('f');
  const off = await slip.getByText(/px apart \(RMS\)/).textContent();
  expect(Number(/([\d.]+) px/.exec(off ?? '')?.[1])).toBeLessThan(3);
  await slip.getByRole('button', { name: 'Put it in its place' }).click();
  await page.getByText('It took the place of').waitFor();
  await page.getByRole('radio', { name: 'differences' }).click();
  await page.getByText(/% of what is seen differs/).waitFor();
  // The bar that came covers 200 × 60 of 900 × 700: two percent.
  const share = Number(/([\d.]+) %/.exec((await page.getByText(/of what is seen differs/).textContent()) ?? '')?.[1]);
  expect(share).toBeGreaterThan(1.5);
  expect(share).toBeLessThan(4);
  // The bar that came is a place of its own, in its size, and is shown on request.
  const places = page.getByRole('list', { name: 'Places that differ' });
  await places.getByText(/^1, only now: \d+ × \d+ px/).waitFor();
  expect(await places.getByRole('listitem').count()).toBe(1);
  const viewOf = () => page.locator('[role=application][data-view]').getAttribute('data-view');
  const before = await viewOf();
  await places.getByRole('button', { name: 'Show place 1' }).click();
  await expect.poll(viewOf).not.toBe(before);
  expect(Number((await viewOf())?.split(' ')[2])).toBeGreaterThan(Number(before?.split(' ')[2]));
  await page.getByRole('radio', { name: 'before', exact: true }).click();
  await page.getByRole('button', { name: 'Blink both' }).click();
  await page.getByRole('radio', { name: 'now', checked: true }).waitFor();
  await page.getByRole('radio', { name: 'before', exact: true, checked: true }).waitFor();
  await page.getByRole('button', { name: 'Stop blinking' }).click();
  await page.getByRole('button', { name: 'Undo: swap the picture' }).click();
  await page.getByText('It took the place of').waitFor({ state: 'detached' });
  expect(faults).toEqual([]);
  await context.close();
});

it('crops by dragging, about a line, by keys, and cuts out views; each is one undo', async () => {
  const { page, context, faults } = await openPage(bench);
  await openDemo(bench, page, 'picture');
  const at = async (x: number, y: number) => pixelPlace(page, [x, y]);
  await page.keyboard.press('q');
  await drag(page, await at(1000, 600), await at(3000, 2000));
  const size = page.getByText(/^\d+ × \d+$/).last();
  const sides = async () => ((await size.textContent()) ?? '').split(' × ').map(Number);
  await expect.poll(async () => Math.abs((await sides())[0]! - 2000), { timeout: 5000 }).toBeLessThan(12);
  await page.getByRole('radio', { name: 'upright line' }).click();
  const [wide] = (await sides()) as [number];
  await drag(page, await at(3000, 1300), await at(3200, 1300));
  await expect.poll(async () => Math.abs((await sides())[0]! - wide - 400), { timeout: 5000 }).toBeLessThan(16);
  const width = page.getByLabel('Width, px');
  await width.fill('1500');
  await width.press('Enter');
  await expect.poll(async () => (await sides())[0]).toBe(1500);
  await page.keyboard.press('Escape');
  for (let k = 0; k < 3; k++) await page.keyboard.press('Control+z');
  await page.getByText('all of it', { exact: true }).waitFor();

  await page.keyboard.press('w');
  await drag(page, await at(300, 300), await at(2000, 1400));
  await drag(page, await at(300, 1600), await at(2000, 2800));
  await page.keyboard.press('Escape');
  await expect.poll(() => page.getByLabel('Name of the view').count()).toBe(2);
  const offset = page.getByLabel(/How far its plane lies from zero: From the front/);
  await offset.fill('-12.5');
  await offset.press('Enter');
  await page.getByRole('button', { name: 'Undo: change a view' }).click();
  await expect.poll(() => offset.inputValue()).toBe('');
  // The view is what Trace shows when it is chosen.
  await goTo(page, 'Trace');
  await pictureShown(page);
  const viewOf = () => page.locator('[role=application]').getAttribute('data-view');
  const whole = await viewOf();
  await page.getByRole('combobox', { name: 'View' }).selectOption({ label: 'From the front' });
  await expect.poll(viewOf).not.toBe(whole);
  expect(faults).toEqual([]);
  await context.close();
});

/** How opaque a place of the picture is drawn, 0 to 255. */
async function alphaOf(page: Page, pixel: readonly [number, number]): Promise<number | undefined> {
  const place = await pixelPlace(page, pixel);
  return page.evaluate((p) => {
    const canvas = document.querySelector('[role=application] canvas') as HTMLCanvasElement;
    const box = canvas.getBoundingClientRect();
    const context2d = canvas.getContext('2d') as CanvasRenderingContext2D;
    return context2d.getImageData(p.x - box.left, p.y - box.top, 1, 1).data[3];
  }, place);
}

const alphas = async (page: Page, places: readonly [number, number][]): Promise<boolean[]> => {
  const out: boolean[] = [];
  for (const place of places) out.push(((await alphaOf(page, place)) ?? 0) > 128);
  return out;
};

it('clears the background by a picked colour, hides, locks and orders pictures', async () => {
  const { page, context, faults } = await openPage(bench);
  await openDemo(bench, page, 'picture');
  const alphaAt = (x: number, y: number) => alphaOf(page, [x, y]);
  const bare = [2000, 300] as const;
  await expect.poll(() => alphaAt(...bare), { timeout: 10_000 }).toBe(255);
  await page.keyboard.press('e');
  await page.getByRole('radio', { name: 'all of its colour' }).click();
  await press(page, await pixelPlace(page, bare));
  await page.getByText('cleared').waitFor();
  await expect.poll(() => alphaAt(...bare), { timeout: 10_000 }).toBe(0);
  expect(await alphaAt(...platePixel(truth, 40, 30))).toBe(255);
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect.poll(() => alphaAt(...bare), { timeout: 10_000 }).toBe(255);

  const small = await sharp({ create: { width: 300, height: 200, channels: 3, background: '#246' } })
    .png()
    .toBuffer();
  await page.getByLabel('Pictures to add').setInputFiles({ name: 'over.png', mimeType: 'image/png', buffer: small });
  const list = page.getByRole('region', { name: 'Pictures of this job' });
  const names = () => list.getByRole('listitem').allInnerTexts();
  await expect.poll(names).toEqual(['over.png', 'latch-plate.jpg']);
  await list.getByRole('button', { name: 'Move over.png down' }).click();
  await expect.poll(names).toEqual(['latch-plate.jpg', 'over.png']);
  await list.getByRole('button', { name: 'Lock over.png' }).click();
  await list.getByRole('button', { name: 'Take over.png away' }).waitFor();
  expect(await list.getByRole('button', { name: 'Take over.png away' }).isDisabled()).toBe(true);
  expect(await page.getByRole('button', { name: 'A quarter right' }).isDisabled()).toBe(true);
  await list.getByRole('button', { name: 'Unlock over.png' }).click();
  await list.getByRole('button', { name: 'Take over.png away' }).click();
  await expect.poll(names).toEqual(['latch-plate.jpg']);
  expect(faults).toEqual([]);
  await context.close();
});

it('clears a background that shades from dark to bright, a hole in the part by one press more', async () => {
  const { page, context, faults } = await openPage(bench);
  await openBareRack(bench, page);
  const [w, h] = [1200, 900];
  const inRing = (x: number, y: number) => Math.hypot(x - 880, y - 450) < 220 && Math.hypot(x - 880, y - 450) > 90;
  // Paper under one lamp, as bright in places as the ring that lies on it.
  const light = (x: number, y: number) => (inRing(x, y) ? 150 : 80 + (x * 140) / w + (y * 20) / h);
  const raw = Buffer.from(Array.from({ length: w * h }, (_, k) => light(k % w, Math.floor(k / w))));
  const lit = await sharp(raw, { raw: { width: w, height: h, channels: 1 } })
    .png()
    .toBuffer();
  await page.getByLabel('Picture or job file').setInputFiles({ name: 'lit.png', mimeType: 'image/png', buffer: lit });
  await goTo(page, 'Picture');
  await pictureShown(page);
  await page.keyboard.press('e');
  const opaque = () =>
    alphas(page, [
      [40, 40],
      [1150, 850],
      [740, 450],
      [880, 450],
    ]);
  await press(page, await pixelPlace(page, [40, 40]));
  await expect.poll(opaque, { timeout: 10_000 }).toEqual([false, false, true, true]);
  await press(page, await pixelPlace(page, [880, 450]));
  await expect.poll(opaque, { timeout: 10_000 }).toEqual([false, false, true, false]);
  await page.keyboard.press('Control+z');
  await expect.poll(opaque, { timeout: 10_000 }).toEqual([false, false, true, true]);
  expect(faults).toEqual([]);
  await context.close();
});

it('names what makes a file doubtful, and tells a scan by what it states', async () => {
  const { page, context, faults } = await openPage(bench);
  await openBareRack(bench, page);
  const plain = () => sharp({ create: { width: 800, height: 600, channels: 3, background: '#a98' } });
  const camera = { IFD0: { Make: 'Simulated', Model: 'Bench camera' } };
  const bring = async (name: string, buffer: Buffer) => {
    await page.goto(bench.url);
    await page.getByLabel('Picture or job file').setInputFiles({ name, mimeType: 'image/jpeg', buffer });
    await page.getByRole('navigation', { name: 'Steps' }).waitFor();
    await goTo(page, 'Picture');
    await pictureShown(page);
  };
  const exif = (IFD2: Record<string, string>) =>
    plain()
      .withExif({ ...camera, IFD2 })
      .jpeg()
      .toBuffer();
  await bring('wide.jpg', await exif({ FocalLengthIn35mmFilm: '14', FocalLength: '22/10' }));
  await page.getByText(/A wide lens: it stands close/).waitFor();
  await bring('zoomed.jpg', await exif({ FocalLengthIn35mmFilm: '54', FocalLength: '56/10', DigitalZoomRatio: '2/1' }));
  await page.getByText('Digital zoom', { exact: true }).waitFor();
  await bring('odd.jpg', await exif({ FocalLengthIn35mmFilm: '4', FocalLength: '9000/1' }));
  await page.getByText('Lens in doubt').waitFor();
  await bring('bare.jpg', await plain().jpeg().toBuffer());
  await page.getByText(/The file does not say, so how far the camera stood/).waitFor();
  await page.getByText(/No clear edge in the middle/).waitFor();
  // A file without a lens that states 300 to the inch came from a scanner, and is true at once; doubted, it is not.
  await bring('scan.jpg', await plain().withMetadata({ density: 300 }).jpeg().toBuffer());
  await page.getByRole('radio', { name: 'scan', checked: true }).waitFor();
  await page.getByText('300 to the inch').waitFor();
  await page.getByText(/A pixel is 0\.085 mm/).waitFor();
  await page.getByRole('button', { name: 'Ignore this figure' }).click();
  await page.getByText(/Known as soon as something is known/).waitFor();
  expect(faults).toEqual([]);
  await context.close();
});
