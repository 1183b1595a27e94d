import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import DxfParser from 'dxf-parser';
import { SaxesParser } from 'saxes';
import { describe, expect, it } from 'vitest';
import { type Form, formArea, formLength } from '../geometry';
import { writeDxf } from './dxf';
import { readDxf } from './outlines';
import { GRID_SHEET, writeGridSheet, writePdf } from './pdf';
import type { DxfCurves } from './profile/dxfOptions';
import type { FlatProfile } from './profile/flatProfile';
import { writeSvg } from './svg';

const plate: Form = {
  kind: 'chain',
  closed: true,
  segments: [
    { kind: 'line', from: { x: 10, y: 20 }, to: { x: 80, y: 20 } },
    {
      kind: 'arc',
      from: { x: 80, y: 20 },
      via: { x: 90 - 10 * (1 - Math.SQRT1_2), y: 30 - 10 * Math.SQRT1_2 },
      to: { x: 90, y: 30 },
    },
    { kind: 'line', from: { x: 90, y: 30 }, to: { x: 90, y: 65 } },
    { kind: 'line', from: { x: 90, y: 65 }, to: { x: 10, y: 65 } },
    { kind: 'line', from: { x: 10, y: 65 }, to: { x: 10, y: 20 } },
  ],
};
const curved: Form = {
  kind: 'chain',
  closed: false,
  segments: [
    {
      kind: 'curve',
      from: { x: 20, y: 30 },
      handleFrom: { x: 30, y: 50 },
      handleTo: { x: 50, y: 10 },
      to: { x: 60, y: 30 },
    },
  ],
};
const profile: FlatProfile = {
  title: 'Latch <plate> & ÿ Ω',
  date: '2026-03-01',
  unit: 'mm',
  notes: true,
  forms: [
    { form: plate, role: 'cut', name: 'Outer edge', layer: null },
    { form: { kind: 'circle', centre: { x: 30, y: 50 }, radius: 4.5 }, role: 'cut', name: 'Hole 1', layer: null },
    { form: curved, role: 'mark', name: 'Run 2', layer: null },
  ],
};
const nothing: FlatProfile = { ...profile, forms: [] };

