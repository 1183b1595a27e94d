import { DxfWriter, point2d, point3d, Units } from '@tarikjabiri/dxf';
import { describe, expect, it } from 'vitest';
import { type Form, formArea, formLength, formsBounds, pointAt, type Vec2 } from '../../geometry';
import { observationsOf, pathsIn } from '../../sketch';
import { layOutPage, OUTLINES, type OutlineResult, readDxf, readSvg } from '.';
import { joinForms } from './joinForms';
import { splineCurves } from './splineCurves';

const svg = (inside: string, root = 'width="100mm" height="50mm" viewBox="0 0 200 100"') =>
  readSvg(`<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg" ${root}>${inside}</svg>`);
const formsOf = (result: OutlineResult): Form[] => {
  if (!result.ok) throw new Error(result.reason);
  return result.outlines.forms.map((f) => f.form);
};
const boxOf = (form: Form) => formsBounds([form]);

describe('readSvg', () => {
  it('has the size that the document states, and y up', () => {
    const [form] = formsOf(svg('<path d="M20 10 H60 V30 H20 Z"/>')) as [Form];
    expect(form).toMatchObject({ kind: 'chain', closed: true });
    expect(boxOf(form)).toEqual({ min: { x: 10, y: -15 }, max: { x: 30, y: -5 } });
    expect(formArea(form)).toBeCloseTo(200, 9);
  });

  it.each([
    ['in', 2 / 200],
    ['cm', 10 * 2],
    ['pt', (25.4 / 72) * 2],
    ['', (25.4 / 96) * 2],
  ])('reads sizes in "%s"', (unit) => {
    const per = { in: 25.4, cm: 10, pt: 25.4 / 72, '': 25.4 / 96 }[unit] as number;
    const [form] = formsOf(
      svg('<circle cx="50" cy="50" r="10"/>', `width="2${unit}" height="2${unit}" viewBox="0 0 100 100"`),
    ) as [Form];
    expect(form.kind === 'circle' && form.radius).toBeCloseTo(0.2 * per, 9);
  });

  it('keeps circles and arcs, through turns and mirrors', () => {
    const forms = formsOf(
      svg(
        '<g transform="rotate(30) scale(-2 2)"><circle cx="5" cy="5" r="4"/><path d="M0 0 A10 10 0 0 1 20 0 Z"/></g>',
      ),
    );
    expect(forms[0]!.kind === 'circle' && forms[0]!.radius).toBeCloseTo(4, 9);
    expect(forms[1]!.kind === 'chain' && forms[1]!.segments.map((s) => s.kind)).toEqual(['arc', 'line']);
    expect(formArea(forms[1]!)).toBeCloseTo((Math.PI * 100) / 2, 6);
  });

  it('reads ellipses, rounded rectangles, curves and polygons by their areas', () => {
    const forms = formsOf(
      svg(
        '<ellipse cx="40" cy="20" rx="20" ry="10"/><rect x="10" y="10" width="40" height="20" rx="6"/><path d="M0 0 Q10 20 20 0 z"/><polygon points="0,0 10,0 10,10"/>',
      ),
    );
    const areas = [Math.PI * 200, 800 - (4 - Math.PI) * 36, (2 / 3) * 20 * 10, 50];
    for (const [k, f] of forms.entries()) expect(formArea(f) / (areas[k]! / 4)).toBeCloseTo(1, 5);
    expect(forms[1]!.kind === 'chain' && forms[1]!.segments.filter((s) => s.kind === 'arc')).toHaveLength(4);
  });

  it('takes groups as layers, and marks as marks', () => {
    const result = svg(
      '<g id="Body"><path d="M0 0h9"/></g><g id="Fold marks"><path d="M0 1h9"/></g><path class="mark" d="M0 2h9"/>',
    );
    expect(result.ok && result.outlines.forms.map((f) => [f.layer, f.role])).toEqual([
      ['Body', 'cut'],
      ['Fold marks', 'mark'],
      [null, 'mark'],
    ]);
  });

  it('leaves out scripts, references, texts and pictures, and says so', () => {
    const result = svg(
      '<script>alert(1)</script><use href="https://example.org/x.svg#a"/><image href="x.png"/><text>hi</text><path onclick="x()" d="M0 0h9v9z"/><g display="none"><path d="M0 0h99v99z"/></g><defs><path d="M0 0h99v99z"/></defs>',
    );
    expect(result.ok && result.outlines.forms).toHaveLength(1);
    expect(result.ok && [...result.outlines.leftOut].sort()).toEqual(['picture', 'reference', 'script', 'text']);
  });

  it('refuses what is endless, broken or empty', () => {
    const deep = `<svg xmlns="http://www.w3.org/2000/svg">${'<g>'.repeat(1_000_000)}`;
    expect(readSvg(deep)).toEqual({ ok: false, reason: 'too-deep' });
    expect(readSvg('<svg><path d="M0 0"')).toEqual({ ok: false, reason: 'not-readable' });
    expect(readSvg('<!DOCTYPE svg [<!ENTITY a "aaaa">]><svg><path d="&a;"/></svg>')).toMatchObject({ ok: false });
    expect(svg('<text>only words</text>')).toEqual({ ok: false, reason: 'nothing-in-it' });
    // Elements and units that go by the names that objects have of themselves.
    const odd = svg('<constructor/><__proto__/><path d="M0 0 H5"/>', 'width="5constructor" height="5toString"');
    expect(odd.ok && odd.outlines.forms).toHaveLength(1);
    expect(svg('<path d="M0 0 L x y"/>')).toMatchObject({ ok: false });
    expect(svg('<path d="M0 0h1"/>'.repeat(OUTLINES.mostForms + 1))).toEqual({ ok: false, reason: 'too-many' });
    expect(svg('<path d="M0 0h1e9"/>')).toEqual({ ok: false, reason: 'too-large' });
  });
});

