import { readFile } from 'node:fs/promises';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, beforeEach, expect, it } from 'vitest';
import { gasketPixel } from './demoPlaces';
import {
  type Bench,
  drag,
  goTo,
  openBench,
  openJob,
  openPage,
  openTrued,
  pictureShown,
  pixelPlace,
  platePixel,
  press,
  truthOf,
} from './harness';

let bench: Bench;
let page: Page;
let faults: string[];
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const truth = truthOf('latch-plate');

beforeEach(async () => {
  await page?.context().close();
  ({ page, faults } = await openPage(bench));
  await openTrued(bench, page, truth, true);
});

/** Lines from place to place of the plate, its own mm; without snapping, so that they are where they were pressed. */
async function draw(places: readonly (readonly [number, number])[]): Promise<void> {
  await page.keyboard.press('q');
  await page.keyboard.down('f');
  for (const [k, [x, y]] of places.entries()) {
    const [first] = places;
    // The first place once more closes the path: that is a snap.
    if (k > 0 && x === first?.[0] && y === first[1]) await page.keyboard.up('f');
    await press(page, await pixelPlace(page, platePixel(truth, x, y)));
    await page.waitForTimeout(220);
  }
  await page.keyboard.up('f');
}

const make = (what: string) => page.getByLabel('Make of it', { exact: true }).last().selectOption(what);
const undoSays = (label: string) => page.getByRole('button', { name: `Undo: ${label}` }).waitFor();

/** Box and path data of what is handed over as SVG, mm. */
async function handedOver(): Promise<{ width: number; height: number; paths: string[] }> {
  await goTo(page, 'Hand over');
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: /SVG/ }).click();
  const text = await readFile(await (await waiting).path(), 'utf8');
  const paths = [...text.matchAll(/<path[^>]* d="([^"]+)"/g)].map((m) => m[1]!);
  const [, w, h] = /overall ([\d.]+) mm wide, ([\d.]+) mm high/.exec(text) ?? [];
  return { width: Number(w), height: Number(h), paths };
}

it('rounds the corners of a path and makes it larger, living, each undone in one step, and hands that over', async () => {
  await draw([
    [10, 8],
    [60, 8],
    [60, 28],
    [10, 28],
    [10, 8],
  ]);
  await page.keyboard.press('Escape');
  const plain = await handedOver();
  await goTo(page, 'Trace');
  await page.getByRole('button', { name: 'Outer edge' }).click();
  await make('rounded corners');
  await undoSays('make something of a path');
  const radius = page.getByLabel('Radius of the corners');
  await radius.fill('4');
  await radius.press('Enter');
  await undoSays('change what is made of a path');
  await make('larger or smaller');
  const by = page.getByLabel('By how much');
  await by.fill('3');
  await by.press('Enter');
  await page.getByText('made whole').waitFor();
  expect(await page.getByTestId('made').count()).toBe(1);
  // A radius that the sides have no room for is said at its place, and the rest is made.
  await radius.fill('40');
  await radius.press('Enter');
  await page.getByText(/There is no room for it/).waitFor();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await page.getByText(/There is no room for it/).waitFor({ state: 'detached' });
  const larger = await handedOver();
  // Three millimeters on each side; it lies a little askew, so that its rounded corners reach less far.
  for (const grown of [larger.width - plain.width, larger.height - plain.height]) {
    expect(grown).toBeGreaterThan(5);
    expect(grown).toBeLessThan(6.02);
  }
  // Corners are arcs of 4 + 3 mm, in a file as well.
  expect(larger.paths.some((d) => (d.match(/A 7 7 /g) ?? []).length === 4)).toBe(true);
  expect(faults).toEqual([]);
});

