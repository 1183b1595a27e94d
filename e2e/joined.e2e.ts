import type { Page } from 'playwright-core';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { pickAll, railHeights, readRailRule, type Side, shareRailPoint } from './demoPlaces';
import {
  type Bench,
  DEMO_FOLDER,
  goTo,
  markOf,
  openBareRack,
  openBench,
  openJob,
  openPage,
  pictureShown,
  pixelPlace,
  plateInRule,
  press,
  truePlace,
  truthOf,
} from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const choose = async (page: Page, side: Side) => {
  await page.getByLabel('Picture', { exact: true }).selectOption({ label: `hanger-rail-${side}.jpg` });
  await pictureShown(page);
};
const length = (text: string | null): { mm: number; plusMinus: number } => {
  const [, mm, plusMinus] = /(\d+(?:\.\d+)?) ± (\d+(?:\.\d+)?)/.exec(text ?? '') ?? [];
  return { mm: Number(mm), plusMinus: Number(plusMinus) };
};

/** A run from one end of the rail to the other, over both pictures: 340 mm between its outer holes. */
const measureRail = (page: Page) =>
  measureAcross(
    page,
    [20, 360].map((x): [number, number] => {
      const [xMm, yMm] = plateInRule(truthOf('hanger-rail-left'), x, 22);
      return [xMm - 20, yMm];
    }),
  );

/** The length of a run between places of the board, mm, that lie in different pictures. */
async function measureAcross(page: Page, places: readonly [number, number][]) {
  await goTo(page, 'Trace');
  await expect.poll(() => page.locator('canvas[data-shown=true]').count(), { timeout: 20_000 }).toBe(2);
  await page.getByRole('application').hover();
  for (let k = 0; k < 4; k++) await page.mouse.wheel(0, 250);
  await page.waitForTimeout(500);
  await page.keyboard.press('q');
  await page.keyboard.down('f');
  for (const [xMm, yMm] of places) {
    await press(page, await truePlace(page, xMm, yMm));
    await page.waitForTimeout(300);
  }
  await page.keyboard.up('f');
  await page.keyboard.press('Enter');
  const figure = page.locator('aside .figure').filter({ hasText: '±' }).first();
  await expect.poll(() => figure.textContent(), { timeout: 20_000 }).toMatch(/^[\d.]+ ± [\d.]+$/);
  return length(await figure.textContent());
}

it('joins two pictures by one rule and common points, and measures a run over both', async () => {
  const { page, context, faults } = await openPage(bench);
  await openJob(bench, page, /Hanger rail/);
  await goTo(page, 'True');
  await pictureShown(page);
  await readRailRule(page, 'left', 20, 210);
  await choose(page, 'right');
  await readRailRule(page, 'right', 190, 380);

  const joined = page.getByRole('region', { name: 'Joined pictures' });
  await joined.getByRole('button', { name: 'Ruler 1 is ruler 1 of hanger-rail-left.jpg' }).click();
  await joined.getByText(/From the middle of hanger-rail-left\.jpg to that of hanger-rail-right\.jpg/).waitFor();
  await page.getByText('come from hanger-rail-left.jpg, which this one is joined with.').waitFor();
  const reach = async () => length(await joined.getByText(/From the middle of/).textContent());
  const before = await reach();
  expect(before.mm).toBeGreaterThan(150);

  await page.keyboard.press('p');
  for (const hole of ['centre 3', 'centre 4', 'centre 5']) await shareRailPoint(page, 'right', 'plate', hole);
  await page.keyboard.press('Escape');
  await joined.getByText(/At the seam both put common points/).waitFor();
  await expect.poll(() => joined.getByText(/^\d\.\d+ mm apart$/).count()).toBe(3);
  expect((await reach()).plusMinus).toBeLessThanOrEqual(before.plusMinus);

  const run = await measureRail(page);
  expect(Math.abs(run.mm - 340)).toBeLessThan(run.plusMinus);
  expect(run.plusMinus).toBeLessThan(3);

  // What joins them can be taken away, and undone.
  await goTo(page, 'True');
  await joined.getByRole('button', { name: 'Remove common point 1' }).click();
  await expect.poll(() => joined.getByText(/^\d\.\d+ mm apart$/).count()).toBe(2);
  await page.keyboard.press('Control+z');
  await expect.poll(() => joined.getByText(/^\d\.\d+ mm apart$/).count()).toBe(3);
  expect(faults).toEqual([]);
  await context.close();
});

