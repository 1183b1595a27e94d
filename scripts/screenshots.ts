// Refreshes docs/screenshots from the demo job, through the built application.
import { fileURLToPath } from 'node:url';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import { gasketPixel, knobPixel, knobSilhouette, pickAll, readRailRule, shareRailPoint } from '../e2e/demoPlaces';
import {
  DEMO_FOLDER,
  drag as dragOnBoard,
  goTo,
  openBench,
  openDemo,
  openJob,
  openPage,
  openRack,
  pictureShown,
  pixelPlace,
  platePixel,
  press,
  pressPixel,
  truePlace,
  truthOf,
} from '../e2e/harness';

const folder = fileURLToPath(new URL('../docs/screenshots/', import.meta.url));
const bench = await openBench();
const { page } = await openPage(bench, undefined, 'as they come');
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
await page.keyboard.press('q');
const corner = (u: number, v: number) => pixelPlace(page, [u, v]);
const [cropFrom, cropTo] = [await corner(900, 500), await corner(3100, 1750)];
await page.mouse.move(cropFrom.x, cropFrom.y);
await page.mouse.down();
await page.mouse.move(1000, 300);
await page.mouse.move(cropTo.x, cropTo.y);
await page.mouse.up();
await page.getByRole('radio', { name: 'upright line' }).click();
await page.keyboard.press('Escape');
await page.keyboard.press('Control+z');
await goTo(page, 'True');
await pictureShown(page);
await page.getByText(/Figures 0 to 1\d were read/).waitFor({ timeout: 30_000 });
await shot('found');
await page.keyboard.press('w');
await press(page, await pixelPlace(page, [1700, 1890]));
await page.getByText(/Figures 0 to 1\d were read/).waitFor();
await shot('ruler');
await page.getByRole('button', { name: /^It is (150 mm|0 to 15 cm)/ }).click();
await page.getByText(/100 mm in the middle are good to/).waitFor();
await field('Thickness of the yardstick', '1');
await field('Thickness of the part', '2');
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
await page.keyboard.press('o');
for (const x of [0, 84]) await pressPixel(page, platePixel(truth, x, 36));
await field('Caliper reading', '84');
await page.getByText(/, fits within|does not fit within/).waitFor();
await page.keyboard.press('q');
await page.keyboard.press('Home');
const over = await truePlace(page, 147, -0.5);
await page.mouse.move(over.x - 2, over.y);
await page.mouse.move(over.x, over.y);
await shot('true');
await page.keyboard.press('Escape');
await goTo(page, 'Trace');
await pictureShown(page);
await zoomToPlate(page);
await page.keyboard.press('r');
for (const [x, y, r] of [
  [11, 35.5, 4.5],
  [72, 34.5, 3.6],
] as const)
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
] as [[number, number], [number, number]][])
  await drag(mid, bow);
await page.keyboard.press('Escape');
const rim = await at(60, 0);
await page.mouse.move(rim.x, rim.y + 60);
await shot('trace');
await showEdges();
await goTo(page, 'Hand over');
await pictureShown(page);
await shot('handover');
// All demo jobs hang there once the page is opened anew.
await openRack(bench, page);
await page.getByRole('heading', { name: 'Hanger rail' }).waitFor({ timeout: 30_000 });
await shot('rack');
await showScan();

// What one click finds, on the other demo pictures.
await openJob(bench, page, /^Lamp gasket/);
await page.keyboard.press('r');
await press(page, await pixelPlace(page, [1000, 2200]));
await page.getByLabel('Which sheet').selectOption('A6');
await page.getByRole('button', { name: 'Take it' }).click();
await page.getByText(/100 mm in the middle are good to/).waitFor();
await page.keyboard.press('e');
await press(page, await pixelPlace(page, [2890, 1900]));
await page.getByLabel('Which coin').selectOption('20 euro cent');
await shot('coin');
await page.getByRole('button', { name: 'Take it' }).click();
await page
  .getByText(/agrees with the rest/)
  .first()
  .waitFor();
await showMaking();
await openJob(bench, page, /^Baffle pattern/);
await page.keyboard.press('t');
await press(page, await pixelPlace(page, [800, 800]));
await page.getByText(/29 by 21 crossings/).waitFor();
await page.getByRole('button', { name: 'Take it' }).click();
await page.getByText(/100 mm in the middle are good to/).waitFor();
await page.getByRole('button', { name: /Show the ± over the picture/ }).click();
await page.locator('[aria-label="Deviations of the observed places"] svg').first().waitFor();
await page.getByLabel('How far to trust it').scrollIntoViewIfNeeded();
await shot('trust');
await showTurned();
await showJoined();
await showFinished();
await openRack(bench, page);
await page.getByRole('button', { name: 'Funnel bracket', exact: true }).click();
await page.getByRole('navigation', { name: 'Steps' }).waitFor();
await goTo(page, 'Solid');
await page.getByText('Centre of mass').waitFor({ timeout: 60_000 });
await page.waitForTimeout(3000);
await shot('solid');
await bench.close();

