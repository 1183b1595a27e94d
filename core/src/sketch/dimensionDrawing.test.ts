import { describe, expect, it } from 'vitest';
import { dimensionMeant, dimensionsFor, drawDimension, drawDimensions } from '.';
import { decide, flat, plate } from './settle/rig.test-data';

const away = (a: { x: number; y: number }, b: { x: number; y: number }) => Math.hypot(b.x - a.x, b.y - a.y);

describe('how sizes are drawn', () => {
  it('a length lies beside its line, away from the part, between extension lines from both ends', () => {
    const sketch = plate();
    const d = decide(sketch, 'distance', 40, ['a', 'b']);
    const at = flat(sketch);
    const drawn = drawDimension(sketch, d, at, 5)!;
    expect(drawn.line!.heads).toBe('both');
    expect(away(drawn.line!.from, drawn.line!.to)).toBeCloseTo(away(at('a')!, at('b')!), 9);
    expect(drawn.label.y).toBeLessThan(-4);
    expect(drawn.thin.map(([from]) => from)).toEqual([at('a'), at('b')]);
    // Along X it is only as long as that.
    const level = drawDimension(sketch, { ...d, along: 'x' }, at, 5)!;
    expect(away(level.line!.from, level.line!.to)).toBeCloseTo(at('b')!.x - at('a')!.x, 9);
    expect(level.line!.from.y).toBeCloseTo(level.line!.to.y, 9);
  });

  it('a distance between edges is led out from where the edges end, and from nowhere beside them', () => {
    const sketch = plate();
    const at = flat(sketch);
    const d = decide(sketch, 'distance', 20, ['rect-c0', 'rect-c2']);
    // Led out to the right, past the ends of both edges there: b below, c above.
    const right = drawDimension(sketch, { ...d, label: { dxMm: 30, dyMm: 0 } }, at, 5)!;
    expect(right.thin.map(([from]) => from)).toEqual([at('b'), at('c')]);
    for (const [, to] of right.thin) expect(to.x).toBeGreaterThan(45);
    // Within the part its arrows touch the edges themselves.
    expect(drawDimension(sketch, { ...d, label: { dxMm: 4, dyMm: 0 } }, at, 5)!.thin).toEqual([]);
    // From a hole to an edge: from its centre, and from the edge's end.
    const hole = decide(sketch, 'distance', 20, ['hole-c', 'rect-c1']);
    const above = drawDimension(sketch, { ...hole, label: { dxMm: 0, dyMm: 20 } }, at, 5)!;
    expect(above.thin).toHaveLength(2);
    expect(above.thin.map(([from]) => from)).toContainEqual(at('c'));
  });

  it('a figure that was led beside its line is led to', () => {
    const sketch = plate();
    const d = { ...decide(sketch, 'distance', 40, ['a', 'b']), label: { dxMm: 40, dyMm: -8 } };
    expect(drawDimension(sketch, d, flat(sketch), 5)!.thin).toHaveLength(3);
  });

  it('a diameter goes through its centre, a radius from it, an angle round the place where its lines meet', () => {
    const sketch = plate();
    const at = flat(sketch);
    const diameter = drawDimension(sketch, decide(sketch, 'diameter', 10, ['hole-c']), at, 5)!;
    expect(away(diameter.line!.from, diameter.line!.to)).toBeCloseTo(10.1, 6);
    const radius = drawDimension(sketch, decide(sketch, 'radius', 5, ['hole-c']), at, 5)!;
    expect(radius.line).toMatchObject({ heads: 'end', from: radius.anchor });
    const angle = drawDimension(sketch, decide(sketch, 'angle', 90, ['rect-c0', 'rect-c1']), at, 5)!;
    expect(angle.arc!.centre.x).toBeCloseTo(40.2, 6);
    expect(Math.abs(angle.arc!.sweep)).toBeCloseTo(Math.PI / 2, 1);
  });

  it('long ones along X and Y stand outside the part, the shorter nearer, none on another', () => {
    const sketch = plate();
    const kept = { ...sketch, paths: { rect: sketch.paths.rect! }, order: ['rect'] };
    decide(kept, 'distance', 40, ['a', 'b'], 'x');
    decide(kept, 'distance', 30, ['hole-c', 'rect-c1']);
    decide(kept, 'width', 40, ['rect']);
    decide(kept, 'distance', 20, ['rect-c0', 'rect-c2']);
    const all = drawDimensions(kept, flat(kept), 4);
    const lines = all.flatMap(({ drawing: { line } }) => (line ? [line] : []));
    for (const line of lines) {
      const inside = line.from.x > 0.3 && line.from.x < 40 && line.from.y > 0.3 && line.from.y < 19.8;
      expect(inside).toBe(false);
    }
    const level = all.filter(({ dimension }) => dimension.kind === 'width' || dimension.along === 'x');
    expect(Math.abs(level[0]!.drawing.label.y - level[1]!.drawing.label.y)).toBeGreaterThan(3);
  });

  it('a place from zero is led out across its axis, a direction is an arc that begins along X', () => {
    const sketch = plate();
    const at = flat(sketch);
    const x = drawDimension(sketch, decide(sketch, 'distance', 40, ['b'], 'x'), at, 6)!;
    expect(x.thin).toEqual([[at('b'), { x: at('b')!.x, y: at('b')!.y - 6 }]]);
    const aside = { ...decide(sketch, 'distance', 0, ['b'], 'y'), label: { dxMm: 9, dyMm: 3 } };
    const y = drawDimension(sketch, aside, at, 6)!;
    expect(y.thin[0]![1]).toEqual({ x: at('b')!.x + 9, y: at('b')!.y });
    expect(y.thin[1]![1]).toEqual(y.label);
    expect(drawDimension(sketch, { ...aside, along: 'straight' }, at, 6)).toBeNull();
    const up = drawDimension(sketch, decide(sketch, 'angle', 90, ['rect-c3']), at, 6)!;
    expect(up.arc).toMatchObject({ centre: at('a'), startAngle: 0 });
    expect(up.arc!.sweep).toBeCloseTo(Math.atan2(19.6, -0.3), 9);
    const turn = drawDimension(sketch, decide(sketch, 'angle', 180, ['slot-c1']), at, 6)!;
    expect(turn.arc!.sweep).toBeGreaterThan(3);
    expect(turn.label.x).toBeGreaterThan(turn.arc!.centre.x);
  });

  it('which size is meant is told by where its figure is held', () => {
    const sketch = plate();
    const at = flat(sketch);
    const meant = (ids: string[], x: number, y: number) => {
      const d = dimensionMeant(sketch, dimensionsFor(sketch, ids, at, 'd'), at, { x, y });
      return d && `${d.kind} ${d.along}`;
    };
    expect(meant(['b', 'd'], 20, 40)).toBe('distance x');
    expect(meant(['b', 'd'], 60, 10)).toBe('distance y');
    expect(meant(['b', 'd'], 60, 40)).toBe('distance straight');
    // A line that is all but level has one length.
    expect(meant(['rect-c0'], 20, -9)).toBe('distance straight');
    expect(meant(['b'], 42, -20)).toBe('distance x');
    expect(meant(['b'], 70, 5)).toBe('distance y');
    expect(meant(['rect'], 20, -9)).toBe('width straight');
    expect(meant(['rect'], 70, 9)).toBe('height straight');
    expect(meant(['hole-c'], 22, 9)).toBe('diameter straight');
    expect(meant(['a', 'b', 'c'], 0, 0)).toBeNull();
  });
});