const writer = (units = Units.Millimeters) => {
  const dxf = new DxfWriter();
  dxf.setUnits(units);
  return dxf;
};

describe('readDxf', () => {
  it('joins loose sides into one outline, on its layer', () => {
    const dxf = writer();
    dxf.addLayer('PLATE', 7, 'CONTINUOUS');
    dxf.setCurrentLayerName('PLATE');
    dxf.addLine(point3d(0, 0), point3d(40, 0));
    dxf.addLine(point3d(40, 20), point3d(40, 0));
    dxf.addLine(point3d(40, 20), point3d(0, 20));
    dxf.addArc(point3d(0, 10), 10, 90, 270);
    dxf.addCircle(point3d(20, 10), 3);
    const result = readDxf(dxf.stringify());
    const forms = formsOf(result);
    expect(forms).toHaveLength(2);
    expect(forms[0]).toMatchObject({ kind: 'circle', radius: 3 });
    expect(forms[1]).toMatchObject({ kind: 'chain', closed: true });
    expect(formArea(forms[1]!)).toBeCloseTo(800 + (Math.PI * 100) / 2, 9);
    expect(result.ok && result.outlines.forms[1]!.layer).toBe('PLATE');
    expect(result.ok && result.outlines.unitless).toBe(false);
  });

  it('reads inches, bulges and ellipses', () => {
    const dxf = writer(Units.Inches);
    dxf.addLWPolyline(
      [
        { point: point2d(0, 0), bulge: 1 },
        { point: point2d(2, 0), bulge: 1 },
      ],
      { flags: 1 },
    );
    dxf.addEllipse(point3d(0, 0), point3d(2, 0), 0.5, 0, 2 * Math.PI);
    const [disc, ellipse] = formsOf(readDxf(dxf.stringify())) as [Form, Form];
    expect(formArea(disc)).toBeCloseTo(Math.PI * 25.4 ** 2, 6);
    expect(formLength(disc)).toBeCloseTo(2 * Math.PI * 25.4, 6);
    expect(formArea(ellipse) / (Math.PI * 2 * 25.4 ** 2)).toBeCloseTo(1, 5);
  });

  it('places blocks where they are inserted, turned and scaled', () => {
    const result = readDxf(
      dxfText(block('PART', 'line', 0, 0, 10, 0), insert('PART', 100, 50, { rotation: 90, scale: 2 })),
    );
    const [form] = formsOf(result) as [Form];
    expect(form.kind === 'chain' && form.segments[0]!.from).toEqual({ x: 100, y: 50 });
    const to = form.kind === 'chain' ? form.segments[0]!.to : { x: 0, y: 0 };
    expect(Math.hypot(to.x - 100, to.y - 70)).toBeLessThan(1e-9);
    expect(result.ok && result.outlines.unitless).toBe(true);
  });

  it.each([
    ['a polyline that nothing ends', group(0, 'POLYLINE', 8, '0', 66, 1)],
    ['a vertex without its polyline', group(0, 'VERTEX', 8, '0', 10, 5, 20, 5)],
    [
      'a polyline of vertices that nothing ends',
      group(0, 'POLYLINE', 8, '0', 0, 'VERTEX', 10, 1, 20, 1, 0, 'VERTEX', 10, 2, 20, 1),
    ],
  ])('reads on behind %s', (_, stray) => {
    const forms = formsOf(readDxf(dxfText('', stray + line(0, 0, 10, 0))));
    expect(forms.at(-1)).toMatchObject({ segments: [{ from: { x: 0, y: 0 }, to: { x: 10, y: 0 } }] });
  });

  it('reads on behind a stray record in the table of layers, and leaves frozen ones out', () => {
    const tables = group(
      0,
      'SECTION',
      2,
      'TABLES',
      0,
      'TABLE',
      2,
      'LAYER',
      70,
      2,
      0,
      'STYLE',
      2,
      'x',
      0,
      'LAYER',
      2,
      'ICE',
      70,
      1,
      0,
      'LAYER',
      2,
      'OUT',
      70,
      0,
    );
    const frozen = group(0, 'LINE', 8, 'ICE', 10, 0, 20, 0, 11, 500, 21, 0);
    const forms = formsOf(readDxf(tables + group(0, 'ENDSEC') + dxfText('', frozen + line(0, 0, 10, 0))));
    expect(forms).toHaveLength(1);
  });

  it('leaves out what has numbers that are none', () => {
    const odd =
      group(0, 'CIRCLE', 8, '0', 10, 'x', 20, 0, 40, 5) + group(0, 'LINE', 8, '0', 10, '1e999', 20, 0, 11, 0, 21, 0);
    const result = readDxf(dxfText('', odd + line(0, 0, 10, 0)));
    expect(formsOf(result)).toHaveLength(1);
    expect(result.ok && result.outlines.leftOut).toEqual(['other']);
  });

  it('ends blocks that hold themselves, and blocks that breed', () => {
    expect(readDxf(dxfText(block('A', insert('A', 0, 0)), insert('A', 0, 0)))).toEqual({
      ok: false,
      reason: 'endless-inserts',
    });
    const levels = Array.from({ length: 9 }, (_, k) =>
      block(
        `L${k}`,
        k === 8 ? line(0, 0, 1, 1) : Array.from({ length: 10 }, (_, j) => insert(`L${k + 1}`, j, k)).join(''),
      ),
    );
    const bred = readDxf(dxfText(levels.join(''), insert('L0', 0, 0)));
    expect(bred.ok).toBe(false);
    expect(['endless-inserts', 'too-many']).toContain(bred.ok ? '' : bred.reason);
  });

  it('refuses what is none, and leaves out what it does not know', () => {
    expect(readDxf('not a drawing')).toMatchObject({ ok: false });
    expect(readDxf('AC\u0000\u0001 binary')).toEqual({ ok: false, reason: 'not-text' });
    const dxf = writer();
    dxf.addText(point3d(0, 0), 3, 'words');
    dxf.addLine(point3d(0, 0), point3d(1, 0));
    const result = readDxf(dxf.stringify());
    expect(result.ok && result.outlines.leftOut).toEqual(['text']);
  });
});

