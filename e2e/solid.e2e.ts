import { readFileSync } from 'node:fs';
import { strFromU8, unzipSync } from 'fflate';
import { PDFDocument } from 'pdf-lib';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { readJobFile, writeJobFile } from '../core/src/format/jobFile';
import { pathsIn, type Sketch, sketchesOf } from '../core/src/sketch';
import { putPath } from '../core/src/sketch/traced.test-data';
import { FOCUS_KNOB } from '../rig/src/demo';
import { type Bench, drag, goTo, openBareRack, openBench, openPage } from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

async function openFinished(page: Page, name: string): Promise<void> {
  await openBareRack(bench, page);
  await page.getByRole('button', { name, exact: true }).click();
  await page.getByRole('navigation', { name: 'Steps' }).waitFor();
}

/** Cubic centimetres that the readout shows. */
const volume = async (page: Page): Promise<number> => {
  const text = (await page.getByRole('region', { name: 'Readout' }).textContent()) ?? '';
  return Number(/Volume([\d.]+) cm³/.exec(text)?.[1] ?? Number.NaN);
};

const field = async (page: Page, label: string, value: string) => {
  const input = page.getByLabel(label, { exact: true }).last();
  await input.fill(value);
  await input.press('Enter');
};

async function downloaded(page: Page, button: string): Promise<Uint8Array> {
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: button }).click();
  return new Uint8Array(readFileSync(await (await waiting).path()));
}

it('makes a body of a traced plate, changes it, says what cannot be, and hands it over', async () => {
  const { page, context, faults } = await openPage(bench);
  const fetched: string[] = [];
  page.on('request', (r) => fetched.push(r.url()));
  await openFinished(page, 'Latch plate');
  // The kernel is large: nobody waits for it before a body is wanted.
  await goTo(page, 'Hand over');
  await page.getByRole('button', { name: 'Download STEP' }).waitFor();
  expect(fetched.filter((url) => url.includes('.wasm') && url.includes('replicad'))).toEqual([]);
  await goTo(page, 'Solid');
  await page.getByRole('button', { name: 'Extrude', exact: true }).first().waitFor();
  await expect.poll(() => volume(page), { timeout: 60_000 }).toBeGreaterThan(8);
  const thick2 = await volume(page);

  // A height that is typed makes the body anew.
  const features = page.getByRole('list', { name: 'Features' });
  await features.getByRole('button', { name: 'Extrude' }).click();
  await field(page, 'To height', '4');
  await expect.poll(() => volume(page), { timeout: 30_000 }).toBeGreaterThan(1.9 * thick2);

  // An edge that eats the face is told at its place, and the body without it stays.
  await features.getByRole('button', { name: 'Edges' }).click();
  await field(page, 'By', '25');
  await features.getByText(/There is no room for it/).waitFor({ timeout: 30_000 });
  expect(await volume(page)).toBeGreaterThan(1.9 * thick2);
  await page.getByRole('link', { name: 'Solid: “Edges” cannot be made' }).waitFor();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await features.getByText(/There is no room for it/).waitFor({ state: 'detached' });
  await page.getByRole('link', { name: 'Solid: Good' }).waitFor();

  // Edges picked with the keys alone: a new feature, on top of the others.
  await page.keyboard.press('r');
  await page.getByLabel('Which', { exact: true }).last().selectOption('picked');
  const body = page.getByRole('img', { name: /^The body/ });
  await body.focus();
  await page.keyboard.press('PageDown');
  await page.keyboard.press('Enter');
  await page.getByText('1 edge picked.').waitFor();
  await page.getByRole('button', { name: 'Leave it' }).click();

  await goTo(page, 'Hand over');
  const step = new TextDecoder().decode(await downloaded(page, 'Download STEP'));
  expect(step).toMatch(/^ISO-10303-21;/);
  expect(step).toContain('MANIFOLD_SOLID_BREP');
  await field(page, 'Largest gap of triangles', '0.5');
  const coarse = await downloaded(page, 'Download STL');
  await page.getByText(/triangles, at most [\d.]+ mm off the surface/).waitFor();
  await field(page, 'Largest gap of triangles', '0.02');
  const fine = await downloaded(page, 'Download STL');
  expect(fine.length).toBeGreaterThan(coarse.length);
  await field(page, 'Largest gap of triangles', '5');
  await page.getByRole('button', { name: 'Download STL' }).click();
  await page.getByText('A tolerance lies between 0.001 and 1 mm.').waitFor();
  // Cut open a millimetre up it shows its outline and its holes; above itself nothing.
  await field(page, 'Place of the section', '1');
  const section = new TextDecoder().decode(await downloaded(page, 'SVG of the section'));
  expect(section.match(/<path /g)?.length).toBeGreaterThanOrEqual(4);
  await field(page, 'Place of the section', '50');
  await page.getByRole('button', { name: 'SVG of the section' }).click();
  await page.getByText('The section meets nothing of the body there').waitFor();
  // From the front it is seen as long as the part, and as high as it was made.
  await page.getByLabel('Seen from', { exact: true }).selectOption('front');
  const outside = new TextDecoder().decode(await downloaded(page, 'SVG of the outside'));
  expect(outside).toMatch(/overall 96\.\d+ mm wide, 4\.00 mm high/);
  // What a machine's check bars came out as is made up for, and the file says so.
  await page.getByRole('button', { name: 'Add a machine' }).click();
  await page.getByLabel('Its name').fill('Cutter');
  await page.getByLabel('Bar along X came out as, mm').fill('99.5');
  await page.getByLabel('Width of the cut, mm').fill('0.2');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await page.getByText(/drawn so that it comes out as it is meant/).waitFor();
  const svg = new TextDecoder().decode(await downloaded(page, 'Download SVG'));
  expect(svg).toContain('drawn for Cutter');
  expect(svg).toContain('X × 1.0050');
  await field(page, 'Largest gap of triangles', '0.1');
  const forCutter = new TextDecoder('latin1').decode((await downloaded(page, 'Download STL')).slice(0, 80));
  expect(forCutter).toContain('drawn for Cutter');
  expect(new TextDecoder('latin1').decode(await downloaded(page, 'Download the pages'))).toMatch(/^%PDF/);
  expect(new TextDecoder('latin1').decode(await downloaded(page, 'Download the sheet'))).toMatch(/^%PDF/);
  expect(faults).toEqual([]);
  await context.close();
});

