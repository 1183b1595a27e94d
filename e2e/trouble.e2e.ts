import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { makeLoadJob } from '../bench/loadJob';
import { readJobFile } from '../core/src/format/jobFile';
import {
  type Bench,
  DEMO_FOLDER,
  FLAGS,
  goTo,
  openBareRack,
  openBench,
  openDemo,
  openPage,
  openRack,
  pictureShown,
  pressPlate,
  takeReadings,
  truthOf,
} from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const truth = truthOf('latch-plate');
const inches = (page: Page) => page.getByRole('radio', { name: 'in', exact: true });

it('reads several pictures at once, again and again, and is never left reading', async () => {
  const { page, context } = await openPage(bench);
  await openDemo(bench, page, 'picture');
  const files = ['lamp-gasket', 'baffle-pattern', 'funnel-bracket'].map((name) => `${DEMO_FOLDER}/${name}-small.jpg`);
  const list = page.getByRole('region', { name: 'Pictures of this job' });
  for (let k = 1; k <= 4; k++) {
    await page.locator('input[type=file]').first().setInputFiles(files);
    // More come while these are being read: they wait for their turn.
    if (k === 4)
      await page
        .locator('input[type=file]')
        .first()
        .setInputFiles([`${DEMO_FOLDER}/plywood-offcut-small.jpg`]);
    await expect
      .poll(() => list.getByRole('listitem').count(), { timeout: 40_000 })
      .toBe(1 + 3 * k + (k === 4 ? 1 : 0));
  }
  await page.waitForTimeout(800);
  expect(await page.getByText(/^Reading /).count()).toBe(0);
  // Another picture is chosen while the dialog for files is open: what is picked in it then still arrives.
  const dialog = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Add pictures' }).click();
  await list.getByRole('button', { name: 'latch-plate.jpg', exact: true }).click();
  await (await dialog).setFiles(`${DEMO_FOLDER}/plywood-offcut-small.jpg`);
  await expect.poll(() => list.getByRole('listitem').count(), { timeout: 20_000 }).toBe(15);
  await context.close();
});

it('opens jobs over plain http under another name, where one tab writes and the other may take over', async () => {
  const { url } = bench;
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [...FLAGS, '--host-resolver-rules=MAP bench.test 127.0.0.1'],
  });
  const there = { ...bench, url: url.replace('127.0.0.1', 'bench.test'), browser };
  const { page, context, faults } = await openPage(there);
  await openDemo(there, page, 'true');
  expect(await page.evaluate(() => [window.isSecureContext, 'locks' in navigator])).toEqual([false, false]);
  await inches(page).click();
  await page.getByRole('button', { name: 'Undo: change the unit' }).waitFor();
  await page.getByText(/^Saved/).waitFor();
  const second = await context.newPage();
  await second.goto(page.url());
  await second.getByText(/open in another tab/).waitFor();
  await second.getByRole('button', { name: 'Work here instead' }).click();
  await page.getByText(/open in another tab/).waitFor();
  await second.getByRole('radio', { name: 'mm', exact: true }).click();
  await second.getByText(/^Saved/).waitFor();
  expect(faults.filter((f) => !f.includes('Cross-Origin'))).toEqual([]);
  await browser.close();
});

it('keeps a job that was deleted in another tab: nothing says that it is saved until it hangs again, picture and all', async () => {
  const { page, context } = await openPage(bench);
  await openDemo(bench, page, 'true');
  const second = await context.newPage();
  await openRack(bench, second);
  // The rack refuses while the job is open.
  await second.getByRole('button', { name: 'Delete Latch plate' }).click();
  await second.getByRole('button', { name: 'Delete it' }).click();
  await second.getByText(/open in another tab. Close it there first/).waitFor();
  await second.getByRole('button', { name: 'Keep it' }).click();
  // Whatever deleted it: it is gone, and its picture with it.
  const id = page.url().split('/')[4];
  await second.evaluate(
    (job) =>
      new Promise<void>((resolve, reject) => {
        const open = indexedDB.open('steady-moth');
        open.onsuccess = () => {
          const change = open.result.transaction(['jobs', 'blobs'], 'readwrite');
          change.objectStore('jobs').delete(job!);
          change.objectStore('blobs').clear();
          change.oncomplete = () => (open.result.close(), resolve());
          change.onerror = () => reject(change.error);
        };
      }),
    id,
  );
  await second.close();
  await inches(page).click();
  await page.getByText(/it was deleted in another tab/).waitFor();
  await page.getByText('Not saved', { exact: true }).waitFor();
  await page.getByRole('button', { name: 'Hang it again' }).click();
  await page.getByText(/^Saved/).waitFor();
  await page.reload();
  await pictureShown(page);
  await page.getByRole('button', { name: 'Undo: change the unit' }).waitFor();
  await context.close();
});

