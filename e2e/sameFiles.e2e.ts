import { readFileSync } from 'node:fs';
import { strFromU8, unzipSync } from 'fflate';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { DXF_USUAL, PROFILE_FORMATS, readJobFile, writeProfile } from '../core/src/format';
import { BODY_FORMATS } from '../core/src/format/body';
import type { JobDocument } from '../core/src/job';
import { makeBody, makeProfile } from '../core/src/script';
import type { Kernel } from '../core/src/solid/kernel';
import { openKernel } from '../scripts/openKernel';
import { type Bench, goTo, openBench, openPage, openRack } from './harness';

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

/** The volume within a binary STL's triangles, mm³. */
function volumeInStl(bytes: Uint8Array): number {
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  let sum = 0;
  for (let k = 0; k < view.getUint32(80, true); k++) {
    const [a, b, c] = [0, 1, 2].map((v) =>
      [0, 1, 2].map((n) => view.getFloat32(84 + 50 * k + 12 + 12 * v + 4 * n, true)),
    ) as [number[], number[], number[]];
    sum +=
      a[0]! * (b[1]! * c[2]! - b[2]! * c[1]!) +
      a[1]! * (b[2]! * c[0]! - b[0]! * c[2]!) +
      a[2]! * (b[0]! * c[1]! - b[1]! * c[0]!);
  }
  return sum / 6;
}

/** How many faces and vertices a STEP file has, and the box round its points. */
function outlineOfStep(bytes: Uint8Array): { faces: number; vertices: number; box: number[] } {
  const text = Buffer.from(bytes).toString('latin1');
  const count = (what: string) => text.split(`= ${what}(`).length - 1;
  const points = [...text.matchAll(/CARTESIAN_POINT\('',\(([^,)]+),([^,)]+),([^,)]+)\)\)/g)].map((m) =>
    m.slice(1, 4).map(Number),
  );
  const box = [0, 1, 2].flatMap((n) => [Math.min(...points.map((p) => p[n]!)), Math.max(...points.map((p) => p[n]!))]);
  return { faces: count('ADVANCED_FACE'), vertices: count('VERTEX_POINT'), box };
}

/** The box round the vertices of a 3MF. */
function boxIn3mf(bytes: Uint8Array): number[] {
  const text = strFromU8(unzipSync(bytes)['3D/3dmodel.model']!);
  const of = (axis: string) =>
    [...text.matchAll(new RegExp(`<vertex[^>]* ${axis}="([^"]+)"`, 'g'))].map((m) => Number(m[1]));
  return ['x', 'y', 'z'].flatMap((axis) => [
    of(axis).reduce((a, b) => Math.min(a, b), Number.POSITIVE_INFINITY),
    of(axis).reduce((a, b) => Math.max(a, b), Number.NEGATIVE_INFINITY),
  ]);
}

/** Bodies are worked out to the last digits of each machine's own mathematics: these are the same but for them. */
function expectSameBody(own: Uint8Array, other: Uint8Array, format: string): void {
  // The last digits decide which of two corners that cost alike goes first: volumes agree well within the tolerance's share.
  if (format === 'stl') expect(volumeInStl(own) / volumeInStl(other)).toBeCloseTo(1, 4);
  if (format === '3mf') {
    const other3mf = boxIn3mf(other);
    boxIn3mf(own).forEach((v, k) => {
      // Which corners of a round went is not the same in two engines: each keeps within the tolerance, mm.
      expect(Math.abs(v - other3mf[k]!)).toBeLessThan(0.05);
    });
    expect(other3mf.every(Number.isFinite)).toBe(true);
  }
  if (format !== 'step') return;
  const [a, b] = [outlineOfStep(own), outlineOfStep(other)];
  expect([a.faces, a.vertices]).toEqual([b.faces, b.vertices]);
  a.box.forEach((v, k) => {
    expect(v).toBeCloseTo(b.box[k]!, 6);
  });
}

it.each(JOBS)(
  'the screen hands over $job as a script does: profiles byte for byte, and the same body',
  async ({ file, job: name }) => {
    const job = jobIn(file);
    const { page, context, faults } = await openPage(bench);
    await openRack(bench, page);
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
        expectSameBody(bytes, made.file.bytes, format);
      }
    expect(faults).toEqual([]);
    await context.close();
  },
);
