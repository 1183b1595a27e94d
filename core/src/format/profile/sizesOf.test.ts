import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { sampleJob } from '../../job/sample.test-data';
import { evaluatePart, MAIN_SKETCH, type Part } from '../../sketch';
import { decide, plate } from '../../sketch/settle/rig.test-data';
import { writePdf, writeSheetPdf } from '../pdf';
import { profileOf, type Sheet, sheetOf, sizesOf } from '.';
import { layOutProfile } from './flatProfile';

const sketch = plate();
decide(sketch, 'distance', 41, ['a', 'b']);
decide(sketch, 'diameter', 11, ['hole-c']);
decide(sketch, 'angle', 88, ['rect-c0', 'rect-c1']);
decide(sketch, 'radius', 1, ['slot-c1']).origin = { kind: 'measured' };
const job = { ...sampleJob(), name: 'Plate' };
const part: Part = { ...job.part, sketches: { [MAIN_SKETCH]: sketch }, order: [MAIN_SKETCH] };
const placing = new Map([
  ['pic', { isTrue: true, place: ({ uPx, vPx }: { uPx: number; vPx: number }) => ({ x: uPx, y: vPx }), turned: null }],
]);
const { paths, settled } = evaluatePart(part, placing, { truly: true, draft: null });
const hasPoppler = (() => {
  try {
    execFileSync('pdftotext', ['-v'], { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
})();

describe('a sheet with sizes', () => {
  const sizes = sizesOf(part, settled, 'mm', null);

  it('says decided ones as they come out, measured ones in brackets', () => {
    expect(sizes.map((s) => s.text)).toEqual(['41', 'Ø 11', '88°', '(R 3.85)']);
    expect(sizesOf(part, settled, 'in', null)[0]!.text).toBe('1.614');
    expect(sizesOf(part, settled, 'mm', 'another view')).toEqual([]);
  });

  it('keeps the check bar and the words clear of them, and says the same overall size', () => {
    const profile = profileOf({ ...job, part }, paths, { date: '2026-03-01', notes: true, view: null, sizes });
    const [bare, full] = [layOutProfile(profile)!, layOutProfile(profile, sizes)!];
    expect(full.widthMm).toBe(bare.widthMm);
    const lowest = Math.min(...sizes.flatMap(({ drawing }) => (drawing.line ? [drawing.line.from.y] : [])));
    expect(full.bar!.from.y).toBeLessThan(lowest - 5);
    expect(full.notes.at(-1)!.text).toBe('sizes in mm, measured ones in brackets');
  });

  it.skipIf(!hasPoppler)('is read by another reader with every figure on it', async () => {
    const profile = profileOf({ ...job, part }, paths, { date: '2026-03-01', notes: true, view: null, sizes });
    const path = join(mkdtempSync(join(tmpdir(), 'sheet-')), 'sheet.pdf');
    writeFileSync(path, (await writePdf(profile)) as Uint8Array);
    const text = execFileSync('pdftotext', ['-layout', path, '-']).toString();
    for (const { text: figure } of sizes) expect(text).toContain(figure);
    expect(text).toContain('Plate, 2026-03-01');
  });
});

describe('a drawing sheet', () => {
  const sheet = sheetOf({ ...job, part }, paths, settled, { title: 'Plate, soft', date: '2026-03-01' });
  const written = async (own: Sheet): Promise<string> => {
    const path = join(mkdtempSync(join(tmpdir(), 'sheet-')), 'sheet.pdf');
    writeFileSync(path, (await writeSheetPdf(own)) as Uint8Array);
    return path;
  };
  const textOf = (path: string) => execFileSync('pdftotext', ['-layout', path, '-']).toString();
  const sheetSize = (path: string) =>
    /Page size:\s+([\d.]+) x ([\d.]+)/.exec(execFileSync('pdfinfo', [path]).toString())!;

  it.skipIf(!hasPoppler)('says what it is, at which scale, and every size', async () => {
    expect(sheet.views).toHaveLength(1);
    const path = await written({ ...sheet, material: 'Steel' });
    const text = textOf(path);
    for (const { text: figure } of sizesOf(part, settled, 'mm', null)) expect(text).toContain(figure);
    expect(text).toMatch(/1\s?:\s?1/);
    for (const said of ['Plate, soft', '2026-03-01', 'Steel', 'A4', 'check bar 100 mm', 'are measured'])
      expect(text).toContain(said);
    expect(sheetSize(path).slice(1).map(Number)).toEqual([expect.closeTo(595.3, 0), expect.closeTo(841.9, 0)]);
  });

  it.skipIf(!hasPoppler)(
    'holds several views by their names, on the smallest sheet, and cuts off words without room',
    async () => {
      const [only] = sheet.views;
      const views = ['From the top', 'From the front', 'From the side'].map((name) => ({ ...only!, name }));
      const path = await written({ ...sheet, title: 'A title that is very long '.repeat(6), views });
      const text = textOf(path);
      for (const { name } of views) expect(text).toContain(name);
      expect(text).toMatch(/A title that is very long[^\n]*\.\.\./);
      expect(text).toMatch(/A[43]\b/);
    },
  );

  it('is nothing without a view', async () => {
    expect(await writeSheetPdf({ ...sheet, views: [] })).toBeNull();
  });
});
