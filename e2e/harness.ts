import { readFileSync } from 'node:fs';
import { createServer as listen, type Server } from 'node:http';
import { fileURLToPath } from 'node:url';
import { type Browser, type BrowserContext, chromium, type Page } from 'playwright-core';
import { planeMapper } from '../core/src/calibration';
import { buildCamera, pictureOf } from '../rig/src/camera';
import { toScene } from '../rig/src/scene';
import type { Truth } from '../rig/src/write';
import { createServer } from '../server/src/http';

const folder = (path: string): string => fileURLToPath(new URL(path, import.meta.url));
export const DEMO_FOLDER = folder('../demo/pictures');

export const FLAGS = [
  '--no-sandbox',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

/** A running application and a browser: what every end-to-end test stands on. */
export interface Bench {
  url: string;
  browser: Browser;
  close(): Promise<void>;
}

export async function openBench(): Promise<Bench> {
  const koa = createServer({
    appFolder: folder('../app/dist'),
    demoFolder: DEMO_FOLDER,
    jobsFolder: folder('../demo/jobs'),
    onFault: (e) => console.error(e),
  });
  const server: Server = listen(koa.callback());
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const address = server.address();
  const port = typeof address === 'object' && address ? address.port : 0;
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: FLAGS });
  return {
    url: `http://127.0.0.1:${port}`,
    browser,
    async close() {
      await browser.close();
      await new Promise((resolve) => server.close(resolve));
    },
  };
}

/** All parts of the slip open, as somebody leaves them who uses all of them. */
function openFolds() {
  try {
    for (const name of ['add', 'datum', 'heights', 'turned', 'camera', 'joins', 'spots'])
      if (localStorage.getItem(`steady-moth-fold-${name}`) === null)
        localStorage.setItem(`steady-moth-fold-${name}`, 'open');
  } catch {
    // A page without storage.
  }
}

/** A fresh browser profile at the size of the sketches; page faults and refused content fail the test that asks. */
export async function openPage(
  bench: Bench,
  context?: BrowserContext,
  folds: 'open' | 'as they come' = 'open',
): Promise<{ page: Page; context: BrowserContext; faults: string[] }> {
  const own =
    context ?? (await bench.browser.newContext({ viewport: { width: 1280, height: 800 }, acceptDownloads: true }));
  if (folds === 'open') await own.addInitScript(openFolds);
  const page = await own.newPage();
  const faults: string[] = [];
  page.on('pageerror', (error) => faults.push(String(error)));
  page.on('console', (message) => {
    if (message.type() === 'error') faults.push(message.text());
  });
  return { page, context: own, faults };
}

/** The rack as it is first seen, with the demo jobs on it: each of their pictures is read, which costs as much as many a test. */
export async function openRack(bench: Bench, page: Page): Promise<void> {
  await page.goto(bench.url);
  await page.getByRole('heading', { name: 'Latch plate' }).waitFor({ timeout: 30_000 });
}

const DEMO_INDEX = '**/demo/index.json';

/** The rack with nothing on it, for what is about other jobs than those of the demo. */
export async function openBareRack(bench: Bench, page: Page): Promise<void> {
  await page.route(DEMO_INDEX, (route) => route.fulfill({ json: [] }));
  await page.goto(bench.url);
  await page.getByLabel('Picture or job file').waitFor({ state: 'attached', timeout: 30_000 });
}

/** The rack with one of the demo jobs alone, which is sooner there than all of them; the rest hang when it is next seen. */
export async function openRackWith(bench: Bench, page: Page, name: RegExp): Promise<void> {
  // The page may know the server by another name than this machine does.
  const answer = await fetch(`http://127.0.0.1:${new URL(bench.url).port}/demo/index.json`);
  const listed = (await answer.json()) as { job: string }[];
  await page.route(DEMO_INDEX, (route) => route.fulfill({ json: listed.filter(({ job }) => name.test(job)) }));
  await page.goto(bench.url);
  await page.getByRole('link', { name }).waitFor({ timeout: 30_000 });
  await page.unroute(DEMO_INDEX);
}

/** Opens the demo job at a step and waits for its picture. */
export async function openDemo(
  bench: Bench,
  page: Page,
  step: 'picture' | 'true' | 'trace' | 'handover',
): Promise<void> {
  await openRackWith(bench, page, /Latch plate/);
  await page.getByRole('link', { name: /Latch plate/ }).click();
  await page.getByRole('navigation', { name: 'Steps' }).waitFor();
  if (step !== 'true') await goTo(page, ({ picture: 'Picture', trace: 'Trace', handover: 'Hand over' } as const)[step]);
  await pictureShown(page);
}

