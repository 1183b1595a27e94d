import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import { type Bench, DEMO_FOLDER, goTo, openBench, openPage, openRack, pictureShown } from '../../e2e/harness';

/** What bringing pictures in and preparing them costs, in the browser. */
export interface PictureTimes {
  /** From the dropped file to its picture on the board, ms, by kind of file; null where none could be made. */
  firstView: Record<string, number | null>;
  /** Redrawings a second while a slider is dragged. */
  tonesPerSecond: number;
  clearPerSecond: number;
  grownPerSecond: number;
  /** Memory of the tab with ten 12-megapixel pictures, bytes: as the browser counts it, and as the system does. */
  countedBytes: number;
  residentBytes: number;
}

export async function timePictures(): Promise<PictureTimes> {
  const folder = mkdtempSync(join(tmpdir(), 'moth-bench-'));
  const demo = `${DEMO_FOLDER}/latch-plate.jpg`;
  const png = join(folder, 'picture.png');
  const tiff = join(folder, 'picture.tif');
  const large = join(folder, 'large.jpg');
  await sharp(demo).png().toFile(png);
  await sharp(demo).tiff({ compression: 'lzw' }).toFile(tiff);
  await sharp(demo).resize(8192, 6144).jpeg({ quality: 90 }).toFile(large);
  const files: Record<string, string | null> = {
    JPEG: demo,
    PNG: png,
    TIFF: tiff,
    HEIC: heicOf(png, folder),
    '50 MP': large,
  };
  const bench = await openBench();
  const firstView: Record<string, number | null> = {};
  for (const [kind, file] of Object.entries(files)) firstView[kind] = file ? await timeFirstView(bench, file) : null;
  const sliders = await timeSliders(bench);
  const memory = await weighTen(bench, demo, folder);
  await bench.close();
  return { firstView, ...sliders, ...memory };
}

/** A HEIC of the same picture, where this machine has an encoder. */
function heicOf(png: string, folder: string): string | null {
  const path = join(folder, 'picture.heic');
  try {
    execFileSync('heif-enc', ['-q', '80', '-o', path, png], { stdio: 'ignore' });
    return path;
  } catch {
    return null;
  }
}

/** The median of three drops, each in a fresh browser profile. */
async function timeFirstView(bench: Bench, file: string): Promise<number> {
  const times: number[] = [];
  for (let k = 0; k < 3; k++) {
    const { page, context } = await openPage(bench);
    await openRack(bench, page);
    await page.waitForTimeout(1500);
    const started = Date.now();
    await page.getByLabel('Picture or job file').setInputFiles(file);
    await page.getByRole('navigation', { name: 'Steps' }).waitFor({ timeout: 60_000 });
    await pictureShown(page);
    times.push(Date.now() - started);
    await context.close();
  }
  return times.sort((a, b) => a - b)[1]!;
}

async function timeSliders(
  bench: Bench,
): Promise<Pick<PictureTimes, 'tonesPerSecond' | 'clearPerSecond' | 'grownPerSecond'>> {
  const { page, context } = await openPage(bench);
  await openRack(bench, page);
  await page.getByRole('link', { name: /Latch plate/ }).click();
  await goTo(page, 'Picture');
  await pictureShown(page);
  await page.waitForTimeout(1500);
  await page.evaluate(() => {
    const seen: number[] = [];
    const own = CanvasRenderingContext2D.prototype.drawImage;
    CanvasRenderingContext2D.prototype.drawImage = function (this: CanvasRenderingContext2D, ...args: unknown[]) {
      seen.push(performance.now());
      return (own as (...a: unknown[]) => void).apply(this, args);
    } as typeof own;
    Object.assign(window, { drawn: seen });
  });
  const tonesPerSecond = await dragSlider(page, 'Darkest', 260);
  await page.keyboard.press('e');
  await page.getByRole('radio', { name: 'all of its colour' }).click();
  const box = await page.getByRole('application').boundingBox();
  if (!box) throw new Error('no board');
  await page.mouse.click(box.x + box.width / 2, box.y + 60);
  await page.getByText('cleared').waitFor();
  await page.waitForTimeout(1500);
  const clearPerSecond = await dragSlider(page, 'How unlike it may be', 120);
  await page.keyboard.press('e');
  await page.getByRole('radio', { name: 'all that joins it' }).click();
  await page.mouse.click(box.x + box.width / 2, box.y + 60);
  await page.waitForTimeout(1500);
  const grownPerSecond = await dragSlider(page, 'How unlike it may be', 120);
  await context.close();
  return { tonesPerSecond, clearPerSecond, grownPerSecond };
}

/** Moves a slider to and fro for two seconds, and counts how often the picture is drawn anew. */
async function dragSlider(page: Page, name: string, reach: number): Promise<number> {
  const thumb = page.getByRole('slider', { name });
  await thumb.scrollIntoViewIfNeeded();
  const box = await thumb.boundingBox();
  if (!box) throw new Error(`no slider ${name}`);
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  const from = await page.evaluate(() => (window as unknown as { drawn: number[] }).drawn.length);
  await page.mouse.move(x, y);
  await page.mouse.down();
  const started = Date.now();
  for (let k = 0; Date.now() - started < 2000; k++)
    await page.mouse.move(x + Math.abs(((k * 3) % (2 * reach)) - reach) / 2, y);
  const seconds = (Date.now() - started) / 1000;
  const to = await page.evaluate(() => (window as unknown as { drawn: number[] }).drawn.length);
  await page.mouse.up();
  return (to - from) / seconds;
}

async function weighTen(
  bench: Bench,
  demo: string,
  folder: string,
): Promise<Pick<PictureTimes, 'countedBytes' | 'residentBytes'>> {
  const { page, context } = await openPage(bench);
  await openRack(bench, page);
  await page.getByRole('link', { name: /Latch plate/ }).click();
  await goTo(page, 'Picture');
  await pictureShown(page);
  const more: string[] = [];
  for (let k = 1; k < 10; k++) {
    const path = join(folder, `more-${k}.jpg`);
    await sharp(demo)
      .modulate({ brightness: 1 + k / 40 })
      .jpeg({ quality: 90 })
      .toFile(path);
    more.push(path);
  }
  await page.getByLabel('Pictures to add').setInputFiles(more);
  const list = page.getByRole('region', { name: 'Pictures of this job' }).getByRole('listitem');
  for (let k = 0; k < 120 && (await list.count()) < 10; k++) await page.waitForTimeout(500);
  await page.waitForTimeout(8000);
  const countedBytes = await page.evaluate(async () => {
    const measure = (performance as unknown as { measureUserAgentSpecificMemory(): Promise<{ bytes: number }> })
      .measureUserAgentSpecificMemory;
    return (await measure.call(performance)).bytes;
  });
  const residentBytes = largestRenderer();
  await context.close();
  return { countedBytes, residentBytes };
}

/** Resident memory of the largest renderer process: the tab that is looked at. */
function largestRenderer(): number {
  let most = 0;
  for (const id of readdirSync('/proc').filter((name) => /^\d+$/.test(name)))
    try {
      if (!readFileSync(`/proc/${id}/cmdline`, 'utf8').includes('--type=renderer')) continue;
      const kib = Number(/VmRSS:\s+(\d+) kB/.exec(readFileSync(`/proc/${id}/status`, 'utf8'))?.[1] ?? 0);
      most = Math.max(most, kib * 1024);
    } catch {
      // A process that ended between being listed and being read.
    }
  return most;
}