describe('joinForms', () => {
  it('joins nothing where three pieces meet', () => {
    const piece = (x0: number, y0: number, x1: number, y1: number) => ({
      form: {
        kind: 'chain' as const,
        segments: [{ kind: 'line' as const, from: { x: x0, y: y0 }, to: { x: x1, y: y1 } }],
        closed: false,
      },
      layer: null,
      role: 'cut' as const,
    });
    expect(joinForms([piece(0, 0, 1, 0), piece(0, 0, 0, 1), piece(0, 0, -1, 0)])).toHaveLength(3);
    const joined = joinForms([piece(1, 0, 2, 0), piece(0, 0, 1, 0), piece(3, 1, 2, 1e-5)]);
    expect(joined).toHaveLength(1);
    expect(formLength(joined[0]!.form)).toBeCloseTo(2 + Math.SQRT2, 4);
  });
});

describe('splineCurves', () => {
  /** A place of a B-spline by de Boor's recursion: another way than inserting knots. */
  const deBoor = (degree: number, knots: readonly number[], controls: readonly Vec2[], t: number): Vec2 => {
    const span = Math.min(
      knots.findLastIndex((k) => k <= t),
      controls.length - 1,
    );
    const d = controls.slice(span - degree, span + 1).map((p) => ({ ...p }));
    for (let r = 1; r <= degree; r++)
      for (let j = degree; j >= r; j--) {
        const i = span - degree + j;
        const share = (t - knots[i]!) / (knots[i + degree - r + 1]! - knots[i]!);
        d[j] = { x: d[j - 1]!.x + share * (d[j]!.x - d[j - 1]!.x), y: d[j - 1]!.y + share * (d[j]!.y - d[j - 1]!.y) };
      }
    return d[degree]!;
  };
  const controls = [
    { x: 0, y: 0 },
    { x: 3, y: 8 },
    { x: 9, y: 7 },
    { x: 12, y: -2 },
    { x: 18, y: 1 },
    { x: 21, y: 6 },
  ];
  it.each([
    [3, [0, 0, 0, 0, 1, 2, 3, 3, 3, 3]],
    [3, [0, 0, 0, 0, 1, 1, 3, 3, 3, 3]],
    [2, [0, 0, 0, 1, 2, 3, 4, 4, 4]],
    [3, [0, 1, 2, 3, 4, 5, 6, 7, 8, 9]],
  ])('is the same curve, degree %i, knots %j', (degree, knots) => {
    const pieces = splineCurves({ degree, knots, controls });
    const spans = [...new Set(knots)].filter((k) => k >= knots[degree]! && k <= knots[controls.length]!);
    expect(pieces).toHaveLength(spans.length - 1);
    pieces?.forEach((piece, k) => {
      for (const t of [0.1, 0.5, 0.9]) {
        const here = pointAt({ kind: 'curve', ...piece }, t);
        const there = deBoor(degree, knots, controls, spans[k]! + t * (spans[k + 1]! - spans[k]!));
        expect(Math.hypot(here.x - there.x, here.y - there.y)).toBeLessThan(1e-9);
      }
    });
  });

  it('refuses knots that do not fit', () => {
    expect(splineCurves({ degree: 3, knots: [0, 1], controls })).toBeNull();
    expect(splineCurves({ degree: 3, knots: [0, 0, 0, 0, 2, 1, 3, 3, 3, 3], controls })).toBeNull();
  });
});