/** Goes to a step, and waits until it is there: a key that is pressed before would still mean the last one's tools. */
export async function goTo(
  page: Page,
  step: 'Picture' | 'True' | 'Trace' | 'Size' | 'Solid' | 'Hand over',
): Promise<void> {
  await page.getByRole('link', { name: new RegExp(`^${step}`) }).click();
  await page.getByRole('heading', { name: step, exact: true }).waitFor();
}

/** Waits until the board shows pixels. */
export async function pictureShown(page: Page): Promise<void> {
  await page.locator('[role=application] canvas[data-shown=true]').first().waitFor({ timeout: 30_000 });
}

/** Where a place of the original picture is on screen while the picture is shown whole and not yet true. */
export async function untruePlace(
  page: Page,
  uPx: number,
  vPx: number,
  size = { width: 4032, height: 3024 },
): Promise<{ x: number; y: number }> {
  const box = await page.getByRole('application').boundingBox();
  if (!box) throw new Error('no board');
  const MARGIN = 12;
  const scale = Math.min((box.width - 2 * MARGIN) / size.width, (box.height - 2 * MARGIN) / size.height);
  return {
    x: box.x + box.width / 2 + (uPx - size.width / 2) * scale,
    y: box.y + box.height / 2 + (vPx - size.height / 2) * scale,
  };
}

/** The exact truth of a demo picture. */
export function truthOf(name: string): Truth {
  return JSON.parse(readFileSync(`${DEMO_FOLDER}/${name}.truth.json`, 'utf8')) as Truth;
}

/** Where a marked place of a thing is pictured, px. */
export function markOf(truth: Truth, kind: string, name: string): [number, number] {
  const mark = truth.things.find((t) => t.kind === kind)?.marks.find((m) => m.name === name);
  if (!mark?.picture) throw new Error(`no mark ${name}`);
  return mark.picture;
}

/** Opens one of the demo jobs by its name, at its first step. */
export async function openJob(bench: Bench, page: Page, name: RegExp): Promise<void> {
  await openRackWith(bench, page, name);
  await page.getByRole('link', { name }).click();
  await page.getByRole('navigation', { name: 'Steps' }).waitFor();
  await pictureShown(page);
}

/** Presses at a place on screen as a person does: move there, wait for the loupe, press. */
export async function press(page: Page, at: { x: number; y: number }): Promise<void> {
  await page.mouse.move(at.x - 3, at.y - 2);
  await page.mouse.move(at.x, at.y);
  await page.mouse.down();
  await page.mouse.up();
}

/** The board as it stands on screen, with its view and map; a step that was just opened has none for a moment. */
async function boardOf(page: Page): Promise<{ left: number; top: number; view: number[]; map: string | null }> {
  for (let k = 0; k < 100; k++) {
    const board = page.locator('[role=application][data-view]');
    const box = (await board.count()) ? await board.boundingBox({ timeout: 1000 }).catch(() => null) : null;
    const view = box && (await board.getAttribute('data-view', { timeout: 1000 }).catch(() => null));
    if (box && view) {
      const map = await board.getAttribute('data-map', { timeout: 1000 }).catch(() => null);
      return { left: box.x, top: box.y, view: view.split(' ').map(Number), map };
    }
    await page.waitForTimeout(100);
  }
  throw new Error('no board');
}

/** Where a place of the part, in mm from the datum, is on screen once the picture is true. */
export async function truePlace(page: Page, xMm: number, yMm: number): Promise<{ x: number; y: number }> {
  const { left, top, view } = await boardOf(page);
  return { x: left + (xMm - view[0]!) * view[2]!, y: top + (-yMm - view[1]!) * view[2]! };
}

/** Where a pixel of the original picture is on screen, true or not. */
export async function pixelPlace(page: Page, [uPx, vPx]: readonly [number, number]): Promise<{ x: number; y: number }> {
  const { left, top, view, map } = await boardOf(page);
  const place = map ? planeMapper(JSON.parse(map)).toPart({ uPx, vPx }) : { xMm: uPx, yMm: -vPx };
  if (!place) throw new Error('not on the board');
  return { x: left + (place.xMm - view[0]!) * view[2]!, y: top + (-place.yMm - view[1]!) * view[2]! };
}

