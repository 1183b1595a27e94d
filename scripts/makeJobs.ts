// Finishes the demo jobs as a person does, with the real tools in the built application, and saves each as a job file.
// Names after it make only those again: npx tsx scripts/makeJobs.ts latch-plate
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { Page } from 'playwright-core';
import { gasketPixel, knobPixel, knobSilhouette, pickAll } from '../e2e/demoPlaces';
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

/** One piece more of a path: its end, and for an arc or a curve a place on it first. */
type Step = { to: readonly [number, number]; by?: readonly [number, number]; bent?: 'arc' | 'curve' };

async function draw(page: Page, on: On, from: readonly [number, number], steps: readonly Step[]): Promise<void> {
  const keyOf = ({ by, bent = 'arc' }: Step) => (!by ? 'q' : bent === 'arc' ? 'w' : 'e');
  let tool = steps[0] ? keyOf(steps[0]) : 'q';
  await page.keyboard.press(tool);
  await at(page, on(...from));
  for (const step of steps) {
    const { to, by } = step;
    const next = keyOf(step);
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

/** Takes every kind of what is proposed of how the form goes. */
async function takeProposals(page: Page): Promise<void> {
  await goTo(page, 'Size');
  await pictureShown(page);
  const all = page.getByRole('region', { name: 'Proposals' }).getByRole('button', { name: 'Take them all' });
  await all.first().waitFor({ timeout: 20_000 });
  for (let left = await all.count(); left > 0; left = await all.count()) {
    await all.first().click();
    await page.waitForTimeout(1200);
  }
}

/** Says that a line and an arc run on tangent, where that is not said yet. */
async function tangent(page: Page, ...pair: [Pixel, Pixel]): Promise<void> {
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  const [line, arc] = [await pixelPlace(page, pair[0]), await pixelPlace(page, pair[1])];
  await press(page, line);
  await page.keyboard.down('Shift');
  await press(page, arc);
  await page.keyboard.up('Shift');
  const act = page.getByRole('region', { name: 'Chosen' }).getByRole('button', { name: 'Tangent', exact: true });
  if ((await act.count()) > 0) await act.click();
  await page.waitForTimeout(500);
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

/** Takes a tool of Solid out, says what is to be said, and adds the feature. */
async function feature(page: Page, tool: string, say: () => Promise<void> = async () => {}): Promise<void> {
  await page.keyboard.press(tool);
  await page.getByRole('region', { name: 'New feature' }).waitFor();
  await say();
  await page.getByRole('button', { name: 'Add it' }).click();
  await page.getByText('Working the body out').waitFor({ state: 'detached', timeout: 60_000 });
  await page.waitForTimeout(1500);
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
      // What it plainly is: level, plumb, tangent, alike.
      await takeProposals(page);
      const corners: [Pixel, Pixel][] = [
        [on(40, 0), on(...polar(76, 14, 14, -45))],
        [on(90, 19), on(...polar(76, 14, 14, -45))],
        [on(84, 36), on(...polar(79.5, 43, 4.5, 45))],
        [on(40, 47.5), on(...polar(79.5, 43, 4.5, 45))],
        [on(40, 47.5), on(...polar(4.5, 43, 4.5, 135))],
        [on(0, 24), on(...polar(4.5, 43, 4.5, 135))],
        [on(0, 24), on(...polar(4, 4, 4, 225))],
        [on(40, 0), on(...polar(4, 4, 4, 225))],
      ];
      for (const [line, arc] of corners) await tangent(page, line, arc);
      await trace(page);
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
      await goTo(page, 'Solid');
      await feature(page, 'w', () => field(page, 'To height', '2'));
      await feature(page, 'r');
      await page.getByLabel('Material', { exact: true }).selectOption('Aluminium');
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
      await goTo(page, 'Size');
      await pictureShown(page);
      await page.getByRole('button', { name: 'Add a parameter' }).click();
      await field(page, 'Name of size_1', 'sheet');
      await field(page, 'Value of sheet', '2');
      await page.getByRole('button', { name: 'Add a parameter' }).click();
      await field(page, 'Name of size_1', 'bolt');
      await field(page, 'Value of bolt', '5');
      await press(page, await pixelPlace(page, on(27.5, 0)));
      await field(page, 'Decide Ø of Hole 2', 'bolt');
      for (const [variant, parameter, value] of [
        ['soft', 'sheet', '3'],
        ['hard', 'sheet', '1.5'],
        ['M4', 'bolt', '4.5'],
        ['M6', 'bolt', '6.6'],
      ] as const) {
        await page.getByRole('button', { name: 'Add a variant' }).click();
        await page.getByLabel(new RegExp(`^${parameter} in Variant`)).fill(value);
        await page.keyboard.press('Enter');
        await page.getByLabel(/^Name of Variant/).fill(variant);
        await page.keyboard.press('Enter');
        await page.waitForTimeout(300);
      }
      await page.getByLabel('As it was drawn', { exact: true }).click();
      await goTo(page, 'Solid');
      await feature(page, 'w', () => field(page, 'To height', 'sheet'));
      await page.getByLabel('Material', { exact: true }).selectOption('Rubber');
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
      await page.getByRole('button', { name: 'It is thin, up to 0.3 mm' }).click();
      await trace(page);
      await draw(
        page,
        on,
        [0, 50],
        [
          { by: polar(0, -100, 150, 72.5), to: polar(0, -100, 150, 55) },
          { to: polar(0, -100, 60, 55) },
          // Cut by hand once: a curve, and no arc of a compass.
          { by: polar(0, -100, 60, 72.5), to: [0, -40], bent: 'curve' },
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
      await page.keyboard.press('w');
      for (const [from, to] of [
        [on(-18, 62), on(98, -18)],
        [on(-18, 140), on(98, 90)],
      ] as const)
        await drag(page, await pixelPlace(page, from), await pixelPlace(page, to));
      await page.keyboard.press('Escape');
      await page.getByRole('button', { name: 'Remove the view From the front' }).waitFor();
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
      // From the front: its own zero lies 95 mm higher on the page.
      const front: On = (x, z) => on(x, 95 + z);
      // The small round in its corner is left out: that corner alone snaps to nothing.
      await page.keyboard.press('q');
      for (const [x, z] of [
        [0, 0],
        [80, 0],
        [80, 5],
        [6, 5],
        [6, 32],
        [0, 32],
        [0, 0],
      ] as const) {
        const isFree = x === 6 && z === 5;
        if (isFree) await page.keyboard.down('f');
        await at(page, front(x, z));
        if (isFree) await page.keyboard.up('f');
      }
      await goTo(page, 'Solid');
      // The small holes go through the foot alone, not through the arm above it.
      await feature(page, 'w', async () => {
        await page.getByRole('radio', { name: 'some paths' }).click();
        const paths = page.getByRole('group', { name: 'Its paths' });
        for (const k of [2, 3, 4, 5]) await paths.getByRole('checkbox', { name: `Hole ${k}` }).uncheck();
        await field(page, 'To height', '32');
      });
      await feature(page, 'e');
      await page.getByRole('button', { name: 'The body’s length holds' }).click();
      await page.waitForTimeout(1500);
      await feature(page, 't', async () => {
        const holes = page.getByRole('group', { name: 'At the circles' });
        await holes.getByRole('checkbox', { name: 'Hole 1' }).uncheck();
        await page.getByRole('radio', { name: 'below' }).click();
        await field(page, 'Depth (empty: through)', '6');
        await page.getByLabel('Head', { exact: true }).selectOption('countersunk');
        await field(page, 'Diameter of the head', '9');
      });
      await page.getByLabel('Material', { exact: true }).selectOption('Steel');
    },
  },
  {
    file: 'focus-knob',
    job: 'Focus knob',
    heading: /Focus knob/,
    async make(page) {
      await goTo(page, 'True');
      await page.getByRole('button', { name: 'Two lengths at right angles' }).click();
      await pickAll(page, [knobPixel('plate', 0, 5), knobPixel('plate', 90, 5)]);
      await page.getByRole('heading', { name: 'How long is this?' }).waitFor();
      await typed(page, '90 ± 0.05');
      await page.getByText('Now one end of a length across the first.').waitFor();
      await pickAll(page, [knobPixel('plate', 40, 0), knobPixel('plate', 40, 12)]);
      await page.getByRole('heading', { name: 'How long is this?' }).waitFor();
      await typed(page, '12 ± 0.05');
      await page.getByRole('radio', { name: 'flat-on' }).click();
      await page.getByText(/100 mm in the middle are good to/).waitFor();
      await page.getByRole('button', { name: 'A turned part, seen from the side' }).click();
      await pickAll(page, [
        knobSilhouette(17, 13, 1),
        knobSilhouette(30, 13, 1),
        knobSilhouette(17, 13, -1),
        knobSilhouette(30, 13, -1),
      ]);
      await page.getByRole('button', { name: 'Direction by its axis' }).click();
      await trace(page);
      const on: On = (x, r) => knobSilhouette(x, Math.abs(r), r < 0 ? -1 : 1);
      const round = (side: number): readonly [number, number] => [
        33 + 3 * Math.SQRT1_2,
        side * (10 + 3 * Math.SQRT1_2),
      ];
      await draw(
        page,
        on,
        [0, 15],
        [
          { to: [4, 15] },
          { to: [5.5, 9] },
          { to: [12, 9] },
          { to: [14, 13] },
          { to: [33, 13] },
          { by: round(1), to: [36, 10] },
          { to: [36, -10] },
          { by: round(-1), to: [33, -13] },
          { to: [14, -13] },
          { to: [12, -9] },
          { to: [5.5, -9] },
          { to: [4, -15] },
          { to: [0, -15] },
          { to: [0, 15] },
        ],
      );
      await page.getByRole('radio', { name: 'turned part' }).click();
      await goTo(page, 'Solid');
      await feature(page, 'q');
      await page.getByLabel('Material', { exact: true }).selectOption('Beech');
    },
  },
];

async function typed(page: Page, text: string): Promise<void> {
  await page.keyboard.type(text);
  await page.keyboard.press('Enter');
  await page.waitForTimeout(300);
}

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
    await goTo(page, 'Solid');
    await page.waitForTimeout(6000);
    await page.screenshot({ path: `${process.env.SHOTS}/${file}-solid.png` });
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
