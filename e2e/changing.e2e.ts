import { readFile } from 'node:fs/promises';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, beforeEach, expect, it } from 'vitest';
import {
  type Bench,
  drag,
  goTo,
  openBareRack,
  openBench,
  openPage,
  openTrued,
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
type Place = readonly [number, number];

beforeEach(async () => {
  await page?.context().close();
  ({ page, faults } = await openPage(bench));
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write'], { origin: bench.url });
  await openTrued(bench, page, truth, true);
});

const at = ([x, y]: Place) => pixelPlace(page, platePixel(truth, x, y));

/** Presses places of the plate with nothing snapping. */
async function freely(places: readonly Place[]): Promise<void> {
  await page.keyboard.down('f');
  for (const place of places) {
    await press(page, await at(place));
    await page.waitForTimeout(220);
  }
  await page.keyboard.up('f');
}

async function pointAt(place: Place): Promise<void> {
  const there = await at(place);
  await page.mouse.move(there.x, there.y);
  await page.waitForTimeout(250);
}

async function type(text: string): Promise<void> {
  await page.keyboard.type(text);
  await page.keyboard.press('Enter');
  await page.waitForTimeout(250);
}

const undoSays = (label: string) => page.getByRole('button', { name: `Undo: ${label}` }).waitFor();

it('goes on tangent by one key, takes directions, turns and radii typed, and says what it cannot read', async () => {
  await page.keyboard.press('q');
  await freely([
    [10, 30],
    [30, 30],
  ]);
  await page.keyboard.press('d');
  await freely([[40, 40]]);
  await page.getByText('1 line, 1 arc').waitFor();
  await page.keyboard.press('d');
  await type('15 turn -90');
  await page.getByText('2 lines, 1 arc').waitFor();
  await type('5 r 90 turn');
  await page.getByText('2 lines, 2 arcs').waitFor();
  await type('5 r');
  await page
    .getByRole('alert')
    .getByText(/Of an arc type its radius/)
    .waitFor();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  expect(faults).toEqual([]);
});

it('draws shapes as large as typed, trims what crosses, and undoes each in one step', async () => {
  await page.keyboard.press('u');
  await freely([[20, 8]]);
  await pointAt([50, 8]);
  await type('30');
  await pointAt([50, 20]);
  await type('20');
  await page.getByText('4 lines').waitFor();
  await expect.poll(() => page.getByText('typed', { exact: true }).count()).toBe(4);
  // The box is 30 by 20 whatever the picture's own scale is.
  await page.getByText('600.00').waitFor();
  await page.keyboard.press('q');
  await freely([
    [12, 14],
    [60, 14],
  ]);
  await page.keyboard.press('Enter');
  await page.keyboard.press('i');
  const end = await at([57, 14]);
  await page.mouse.move(end.x, end.y);
  await page.getByText('this goes').waitFor();
  await press(page, end);
  await undoSays('trim a piece');
  await press(page, await at([14, 14]));
  await page.getByText('Length of the path').waitFor({ state: 'detached' });
  await page.getByRole('button', { name: 'Path 2', exact: true }).click();
  // Between both sides of the box thirty are left.
  await page
    .getByText(/^(29\.\d|30\.\d|30)/)
    .first()
    .waitFor();
  expect(faults).toEqual([]);
});

it('chooses by a box, changes what is chosen by figures, copies it as SVG and pastes it', async () => {
  await page.keyboard.press('u');
  await page.getByLabel('Shape', { exact: true }).selectOption('slot');
  await freely([
    [15, 10],
    [30, 10],
    [30, 13],
  ]);
  await page.getByLabel('Shape', { exact: true }).selectOption('regular polygon');
  await freely([
    [50, 12],
    [56, 12],
  ]);
  await page.keyboard.press('o');
  await drag(page, await at([5, 2]), await at([62, 24]));
  const change = page.getByRole('region', { name: 'Change what is chosen' });
  await change.getByText('2 chosen').waitFor();
  await change.getByLabel('What to do').selectOption('align');
  await change.getByLabel('By which side').selectOption('bottom');
  await change.getByRole('button', { name: 'Align' }).click();
  await undoSays('align what is chosen');
  await change.getByLabel('What to do').selectOption('move');
  await change.getByLabel('Along Y').fill('18');
  await change.getByLabel('Along Y').press('Enter');
  await change.getByRole('button', { name: 'Move a copy' }).click();
  await undoSays('copy what is chosen');
  await page.getByRole('button', { name: 'Slot 1 copy' }).waitFor();
  // The copy is what is chosen now: it goes to the clipboard as SVG, and from there to where the pointer is.
  await page.locator('[role=application]').focus();
  await page.keyboard.press('Control+c');
  const svg = await page.evaluate(() => navigator.clipboard.readText());
  expect(svg).toContain('<svg');
  expect(svg.match(/<path/g)).toHaveLength(2);
  await pointAt([40, 38]);
  await page.keyboard.press('Control+v');
  await undoSays('paste');
  await page.getByRole('button', { name: 'Pasted 2' }).waitFor();
  await page.evaluate(() => navigator.clipboard.writeText('a shopping list'));
  await page.keyboard.press('Control+v');
  await page.getByText(/What was copied is no drawing/).waitFor();
  await page.evaluate(() =>
    navigator.clipboard.writeText(
      '<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm" viewBox="0 0 9 9"><script>window.was = 1</script><rect width="9" height="9"/></svg>',
    ),
  );
  await page.keyboard.press('Control+v');
  await page.getByRole('button', { name: 'Pasted 1' }).nth(1).waitFor();
  expect(await page.evaluate(() => 'was' in window)).toBe(false);
  await page.keyboard.press('Control+a');
  await change.getByText('7 chosen').waitFor();
  await page.keyboard.press('Delete');
  await page.getByText('Draw the outer edge').waitFor();
  expect(faults).toEqual([]);
});

it('finds an axis and averages both halves, holds a path against the picture, hides and locks a layer', async () => {
  await page.keyboard.press('q');
  await freely([
    [20, 10],
    [60, 12],
    [60, 30],
    [20, 31],
  ]);
  await press(page, await at([20, 10]));
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Outer edge' }).click();
  await page.getByRole('button', { name: 'Find its axis' }).click();
  const axes = page.getByRole('list', { name: 'Axes found' });
  await axes.waitFor();
  const off = async () => Number(/at most ([\d.]+) mm/.exec((await axes.textContent()) ?? '')?.[1]);
  expect(await off()).toBeGreaterThan(0.2);
  // By the edges of the picture along it the plate is told straighter than it was traced by hand.
  await page.getByRole('button', { name: '… by the picture’s edges' }).click();
  await expect.poll(async () => (await axes.count()) > 0 && (await off()), { timeout: 30_000 }).toBeGreaterThan(0);
  await page.getByRole('button', { name: 'Find its axis' }).click();
  await axes.waitFor();
  await axes.getByRole('button', { name: 'Make it symmetric' }).first().click();
  await undoSays('make symmetric');
  await page.getByRole('button', { name: 'Find its axis' }).click();
  await axes.waitFor();
  // What is told is read off places along it, not worked out.
  expect(await off()).toBeLessThan(0.1);
  await page.getByRole('button', { name: 'Compare it with the picture’s edges' }).click();
  await page
    .getByText(/Edges of the picture lie off it|no edge found/)
    .first()
    .waitFor({ timeout: 30_000 });
  const layer = page.getByLabel('Layer', { exact: true });
  await layer.fill('outline');
  await layer.press('Enter');
  await page.getByRole('button', { name: /^Layers/ }).click();
  await page.getByLabel('Lock layer outline').click();
  await undoSays('change a layer');
  await page.keyboard.press('Escape');
  await press(page, await at([40, 11]));
  await page.waitForTimeout(300);
  expect(await page.getByRole('region', { name: 'Change what is chosen' }).count()).toBe(0);
  await page.getByLabel('Show layer outline').click();
  await expect.poll(() => page.getByTestId('region').count()).toBe(0);
  await goTo(page, 'Hand over');
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: /SVG/ }).click();
  expect(await readFile(await (await waiting).path(), 'utf8')).toContain('<g id="outline">');
  expect(faults).toEqual([]);
});

it('opens a demo job as it is when all is done', async () => {
  await openBareRack(bench, page);
  await page.getByRole('button', { name: 'Lamp gasket', exact: true }).click();
  await page.getByRole('heading', { name: 'Trace', exact: true }).waitFor({ timeout: 20_000 });
  await page.getByText('made whole').waitFor({ timeout: 20_000 });
  await page.getByText('made into 4').waitFor();
  expect(faults).toEqual([]);
});
