import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import DxfParser from 'dxf-parser';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { gasketPixel } from './demoPlaces';
import {
  type Bench,
  goTo,
  openBareRack,
  openBench,
  openPage,
  pictureShown,
  pixelPlace,
  press,
  truePlace,
} from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

async function openFinished(page: Page, name: string): Promise<void> {
  await openBareRack(bench, page);
  await page.getByRole('button', { name, exact: true }).click();
  await page.getByRole('navigation', { name: 'Steps' }).waitFor();
  await goTo(page, 'Size');
  await pictureShown(page);
  await page.getByRole('button', { name: 'Show the part' }).click();
  await page.waitForTimeout(600);
}

/** Presses places of the board, mm, the first alone and the others with Shift. */
async function choose(page: Page, ...places: [number, number][]): Promise<void> {
  await chooseAt(page, ...(await Promise.all(places.map(([x, y]) => truePlace(page, x, y)))));
}

async function chooseAt(page: Page, ...places: { x: number; y: number }[]): Promise<void> {
  for (const [k, place] of places.entries()) {
    if (k > 0) await page.keyboard.down('Shift');
    await press(page, place);
    if (k > 0) await page.keyboard.up('Shift');
  }
}

const chosen = (page: Page) => page.getByRole('region', { name: 'Chosen' });

async function decide(page: Page, value: string, ...places: [number, number][]): Promise<void> {
  await choose(page, ...places);
  await page.getByText('Decide the size of what is chosen').waitFor();
  await page.keyboard.type(value);
  await page.keyboard.press('Enter');
  await page.waitForTimeout(300);
}

async function relate(page: Page, what: string, ...places: [number, number][]): Promise<void> {
  await choose(page, ...places);
  await chosen(page).getByRole('button', { name: what, exact: true }).click();
  await page.waitForTimeout(300);
}

it('settles the funnel bracket as its drawing says, from what was proposed to the last size', async () => {
  const { page, faults } = await openPage(bench);
  await openFinished(page, 'Funnel bracket');
  const free = page.getByTestId('free');
  await expect.poll(() => free.textContent()).toBe('32 of 32');
  // Ways that the form seems to go; nothing was taken before.
  const proposals = page.getByRole('region', { name: 'Proposals' });
  await expect.poll(() => proposals.getByRole('button', { name: 'Take them all' }).count()).toBe(4);
  expect(await page.getByTestId('held').count()).toBe(0);
  for (const kind of ['Tangent', 'Level', 'Plumb', 'Equal'])
    await proposals
      .getByText(new RegExp(`^${kind}, \\d of them`))
      .getByRole('button', { name: 'Take them all' })
      .click();
  await expect.poll(() => free.textContent()).toBe('15 of 32');
  await proposals
    .getByText(/^Hole 1, Ø 3/)
    .getByRole('button', { name: 'Leave' })
    .click();
  await expect.poll(() => proposals.getByText(/^Hole 1, Ø 3/).count()).toBe(0);
  await proposals
    .getByText(/^Hole 2, Ø 5.499 ± 0.022: made 5.5 mm\? clearance for M5, medium/)
    .getByRole('button', { name: 'Take' })
    .click();
  await expect.poll(() => free.textContent()).toBe('14 of 32');
  // Once one of four equal holes is decided nothing is left to be proposed of the others.
  await expect.poll(() => proposals.getByText(/made 5.5/).count()).toBe(0);

  await decide(page, '34', [-6.2 + 17, -31.2]);
  await decide(page, '6', [33.8 - 1.8, -6.2 - 1.8]);
  await decide(page, '80', [-46.2, -31], [33.8, -35]);
  await decide(page, '50', [-6, -6.2], [0, -56.2]);
  const [left, right, top, bottom] = [-38.2, 25.8, -14.2, -48.2];
  const rim = (x: number, y: number): [number, number] => [x + 2.75, y];
  await relate(page, 'Level', rim(left, top), rim(right, top));
  await relate(page, 'Level', rim(left, bottom), rim(right, bottom));
  await relate(page, 'Plumb', rim(left, top), rim(left, bottom));
  await relate(page, 'Plumb', rim(right, top), rim(right, bottom));
  await decide(page, '64', rim(left, top), rim(right, top));
  await decide(page, '34', rim(left, top), rim(left, bottom));
  await decide(page, '8', rim(left, top), [-46.2, -31]);
  await decide(page, '8', rim(left, top), [-6, -6.2]);
  await relate(page, 'In the middle', [-6.2 + 17, -31.2], rim(left, top), rim(right, bottom));
  await expect.poll(() => free.textContent(), { timeout: 20_000 }).toBe('0 of 32');
  await page.getByText('Everything is settled.').waitFor();

  // A drawing of it goes out with its sizes.
  await goTo(page, 'Hand over');
  await page.getByLabel('Sizes on the PDF').getByText('with', { exact: true }).click();
  const sheet = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download PDF' }).click();
  const pdf = await readFile(await (await sheet).path());
  expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
  await goTo(page, 'Size');
  await pictureShown(page);
  await page.getByRole('button', { name: 'Show the part' }).click();
  await page.waitForTimeout(600);

  // A size that the rest gives is shown in brackets and holds nothing up.
  await decide(page, '64', rim(left, bottom), rim(right, bottom));
  await page.getByText('(the rest already gives it)').waitFor();
  await expect.poll(() => free.textContent()).toBe('0 of 32');
  // One that contradicts it is said, with each way out; taking it away mends it.
  await page
    .getByLabel('middle of Hole 5 to middle of Hole 4', { exact: true })
    .or(page.getByLabel(/^Hole \d to Hole \d$/))
    .last()
    .fill('65');
  await page.keyboard.press('Enter');
  const contradiction = page.getByRole('alert').filter({ hasText: 'These cannot all be' });
  await contradiction.waitFor({ timeout: 20_000 });
  expect(await contradiction.getByRole('button', { name: 'Take it away' }).count()).toBeGreaterThan(2);
  await page.keyboard.press('Control+z');
  await contradiction.waitFor({ state: 'detached' });
  expect(faults).toEqual([]);
  await page.close();
});