it('trues a picture in which nothing is known by four common points, and says when they are too few', async () => {
  const { page, context, faults } = await openPage(bench);
  await openJob(bench, page, /Hanger rail/);
  await goTo(page, 'True');
  await pictureShown(page);
  await readRailRule(page, 'left', 20, 210);
  const joined = page.getByRole('region', { name: 'Joined pictures' });
  await page.keyboard.press('p');
  await shareRailPoint(page, 'left', 'plate', 'centre 3');
  await joined.getByText(/nothing of known size is in it, and too few common points hold it/).waitFor();
  await shareRailPoint(page, 'left', 'plate', 'centre 5');
  for (const mark of ['graduation 180', 'graduation 210']) await shareRailPoint(page, 'left', 'rule', mark);
  await joined.getByText(/From the middle of hanger-rail-left\.jpg to that of hanger-rail-right\.jpg/).waitFor();
  // The last two lie on the rule, in both pictures.
  for (const side of ['left', 'right'] as const) {
    await choose(page, side);
    await railHeights(page);
    for (const point of [2, 3]) {
      const line = joined.getByRole('listitem').filter({ hasText: 'Common point' }).nth(point);
      const ruler = line.getByRole('radio', { name: 'ruler' });
      if (point === 3) {
        // A slow press: the figures that come meanwhile do not move the control away from under it.
        await ruler.hover();
        await page.mouse.down();
        await page.waitForTimeout(100);
        const pressedAt = await ruler.boundingBox();
        await page.waitForTimeout(2500);
        const nowAt = await ruler.boundingBox();
        // It may settle by a part of a pixel, and never goes from under the pointer.
        expect(Math.abs((nowAt?.y ?? 0) - (pressedAt?.y ?? 99))).toBeLessThan(2);
        expect(nowAt?.x).toBe(pressedAt?.x);
        await page.mouse.up();
      } else await ruler.click();
      await expect.poll(() => ruler.getAttribute('aria-checked')).toBe('true');
    }
  }
  await joined.getByText(/would bring that to ±/).waitFor({ timeout: 20_000 });
  await expect.poll(() => joined.locator('.text-brick').count(), { timeout: 20_000 }).toBe(0);
  await choose(page, 'left');
  const run = await measureRail(page);
  expect(Math.abs(run.mm - 340)).toBeLessThan(run.plusMinus);
  expect(run.plusMinus).toBeLessThan(12);
  expect(faults).toEqual([]);
  await context.close();
});

it('joins two pictures over one grid, which two common points number alike', async () => {
  const { page, context, faults } = await openPage(bench);
  await openJob(bench, page, /Baffle pattern/);
  await goTo(page, 'Picture');
  // The same thing taken from the other side of the bench: the picture turned round.
  const turned = await sharp(`${DEMO_FOLDER}/baffle-pattern.jpg`).rotate(180).jpeg({ quality: 92 }).toBuffer();
  await page
    .getByLabel('Pictures to add')
    .setInputFiles({ name: 'other-side.jpg', mimeType: 'image/jpeg', buffer: turned });
  await page.getByRole('button', { name: 'other-side.jpg', exact: true }).waitFor({ timeout: 30_000 });
  await goTo(page, 'True');
  const isOther = (name: string) => name === 'other-side.jpg';
  const holes = (name: string) =>
    ['centre 2', 'centre 3'].map((mark): [number, number] => {
      const [u, v] = markOf(truthOf('baffle-pattern'), 'plate', mark);
      return isOther(name) ? [4032 - u, 3024 - v] : [u, v];
    });
  const grid = async (name: string, click: [number, number]) => {
    await page.getByLabel('Picture', { exact: true }).selectOption({ label: name });
    await pictureShown(page);
    await page.keyboard.press('t');
    await press(page, await pixelPlace(page, click));
    await page.getByText(/\d+ by \d+ crossings/).waitFor({ timeout: 20_000 });
    const ten = page.getByLabel('Ten pitches by the caliper');
    await ten.fill('100.0 ± 0.03');
    // Enter in the last figure takes it.
    await ten.press('Enter');
    await page.getByText(/100 mm in the middle are good to/).waitFor({ timeout: 20_000 });
  };
  await grid('other-side.jpg', [3300, 2300]);
  await grid('baffle-pattern.jpg', [800, 800]);
  const joined = page.getByRole('region', { name: 'Joined pictures' });
  await joined.getByRole('button', { name: 'Grid 1 is grid 1 of other-side.jpg' }).click();
  await joined.getByText(/it is not clear which crossing of the grid is which/).waitFor({ timeout: 20_000 });

  await page.keyboard.press('p');
  await page.keyboard.down('f');
  for (const k of [0, 1]) {
    await pickAll(page, [holes('baffle-pattern.jpg')[k]!]);
    await page.getByText('Now the same place in this picture.').waitFor();
    await page.waitForTimeout(400);
    await pickAll(page, [holes('other-side.jpg')[k]!]);
    await page.getByText('Pick a place of the part that the other picture shows as well').waitFor();
    await page.waitForTimeout(400);
  }
  await page.keyboard.up('f');
  await page.keyboard.press('Escape');
  await expect.poll(() => joined.getByText(/^\d\.\d+ mm apart$/).count(), { timeout: 20_000 }).toBe(2);
  expect(await joined.getByText(/not clear which/).count()).toBe(0);
  expect(await joined.locator('.text-brick').count()).toBe(0);
  // Both middles are one place: the picture was only turned.
  const reach = length(await joined.getByText(/From the middle of/).textContent());
  expect(reach.mm).toBeLessThanOrEqual(Math.max(0.2, reach.plusMinus));
  expect(faults).toEqual([]);
  await context.close();
});

