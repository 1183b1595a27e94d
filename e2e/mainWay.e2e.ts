import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import DxfParser from 'dxf-parser';
import type { Download, Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { keysOf, WORKSHOP_CALIPER } from '../rig/src/caliper';
import {
  type Bench,
  drag,
  goTo,
  openBench,
  openDemo,
  openPage,
  pictureShown,
  pixelPlace,
  platePixel,
  pressPixel,
  takeReadings,
  truthOf,
} from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const truth = truthOf('latch-plate');
/** Corners of the plate in its own mm, as a person would press them. */
const CORNERS: readonly [number, number][] = [
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
];
const field = async (page: Page, name: string, value: string) => {
  const input = page.getByLabel(name, { exact: true });
  await input.fill(value);
  await input.press('Enter');
};
const fetchFile = async (page: Page, button: string): Promise<Buffer> => {
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: button }).click()]);
  return readFileSync(await (file as Download).path());
};

/** What `npm run make` writes of a job file. */
function makeFromScript(job: Buffer, name: string): Buffer {
  const folder = mkdtempSync(join(tmpdir(), 'make-'));
  writeFileSync(join(folder, 'job.moth'), job);
  const root = fileURLToPath(new URL('..', import.meta.url));
  execFileSync('npx', ['tsx', 'scripts/make.ts', join(folder, 'job.moth'), '--out', join(folder, name)], { cwd: root });
  return readFileSync(join(folder, name));
}

it('goes from the picture to the file, and the job goes to another browser', async () => {
  const { page, faults } = await openPage(bench);
  await openDemo(bench, page, 'true');

  // Two readings: true, with a large ±, and why.
  await takeReadings(page, truth);
  await field(page, 'Height of the ruler’s top face', '1');
  await field(page, 'Height of the traced face (part thickness)', '2');
  await page.getByText(/these readings do not see how the camera was tilted/).waitFor();

  // Two further known lengths make it surer.
  const far = async () =>
    Number(
      /±\s*([\d.]+)\s*mm along X/.exec((await page.getByText(/100 mm in the middle/).textContent()) ?? '')?.[1] ?? 0,
    );
  await expect.poll(far, { timeout: 15_000 }).toBeGreaterThan(1);
  const before = await far();
  for (const [places, length] of [
    [
      [
        [40, 0],
        [40, 47.5],
      ],
      '47.5 ± 0.05',
    ],
    [
      [
        [0, 20],
        [90, 20],
      ],
      '90 ± 0.05',
    ],
  ] as [[number, number][], string][]) {
    await page.keyboard.press('q');
    for (const [x, y] of places) await pressPixel(page, platePixel(truth, x, y));
    await page.getByRole('heading', { name: /between the two readings/ }).waitFor();
    await page.keyboard.type(length.slice(0, 2));
    await page.getByLabel('Known length', { exact: true }).last().fill(length);
    await page.getByLabel('Known length', { exact: true }).last().press('Enter');
    await page
      .getByRole('radiogroup', { name: 'Plane it lies on' })
      .or(page.getByLabel('Plane it lies on'))
      .last()
      .getByText('face')
      .click();
  }
  await expect.poll(far, { timeout: 15_000 }).toBeLessThan(before);

  // A spot check by the caliper: the width of the plate above the notch.
  await page.keyboard.press('o');
  for (const x of [0, 84]) await pressPixel(page, platePixel(truth, x, 36));
  await page.getByRole('heading', { name: 'What does the caliper say?' }).waitFor();
  // It types like a keyboard: read as a measurement, never as commands.
  for (const key of keysOf(84, WORKSHOP_CALIPER, () => 0.4)) await page.keyboard.press(key);
  // Whatever it says is waited for, so that a miss says by how much.
  const verdict = page.getByText(/, (fits|does not fit) within/);
  await verdict.waitFor();
  expect(await verdict.textContent()).toMatch(/, fits within/);

  // Trace: corner to corner, closed, one corner bowed, two holes.
  await goTo(page, 'Trace');
  await page.getByRole('heading', { name: 'Trace' }).waitFor();
  await pictureShown(page);
  await page.keyboard.press('q');
  for (const [x, y] of [...CORNERS, CORNERS[0]!]) await pressPixel(page, platePixel(truth, x, y));
  await page.getByTestId('region').waitFor({ state: 'attached' });
  await page.keyboard.press('w');
  await drag(
    page,
    await pixelPlace(page, platePixel(truth, 83, 7)),
    await pixelPlace(page, platePixel(truth, 85.9, 4.1)),
  );
  await page.getByText(/9 lines, 1 arc/).waitFor();
  await page.keyboard.press('r');
  for (const [x, y, r] of [
    [11, 35.5, 4.5],
    [72, 34.5, 3.6],
  ])
    await drag(
      page,
      await pixelPlace(page, platePixel(truth, x!, y!)),
      await pixelPlace(page, platePixel(truth, x! + r!, y!)),
    );
  await page.keyboard.press('Escape');
  await expect.poll(async () => page.getByText(/Ø/).count(), { timeout: 30_000 }).toBe(2);

  // Hand over.
  await goTo(page, 'Hand over');
  const svg = (await fetchFile(page, 'Download SVG')).toString();
  const [, wide, high] = /overall ([\d.]+) mm wide, ([\d.]+) mm high/.exec(svg) ?? [];
  // The traced corners, turned as the plate lies against the rule's X.
  const turn = truth.scene.items[0]!.lie.turn - truth.scene.items[1]!.lie.turn;
  const xs = CORNERS.map(([x, y]) => Math.cos(turn) * x - Math.sin(turn) * y);
  const ys = CORNERS.map(([x, y]) => Math.sin(turn) * x + Math.cos(turn) * y);
  expect(Math.abs(Number(wide) - (Math.max(...xs) - Math.min(...xs)))).toBeLessThan(0.8);
  expect(Math.abs(Number(high) - (Math.max(...ys) - Math.min(...ys)))).toBeLessThan(0.8);
  expect(svg.match(/<path class="cut"/g)).toHaveLength(3);
  const dxfText = (await fetchFile(page, 'Download DXF')).toString();
  const dxf = new DxfParser().parseSync(dxfText);
  expect(dxf?.entities.map((e) => e.type)).toEqual(expect.arrayContaining(['LWPOLYLINE', 'CIRCLE', 'TEXT']));
  const pdf = await fetchFile(page, 'Download PDF');
  expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
  const packed = await fetchFile(page, 'Download the job');

  // A script writes the same, byte for byte, but for the time that a PDF notes.
  const made = (name: string) => makeFromScript(packed, name);
  expect(made('part.svg').toString()).toBe(svg);
  expect(made('part.dxf').toString()).toBe(dxfText);
  expect(made('part.pdf').equals(pdf)).toBe(true);

  // Another browser: everything as it was, and the same drawing comes out.
  const other = await openPage(bench);
  await other.page.goto(bench.url);
  await other.page
    .getByLabel('Picture or job file')
    .setInputFiles({ name: 'latch-plate.moth', mimeType: 'application/zip', buffer: packed });
  await other.page.getByRole('navigation', { name: 'Steps' }).waitFor();
  await pictureShown(other.page);
  await other.page.getByRole('link', { name: /^Hand over/ }).click();
  await expect
    .poll(async () => (await fetchFile(other.page, 'Download SVG')).toString(), { timeout: 15_000 })
    .toBe(svg);
  await other.page.keyboard.press('Control+z');
  await other.page.getByRole('button', { name: /Redo: draw a circle/ }).waitFor();

  expect([...faults, ...other.faults]).toEqual([]);
  await page.context().close();
  await other.context.close();
});