it('gives the gasket a pitch that three variants change, its lobes going along', async () => {
  const { page, faults } = await openPage(bench);
  await openFinished(page, 'Lamp gasket');
  const field = async (label: string | RegExp, value: string) => {
    const input = page.getByLabel(label, { exact: true }).last();
    await input.fill(value);
    await input.press('Enter');
    await page.waitForTimeout(300);
  };
  await page.getByRole('button', { name: 'Add a parameter' }).click();
  await field('Name of size_1', 'circle');
  await field('Value of circle', '25');
  const on = (x: number, y: number) => pixelPlace(page, gasketPixel(x, y));
  // Where one lobe ends the next one begins: a quarter of a turn further, as it is copied.
  await chooseAt(page, await on(0, 14), await on(22, -12), await on(12, 22));
  await chosen(page).getByRole('button', { name: 'Evenly around the first, 4 to a turn' }).click();
  await chooseAt(page, await on(0, 14), await on(25, 2.5));
  await field('Decide Hole 1 to Hole 2', 'circle');
  // The lobe is an arc whose own middle lies three millimetres further in.
  await chooseAt(page, await on(0, 14), await on(34, 0));
  await field('Decide Hole 1 to arc 1 of Outer edge', 'circle - 3');
  for (const [name, value] of [
    ['small', '24'],
    ['large', '28'],
    ['press fit', '25 H7'],
  ] as const) {
    await page.getByRole('button', { name: 'Add a variant' }).click();
    await field(/^circle in Variant/, value);
    await field(/^Name of Variant/, name);
  }
  // A name that is changed is changed in every formula.
  await field('Name of circle', 'pitch');
  await page.getByLabel('Show large').click();
  await page.getByRole('button', { name: 'Lay as it was drawn over it' }).click();
  await page.getByTestId('laid-over').waitFor();
  expect(await page.getByRole('alert').count()).toBe(0);

  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download it' }).click();
  const table = await readFile(await (await waiting).path(), 'utf8');
  expect(table).toBe(
    'variant,sheet,bolt,pitch\r\nas drawn,2,5,25\r\nsoft,3,,\r\nhard,1.5,,\r\nM4,,4.5,\r\nM6,,6.6,\r\nsmall,,,24\r\nlarge,,,28\r\npress fit,,,25 H7\r\n',
  );
  const put = (text: string) =>
    page
      .getByLabel('Table of variants')
      .setInputFiles({ name: 'v.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await put('variant,width\nA,3\n');
  await page.getByText('The part has no parameter called width.').waitFor();
  await put('variant,pitch\nsmall,23.5\nhuge,31\n');
  await page.getByLabel('Show huge').waitFor();

  // What is handed over is what is shown, and what a script makes is the same.
  await goTo(page, 'Hand over');
  const job = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download the job' }).click();
  const folder = mkdtempSync(join(tmpdir(), 'settling-'));
  const file = join(folder, 'gasket.moth');
  writeFileSync(file, await readFile(await (await job).path()));
  const pitchOf = (variant: string): number => {
    const out = join(folder, 'gasket.dxf');
    execFileSync('npx', ['tsx', 'scripts/make.ts', file, '--variant', variant, '--out', out], { stdio: 'pipe' });
    const dxf = new DxfParser().parseSync(readFileSync(out, 'utf8'))!;
    const circles = dxf.entities.filter((e) => e.type === 'CIRCLE') as unknown as {
      center: { x: number; y: number };
      radius: number;
    }[];
    const bore = circles.find((c) => c.radius > 10)!;
    const holes = circles.filter((c) => c.radius < 10);
    expect(holes).toHaveLength(4);
    const all = holes.map((h) => Math.hypot(h.center.x - bore.center.x, h.center.y - bore.center.y));
    for (const one of all) expect(one).toBeCloseTo(all[0]!, 4);
    // Its four lobes are one outer edge still.
    expect(dxf.entities.filter((e) => e.type === 'LWPOLYLINE' && (e as { shape?: boolean }).shape)).toHaveLength(1);
    return all[0]!;
  };
  expect(pitchOf('small')).toBeCloseTo(23.5, 4);
  expect(pitchOf('large')).toBeCloseTo(28, 4);
  expect(pitchOf('press fit')).toBeCloseTo(25.0105, 4);
  expect(faults).toEqual([]);
  await page.close();
});