it('stops in the middle of a long file, and nothing is lost', async () => {
  const { page, context, faults } = await openPage(bench);
  await openFinished(page, 'Focus knob');
  await goTo(page, 'Hand over');
  await downloaded(page, 'Download STL');
  await field(page, 'Largest gap of triangles', '0.001');
  await page.getByRole('button', { name: 'Download STL' }).click();
  await page.getByRole('progressbar', { name: 'Writing the file' }).waitFor();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await page.getByRole('button', { name: 'Download STL' }).waitFor();
  await field(page, 'Largest gap of triangles', '0.1');
  expect((await downloaded(page, 'Download STL')).length).toBeGreaterThan(1000);
  expect(faults).toEqual([]);
  await context.close();
});

it('bows a face two ways, by lines of two views', async () => {
  const { page, context, faults } = await openPage(bench);
  await openBareRack(bench, page);
  await page.getByLabel('Picture or job file').setInputFiles({
    name: 'bowed.moth',
    mimeType: 'application/octet-stream',
    buffer: Buffer.from(bowedBracket()),
  });
  await page.getByRole('navigation', { name: 'Steps' }).waitFor();
  await goTo(page, 'Solid');
  await expect.poll(() => volume(page), { timeout: 60_000 }).toBeGreaterThan(20);
  const before = await volume(page);
  await page.keyboard.press('y');
  await page.getByRole('radio', { name: 'dome' }).click();
  const pick = (label: string, option: string) =>
    page.getByLabel(label, { exact: true }).last().selectOption({ label: option });
  await pick('View of the line along', 'From the top');
  await pick('It follows', 'Bow along');
  await pick('View of the bow across', 'From the front');
  await pick('It is bowed as', 'Bow across');
  await page.getByRole('button', { name: 'Add it' }).click();
  const features = page.getByRole('list', { name: 'Features' });
  await features.getByText('along Bow along, bowed as Bow across').waitFor();
  await expect.poll(() => volume(page), { timeout: 30_000 }).toBeLessThan(before - 0.05);
  expect(await volume(page)).toBeGreaterThan(0.8 * before);
  // A line that is closed is no bow: said at its place, and the body without it stays.
  await pick('It follows', 'Outer edge');
  await features.getByText(/is closed, or goes back on itself/).waitFor();
  await expect.poll(() => volume(page), { timeout: 30_000 }).toBeCloseTo(before, 2);
  expect(faults).toEqual([]);
  await context.close();
});