describe('layOutPage', () => {
  it('makes paths over pixels that come back to the same millimetres', () => {
    const result = svg(
      '<g id="Body"><path d="M20 10 H60 V30 A5 5 0 0 1 50 30 H20 Z"/><circle cx="30" cy="20" r="4"/></g>',
    );
    if (!result.ok) throw new Error();
    const page = layOutPage(result.outlines);
    const { sketch } = page ?? {};
    if (!sketch) throw new Error('there is a page');
    const kinds = pathsIn(sketch).map((p) => [p.uses.map((u) => sketch.curves[u.curve]!.kind).join(' '), p.layer]);
    expect(kinds).toEqual([
      ['line line arc line line', 'Body'],
      ['circle', 'Body'],
    ]);
    const us = pathsIn(sketch).flatMap((p) => observationsOf(sketch, p).map((o) => o.uPx));
    expect((Math.max(...us) - Math.min(...us)) / (page?.pxPerMm ?? 1)).toBeCloseTo(20, 6);
    expect(Math.max(...us)).toBeLessThan(page?.widthPx ?? 0);
  });
});

const group = (...pairs: (string | number)[]): string => `${pairs.join('\n')}\n`;
const line = (x0: number, y0: number, x1: number, y1: number): string =>
  group(0, 'LINE', 8, 'OUT', 10, x0, 20, y0, 11, x1, 21, y1);
const insert = (name: string, x: number, y: number, { rotation = 0, scale = 1 } = {}): string =>
  group(0, 'INSERT', 8, 'OUT', 2, name, 10, x, 20, y, 41, scale, 42, scale, 50, rotation);
function block(name: string, what: string, ...at: number[]): string {
  const inside = what === 'line' ? line(at[0]!, at[1]!, at[2]!, at[3]!) : what;
  return group(0, 'BLOCK', 8, '0', 2, name, 70, 0, 10, 0, 20, 0, 3, name) + inside + group(0, 'ENDBLK', 8, '0');
}
const dxfText = (blocks: string, entities: string): string =>
  `${group(0, 'SECTION', 2, 'BLOCKS')}${blocks}${group(0, 'ENDSEC', 0, 'SECTION', 2, 'ENTITIES')}${entities}${group(0, 'ENDSEC', 0, 'EOF')}`;
