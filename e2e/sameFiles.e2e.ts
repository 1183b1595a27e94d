import { readFileSync } from 'node:fs';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { DXF_USUAL, PROFILE_FORMATS, readJobFile, writeProfile } from '../core/src/format';
import { BODY_FORMATS } from '../core/src/format/body';
import type { JobDocument } from '../core/src/job';
import { makeBody, makeProfile } from '../core/src/script';
import type { Kernel } from '../core/src/solid/kernel';
import { openKernel } from '../scripts/openKernel';
import { type Bench, goTo, openBareRack, openBench, openPage } from './harness';

let bench: Bench;
let oc: Kernel;
beforeAll(async () => {
  bench = await openBench();
  oc = await openKernel();
});
afterAll(() => bench.close());

const JOBS = JSON.parse(readFileSync(new URL('../demo/jobs/index.json', import.meta.url), 'utf8')) as {
  file: string;
  job: string;
}[];

function jobIn(file: string): JobDocument {
  const opened = readJobFile(new Uint8Array(readFileSync(new URL(`../demo/jobs/${file}`, import.meta.url))));
  if (!opened.ok) throw new Error(opened.reason);
  return opened.job;
}

async function downloaded(page: Page, format: string): Promise<{ bytes: Uint8Array; date: string }> {
  const date = new Date().toISOString().slice(0, 10);
  const [file] = await Promise.all([
    page.waitForEvent('download', { timeout: 60_000 }),
    page.getByRole('button', { name: `Download ${format.toUpperCase()}`, exact: true }).click(),
  ]);
  return { bytes: new Uint8Array(readFileSync(await file.path())), date };
}

/** The same bytes; where they differ, what stands there is shown rather than thousands of numbers. */
function expectSame(own: Uint8Array, other: Uint8Array, what: string): void {
  const at = own.findIndex((byte, k) => byte !== other[k]);
  const near = (bytes: Uint8Array) => Buffer.from(bytes.slice(Math.max(0, at - 60), at + 60)).toString('latin1');
  if (at >= 0) expect(near(own), `${what}, from byte ${at} on`).toBe(near(other));
  expect(own.length, what).toBe(other.length);
}

it.each(JOBS)('the screen hands over $job as a script does, byte for byte', async ({ file, job: name }) => {
  const job = jobIn(file);
  const { page, context, faults } = await openPage(bench);
  await openBareRack(bench, page);
  await page.getByRole('button', { name, exact: true }).click();
  await page.getByRole('heading', { name: 'Trace', exact: true }).waitFor({ timeout: 30_000 });
  await goTo(page, 'Hand over');
  await page.getByRole('button', { name: 'Download SVG' }).and(page.locator(':enabled')).waitFor({ timeout: 30_000 });
  for (const format of PROFILE_FORMATS) {
    const { bytes, date } = await downloaded(page, format);
    const made = makeProfile(job, { date, notes: true, sizes: false, view: null });
    if (!made.ok) throw new Error(made.reason);
    const written = await writeProfile(made.profile, format, DXF_USUAL);
    if (!written) throw new Error('nothing was written');
    expectSame(bytes, written, `${name} as ${format}`);
  }
  if (job.part.features.length > 0)
    for (const format of BODY_FORMATS) {
      const { bytes, date } = await downloaded(page, format);
      const made = makeBody(oc, job, format, { date, toleranceMm: 0.05 });
      if (!made.ok) throw new Error(made.reason);
      expectSame(bytes, made.file.bytes, `${name} as ${format}`);
    }
  expect(faults).toEqual([]);
  await context.close();
});