it('asks before a job is left whose last change is not saved', async () => {
  const { page, context } = await openPage(bench);
  await openDemo(bench, page, 'true');
  await page.evaluate(() => {
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('full', 'QuotaExceededError');
    };
  });
  await inches(page).click();
  await page.getByText(/disk is full/).waitFor();
  await page.getByRole('link', { name: 'Rack', exact: true }).click();
  const asked = page.getByRole('dialog', { name: 'Leave without the last changes?' });
  const saved = page.waitForEvent('download');
  await asked.getByRole('button', { name: 'Save as a file' }).click();
  const read = readJobFile(new Uint8Array(readFileSync(await (await saved).path())));
  expect(read.ok && read.job.unit).toBe('in');
  await asked.getByRole('button', { name: 'Stay here' }).click();
  await page.getByRole('button', { name: 'Undo: change the unit' }).waitFor();
  await page.getByRole('link', { name: 'Rack', exact: true }).click();
  await asked.getByRole('button', { name: 'Leave without them' }).click();
  await page.getByRole('heading', { name: 'Latch plate' }).waitFor();
  await context.close();
});

it('has a page for what cannot be opened, and what is stored stays within reach', async () => {
  const { page, context } = await openPage(bench);
  await openDemo(bench, page, 'true');
  const url = page.url();
  await page.evaluate(
    (job) =>
      new Promise<void>((resolve) => {
        const open = indexedDB.open('steady-moth');
        open.onsuccess = () => {
          const jobs = open.result.transaction('jobs', 'readwrite').objectStore('jobs');
          const asked = jobs.get(job!);
          asked.onsuccess = () => {
            const document = JSON.parse(asked.result.document);
            document.unit = 'furlong';
            jobs.put({ ...asked.result, document: JSON.stringify(document) });
            jobs.transaction.oncomplete = () => (open.result.close(), resolve());
          };
        };
      }),
    url.split('/')[4],
  );
  await page.goto(url);
  await page.getByText(/does not hold together, at \/unit/).waitFor();
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save the job as a file' }).click();
  const bytes = readFileSync(await (await saved).path());
  // The picture is in it, and the file says what is wrong with it.
  expect(bytes.length).toBeGreaterThan(1e6);
  expect(readJobFile(new Uint8Array(bytes))).toEqual({ ok: false, reason: 'bad-field', place: '/unit' });
  await page.getByRole('button', { name: 'To the rack' }).click();
  await page.getByRole('heading', { name: 'Latch plate' }).waitFor();
  // A card that fails while it is drawn fails alone, and what it stands for can be saved and deleted.
  const failing = await context.newPage();
  await failing.addInitScript(() => {
    URL.createObjectURL = () => {
      throw new Error('on purpose');
    };
  });
  await failing.goto(bench.url);
  await failing.getByText('This job cannot be shown here.').first().waitFor();
  await failing.getByRole('button', { name: 'Save as a file' }).first().waitFor();
  await failing.getByLabel('Find a job').waitFor();
  // A page that fails while it is drawn, and a browser without storage.
  const broken = await context.newPage();
  await broken.addInitScript(() => {
    window.ResizeObserver = class {
      constructor() {
        throw new Error('on purpose');
      }
    } as unknown as typeof ResizeObserver;
  });
  await broken.goto(bench.url);
  await broken
    .getByRole('link', { name: /Lamp gasket/ })
    .first()
    .click();
  await broken.getByText(/This page stopped with a fault of ours. Your jobs are safe/).waitFor();
  await broken.getByText('on purpose').waitFor();
  const without = await context.newPage();
  await without.addInitScript(() => {
    IDBFactory.prototype.open = () => {
      throw new DOMException('no storage here', 'UnknownError');
    };
  });
  for (const path of [bench.url, url]) {
    await without.goto(path);
    await without.getByText(/storage does not answer/).waitFor();
  }
  await context.close();
});

it('reads a drawing that nothing ends', async () => {
  const { page, context } = await openPage(bench);
  await openDemo(bench, page, 'true');
  const dxf = [0, 'SECTION', 2, 'ENTITIES', 0, 'POLYLINE', 8, '0', 66, 1, 0, 'LINE', 8, '0', 10, 0, 20, 0];
  const buffer = Buffer.from([...dxf, 11, 40, 21, 20, 0, 'ENDSEC', 0, 'EOF'].join('\n'));
  await goTo(page, 'Picture');
  await page.locator('input[type=file]').first().setInputFiles({ name: 'stray.dxf', mimeType: '', buffer });
  await expect
    .poll(() => page.getByRole('region', { name: 'Pictures of this job' }).getByRole('listitem').count())
    .toBe(2);
  await context.close();
});

