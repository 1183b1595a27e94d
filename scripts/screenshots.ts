// Refreshes docs/screenshots from the demo job, through the built application.
import { fileURLToPath } from 'node:url';
import type { Page } from 'playwright-core';
import {
  openBench,
  openDemo,
  openPage,
  pictureShown,
  pixelPlace,
  platePixel,
  press,
  pressPixel,
  takeReadings,
  truePlace,
  truthOf,
} from '../e2e/harness';

const folder = fileURLToPath(new URL('../docs/screenshots/', import.meta.url));
const bench = await openBench();
const { page } = await openPage(bench);
const truth = truthOf('latch-plate');
const shot = async (name: string) => {
  await page.waitForTimeout(900);
  await page.screenshot({ path: `${folder}${name}.png` });
};
const field = async (name: string, value: string) => {
  const input = page.getByLabel(name, { exact: true }).last();
  await input.fill(value);
  await input.press('Enter');
};
const at = (x: number, y: number) => pixelPlace(page, platePixel(truth, x, y));
const drag = async (from: [number, number], to: [number, number]) => {
  const [a, b] = [await at(...from), await at(...to)];
  await page.mouse.move(a.x, a.y);
  await page.mouse.down();
  await page.mouse.move((a.x + b.x) / 2, (a.y + b.y) / 2);
  await page.mouse.move(b.x, b.y);
  await page.waitForTimeout(300);
  await page.mouse.up();
  await page.waitForTimeout(700);
};
const known = async (places: [number, number][], length: string) => {
  await page.keyboard.press('q');
  for (const [x, y] of places) await pressPixel(page, platePixel(truth, x, y));
  await field('Known length', length);
  await page.getByLabel('Plane it lies on').last().getByText('face').click();
  await page.waitForTimeout(1500);
};

const pressAll = async (places: [number, number][]) => {
  for (const [x, y] of places) await pressPixel(page, platePixel(truth, x, y));
};

await openDemo(bench, page, 'picture');
await shot('picture');
await page.getByRole('link', { name: /^True/ }).click();
await pictureShown(page);
await takeReadings(page, truth);
await field('Ruler above table', '1');
await field('Face above table', '2');
await page.waitForTimeout(1500);
await known(
  [
    [40, 0],
    [40, 47.5],
  ],
  '47.5 ± 0.03',
);
await known(
  [
    [0, 20],
    [90, 20],
  ],
  '90 ± 0.03',
);
await known(
  [
    [78, 0.144],
    [78, 47.5],
  ],
  '47.36 ± 0.05',
);
await page.keyboard.press('r');
for (const x of [0, 84]) await pressPixel(page, platePixel(truth, x, 36));
await field('Caliper reading', '84');
await page.getByText(/, fits within|does not fit within/).waitFor();
await page.keyboard.press('q');
const over = await truePlace(page, 147, -0.5);
await page.mouse.move(over.x - 2, over.y);
await page.mouse.move(over.x, over.y);
await shot('true');
await page.keyboard.press('Escape');
await page.getByRole('link', { name: /^Trace/ }).click();
await pictureShown(page);
await zoomToPlate(page);
await page.keyboard.press('r');
for (const [x, y, r] of [
  [11, 35.5, 4.5],
  [72, 34.5, 3.6],
])
  await drag([x, y], [x + r, y]);
await page.keyboard.press('q');
await pressAll([
  [4, 0],
  [76, 0],
  [90, 14],
  [90, 24],
  [84, 28],
  [84, 43],
  [79.5, 47.5],
  [4.5, 47.5],
  [0, 43],
  [0, 4],
  [4, 0],
]);
await page.keyboard.press('w');
await drag([83, 7], [85.9, 4.1]);
for (const [mid, bow] of [
  [
    [81.8, 45.3],
    [82.68, 46.18],
  ],
  [
    [2.3, 45.2],
    [1.32, 46.18],
  ],
  [
    [2, 2],
    [1.17, 1.17],
  ],
] as [number, number][][])
  await drag(mid, bow);
await page.keyboard.press('Escape');
const rim = await at(60, 0);
await page.mouse.move(rim.x, rim.y + 60);
await shot('trace');
await page.getByRole('link', { name: /^Hand over/ }).click();
await pictureShown(page);
await shot('handover');
await page.getByRole('link', { name: 'Rack', exact: true }).click();
await page.getByRole('heading', { name: 'Latch plate' }).waitFor();
await shot('rack');
await bench.close();

async function zoomToPlate(on: Page): Promise<void> {
  const middle = await at(45, 24);
  await on.mouse.move(middle.x, middle.y);
  await on.mouse.wheel(0, -400);
  await on.waitForTimeout(500);
  const now = await at(45, 24);
  await press(on, now);
}