/** The gasket's bore, one of its holes and one of its lobes, and copies of both round the bore. */
async function showMaking(): Promise<void> {
  const on = async (x: number, y: number) => pixelPlace(page, gasketPixel(x, y));
  await field('Thickness of the part', '2');
  await goTo(page, 'Trace');
  await pictureShown(page);
  for (const [x, rim] of [
    [0, 14],
    [25, 27.5],
  ] as const) {
    await page.keyboard.press('r');
    await dragOnBoard(page, await on(x, 0), await on(rim, 0));
  }
  await page.keyboard.press('w');
  const diagonal = Math.SQRT1_2;
  // A lobe, and the hollow after it; each by its through point and its end.
  for (const [x, y] of [
    [22, -12],
    [34, 0],
    [22, 12],
    [22 - 10 * diagonal, 22 - 10 * diagonal],
    [12, 22],
  ] as const) {
    await press(page, await on(x, y));
    await page.waitForTimeout(260);
  }
  await page.keyboard.press('Enter');
  const make = () => page.getByLabel('Make of it', { exact: true }).selectOption('copies round a hole');
  await make();
  await page.getByRole('button', { name: 'Hole 2' }).click();
  await make();
  await page.getByRole('button', { name: 'Outer edge' }).click();
  await shot('making');
}

/** The knob on its side: a stick of known sizes in the plane of its axis, its silhouettes, a diameter by the caliper. */
async function showTurned(): Promise<void> {
  await openJob(bench, page, /^Focus knob/);
  await goTo(page, 'True');
  await page.getByRole('button', { name: 'Two lengths at right angles' }).click();
  await pickAll(page, [knobPixel('plate', 0, 5), knobPixel('plate', 90, 5)]);
  await field('Known length', '90 ± 0.05');
  await page.getByText('Now one end of a length across the first.').waitFor();
  await pickAll(page, [knobPixel('plate', 40, 0), knobPixel('plate', 40, 12)]);
  await field('Known length', '12 ± 0.05');
  await page.getByRole('button', { name: /^The camera/ }).click();
  await page.getByRole('radio', { name: 'flat-on' }).click();
  await page.getByText(/100 mm in the middle are good to/).waitFor();
  await page.getByRole('button', { name: /^Heights/ }).click();
  await field('Height of the traced face (part thickness)', '15');
  await page.getByRole('button', { name: /^Heights/ }).click();
  await page.getByRole('button', { name: /^A part turned on a lathe/ }).click();
  await page.getByRole('button', { name: 'A turned part, seen from the side' }).click();
  await pickAll(page, [
    knobSilhouette(17, 13, 1),
    knobSilhouette(30, 13, 1),
    knobSilhouette(17, 13, -1),
    knobSilhouette(30, 13, -1),
  ]);
  await page.getByRole('button', { name: 'Direction by its axis' }).click();
  await page.keyboard.press('o');
  await pickAll(page, [knobSilhouette(2, 15, 1), knobSilhouette(2, 15, -1)]);
  await field('Caliper reading', '30');
  await page.getByLabel('Spot checks').getByRole('radio', { name: 'turned part' }).click();
  await page.getByText(/, fits within/).waitFor();
  await page.getByRole('listitem').filter({ hasText: 'Turned part' }).first().scrollIntoViewIfNeeded();
  await shot('turned');
}

/** The rail in two pictures, joined by its rule and three holes. */
async function showJoined(): Promise<void> {
  await openJob(bench, page, /^Hanger rail/);
  await goTo(page, 'True');
  await pictureShown(page);
  await page.getByRole('button', { name: /^Heights/ }).click();
  await readRailRule(page, 'left', 20, 210);
  await page.getByLabel('Picture', { exact: true }).selectOption({ label: 'hanger-rail-right.jpg' });
  await pictureShown(page);
  await readRailRule(page, 'right', 190, 380);
  await page.getByRole('button', { name: 'Ruler 1 is ruler 1 of hanger-rail-left.jpg' }).click();
  await page.keyboard.press('p');
  for (const hole of ['centre 3', 'centre 4', 'centre 5']) await shareRailPoint(page, 'right', 'plate', hole);
  await page.keyboard.press('Escape');
  await page.getByText(/At the seam both put common points/).waitFor();
  await page.getByRole('region', { name: 'Joined pictures' }).scrollIntoViewIfNeeded();
  await shot('joined');
}

