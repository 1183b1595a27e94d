// Finishes the demo jobs as a person does, with the real tools in the built application, and saves each as a job file.
// Names after it make only those again: npx tsx scripts/makeJobs.ts latch-plate
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { Page } from 'playwright-core';
import { gasketPixel } from '../e2e/demoPlaces';
import {
  type Bench,
  drag,
  goTo,
  openBench,
  openJob,
  openPage,
  pictureShown,
  pixelPlace,
  platePixel,
  press,
  takeReadings,
  truthOf,
} from '../e2e/harness';
import { FUNNEL_BRACKET_SCAN } from '../rig/src/demo/funnelBracket';
import { scannedAt } from '../rig/src/scan';

const folder = fileURLToPath(new URL('../demo/jobs/', import.meta.url));

type Pixel = [number, number];
/** Where a place of the thing, in its own mm, is pictured. */
type On = (x: number, y: number) => Pixel;

interface Finished {
  file: string;
  job: string;
  heading: RegExp;
  make(page: Page): Promise<void>;
}

/** One piece more of a path: its end, and for an arc a place on it first. */
type Step = { to: readonly [number, number]; by?: readonly [number, number] };

async function draw(page: Page, on: On, from: readonly [number, number], steps: readonly Step[]): Promise<void> {
  let tool = steps[0]?.by ? 'w' : 'q';
  await page.keyboard.press(tool);
  await at(page, on(...from));
  for (const { to, by } of steps) {
    const next = by ? 'w' : 'q';
    if (next !== tool) await page.keyboard.press(next);
    tool = next;
    if (by) await at(page, on(...by));
    await at(page, on(...to));
  }
}

async function at(page: Page, pixel: Pixel): Promise<void> {
  await press(page, await pixelPlace(page, pixel));
  await page.waitForTimeout(300);
}

/** A circle from its middle to its rim, settled on the edge. */
async function circle(page: Page, on: On, x: number, y: number, radius: number): Promise<void> {
  const holes = page.getByRole('button', { name: /^Hole \d+$/ });
  const before = await holes.count();
  await page.keyboard.press('r');
  await drag(page, await pixelPlace(page, on(x, y)), await pixelPlace(page, on(x + radius, y)));
  // It stands once its edge was found, which takes as long as the machine takes.
  await holes.nth(before).waitFor();
  await page.waitForTimeout(300);
}

async function field(page: Page, label: string, value: string): Promise<void> {
  const input = page.getByLabel(label, { exact: true }).last();
  await input.fill(value);
  await input.press('Enter');
  await page.waitForTimeout(300);
}

async function make(page: Page, path: string, what: string): Promise<void> {
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: path, exact: true }).click();
  await page.getByLabel('Make of it', { exact: true }).last().selectOption(what);
  await page.waitForTimeout(300);
}

/** Looks closer, so that a press is as good as a person's under the loupe. */
async function closer(page: Page): Promise<void> {
  await page.getByText('Part', { exact: true }).click();
  await page.waitForTimeout(500);
}

async function trace(page: Page): Promise<void> {
  await goTo(page, 'Trace');
  await pictureShown(page);
  await page.waitForTimeout(600);
}

const polar = (cx: number, cy: number, r: number, deg: number): [number, number] => [
  cx + r * Math.cos((deg * Math.PI) / 180),
  cy + r * Math.sin((deg * Math.PI) / 180),
];