/** The finished bracket with a bow drawn over its right end in either view. */
function bowedBracket(): Uint8Array {
  const opened = readJobFile(new Uint8Array(readFileSync('demo/jobs/funnel-bracket.moth')));
  if (!opened.ok) throw new Error(opened.reason);
  const job = structuredClone(opened.job);
  const [top, front] = sketchesOf(job.part).filter((s) => s.order.length > 0) as [Sketch, Sketch];
  for (const [sketch, name, id, deep] of [
    [top, 'Bow along', 'along', 60],
    [front, 'Bow across', 'across', 20],
  ] as const) {
    const all = pathsIn(sketch)[0]!.uses.map(
      (u) => sketch.points[(sketch.curves[u.curve] as { from: string }).from]!.at,
    );
    const at = all.filter((a) => a.kind === 'observed');
    const right = Math.max(...at.map((a) => a.uPx));
    const [low, high] = [Math.max(...at.map((a) => a.vPx)), Math.min(...at.map((a) => a.vPx))];
    const seenAt = (uPx: number, vPx: number) => ({ ...at[0]!, uPx, vPx, snappedTo: 'free' as const });
    const { kind: _, ...middle } = seenAt(right, (low + high) / 2);
    const { kind: _a, ...a } = seenAt(right - deep, low);
    const { kind: _b, ...b } = seenAt(right - deep, high);
    putPath(
      sketch,
      { [`${id}-a`]: a, [`${id}-b`]: b, [`${id}-m`]: middle },
      { id, name, points: [`${id}-a`, `${id}-b`], bent: [{ arc: `${id}-m` }], closed: false, role: 'reference' },
    );
  }
  return writeJobFile({ job, history: opened.history, blobs: opened.blobs });
}

it('shows the body by its lines where the browser cannot draw in space', async () => {
  const { page, context, faults } = await openPage(bench);
  await page.addInitScript(() => {
    const own = HTMLCanvasElement.prototype.getContext;
    HTMLCanvasElement.prototype.getContext = function (this: HTMLCanvasElement, kind: string, ...rest: unknown[]) {
      return kind.startsWith('webgl') ? null : Reflect.apply(own, this, [kind, ...rest]);
    } as typeof own;
  });
  await openFinished(page, 'Lamp gasket');
  await goTo(page, 'Solid');
  const drawing = page.getByRole('img', { name: 'The body, seen from the top' });
  await drawing.waitFor({ timeout: 60_000 });
  // Its outline, the opening, and a hole in each of the four lobes.
  await expect.poll(() => drawing.locator('path').count()).toBe(6);
  await page.getByRole('button', { name: 'Seen from the front' }).click();
  await page.getByRole('img', { name: 'The body, seen from the front' }).waitFor();
  expect(faults.filter((f) => !/WebGL/i.test(f))).toEqual([]);
  await context.close();
});