it('makes a whole of a half by its mirror image, which follows the center line; and says what is missing', async () => {
  await draw([
    [30, 6],
    [55, 10],
    [55, 26],
    [30, 32],
  ]);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Outer edge' }).click();
  await make('its mirror image added');
  await page.getByText(/Draw the line it is mirrored in first/).waitFor();
  await draw([
    [30, 2],
    [30, 40],
  ]);
  await page.keyboard.press('Enter');
  await page.getByRole('combobox', { name: 'What it is for' }).selectOption('centre line');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Outer edge' }).click();
  await make('its mirror image added');
  await page.getByText('made whole').waitFor();
  expect(await page.getByTestId('region').count()).toBe(1);
  // Nothing is said to be open any more.
  expect(await page.getByText(/open, gap/).count()).toBe(0);
  const whole = await handedOver();
  expect(whole.paths.some((d) => d.endsWith('Z') && (d.match(/L /g) ?? []).length >= 5)).toBe(true);
  expect(whole.width).toBeGreaterThan(48);
  await goTo(page, 'Trace');
  await page.getByRole('button', { name: 'Outer edge' }).click();
  await page.getByRole('button', { name: 'Leave it out' }).click();
  await page.getByText('open', { exact: true }).first().waitFor();
  expect(faults).toEqual([]);
});

it('copies a lobe round the bore into the whole gasket, and asks which edge of a dark hole was traced', async () => {
  await page.context().close();
  ({ page, faults } = await openPage(bench));
  await openJob(bench, page, /Lamp gasket/);
  await page.getByRole('link', { name: /^True/ }).click();
  await page.keyboard.press('r');
  await press(page, await pixelPlace(page, [1000, 2200]));
  await page.getByLabel('Which sheet').selectOption('A6', { timeout: 20_000 });
  await page.getByRole('button', { name: 'Take it' }).click();
  await page.getByText(/100 mm in the middle are good to/).waitFor();
  const thickness = page.getByLabel('Thickness of the part');
  await thickness.fill('2');
  await thickness.press('Enter');
  await page.getByText('How thick is the part?').waitFor({ state: 'detached' });
  await goTo(page, 'Trace');
  await pictureShown(page);
  const on = async (x: number, y: number) => pixelPlace(page, gasketPixel(x, y));
  await page.keyboard.press('r');
  await drag(page, await on(0, 0), await on(14, 0));
  // Its wall is as dark as its face: what shows of it is the lower edge, 28 mm where that lies.
  const asked = page.getByText(/Is this its upper edge\?/);
  await asked.waitFor({ timeout: 20_000 });
  expect(Number(/then it is Ø ([\d.]+)/.exec((await asked.textContent()) ?? '')?.[1])).toBeCloseTo(28, 0);
  await page.getByRole('button', { name: 'It is the lower one' }).click();
  await asked.waitFor({ state: 'detached' });
  await page.keyboard.press('w');
  const rim = 22 - 10 * Math.SQRT1_2;
  for (const [x, y] of [
    [22, -12],
    [34, 0],
    [22, 12],
    [rim, rim],
    [12, 22],
  ] as const) {
    await press(page, await on(x, y));
    await page.waitForTimeout(260);
  }
  await page.keyboard.press('Enter');
  await make('copies round a hole');
  await page.getByText('made whole').waitFor();
  const whole = await handedOver();
  // Four lobes of radius 12 about places 22 from the middle, turned by 18 degrees; X runs along the sheet, by 2.4.
  const reach = 2 * (22 * Math.cos((15.6 * Math.PI) / 180) + 12);
  expect(Math.abs(whole.width - reach)).toBeLessThan(0.4);
  expect(Math.abs(whole.height - reach)).toBeLessThan(0.4);
  expect(faults).toEqual([]);
});

it('lists what a cutter would stumble over, and goes to where it is', async () => {
  await draw([
    [10, 8],
    [50, 28],
    [50, 8],
    [10, 28],
    [10, 8],
  ]);
  await page.keyboard.press('Escape');
  const heading = page.getByRole('button', { name: /^Worth a look/ });
  await heading.getByText('1', { exact: true }).waitFor({ timeout: 20_000 });
  await heading.click();
  await page.getByText('crosses itself.').waitFor();
  const [x, y] = platePixel(truth, 30, 18);
  await page.getByRole('button', { name: 'Show finding 1' }).click();
  await page.waitForTimeout(600);
  // The crossing stands in the middle of the board, and near.
  const board = await page.locator('[role=application][data-view]').boundingBox();
  const there = await pixelPlace(page, [x, y]);
  expect(Math.hypot(there.x - board!.x - board!.width / 2, there.y - board!.y - board!.height / 2)).toBeLessThan(60);
  await page.getByRole('button', { name: 'Delete it' }).click();
  await heading.waitFor({ state: 'detached' });
  expect(faults).toEqual([]);
});