const JOBS: readonly Finished[] = [
  {
    file: 'latch-plate',
    job: 'Latch plate',
    heading: /Latch plate/,
    async make(page) {
      const truth = truthOf('latch-plate');
      const on: On = (x, y) => platePixel(truth, x, y);
      await page.getByRole('link', { name: /^True/ }).click();
      await takeReadings(page, truth);
      await page.getByRole('button', { name: /Count the graduations/ }).click();
      await page.getByTestId('graduations').first().waitFor({ timeout: 20_000 });
      await field(page, 'Thickness of the yardstick', '1');
      await field(page, 'Thickness of the part', '2');
      await trace(page);
      await draw(
        page,
        on,
        [4, 0],
        [
          { to: [76, 0] },
          { by: polar(76, 14, 14, -45), to: [90, 14] },
          { to: [90, 24] },
          { to: [84, 28] },
          { to: [84, 43] },
          { by: polar(79.5, 43, 4.5, 45), to: [79.5, 47.5] },
          { to: [4.5, 47.5] },
          { by: polar(4.5, 43, 4.5, 135), to: [0, 43] },
          { to: [0, 4] },
        ],
      );
      await page.keyboard.press('w');
      await at(page, on(...polar(4, 4, 4, 225)));
      await at(page, on(4, 0));
      await circle(page, on, 11, 35.5, 4.5);
      await circle(page, on, 72, 34.5, 3.6);
      const [a, b] = [41 - 11, 41 + 11];
      await draw(
        page,
        on,
        [a, 13],
        [{ to: [b, 13] }, { by: [b + 3.5, 16.5], to: [b, 20] }, { to: [a, 20] }, { by: [a - 3.5, 16.5], to: [a, 13] }],
      );
      await make(page, 'Outer edge', 'larger or smaller');
      await field(page, 'By how much', '3');
      await goTo(page, 'Size');
      await pictureShown(page);
      await page.getByRole('button', { name: 'Add a parameter' }).click();
      await field(page, 'Name of size_1', 'margin');
      await field(page, 'Value of margin', '3');
      await field(page, 'larger by of Outer edge', 'margin');
      for (const [variant, margin] of [
        ['narrow', '1.5'],
        ['wide', '6'],
      ] as const) {
        await page.getByRole('button', { name: 'Add a variant' }).click();
        await page.getByLabel(/^margin in Variant/).fill(margin);
        await page.keyboard.press('Enter');
        await page.getByLabel(/^Name of Variant/).fill(variant);
        await page.keyboard.press('Enter');
        await page.waitForTimeout(300);
      }
      await page.getByLabel('As it was drawn', { exact: true }).click();
    },
  },
  {
    file: 'lamp-gasket',
    job: 'Lamp gasket',
    heading: /Lamp gasket/,
    async make(page) {
      const on: On = gasketPixel;
      await page.getByRole('link', { name: /^True/ }).click();
      await page.keyboard.press('r');
      await at(page, [1000, 2200]);
      await page.getByLabel('Which sheet').selectOption('A6', { timeout: 20_000 });
      await page.getByRole('button', { name: 'Take it' }).click();
      await page.getByText(/100 mm in the middle are good to/).waitFor();
      await field(page, 'Thickness of the part', '2');
      await trace(page);
      await circle(page, on, 0, 0, 14);
      await page.getByRole('button', { name: 'It is the lower one' }).click();
      await circle(page, on, 25, 0, 2.5);
      const rim = 22 - 10 * Math.SQRT1_2;
      await draw(
        page,
        on,
        [22, -12],
        [
          { by: [34, 0], to: [22, 12] },
          { by: [rim, rim], to: [12, 22] },
        ],
      );
      await page.keyboard.press('Enter');
      const open = page.getByRole('button', { name: /^(Outer edge|Path \d)$/ }).last();
      const name = ((await open.textContent()) ?? '').trim();
      for (const path of [name, 'Hole 2']) {
        await make(page, path, 'copies round a hole');
        await page.getByLabel('Round', { exact: true }).last().selectOption('Hole 1');
        await page.waitForTimeout(300);
      }
    },
  },
  {
    file: 'baffle-pattern',
    job: 'Baffle pattern',
    heading: /Baffle pattern/,
    async make(page) {
      const truth = truthOf('baffle-pattern');
      const plate = truth.scene.items.findIndex((i) => i.kind === 'plate');
      const own = { ...truth, scene: { ...truth.scene, items: [truth.scene.items[plate]!] } };
      const on: On = (x, y) => platePixel(own, x, y);
      await page.getByRole('link', { name: /^True/ }).click();
      await page.keyboard.press('t');
      await at(page, [800, 800]);
      await page.getByText(/29 by 21 crossings/).waitFor({ timeout: 20_000 });
      await page.getByRole('button', { name: 'Take it' }).click();
      await page.getByText(/100 mm in the middle are good to/).waitFor({ timeout: 20_000 });
      await page.getByRole('button', { name: 'All of it is thin: leave it out' }).click();
      await trace(page);
      await draw(
        page,
        on,
        [0, 50],
        [
          { by: polar(0, -100, 150, 72.5), to: polar(0, -100, 150, 55) },
          { to: polar(0, -100, 60, 55) },
          { by: polar(0, -100, 60, 72.5), to: [0, -40] },
        ],
      );
      await page.keyboard.press('Enter');
      await circle(page, on, 42, 22, 3);
      await page.keyboard.press('u');
      await page.getByLabel('Shape', { exact: true }).selectOption('slot');
      for (const place of [on(-20, 0), on(20, 0), on(0, 4)]) await at(page, place);
      await page.keyboard.press('q');
      await page.keyboard.down('f');
      await at(page, on(0, 56));
      await at(page, on(0, -46));
      await page.keyboard.up('f');
      await page.keyboard.press('Enter');
      await page.getByRole('combobox', { name: 'What it is for' }).selectOption('centre line');
      await make(page, 'Outer edge', 'its mirror image added');
      await make(page, 'Hole 1', 'its mirror image added');
    },
  },
  {
    file: 'funnel-bracket',
    job: 'Funnel bracket',
    heading: /Funnel bracket/,
    async make(page) {
      const on: On = (x, y) => scannedAt(FUNNEL_BRACKET_SCAN, 60 + x, 45 + y);
      // What lies on the glass is a drawing: its lines count at their middle.
      await goTo(page, 'Picture');
      await page.getByRole('radio', { name: 'drawing' }).click();
      await page.getByRole('link', { name: /^True/ }).click();
      const read = page.getByRole('region', { name: 'Dimensions read' });
      await read.waitFor({ timeout: 60_000 });
      await read.getByRole('button', { name: /^Use these \d that agree$/ }).click();
      await page.getByText(/in the middle are good to/).waitFor();
      await trace(page);
      await draw(
        page,
        on,
        [6, 0],
        [
          { to: [74, 0] },
          { by: polar(74, 6, 6, -45), to: [80, 6] },
          { to: [80, 44] },
          { by: polar(74, 44, 6, 45), to: [74, 50] },
          { to: [6, 50] },
          { by: polar(6, 44, 6, 135), to: [0, 44] },
          { to: [0, 6] },
        ],
      );
      await page.keyboard.press('w');
      await at(page, on(...polar(6, 6, 6, 225)));
      await at(page, on(6, 0));
      await circle(page, on, 40, 25, 17);
      for (const [x, y] of [
        [8, 8],
        [72, 8],
        [72, 42],
        [8, 42],
      ] as const)
        await circle(page, on, x, y, 2.75);
    },
  },
];