it('joins two scans of a template that is longer than the glass, the second laid askew', async () => {
  const { page, context, faults } = await openPage(bench);
  await openBareRack(bench, page);
  const PER_MM = 150 / 25.4;
  const ASKEW = (1.5 * Math.PI) / 180;
  const HOLES = { left: [20, 90], upper: [168, 70], lower: [192, 170], right: [340, 110] } as const;
  /** Where a place of the template lies on either glass, px: the second begins 150 mm on and is turned. */
  const seen = (glass: 'first' | 'second', [x, y]: readonly [number, number]): [number, number] => {
    if (glass === 'first') return [PER_MM * x, PER_MM * y];
    const [dx, dy] = [x - 150 - 105, y - 148];
    return [
      PER_MM * (105 + Math.cos(ASKEW) * dx - Math.sin(ASKEW) * dy),
      PER_MM * (148 + Math.sin(ASKEW) * dx + Math.cos(ASKEW) * dy),
    ];
  };
  const scan = (glass: 'first' | 'second') => {
    const at = (p: readonly [number, number]) => seen(glass, p).map((v) => v.toFixed(2));
    const corners = [
      [6, 50],
      [352, 50],
      [352, 190],
      [6, 190],
    ] as const;
    const holes = Object.values(HOLES).map((p) => `<circle cx="${at(p)[0]}" cy="${at(p)[1]}" r="26" fill="#f4f2ec"/>`);
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="1240" height="1754"><rect width="1240" height="1754" fill="#f4f2ec"/>
      <polygon points="${corners.map((p) => at(p).join(',')).join(' ')}" fill="#4c5a4a"/>${holes.join('')}</svg>`;
    return sharp(Buffer.from(svg)).flatten().blur(0.8).withMetadata({ density: 150 }).jpeg({ quality: 95 }).toBuffer();
  };
  const file = async (glass: 'first' | 'second') => ({
    name: `${glass}.jpg`,
    mimeType: 'image/jpeg',
    buffer: await scan(glass),
  });
  await page.getByLabel('Picture or job file').setInputFiles(await file('first'));
  await page.getByRole('navigation', { name: 'Steps' }).waitFor({ timeout: 30_000 });
  await goTo(page, 'Picture');
  await pictureShown(page);
  await page.getByRole('radio', { name: 'scan' }).click();
  await page.getByLabel('Pictures to add').setInputFiles(await file('second'));
  await page.getByRole('button', { name: 'second.jpg', exact: true, pressed: true }).waitFor({ timeout: 30_000 });
  await page.getByRole('radio', { name: 'scan' }).click();

  await goTo(page, 'True');
  await page.getByLabel('Picture', { exact: true }).selectOption({ label: 'first.jpg' });
  await pictureShown(page);
  const joined = page.getByRole('region', { name: 'Joined pictures' });
  await page.keyboard.press('p');
  await page.keyboard.down('f');
  for (const hole of ['upper', 'lower'] as const) {
    await pickAll(page, [seen('first', HOLES[hole])]);
    await page.getByText('Now the same place in this picture.').waitFor();
    await page.waitForTimeout(400);
    await pickAll(page, [seen('second', HOLES[hole])]);
    await page.getByText('Pick a place of the part that the other picture shows as well').waitFor();
    await page.waitForTimeout(400);
  }
  await page.keyboard.up('f');
  await page.keyboard.press('Escape');
  await expect.poll(() => joined.getByText(/^\d\.\d+ mm apart$/).count(), { timeout: 20_000 }).toBe(2);
  expect(await joined.locator('.text-brick').count()).toBe(0);

  const run = await measureAcross(page, [
    [HOLES.left[0] - 105, 148.5 - HOLES.left[1]],
    [HOLES.right[0] - 105, 148.5 - HOLES.right[1]],
  ]);
  const truth = Math.hypot(HOLES.right[0] - HOLES.left[0], HOLES.right[1] - HOLES.left[1]);
  expect(Math.abs(run.mm - truth)).toBeLessThan(run.plusMinus);
  // What the files say of their scale is believed to 1 %.
  expect(run.plusMinus).toBeLessThan(4);
  expect(faults).toEqual([]);
  await context.close();
});