/** Where a place of the demo's plate (its own mm, on its upper face) is pictured. */
export function platePixel({ scene }: Truth, x: number, y: number): [number, number] {
  const plate = scene.items[0]!;
  const [sx, sy] = toScene(plate.lie, x, y);
  const at = pictureOf(buildCamera(scene.camera), { x: sx, y: sy, z: plate.base + plate.thickness });
  if (!at) throw new Error('not pictured');
  return at;
}

/** Zooms in on a pixel, presses there as a person under the loupe does, and shows the whole again. */
export async function pressPixel(page: Page, pixel: readonly [number, number]): Promise<void> {
  const far = await pixelPlace(page, pixel);
  await page.mouse.move(far.x, far.y);
  await zoom(page, -900);
  await press(page, await pixelPlace(page, pixel));
  await page.waitForTimeout(250);
  await zoom(page, 900);
}

/** Turns the wheel, and waits until the board shows it, however slow the machine is. */
async function zoom(page: Page, by: number): Promise<void> {
  const before = (await boardOf(page)).view.join(' ');
  await page.mouse.wheel(0, by);
  for (let k = 0; k < 40 && (await boardOf(page)).view.join(' ') === before; k++) await page.waitForTimeout(25);
}

/** A place of the demo's plate (its own mm) in the datum that has zero at graduation 0 and X along the rule. */
export function plateInRule({ scene }: Truth, x: number, y: number): [number, number] {
  const lie = (kind: string) => scene.items.find((i) => i.kind === kind)!.lie;
  const [plate, rule] = [lie('plate'), lie('rule')];
  const sx = plate.x + Math.cos(plate.turn) * x - Math.sin(plate.turn) * y - rule.x;
  const sy = plate.y + Math.sin(plate.turn) * x + Math.cos(plate.turn) * y - rule.y;
  return [Math.cos(rule.turn) * sx + Math.sin(rule.turn) * sy, Math.cos(rule.turn) * sy - Math.sin(rule.turn) * sx + 2];
}

/** Two readings on the rule, 0 and 150, typed; then the picture is true. */
export async function takeReadings(page: Page, truth: Truth): Promise<void> {
  await page.keyboard.press('q');
  for (const g of ['graduation 0', 'graduation 150']) {
    await press(page, await untruePlace(page, ...markOf(truth, 'rule', g)));
    await page.waitForTimeout(250);
  }
  await page.getByRole('heading', { name: 'What lies between the two readings?' }).waitFor();
  await page.keyboard.type('150');
  await page.keyboard.press('Enter');
  await page.getByText(/100 mm in the middle are good to/).waitFor();
}

/** Answers the question for the heights: what lies there is thin. */
export async function sayThin(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'It is thin, up to 0.3 mm' }).click();
  await page.getByText('How thick is the part?').waitFor({ state: 'detached' });
}

/** Two places of the plate with the tool in hand. */
export async function pressPlate(
  page: Page,
  truth: Truth,
  places: readonly (readonly [number, number])[],
): Promise<void> {
  for (const [x, y] of places) {
    await press(page, await truePlace(page, ...plateInRule(truth, x, y)));
    await page.waitForTimeout(250);
  }
}

/** Drags as a person does: presses, moves over halfway, waits for the loupe, lets go. */
export async function drag(page: Page, from: { x: number; y: number }, to: { x: number; y: number }): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2);
  await page.mouse.move(to.x, to.y);
  await page.waitForTimeout(250);
  await page.mouse.up();
  await page.waitForTimeout(500);
}

/** Job files with the plate's picture true, by how they were made: the first test of a file makes one, the others open it. */
const trued = new WeakMap<Bench, Map<string, Buffer>>();

/** The plate in Trace, true by two readings; `thin`: what lies there was said to be thin. */
export async function openTrued(bench: Bench, page: Page, truth: Truth, thin = false): Promise<void> {
  const known = trued.get(bench) ?? new Map<string, Buffer>();
  trued.set(bench, known);
  const kept = known.get(String(thin));
  if (kept) {
    await openBareRack(bench, page);
    const file = { name: 'true.moth', mimeType: 'application/octet-stream', buffer: kept };
    await page.getByLabel('Picture or job file').setInputFiles(file);
    await page.getByRole('navigation', { name: 'Steps' }).waitFor();
  } else {
    await openDemo(bench, page, 'true');
    await takeReadings(page, truth);
    if (thin) await sayThin(page);
    await goTo(page, 'Hand over');
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Download the job' }).click(),
    ]);
    known.set(String(thin), readFileSync(await file.path()));
  }
  await goTo(page, 'Trace');
  await pictureShown(page);
}
