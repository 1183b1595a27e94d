import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { openBench, openPage, openRack, pictureShown } from '../../e2e/harness';
import { type LoadSize, makeLoadJob } from '../loadJob';

/** What a job of a size costs to open and to work on, ms; each answer is the median of some, and the slowest. */
export interface LoadTimes {
  /** From the address to the first picture on the board, and to the traces over it. */
  firstPictureMs: number;
  pan: Answer;
  zoom: Answer;
  drag: Answer;
  /** Longest task of the main thread while it was opened, and while it was worked on. */
  longestOpeningMs: number;
  longestWorkingMs: number;
  /** Frames a second while it is drawn along, and of an empty page that does nothing, in the same browser. */
  frames: { panning: number; empty: number };
}

interface Answer {
  medianMs: number;
  worstMs: number;
}

/** Opens a job of a size in a browser of its own, and works on it. */
export async function timeLoad(size: LoadSize): Promise<LoadTimes> {
  const folder = mkdtempSync(join(tmpdir(), 'moth-load-'));
  const path = join(folder, 'load.moth');
  writeFileSync(path, makeLoadJob(size).file);
  const bench = await openBench();
  try {
    const { page } = await openPage(bench);
    await openRack(bench, page);
    await page.getByLabel('Picture or job file').setInputFiles(path);
    await page.waitForURL(/\/job\/.*\/trace$/, { timeout: 240_000 });
    const url = page.url();
    // From the rack, and with nothing at hand: as on another day.
    await page.close();
    const fresh = await page.context().newPage();
    await watchTasks(fresh);
    const began = Date.now();
    await fresh.goto(url);
    await pictureShown(fresh);
    const firstPictureMs = Date.now() - began;
    await fresh.waitForTimeout(4000);
    const longestOpeningMs = await longestTask(fresh);
    const pan = await answers(fresh, 'pan');
    const zoom = await answers(fresh, 'zoom');
    const drag = await answers(fresh, 'drag');
    const longestWorkingMs = await longestTask(fresh);
    const panning = await framesOf(fresh);
    const blank = await fresh.context().newPage();
    await blank.addInitScript('globalThis.__name ??= (named) => named');
    await blank.goto('about:blank');
    const frames = { panning, empty: await framesOf(blank) };
    return { firstPictureMs, pan, zoom, drag, longestOpeningMs, longestWorkingMs, frames };
  } finally {
    await bench.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

async function watchTasks(page: Page): Promise<void> {
  // The compiler marks functions by a helper of its own, which the page does not have.
  await page.addInitScript('globalThis.__name ??= (named) => named');
  await page.addInitScript(() => {
    const tasks: number[] = [];
    new PerformanceObserver((list) => tasks.push(...list.getEntries().map((e) => e.duration))).observe({
      entryTypes: ['longtask'],
    });
    Object.assign(window, { longTasks: tasks });
  });
}

/** The longest task since it was last asked for. */
const longestTask = (page: Page): Promise<number> =>
  page.evaluate(() => Math.max(0, ...(window as unknown as { longTasks: number[] }).longTasks.splice(0)));

/** Frames a second over some seconds; where there is a board it is drawn along by a few pixels each frame. */
const framesOf = (page: Page): Promise<number> =>
  page.evaluate(async () => {
    const board = document.querySelector('[role=application]');
    const frame = () => new Promise<number>((resolve) => requestAnimationFrame(resolve));
    const began = await frame();
    for (let count = 1; ; count++) {
      board?.dispatchEvent(
        new WheelEvent('wheel', { bubbles: true, cancelable: true, deltaX: count % 100 < 50 ? 3 : -3, deltaY: 0.5 }),
      );
      const ms = (await frame()) - began;
      if (ms > 4000) return (1000 * count) / ms;
    }
  });

const TIMES = 15;
/** Longer than this is no answer, ms. */
const NO_ANSWER_MS = 5000;

/** From an event to the frame that shows what it did: the events come from within the page, one after the other. */
async function answers(page: Page, how: 'pan' | 'zoom' | 'drag'): Promise<Answer> {
  const times = await page.evaluate(
    async ([kind, count, most]) => {
      const board = document.querySelector('[role=application]') as HTMLElement;
      const box = board.getBoundingClientRect();
      const middle = { clientX: box.left + box.width / 2, clientY: box.top + box.height / 2 };
      const pointer = (type: string, dx: number, dy: number) =>
        board.dispatchEvent(
          new PointerEvent(type, {
            bubbles: true,
            pointerId: 1,
            button: type === 'pointermove' ? -1 : 0,
            buttons: 1,
            clientX: middle.clientX + dx,
            clientY: middle.clientY + dy,
          }),
        );
      const wheel = (options: WheelEventInit) =>
        board.dispatchEvent(new WheelEvent('wheel', { bubbles: true, cancelable: true, ...middle, ...options }));
      // A synthetic pointer cannot be captured.
      board.setPointerCapture = () => {};
      const answered = () =>
        new Promise<void>((resolve) => {
          const done = () => {
            watch.disconnect();
            requestAnimationFrame(() => setTimeout(resolve));
          };
          const watch = new MutationObserver(done);
          watch.observe(board, { subtree: true, attributes: true, childList: true });
          setTimeout(done, most);
        });
      const all: number[] = [];
      if (kind === 'drag') pointer('pointerdown', 0, 0);
      for (let k = 1; k <= count; k++) {
        const began = performance.now();
        const answer = answered();
        if (kind === 'pan') wheel({ deltaX: 7.5, deltaY: k % 2 ? 5.5 : -5.5 });
        else if (kind === 'zoom') wheel({ ctrlKey: true, deltaY: k % 2 ? -4.5 : 4.5 });
        else pointer('pointermove', 6 + 2 * k, 4 + k);
        await answer;
        all.push(performance.now() - began);
        await new Promise((resolve) => setTimeout(resolve, 30));
      }
      if (kind === 'drag') pointer('pointerup', 6 + 2 * count, 4 + count);
      return all;
    },
    [how, TIMES, NO_ANSWER_MS] as const,
  );
  if (how === 'drag') await page.waitForTimeout(1500);
  const sorted = times.sort((p, q) => p - q);
  return { medianMs: sorted[sorted.length >> 1]!, worstMs: sorted[sorted.length - 1]! };
}
