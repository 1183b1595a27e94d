import {
  DEMO_FOLDER,
  goTo,
  openBench,
  openPage,
  openRack,
  pictureShown,
  takeReadings,
  truthOf,
} from '../../e2e/harness';

/** What a person waits for in the browser, ms, and the longest the main thread was held up meanwhile. */
export interface BrowserTimes {
  copyMs: number;
  /** From the dropped file to its picture on the board. */
  firstViewMs: number;
  /** Longest task of the main thread from the drop to the true picture, start of the page left out. */
  longestTaskMs: number;
}

export async function timeBrowser(): Promise<BrowserTimes> {
  const bench = await openBench();
  const { page } = await openPage(bench);
  await openRack(bench, page);
  await page.waitForTimeout(1000);
  const copyMs = await page.evaluate(() => {
    const data = new Uint8ClampedArray(4032 * 3024 * 4).fill(7);
    const copy = new Uint8ClampedArray(data.length);
    const times = Array.from({ length: 5 }, () => {
      const started = performance.now();
      copy.set(data);
      return performance.now() - started;
    });
    return times.sort((a, b) => a - b)[2]!;
  });
  await page.evaluate(() => {
    const tasks: number[] = [];
    new PerformanceObserver((list) => tasks.push(...list.getEntries().map((e) => e.duration))).observe({
      entryTypes: ['longtask'],
    });
    Object.assign(window, { longTasks: tasks });
  });
  const started = Date.now();
  await page.getByLabel('Picture or job file').setInputFiles(`${DEMO_FOLDER}/latch-plate.jpg`);
  await pictureShown(page);
  const firstViewMs = Date.now() - started;
  await takeReadings(page, truthOf('latch-plate'));
  await goTo(page, 'Trace');
  await pictureShown(page);
  const tasks = await page.evaluate(() => (window as unknown as { longTasks: number[] }).longTasks);
  await bench.close();
  return { copyMs, firstViewMs, longestTaskMs: Math.max(0, ...tasks) };
}

/** From Solid being opened for the first time to a small body that is shown, and to its figures, ms: the kernel is fetched and started. */
export async function timeKernel(): Promise<{ shownMs: number; figuresMs: number }> {
  const bench = await openBench();
  const { page } = await openPage(bench);
  await openRack(bench, page);
  await page.getByRole('button', { name: 'Lamp gasket', exact: true }).click();
  await page.getByRole('navigation', { name: 'Steps' }).waitFor();
  await goTo(page, 'Hand over');
  await pictureShown(page);
  const began = Date.now();
  await page.getByRole('link', { name: /^Solid/ }).click();
  const cells = page.getByRole('region', { name: 'Readout' });
  await cells.getByText(/\d × \d/).waitFor();
  const shownMs = Date.now() - began;
  await cells.getByText(/cm³|in³/).waitFor();
  const figuresMs = Date.now() - began;
  await bench.close();
  return { shownMs, figuresMs };
}