it('snaps again after the worker of the pixels died without a word', async () => {
  const { page, context } = await openPage(bench);
  await openDemo(bench, page, 'true');
  await takeReadings(page, truth);
  await goTo(page, 'Trace');
  await pictureShown(page);
  const worker = page.workers().find((w) => w.url().includes('pixels.worker'));
  // As want of memory ends one: nobody is told.
  await worker?.evaluate(() => self.close());
  await page.keyboard.press('q');
  await pressPlate(page, truth, [[40, 0]]);
  await expect
    .poll(
      async () => {
        await page.mouse.move(500 + 40 * Math.random(), 400);
        return page.workers().filter((w) => w.url().includes('pixels.worker') && w !== worker).length;
      },
      { timeout: 30_000 },
    )
    .toBe(1);
  await pictureShown(page);
  // What was begun meanwhile is over: each key is waited for, since the press that was lost may still hold it up.
  const line = page.getByRole('toolbar', { name: 'Tools' }).getByRole('button', { name: /^Line/ });
  await page.keyboard.press('Escape');
  await expect.poll(() => line.getAttribute('aria-pressed')).toBe('false');
  await page.keyboard.press('q');
  await expect.poll(() => line.getAttribute('aria-pressed')).toBe('true');
  await pressPlate(page, truth, [
    [4, 0],
    [76, 0],
  ]);
  await page.getByText('1 line').waitFor();
  await context.close();
});

/** As many as wanted: KILLS=30 npm run test:e2e. */
const KILLS = Number(process.env.KILLS ?? 3);

it('has in storage whatever the screen called saved, also when the browser is killed that moment', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'moth-kill-'));
  const start = async () => {
    const child = spawn(
      '/usr/bin/chromium',
      [
        ...FLAGS,
        '--headless',
        '--disable-gpu',
        '--remote-debugging-port=0',
        `--user-data-dir=${folder}`,
        'about:blank',
      ],
      { stdio: ['ignore', 'ignore', 'pipe'] },
    );
    const address = await new Promise<string>((resolve, reject) => {
      let said = '';
      child.stderr.on('data', (part) => {
        said += part;
        const found = /DevTools listening on (ws:\S+)/.exec(said);
        if (found) resolve(found[1]!);
      });
      child.on('exit', () => reject(new Error(said)));
    });
    const browser = await chromium.connectOverCDP(address);
    const [context] = browser.contexts();
    const kill = async () => {
      const gone = new Promise((resolve) => child.on('exit', resolve));
      child.kill('SIGKILL');
      await gone;
    };
    return { page: await context!.newPage(), kill };
  };
  let url = '';
  let count = 0;
  for (let k = 0; k < KILLS; k++) {
    const { page, kill } = await start();
    if (url) await page.goto(url);
    else {
      await openDemo(bench, page, 'true');
      url = page.url();
    }
    await page.getByLabel('Name of the job').waitFor();
    expect(await page.getByLabel('Name of the job').inputValue()).toBe(count ? `Name ${count}` : 'Latch plate');
    count += 1;
    await page.getByLabel('Name of the job').fill(`Name ${count}`);
    // The moment that the screen says so.
    const said = page.evaluate(
      () =>
        new Promise<void>((resolve) => {
          const saving = { seen: false };
          const look = () => {
            const text = document.querySelector('header [aria-live]')?.textContent ?? '';
            if (text.startsWith('Saving')) saving.seen = true;
            if (saving.seen && text.startsWith('Saved')) resolve();
            else requestAnimationFrame(look);
          };
          new MutationObserver(look).observe(document.body, { subtree: true, childList: true, characterData: true });
          look();
        }),
    );
    await page.getByLabel('Name of the job').press('Enter');
    await said;
    await kill();
  }
  const { page, kill } = await start();
  await page.goto(url);
  await page.getByLabel('Name of the job').waitFor();
  expect(await page.getByLabel('Name of the job').inputValue()).toBe(`Name ${count}`);
  await kill();
  try {
    rmSync(folder, { recursive: true, force: true, maxRetries: 20, retryDelay: 100 });
  } catch {
    // A killed browser's children may write for a while: what is left lies in the system's own temporary folder.
  }
});

it('opens a job of thousands of points, shows a path of it with its figures, and moves a point', async () => {
  const { page, context, faults } = await openPage(bench);
  await openBareRack(bench, page);
  const { file } = makeLoadJob({ pictures: 2, paths: 300, points: 9000 });
  await page
    .getByLabel('Picture or job file')
    .setInputFiles({ name: 'load.moth', mimeType: '', buffer: Buffer.from(file) });
  await page.waitForURL(/\/trace$/);
  await pictureShown(page);
  await page.locator('canvas[data-trace][data-painted=true]').waitFor();
  // Those in sight, and no more.
  const lines = page.getByRole('button', { name: /^Path \d+$/ });
  await expect.poll(() => lines.count()).toBeGreaterThan(3);
  expect(await lines.count()).toBeLessThan(60);
  await lines.nth(1).click();
  await page.getByText('Perimeter', { exact: true }).waitFor();
  await page.locator('aside dl .figure').filter({ hasText: '±' }).first().waitFor();
  const point = page.getByLabel('Path 2, point 1', { exact: true });
  await point.focus();
  const before = await point.boundingBox();
  await page.keyboard.press('ArrowRight');
  await page.getByRole('button', { name: 'Undo: move a point' }).waitFor();
  await page.getByText(/^Saved/).waitFor();
  await page.reload();
  await page.getByRole('button', { name: 'Undo: move a point' }).waitFor();
  expect(before).not.toBeNull();
  expect(faults).toEqual([]);
  await context.close();
});