it('bows a face as a line that is drawn over the body there and then, dragged and typed', async () => {
  const { page, context, faults } = await openPage(bench);
  await openFinished(page, 'Latch plate');
  await goTo(page, 'Solid');
  await expect.poll(() => volume(page), { timeout: 60_000 }).toBeGreaterThan(8);
  const flat = await volume(page);
  const features = page.getByRole('list', { name: 'Features' });
  await features.getByRole('button', { name: 'Extrude' }).click();
  await field(page, 'To height', '12');
  await expect.poll(() => volume(page), { timeout: 30_000 }).toBeGreaterThan(5 * flat);
  const high = await volume(page);

  await page.keyboard.press('y');
  await page.getByRole('radio', { name: 'dome' }).click();
  await page.getByRole('radio', { name: 'drawn here' }).click();
  // Along X: three presses, the middle one a little off and dragged to the top.
  const pane = page.getByRole('img', { name: 'Line along X, drawn over the body' });
  const at = async (share: number, deepShare: number) => {
    const { x, y, width, height } = (await pane.locator('rect').boundingBox())!;
    return { x: x + share * width, y: y + deepShare * height };
  };
  for (const [share, deep] of [
    [0, 0.4],
    [0.5, 0.3],
    [1, 0.4],
  ] as const) {
    const place = await at(share, deep);
    await page.mouse.click(place.x, place.y);
  }
  await drag(page, await at(0.5, 0.3), await at(0.5, 0));
  const typed = page.getByLabel('Line along X: places from the middle and outwards from the top');
  const ends = /^-([\d.]+) (-[\d.]+); 0 0; ([\d.]+) (-[\d.]+)$/;
  await expect.poll(() => typed.inputValue()).toMatch(ends);
  const half = Number(ends.exec(await typed.inputValue())![1]);
  // Across it is made straight, and the line along typed to the hundredth.
  await page.getByRole('button', { name: 'Make it straight' }).last().click();
  await typed.fill(`${half} -4; 0 0; -${half}`);
  await typed.press('Enter');
  await page.getByText(/Write each place as two figures/).waitFor();
  await typed.fill(`${half} -4; 0 0; -${half} -4`);
  await typed.press('Enter');
  await page.getByRole('button', { name: 'Add it' }).click();
  // Under a parabola that falls by 4 at both ends a third of 4 is missing, more or less as the plate is no rectangle.
  await expect.poll(() => volume(page), { timeout: 30_000 }).toBeLessThan(0.95 * high);
  expect((await volume(page)) / high).toBeGreaterThan(1 - 0.45 * (4 / 12));
  expect((await volume(page)) / high).toBeLessThan(1 - 0.25 * (4 / 12));
  await page.getByText('drawn over the body, along').waitFor();
  const kept = await volume(page);
  await page.reload();
  await expect.poll(() => volume(page), { timeout: 60_000 }).toBeCloseTo(kept, 2);
  expect(faults.filter((f) => !/WebGL/i.test(f))).toEqual([]);
  await context.close();
});

it('lays the pattern over A4 pages for a printer at home, an overview first', async () => {
  const { page, context, faults } = await openPage(bench);
  await openFinished(page, 'Baffle pattern');
  await goTo(page, 'Hand over');
  const pdf = await PDFDocument.load(await downloaded(page, 'Download the pages'));
  expect(pdf.getPageCount()).toBe(2);
  for (const { width, height } of pdf.getPages().map((own) => own.getSize()))
    expect([width, height].sort((a, b) => a - b)).toEqual([expect.closeTo(595.3, 0), expect.closeTo(841.9, 0)]);
  expect(faults).toEqual([]);
  await context.close();
});

it('turns a knob, hollows it, and holds three caliper readings against it', async () => {
  const { page, context, faults } = await openPage(bench);
  await openFinished(page, 'Focus knob');
  await goTo(page, 'Solid');
  await expect.poll(() => volume(page), { timeout: 60_000 }).toBeGreaterThan(10);
  await page.getByText(/Both halves were averaged: they differ by/).waitFor();
  const truth = turnedVolume([...FOCUS_KNOB, [FOCUS_KNOB.at(-1)![0], 0]]) / 1000;
  const solid = await volume(page);
  // A picture from the side is good to a few hundredths of a millimetre in thirty: three times that in the volume.
  expect(Math.abs(solid / truth - 1)).toBeLessThan(0.03);

  await page.keyboard.press('y');
  await page.getByRole('radio', { name: 'hollow' }).click();
  await field(page, 'Wall', '2');
  const body = page.getByRole('img', { name: /^The body/ });
  await body.focus();
  await page.keyboard.press('PageDown');
  await page.keyboard.press('Enter');
  await page.getByText('Open at 1 face.').waitFor();
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect.poll(() => volume(page), { timeout: 30_000 }).toBeLessThan(0.9 * solid);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect.poll(() => volume(page), { timeout: 30_000 }).toBeCloseTo(solid, 2);

  const checks = page.getByRole('region', { name: 'Spot checks on the body' });
  await page.keyboard.press('o');
  let taken = 0;
  for (let k = 0; k < 14 && taken < 3; k++) {
    await body.focus();
    await page.keyboard.press('PageDown');
    await page.keyboard.press('Enter');
    const said = await page
      .getByText(/^Ø [\d.]+/)
      .first()
      .textContent({ timeout: 3000 })
      .catch(() => null);
    const found = Number(/^Ø ([\d.]+)/.exec(said ?? '')?.[1] ?? Number.NaN);
    const near = [30, 18, 26].find((d) => Math.abs(d - found) < 0.8);
    if (near === undefined) {
      // What was pressed for nothing is let go with the tool.
      await page.keyboard.press('Escape');
      await page.keyboard.press('o');
      continue;
    }
    await page.keyboard.type(String(near));
    await page.keyboard.press('Enter');
    taken++;
    await expect.poll(() => checks.getByRole('listitem').count()).toBe(taken);
  }
  expect(taken).toBe(3);
  await expect
    .poll(async () => (await checks.textContent())?.match(/fits ±/g)?.length ?? 0, { timeout: 20_000 })
    .toBe(3);
  expect(faults).toEqual([]);
  await context.close();
});