async function finish(bench: Bench, { file, job, heading, make: work }: Finished): Promise<void> {
  const { page, context, faults } = await openPage(bench);
  await openJob(bench, page, heading);
  await work(page);
  await page.keyboard.press('Escape');
  await page.getByLabel('Name of the job').fill(`${job}, finished`);
  await page.keyboard.press('Enter');
  await page.getByText(/^Saved/).waitFor();
  await goTo(page, 'Hand over');
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download the job' }).click();
  writeFileSync(`${folder}${file}.moth`, readFileSync(await (await waiting).path()));
  if (process.env.SHOTS) {
    await goTo(page, 'Trace');
    await closer(page);
    await page.screenshot({ path: `${process.env.SHOTS}/${file}.png` });
  }
  if (faults.length) throw new Error(faults.join('\n'));
  await context.close();
}

mkdirSync(folder, { recursive: true });
// The rack asks for the list: it is there before anything is opened.
const index = JOBS.map(({ file, job }) => ({ file: `${file}.moth`, job }));
writeFileSync(`${folder}index.json`, `${JSON.stringify(index, null, 1)}\n`);
const wanted = process.argv.slice(2);
const bench = await openBench();
for (const job of JOBS) {
  if (wanted.length && !wanted.includes(job.file)) continue;
  console.log(`Finishing ${job.job} …`);
  await finish(bench, job);
}
await bench.close();
