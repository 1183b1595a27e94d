import { execFileSync } from 'node:child_process';
import { appendFileSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Bench, DEMO_FOLDER, FLAGS, openBench } from './harness';

/** A file system of its own, so small that it can be filled; null where this account may not mount one. */
function smallDisk(): string | null {
  const folder = mkdtempSync(join(tmpdir(), 'small-disk-'));
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=90m', 'tmpfs', folder], { stdio: 'ignore' });
    return folder;
  } catch {
    rmSync(folder, { recursive: true });
    return null;
  }
}

let bench: Bench;
const disk = smallDisk();
beforeAll(async () => {
  bench = await openBench();
});
afterAll(async () => {
  await bench.close();
  if (!disk) return;
  execFileSync('umount', ['-l', disk]);
  rmSync(disk, { recursive: true });
});

const filler = () => join(disk!, 'filler');
/** To the last byte. */
function fill(): void {
  for (const bytes of [1 << 20, 1 << 16, 1 << 12])
    try {
      for (;;) appendFileSync(filler(), Buffer.alloc(bytes));
    } catch {
      // No more of these.
    }
}

const openBrowser = () =>
  chromium.launchPersistentContext(join(disk!, 'profile'), {
    executablePath: '/usr/bin/chromium',
    args: [...FLAGS, '--disk-cache-size=1', `--disk-cache-dir=${join(tmpdir(), 'small-disk-cache')}`],
    viewport: { width: 1280, height: 800 },
  });

/** All jobs with their revisions, and how many pictures: as the database has them. */
const stored = (page: Page): Promise<{ jobs: [string, number, string][]; pictures: number }> =>
  page.evaluate(
    () =>
      new Promise((resolve, reject) => {
        const open = indexedDB.open('steady-moth');
        open.onerror = () => reject(open.error);
        open.onsuccess = () => {
          const read = open.result.transaction(['jobs', 'blobs']);
          const jobs = read.objectStore('jobs').getAll();
          const blobs = read.objectStore('blobs').getAllKeys();
          read.oncomplete = () => {
            open.result.close();
            const unit = (document: string) => JSON.parse(document).unit as string;
            resolve({
              jobs: jobs.result.map((j) => [j.id, j.revision, unit(j.document)]),
              pictures: blobs.result.length,
            });
          };
        };
      }),
  );

const bring = (page: Page, name: string) =>
  page.locator('input[type=file]').first().setInputFiles(`${DEMO_FOLDER}/${name}.jpg`);

it.skipIf(!disk)(
  'keeps on a full disk what it said was saved, says what is not, and takes more when there is room',
  async () => {
    const context = await openBrowser();
    const page = context.pages()[0]!;
    await page.goto(bench.url);
    await page.getByRole('heading', { name: 'Latch plate' }).waitFor({ timeout: 60_000 });
    await bring(page, 'plywood-offcut');
    await page.waitForURL(/\/job\//, { timeout: 30_000 });
    await page.getByText(/^Saved/).waitFor();
    const own = page.url().split('/')[4]!;
    await page.waitForTimeout(4000);
    const before = await stored(page);
    const inches = page.getByRole('radio', { name: 'in', exact: true });
    const millimetres = page.getByRole('radio', { name: 'mm', exact: true });

    fill();
    // The last change still fits into what was held back for it.
    await inches.click();
    await expect.poll(async () => (await stored(page)).jobs.find(([id]) => id === own)).toEqual([own, 2, 'in']);
    await page.getByText(/^Saved/).waitFor();
    fill();
    await millimetres.click();
    await page.getByText(/The disk is full.*not saved/).waitFor();
    await page.getByText('Not saved', { exact: true }).waitFor();
    fill();
    await page.getByRole('button', { name: 'Try again' }).click();
    await page.getByText('Not saved', { exact: true }).waitFor();

    // A picture is refused before any of it is written.
    const rack = await context.newPage();
    await rack.goto(bench.url);
    await rack.getByRole('heading', { name: 'Latch plate' }).waitFor({ timeout: 30_000 });
    // The browser tidies up behind itself now and then, and so makes room.
    fill();
    await bring(rack, 'hanger-rail-left');
    await rack.getByText(/The disk is full.*not taken in/).waitFor({ timeout: 30_000 });
    await rack.close();
    const full = await stored(page);
    expect(full.jobs.map(([id]) => id)).toEqual(before.jobs.map(([id]) => id));
    expect(full.pictures).toBe(before.pictures);

    // Room again: the change that was refused is stored, and all is there after the browser was closed.
    rmSync(filler());
    await page.getByRole('button', { name: 'Try again' }).click();
    await page.getByText(/^Saved/).waitFor();
    await context.close();
    const again = await openBrowser();
    const next = again.pages()[0]!;
    await next.goto(`${bench.url}/job/${own}/true`);
    await next.getByText(/^Saved/).waitFor({ timeout: 30_000 });
    const after = await stored(next);
    expect(after.jobs.map(([id]) => id).sort()).toEqual(before.jobs.map(([id]) => id).sort());
    expect(after.jobs.find(([id]) => id === own)).toEqual([own, 3, 'mm']);
    expect(after.pictures).toBe(before.pictures);
    await again.close();
  },
  240_000,
);
