import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import {
  type Bench,
  goTo,
  openBench,
  openDemo,
  openPage,
  pictureShown,
  pixelPlace,
  platePixel,
  press,
  sayThin,
  takeReadings,
  truthOf,
} from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const truth = truthOf('latch-plate');

it('gives sizes names and formulas, shows variants and hands them over, and makes them without a browser', async () => {
  const { page, faults } = await openPage(bench);
  await openDemo(bench, page, 'true');
  await takeReadings(page, truth);
  await sayThin(page);
  await goTo(page, 'Trace');
  await pictureShown(page);
  await page.keyboard.press('u');
  await page.keyboard.down('f');
  await press(page, await pixelPlace(page, platePixel(truth, 20, 8)));
  await page.waitForTimeout(220);
  const ahead = await pixelPlace(page, platePixel(truth, 50, 8));
  await page.mouse.move(ahead.x, ahead.y);
  await page.waitForTimeout(250);
  await page.keyboard.up('f');
  await page.keyboard.type('30');
  await page.keyboard.press('Enter');
  const aside = await pixelPlace(page, platePixel(truth, 50, 20));
  await page.mouse.move(aside.x, aside.y);
  await page.waitForTimeout(250);
  await page.keyboard.type('20');
  await page.keyboard.press('Enter');
  await page.getByText('4 lines').waitFor();
  await page.getByLabel('Make of it', { exact: true }).last().selectOption('larger or smaller');
  await page.keyboard.press('Escape');

  await goTo(page, 'Size');
  await pictureShown(page);
  const set = async (label: string, value: string) => {
    const field = page.getByLabel(label, { exact: true });
    await field.fill(value);
    await field.press('Enter');
  };
  await page.getByRole('button', { name: 'Add a parameter' }).click();
  await set('Name of size_1', 'wall');
  await set('Value of wall', '2');
  // What cannot be worked out is said at its place, and the last good form is kept.
  const by = page.getByLabel('larger by of Path 1');
  await by.fill('wal * 2');
  await page.getByText('There is no parameter called wal.').waitFor();
  await by.press('Escape');
  await set('larger by of Path 1', 'wall * 2 + 1');
  await page.getByText('= 5.000 mm').waitFor();
  await page.getByRole('button', { name: 'Undo: change what is made of a path' }).waitFor();
  await page.getByRole('button', { name: 'Add a parameter' }).click();
  await set('Value of size_1', 'size_1 + 1');
  await page
    .getByText(/leads round in a circle/)
    .first()
    .waitFor();
  await page.getByRole('link', { name: /^Size: The formula of size_1 comes to nothing/ }).waitFor();
  await page.getByRole('button', { name: 'Take size_1 away' }).click();
  await page.getByRole('button', { name: 'Add a variant' }).click();
  await set('Name of Variant 1', 'thick');
  await set('wall in thick', '4');

  const width = async () => {
    await goTo(page, 'Hand over');
    const waiting = page.waitForEvent('download');
    await page.getByRole('button', { name: /SVG/ }).click();
    const text = await readFile(await (await waiting).path(), 'utf8');
    return Number(/overall ([\d.]+) mm wide/.exec(text)?.[1]);
  };
  const thick = await width();
  await goTo(page, 'Size');
  await page.getByLabel('As it was drawn', { exact: true }).click();
  const plain = await width();
  // Four millimetres more on each side; it lies a little askew, and its corners are round.
  expect(thick - plain).toBeGreaterThan(7.8);
  expect(thick - plain).toBeLessThan(8.1);

  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download the job' }).click();
  const folder = mkdtempSync(join(tmpdir(), 'size-'));
  const job = join(folder, 'job.moth');
  writeFileSync(job, readFileSync(await (await saving).path()));
  const make = (...args: string[]) =>
    execFileSync('npx', ['tsx', 'scripts/make.ts', job, ...args], {
      encoding: 'utf8',
      stdio: ['ignore', 'pipe', 'ignore'],
    });
  expect(JSON.parse(make('--list'))).toMatchObject({
    parameters: [{ name: 'wall', mm: 2 }],
    variants: [{ name: 'thick', values: { wall: 4 } }],
  });
  const made = (file: string) => Number(/overall ([\d.]+) mm wide/.exec(readFileSync(join(folder, file), 'utf8'))?.[1]);
  make('--variant', 'thick', '--out', join(folder, 'a.svg'));
  expect(made('a.svg')).toBeCloseTo(thick, 2);
  make('--set', 'wall=4', '--out', join(folder, 'b.svg'));
  expect(made('b.svg')).toBeCloseTo(thick, 2);
  expect(() => make('--variant', 'thin', '--out', join(folder, 'c.svg'))).toThrow();
  expect(faults).toEqual([]);
  await page.context().close();
});