async function zoomToPlate(on: Page): Promise<void> {
  const middle = await at(45, 24);
  await on.mouse.move(middle.x, middle.y);
  await on.mouse.wheel(0, -400);
  await on.waitForTimeout(500);
  const now = await at(45, 24);
  await press(on, now);
}

/** Face edge and foot of the plate under the loupe, and which of them the outer run follows. */
async function showEdges(): Promise<void> {
  await page.keyboard.press('y');
  const far = await at(50, 0);
  await page.mouse.move(far.x, far.y);
  await page.mouse.wheel(0, -1100);
  await page.waitForTimeout(400);
  const near = await at(50, 0);
  await page.mouse.move(near.x - 2, near.y - 2);
  await page.mouse.move(near.x, near.y);
  await shot('edges');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Home');
}

/** The scanned drawing in True, and a newer one in its place with the differences marked. */
async function showScan(): Promise<void> {
  await page.getByRole('link', { name: /^Funnel bracket/ }).click();
  await pictureShown(page);
  await page.getByText(/100 mm in the middle are good to/).waitFor();
  await page.getByRole('region', { name: 'Dimensions read' }).waitFor({ timeout: 40_000 });
  await shot('dimensions');
  await goTo(page, 'Picture');
  await pictureShown(page);
  const path = `${DEMO_FOLDER}/funnel-bracket.jpg`;
  const slot = Buffer.from(
    '<svg width="500" height="160"><rect x="10" y="10" width="480" height="140" rx="70" fill="none" stroke="#222" stroke-width="6"/></svg>',
  );
  const buffer = await sharp(path)
    .composite([{ input: slot, left: 1150, top: 2160 }])
    .jpeg()
    .toBuffer();
  await page
    .getByLabel('Picture that takes its place')
    .setInputFiles({ name: 'funnel-bracket-2.jpg', mimeType: 'image/jpeg', buffer });
  await page.getByRole('button', { name: 'Put it in its place' }).click();
  await page.getByRole('radio', { name: 'differences' }).click();
  await page.getByText(/of what is seen differs/).waitFor();
  await page.getByText(/of what is seen differs/).scrollIntoViewIfNeeded();
  await shot('swap');
}

/** Finished demo jobs: several things chosen, a path held against its picture, named sizes and a variant. */
async function showFinished(): Promise<void> {
  const open = async (name: string) => {
    await page.goto(bench.url);
    await page.getByRole('button', { name, exact: true }).click();
    await page.getByRole('heading', { name: 'Trace', exact: true }).waitFor({ timeout: 20_000 });
    await pictureShown(page);
    await page.getByRole('button', { name: 'Show the part' }).click();
    await page.waitForTimeout(600);
  };
  await open('Funnel bracket');
  await page.keyboard.press('o');
  await page.getByLabel('All of a kind').selectOption('circles');
  await page.getByLabel('What to do').selectOption('mirror');
  await shot('changing');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Outer edge', exact: true }).click();
  await page.getByRole('button', { name: 'Compare it with the picture’s edges' }).click();
  await page.getByText(/Edges of the picture lie off it/).waitFor({ timeout: 40_000 });
  await shot('deviation');
  await goTo(page, 'Size');
  await pictureShown(page);
  await page.getByRole('button', { name: 'Show the part' }).click();
  const proposals = page.getByRole('region', { name: 'Proposals' });
  for (const kind of ['Tangent', 'Level', 'Plumb', 'Equal'])
    await proposals
      .getByText(new RegExp(`^${kind}, \\d of them`))
      .getByRole('button', { name: 'Take them all' })
      .click({ timeout: 60_000 });
  const decide = async (value: string, ...places: [number, number][]) => {
    for (const [k, [x, y]] of places.entries()) {
      if (k > 0) await page.keyboard.down('Shift');
      await press(page, await truePlace(page, x, y));
      if (k > 0) await page.keyboard.up('Shift');
    }
    await page.getByText('Decide the size of what is chosen').waitFor();
    await page.keyboard.type(value);
    await page.keyboard.press('Enter');
    await page.waitForTimeout(1500);
  };
  // In the picture's own millimetres: its sides, a rounded corner, the bore, two of the holes.
  await decide('80', [-46.2, -31], [33.8, -35]);
  await decide('50', [-6, -6.2], [0, -56.2]);
  await decide('6', [32, -8]);
  await decide('34', [10.8, -31.2]);
  await decide('64', [-35.45, -48.2], [28.55, -48.2]);
  await page
    .getByLabel('Size', { exact: true })
    .or(page.getByRole('complementary'))
    .first()
    .evaluate((e) => e.scrollTo(0, 0));
  await shot('size');
}