/** Whether a tool of another house is on this machine; what needs one is skipped where it is not. */
const has = (tool: string, ...args: string[]): boolean => {
  try {
    execFileSync(tool, args, { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
};
/** Debian's own Python, which has Debian's packages. */
const PYTHON = '/usr/bin/python3';
const folder = mkdtempSync(join(tmpdir(), 'moth-format-'));

describe('writeSvg', () => {
  it('writes XML whatever a name holds', () => {
    const name = 'a\uFFFEb\uFFFFc\uD800d\u0001e😀';
    const text = writeSvg({ ...profile, title: name, forms: [{ ...profile.forms[1]!, name, layer: name }] }) ?? '';
    const parser = new SaxesParser();
    parser.on('error', (error) => {
      throw error;
    });
    parser.write(text).close();
    expect(text).toContain('<title>abcde😀</title>');
  });

  const svg = writeSvg(profile) ?? '';

  it('is true to size and keeps arcs and curves', () => {
    const [, width, height] = /width="([\d.]+)mm" height="([\d.]+)mm"/.exec(svg) ?? [];
    expect(svg).toContain(`viewBox="0 0 ${width} ${height}"`);
    expect(svg).toMatch(/A 10 10 0 0 0 /);
    expect(svg).toMatch(/ C /);
    expect(svg).toContain('overall 80.00 mm wide, 45.00 mm high');
    expect(svg).toContain('check bar 100.00 mm');
    expect(svg).toContain('2026-03-01');
  });

  it('lets no name out of its tag', () => {
    expect(svg).toContain('Latch &lt;plate&gt; &amp;');
    expect(svg).not.toContain('<plate>');
  });

  it('says where the part’s zero lies, and can do without a bar and words', () => {
    const [, x, y] = /Zero of the part lies at x (-?[\d.]+), y (-?[\d.]+)/.exec(svg) ?? [];
    const [, fx, fy] = /d="M ([\d.]+) ([\d.]+) H|d="M ([\d.]+) ([\d.]+) L/.exec(svg)?.filter(Boolean) ?? [];
    // The outline begins at (10, 20) of the part.
    expect([Number(fx) - Number(x), Number(y) - Number(fy)]).toEqual([10, 20]);
    const bare = writeSvg({ ...profile, notes: false }) ?? '';
    expect(bare).not.toMatch(/id="notes"|<text|class="note"/);
    expect(Number(/height="([\d.]+)mm"/.exec(bare)?.[1])).toBe(45 + 4);
    expect(svg).toMatch(/<path class="note"/);
  });

  it('has nothing to write for nothing', () => {
    expect(writeSvg(nothing)).toBeNull();
  });

  it.skipIf(!has('rsvg-convert', '--version'))('is drawn at its size by another reader', () => {
    const path = join(folder, 'out.svg');
    writeFileSync(path, svg);
    execFileSync('rsvg-convert', ['-d', '254', '-p', '254', '-o', join(folder, 'out.png'), path]);
    const [, width] = /width="([\d.]+)mm"/.exec(svg) ?? [];
    const seen = readFileSync(join(folder, 'out.png')).readUInt32BE(16);
    expect(Math.abs(seen - Number(width) * 10)).toBeLessThanOrEqual(1);
  });
});

describe('layers that came in with a drawing', () => {
  const layered = {
    ...profile,
    forms: profile.forms.map((f, k) => ({ ...f, layer: ['Base <plate>', null, 'MARK'][k] ?? null })),
  };

  it('go out as groups and as layers, and never in the way of the roles', () => {
    expect(writeSvg(layered)).toContain('<g id="Base &lt;plate&gt;">');
    const entities = (new DxfParser().parseSync(writeDxf(layered) ?? '')?.entities ?? []) as {
      type: string;
      layer: string;
    }[];
    const layerOf = (type: string) => entities.find((e) => e.type === type)?.layer;
    expect([layerOf('LWPOLYLINE'), layerOf('CIRCLE'), layerOf('SPLINE')]).toEqual(['CUT_Base _plate_', 'CUT', 'MARK']);
  });
});

describe('writeDxf', () => {
  const dxf = writeDxf(profile) ?? '';

  it('is read back by another reader: millimetres, layers, bulge, circle, spline', () => {
    const read = new DxfParser().parseSync(dxf);
    expect(read?.header.$INSUNITS).toBe(4);
    const entities = (read?.entities ?? []) as unknown as {
      type: string;
      layer: string;
      vertices?: { x: number; y: number; bulge?: number }[];
      radius?: number;
      shape?: boolean;
      controlPoints?: unknown[];
    }[];
    const outline = entities.find((e) => e.type === 'LWPOLYLINE');
    expect(outline).toMatchObject({ layer: 'CUT', shape: true });
    expect(outline?.vertices).toHaveLength(5);
    expect(outline?.vertices?.[1]?.bulge).toBeCloseTo(Math.tan(Math.PI / 8), 9);
    expect(entities.find((e) => e.type === 'CIRCLE')).toMatchObject({ layer: 'CUT', radius: 4.5 });
    expect(entities.find((e) => e.type === 'SPLINE')).toMatchObject({ layer: 'MARK' });
    const bar = entities.filter((e) => e.type === 'LINE' && e.layer === 'NOTES');
    expect(bar[0]!.vertices?.map((v) => v.x)).toEqual([10, 110]);
  });

  it.skipIf(!has(PYTHON, '-c', 'import ezdxf'))('passes the audit of a third', () => {
    const path = join(folder, 'out.dxf');
    writeFileSync(path, dxf);
    const seen = execFileSync(PYTHON, [
      '-c',
      `import ezdxf; d=ezdxf.readfile('${path}'); a=d.audit(); print(len(a.errors), len(a.fixes), len(d.modelspace()))`,
    ]).toString();
    expect(seen.trim()).toMatch(/^0 0 \d+$/);
  });

  const mixed: Form = {
    kind: 'chain',
    closed: true,
    segments: [
      ...(plate.kind === 'chain' ? plate.segments.slice(0, 4) : []),
      {
        kind: 'curve',
        from: { x: 10, y: 65 },
        handleFrom: { x: 0, y: 50 },
        handleTo: { x: 20, y: 35 },
        to: { x: 10, y: 20 },
      },
    ],
  };
  const withMixed = (curves: DxfCurves, toleranceMm = 0.01) =>
    writeDxf({ ...profile, forms: [{ form: mixed, role: 'cut', name: 'x', layer: null }] }, { curves, toleranceMm }) ??
    '';
  const cutIn = (text: string) =>
    new DxfParser().parseSync(text)?.entities.filter((e) => e.layer === 'CUT') as unknown as {
      type: string;
      closed: boolean;
      shape?: boolean;
      vertices?: { x: number; y: number; bulge?: number }[];
      controlPoints?: { x: number; y: number }[];
    }[];

  it('keeps lines and arcs beside a curve what they are, end on end', () => {
    const cut = cutIn(withMixed('kept'));
    expect(cut.map((e) => e.type).sort()).toEqual(['LWPOLYLINE', 'SPLINE']);
    const line = cut.find((e) => e.type === 'LWPOLYLINE')!;
    const spline = cut.find((e) => e.type === 'SPLINE')!;
    expect(line.vertices!.some((v) => v.bulge)).toBe(true);
    const [first, last] = [line.vertices![0]!, line.vertices!.at(-1)!];
    expect(spline.controlPoints![0]).toMatchObject({ x: last.x, y: last.y });
    expect(spline.controlPoints!.at(-1)).toMatchObject({ x: first.x, y: first.y });
  });

  it.each([0.05, 0.005])('makes it one polyline of lines and arcs, within %d mm', (tolerance) => {
    const cut = cutIn(withMixed('arcs', tolerance));
    expect(cut.map((e) => [e.type, e.shape])).toEqual([['LWPOLYLINE', true]]);
    // Area by the other reader's vertices and bulges, worked out here.
    const own = cut[0]!.vertices!;
    const area = own.reduce((sum, p, k) => {
      const q = own[(k + 1) % own.length]!;
      const sweep = 4 * Math.atan(p.bulge ?? 0);
      const chord = Math.hypot(q.x - p.x, q.y - p.y);
      const radius = sweep ? chord / 2 / Math.sin(sweep / 2) : 0;
      return sum + (p.x * q.y - q.x * p.y) / 2 + (radius * radius * (sweep - Math.sin(sweep))) / 2;
    }, 0);
    expect(Math.abs(Math.abs(area) - formArea(mixed))).toBeLessThan(tolerance * 60);
  });

  it('makes a path of lines, arcs and curves one object where that is asked, and names who wrote it', () => {
    const text = withMixed('one');
    expect(text).toMatch(/^999\nWritten by Steady Moth/);
    const cut = new DxfParser().parseSync(text)?.entities.filter((e) => e.layer === 'CUT') as unknown as {
      type: string;
      closed: boolean;
      controlPoints: { x: number; y: number }[];
      knotValues: number[];
    }[];
    expect(cut.map((e) => [e.type, e.closed])).toEqual([['SPLINE', true]]);
    expect(cut[0]!.knotValues).toHaveLength(cut[0]!.controlPoints.length + 4);
    // Read back by our own reader, which is not the writer: the same area.
    const read = readDxf(text);
    const [form] = read.ok ? read.outlines.forms : [];
    expect(form!.form.kind === 'chain' && form!.form.closed).toBe(true);
    expect(formArea(form!.form)).toBeCloseTo(formArea(mixed), 2);
    expect(formLength(form!.form)).toBeCloseTo(formLength(mixed), 3);
  });

  it('leaves the bar and its layer out where they are not wanted', () => {
    const read = new DxfParser().parseSync(writeDxf({ ...profile, notes: false }) ?? '');
    expect(read?.entities.map((e) => e.layer)).toEqual(['CUT', 'CUT', 'MARK']);
    expect(Object.keys(read?.tables.layer.layers ?? {})).not.toContain('NOTES');
  });

  it('has nothing to write for nothing', () => {
    expect(writeDxf(nothing)).toBeNull();
  });
});

describe('writePdf', () => {
  it('has nothing to write for nothing', async () => {
    expect(await writePdf(nothing)).toBeNull();
  });

  it('is one A4 page that must not be scaled, whatever the letters of its title', async () => {
    const pdf = await writePdf(profile);
    const { PDFDocument } = await import('pdf-lib');
    const read = await PDFDocument.load(pdf as Uint8Array);
    const { width, height } = read.getPage(0).getSize();
    expect([width, height].map((v) => Math.round((v * 25.4) / 72))).toEqual([210, 297]);
    expect(read.catalog.getViewerPreferences()?.getPrintScaling()).toBe('None');
    expect(read.getTitle()).toBe(profile.title);
  });

  it.skipIf(!has('pdftoppm', '-v'))('measures 100 mm in another reader, and says its words', async () => {
    const path = join(folder, 'out.pdf');
    writeFileSync(path, (await writePdf(profile)) as Uint8Array);
    const text = execFileSync('pdftotext', [path, '-']).toString();
    expect(text).toContain('overall 80.00 mm wide, 45.00 mm high');
    expect(text).toContain('2026-03-01');
    execFileSync('pdftoppm', ['-r', '254', '-gray', '-singlefile', path, join(folder, 'page')]);
    const bytes = readFileSync(join(folder, 'page.pgm'));
    const header = /^P5\s+(\d+)\s+(\d+)\s+255\s/.exec(bytes.subarray(0, 40).toString('latin1'));
    const [head, w, h] = [header?.[0].length ?? 0, Number(header?.[1]), Number(header?.[2])];
    const dark = (x: number, y: number) => bytes[head + y * w + x]! < 128;
    // The longest dark row is the check bar: 100 mm at 10 px/mm.
    let longest = 0;
    for (let y = 0; y < h; y++) {
      let run = 0;
      for (let x = 0; x < w; x++) {
        run = dark(x, y) ? run + 1 : 0;
        longest = Math.max(longest, run);
      }
    }
    expect(Math.abs(longest - 1001)).toBeLessThanOrEqual(3);
  });

  it.skipIf(!has('pdftoppm', '-v'))('prints a grid of 10 mm, to the hundredth, in another reader', async () => {
    const path = join(folder, 'grid.pdf');
    writeFileSync(path, await writeGridSheet());
    execFileSync('pdftoppm', ['-r', '254', '-gray', '-singlefile', path, join(folder, 'grid')]);
    const bytes = readFileSync(join(folder, 'grid.pgm'));
    const header = /^P5\s+(\d+)\s+(\d+)\s+255\s/.exec(bytes.subarray(0, 40).toString('latin1'));
    const [head, w] = [header?.[0].length ?? 0, Number(header?.[1])];
    const shade = (x: number, y: number) => 255 - bytes[head + y * w + x]!;
    // Along a row between two lines, at 10 px/mm: the middle of each line that is crossed.
    const middles: number[] = [];
    for (let x = 1; x < w - 1; x++) {
      if (shade(x, 1550) === 0 || shade(x - 1, 1550) > 0) continue;
      let [sum, moment, k] = [0, 0, x];
      for (; shade(k, 1550) > 0; k++) {
        sum += shade(k, 1550);
        moment += (k + 0.5) * shade(k, 1550);
      }
      middles.push(moment / sum);
    }
    expect(middles).toHaveLength(GRID_SHEET.columns + 1);
    expect(Math.abs(middles[0]! - 10 * GRID_SHEET.leftMm)).toBeLessThan(0.2);
    middles.forEach((m, k) => void expect(Math.abs(m - middles[0]! - 100 * k)).toBeLessThan(0.1));
  });

  it('goes to a larger sheet, or a page of its own, when the part does', async () => {
    const { PDFDocument } = await import('pdf-lib');
    const sized = async (mm: number) => {
      const big: FlatProfile = {
        ...profile,
        forms: [
          { form: { kind: 'circle', centre: { x: 0, y: 0 }, radius: mm / 2 }, role: 'cut', name: 'x', layer: null },
        ],
      };
      const read = await PDFDocument.load((await writePdf(big)) as Uint8Array);
      return Math.round((read.getPage(0).getWidth() * 25.4) / 72);
    };
    expect(await sized(250)).toBe(297);
    expect(await sized(2000)).toBeGreaterThan(2000);
  });
});