it('puts two views together, and hands over all variants of a gasket in one archive', async () => {
  const { page, context, faults } = await openPage(bench);
  await openFinished(page, 'Funnel bracket');
  await goTo(page, 'Solid');
  await page.getByText(/along X; it was stretched/).waitFor({ timeout: 30_000 });
  await expect.poll(() => volume(page), { timeout: 60_000 }).toBeGreaterThan(20);
  // As it is drawn, its inner round left out: foot and arm less their corners, the bore, and four countersunk holes, mm³.
  const corners = 36 - 9 * Math.PI;
  const cone = (Math.PI / 3) * 1.75 * (4.5 ** 2 + 4.5 * 2.75 + 2.75 ** 2) - Math.PI * 2.75 ** 2 * 1.75;
  const foot = (80 * 50 - 4 * corners - Math.PI * 17 ** 2) * 5;
  const arm = (6 * 50 - 2 * corners) * 27;
  const drawn = foot + arm - 4 * (Math.PI * 2.75 ** 2 * 5 + cone);
  // Walls of 5 and 6 mm that are told to a tenth of a millimetre.
  expect(Math.abs((1000 * (await volume(page))) / drawn - 1)).toBeLessThan(0.02);
  await context.close();

  const second = await openPage(bench);
  await openFinished(second.page, 'Lamp gasket');
  await goTo(second.page, 'Hand over');
  const zip = unzipSync(await downloaded(second.page, 'Download a zip'));
  expect(Object.keys(zip).sort()).toEqual(
    ['hard', 'm4', 'm6', 'soft'].flatMap((v) => ['3mf', 'step', 'stl'].map((f) => `lamp-gasket-finished-${v}.${f}`)),
  );
  const heights = ['hard', 'soft'].map((v) => {
    const model = strFromU8(unzipSync(zip[`lamp-gasket-finished-${v}.3mf`]!)['3D/3dmodel.model']!);
    return Math.max(...[...model.matchAll(/ z="([-\d.]+)"/g)].map((m) => Number(m[1])));
  });
  expect(heights).toEqual([1.5, 3]);
  expect([...faults, ...second.faults]).toEqual([]);
  await second.context.close();
});

it('says so when its kernel cannot be fetched, and works on once it can', async () => {
  const { page, context, faults } = await openPage(bench);
  await openFinished(page, 'Latch plate');
  await page.route('**/*.wasm', (route) => route.abort());
  await goTo(page, 'Solid');
  const again = page.getByRole('button', { name: 'Work it out again' });
  await again.waitFor({ timeout: 30_000 });
  expect(await volume(page)).toBeNaN();
  await page.unroute('**/*.wasm');
  await again.click();
  await expect.poll(() => volume(page), { timeout: 60_000 }).toBeGreaterThan(8);
  expect(faults.filter((f) => !/wasm|Failed to fetch|net::/i.test(f))).toEqual([]);
  await context.close();
});

/** Volume of a body that turns round x, by its radius in places along it: stumps of cones, mm³. */
function turnedVolume(profile: readonly (readonly [number, number])[]): number {
  return profile.slice(1).reduce((sum, [x, r], k) => {
    const [a, q] = profile[k]!;
    return sum + (Math.PI / 3) * (x - a) * (r * r + r * q + q * q);
  }, 0);
}
