import { describe, expect, it } from 'vitest';
import { type Form, formArea, formsBounds } from '../../geometry';
import { writePdf } from '../pdf';
import { writeSvg } from '../svg';
import { compensated, type FlatProfile, layOutProfile, type Machine } from '.';

const rectangle = (x: number, y: number, w: number, h: number): Form => {
  const points = [
    [x, y],
    [x + w, y],
    [x + w, y + h],
    [x, y + h],
  ].map(([px, py]) => ({ x: px!, y: py! }));
  return {
    kind: 'chain',
    closed: true,
    segments: points.map((from, k) => ({ kind: 'line', from, to: points[(k + 1) % 4]! })),
  };
};
const hole: Form = { kind: 'circle', centre: { x: 20, y: 15 }, radius: 5 };
const profile: FlatProfile = {
  title: 'Plate',
  date: '2026-03-01',
  unit: 'mm',
  notes: true,
  forms: [
    { form: rectangle(0, 0, 50, 30), role: 'cut', name: 'outer', layer: null },
    { form: hole, role: 'cut', name: 'hole', layer: null },
    { form: rectangle(30, 10, 5, 5), role: 'mark', name: 'mark', layer: null },
  ],
};
const machine = (change: Partial<Machine> = {}): Machine => ({
  name: 'Cutter',
  barXMm: 100,
  barYMm: 100,
  kerfMm: 0,
  holesMm: 0,
  date: '2026-02-01',
  ...change,
});
const formOf = (name: string, own: Machine): Form =>
  compensated(profile, own).profile.forms.find((f) => f.name === name)!.form;

describe('a profile drawn for a machine', () => {
  it('is half a kerf larger outside, smaller in its holes, and its marks stay', () => {
    const own = machine({ kerfMm: 0.4 });
    const { min, max } = formsBounds([formOf('outer', own)])!;
    expect([min.x, min.y, max.x, max.y]).toEqual([-0.2, -0.2, 50.2, 30.2].map((v) => expect.closeTo(v, 9)));
    expect(formOf('hole', own)).toMatchObject({ kind: 'circle', radius: expect.closeTo(4.8, 9) });
    expect(formArea(formOf('mark', own))).toBeCloseTo(25, 9);
  });

  it('has wider holes where they came out too small', () => {
    expect(formOf('hole', machine({ holesMm: 0.3 }))).toMatchObject({ radius: expect.closeTo(5.15, 9) });
    expect(formArea(formOf('outer', machine({ holesMm: 0.3 })))).toBeCloseTo(1500, 9);
  });

  it('comes out true of a machine that stretches X and Y unlike, check bars too', () => {
    const own = machine({ barXMm: 99.5, barYMm: 100.2 });
    const made = compensated(profile, own).profile;
    const { min, max } = formsBounds([made.forms[0]!.form])!;
    expect((max.x - min.x) * 0.995).toBeCloseTo(50, 9);
    expect((max.y - min.y) * 1.002).toBeCloseTo(30, 9);
    const bar = layOutProfile(made)!.bar!;
    expect((bar.to.x - bar.from.x) * 0.995).toBeCloseTo(100, 9);
    // A circle becomes curves within a hundredth of a micrometre in area.
    expect(formArea(made.forms[1]!.form) * 0.995 * 1.002).toBeCloseTo(25 * Math.PI, 2);
    // Stretched alike, it stays a circle.
    expect(formOf('hole', machine({ barXMm: 99, barYMm: 99 }))).toMatchObject({ kind: 'circle' });
  });

  it('says so in every file, and what nothing is left of', async () => {
    const made = compensated(profile, machine({ kerfMm: 0.4 })).profile;
    expect(made.remark).toBe('drawn for Cutter (2026-02-01): X × 1.0000, Y × 1.0000, kerf 0.4 mm, holes + 0 mm');
    expect(writeSvg(made)).toContain('kerf 0.4 mm');
    const { PDFDocument } = await import('pdf-lib');
    expect((await PDFDocument.load((await writePdf(made))!)).getSubject()).toContain('kerf 0.4 mm');
    expect(compensated(profile, machine({ kerfMm: 10 })).leftOut).toEqual(['hole']);
  });
});
