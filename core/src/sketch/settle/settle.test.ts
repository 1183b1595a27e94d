import { describe, expect, it } from 'vitest';
import { arcShape, circleThrough, type Vec2 } from '../../geometry';
import { seededRandom } from '../../numeric';
import { clustersOf, equationsOf, newSketch, type Sketch, settleCluster, tellSketch, unknownsOf } from '..';
import { putPath, seen } from '../traced.test-data';
import { decide, flat, plate, relate } from './rig.test-data';

/** Places of everything, settled where something holds it. */
function settled(sketch: Sketch): (id: string) => Vec2 {
  const seen = flat(sketch);
  const places = new Map<string, Vec2>();
  for (const cluster of clustersOf(sketch).all) {
    const found = settleCluster(sketch, cluster, seen);
    if (!found.ok) throw new Error(found.reason);
    expect(found.lost).toEqual([]);
    for (const [id, at] of found.places) places.set(id, at);
  }
  return (id) => places.get(id) ?? (seen(id) as Vec2);
}

const circle = (at: (id: string) => Vec2, id: string) => circleThrough(at(`${id}-r0`), at(`${id}-r1`), at(`${id}-r2`))!;
const arc = (at: (id: string) => Vec2, from: string, via: string, to: string) => arcShape(at(from), at(via), at(to))!;
const away = (a: Vec2, b: Vec2) => Math.hypot(b.x - a.x, b.y - a.y);
const turn = (a: Vec2, b: Vec2) => Math.atan2(b.y - a.y, b.x - a.x);

describe('relations', () => {
  it('level, plumb, square and parallel', () => {
    const sketch = plate();
    relate(sketch, 'level', 'rect-c0');
    relate(sketch, 'square', 'rect-c0', 'rect-c1');
    relate(sketch, 'parallel', 'rect-c0', 'rect-c2', 'slot-c0');
    relate(sketch, 'plumb', 'd', 'a');
    const at = settled(sketch);
    expect(at('a').y).toBeCloseTo(at('b').y, 9);
    expect(at('b').x).toBeCloseTo(at('c').x, 9);
    expect(at('c').y).toBeCloseTo(at('d').y, 9);
    expect(at('d').x).toBeCloseTo(at('a').x, 9);
    expect(at('e').y).toBeCloseTo(at('f').y, 9);
    // Moved as little as could be: to the middle of what was seen.
    expect(at('a').y).toBeCloseTo(0.05, 9);
    expect(at('b').x).toBeCloseTo((40.2 + 39.9) / 2, 9);
  });

  it('a slot with ends that run on smoothly, and one radius', () => {
    const sketch = plate();
    relate(sketch, 'tangent', 'slot-c0', 'slot-c1');
    relate(sketch, 'tangent', 'slot-c1', 'slot-c2');
    relate(sketch, 'tangent', 'slot-c2', 'slot-c3');
    relate(sketch, 'tangent', 'slot-c3', 'slot-c0');
    relate(sketch, 'equal', 'slot-c1', 'slot-c3');
    decide(sketch, 'radius', 4.2, ['slot-c1']);
    const at = settled(sketch);
    const [one, other] = [arc(at, 'f', 'v', 'g'), arc(at, 'h', 'w', 'e')];
    expect(one.radius).toBeCloseTo(4.2, 7);
    expect(other.radius).toBeCloseTo(4.2, 7);
    expect(Math.abs(one.sweep)).toBeCloseTo(Math.PI, 4);
    expect(Math.abs(turn(at('e'), at('f')) - turn(at('h'), at('g')))).toBeLessThan(1e-4);
  });

  it('a curve that runs on from a line, a line that touches a circle, circles that touch', () => {
    const sketch = plate();
    relate(sketch, 'smooth', 'curve-c0', 'curve-c1');
    relate(sketch, 'tangent', 'rect-c1', 'hole-c');
    relate(sketch, 'tangent', 'pin-c', 'pin2-c');
    const at = settled(sketch);
    expect(turn(at('q'), at('h1'))).toBeCloseTo(turn(at('p'), at('q')), 8);
    const hole = circle(at, 'hole');
    const [b, c] = [at('b'), at('c')];
    const off = ((c.x - b.x) * (hole.centre.y - b.y) - (c.y - b.y) * (hole.centre.x - b.x)) / away(b, c);
    expect(Math.abs(off)).toBeCloseTo(hole.radius, 8);
    const [one, two] = [circle(at, 'pin'), circle(at, 'pin2')];
    expect(away(one.centre, two.centre)).toBeCloseTo(one.radius + two.radius, 8);
  });

  it('equal, in a row, round a centre, concentric', () => {
    const sketch = plate();
    relate(sketch, 'equal', 'pin-c', 'pin2-c', 'pin3-c');
    relate(sketch, 'even', 'pin-c', 'pin2-c', 'pin3-c');
    relate(sketch, 'equal', 'rect-c0', 'rect-c2');
    const at = settled(sketch);
    const [one, two, three] = ['pin', 'pin2', 'pin3'].map((id) => circle(at, id));
    expect(two!.radius).toBeCloseTo(one!.radius, 9);
    expect(three!.radius).toBeCloseTo(one!.radius, 9);
    expect(one!.centre.x + three!.centre.x).toBeCloseTo(2 * two!.centre.x, 8);
    expect(one!.centre.y + three!.centre.y).toBeCloseTo(2 * two!.centre.y, 8);
    expect(away(at('a'), at('b'))).toBeCloseTo(away(at('c'), at('d')), 8);

    const ring = plate();
    relate(ring, 'around', 'hole-c', 'a', 'b', 'c', 'd');
    relate(ring, 'concentric', 'pin-c', 'hole-c');
    const on = settled(ring);
    const middle = circle(on, 'hole').centre;
    const radii = ['a', 'b', 'c', 'd'].map((id) => away(middle, on(id)));
    for (const r of radii) expect(r).toBeCloseTo(radii[0]!, 8);
    expect(away(on('a'), on('b'))).toBeCloseTo(away(on('b'), on('c')), 8);
    expect(away(circle(on, 'pin').centre, middle)).toBeLessThan(1e-8);
  });

  it('so many to a turn round a centre, of which two are there', () => {
    const sketch = plate();
    sketch.constraints.q = { ...relate(sketch, 'around', 'hole-c', 'b', 'c'), id: 'q', count: 6 };
    delete sketch.constraints.c0;
    const at = settled(sketch);
    const middle = circle(at, 'hole').centre;
    expect(turn(middle, at('c')) - turn(middle, at('b'))).toBeCloseTo(Math.PI / 3, 8);
    expect(away(middle, at('c'))).toBeCloseTo(away(middle, at('b')), 8);
  });

  it('on a line, on a circle, on one line, in the middle, symmetric', () => {
    const sketch = plate();
    relate(sketch, 'on', 'e', 'rect-c0');
    relate(sketch, 'on', 'p', 'hole-c');
    relate(sketch, 'on', 'q', 'r', 'pin-o');
    relate(sketch, 'middle', 'pin2-c', 'rect-c2');
    relate(sketch, 'symmetric', 'a', 'd', 'slot-c2');
    relate(sketch, 'symmetric', 'pin3-c', 'hole-c', 'curve-c0');
    const at = settled(sketch);
    expect(Math.abs(turn(at('a'), at('b')) - turn(at('a'), at('e')))).toBeLessThan(1e-9);
    const hole = circle(at, 'hole');
    expect(away(at('p'), hole.centre)).toBeCloseTo(hole.radius, 8);
    const pin2 = circle(at, 'pin2').centre;
    expect(pin2.x).toBeCloseTo((at('c').x + at('d').x) / 2, 8);
    expect(pin2.y).toBeCloseTo((at('c').y + at('d').y) / 2, 8);
    const along = turn(at('g'), at('h'));
    expect(Math.cos(turn(at('a'), at('d')) - along)).toBeCloseTo(0, 8);
    expect(circle(at, 'pin3').radius).toBeCloseTo(hole.radius, 8);
  });
});

describe('sizes', () => {
  it('of every kind come out as they were decided', () => {
    const sketch = plate();
    decide(sketch, 'distance', 41, ['a', 'b']);
    decide(sketch, 'distance', 39, ['d', 'c'], 'x');
    decide(sketch, 'distance', 21, ['d', 'a'], 'y');
    decide(sketch, 'distance', 10.5, ['hole-c', 'rect-c0']);
    decide(sketch, 'distance', 8.3, ['slot-c0', 'slot-c2']);
    decide(sketch, 'diameter', 11, ['hole-c']);
    decide(sketch, 'radius', 4.6, ['slot-c1']);
    decide(sketch, 'arc-length', 14, ['slot-c3']);
    decide(sketch, 'angle', 88, ['rect-c0', 'rect-c1']);
    decide(sketch, 'path-length', 31, ['curve']);
    const at = settled(sketch);
    expect(away(at('a'), at('b'))).toBeCloseTo(41, 8);
    expect(at('c').x - at('d').x).toBeCloseTo(39, 8);
    expect(at('d').y - at('a').y).toBeCloseTo(21, 8);
    expect(circle(at, 'hole').radius).toBeCloseTo(5.5, 8);
    expect(arc(at, 'f', 'v', 'g').radius).toBeCloseTo(4.6, 8);
    const end = arc(at, 'h', 'w', 'e');
    expect(Math.abs(end.sweep) * end.radius).toBeCloseTo(14, 8);
    const inside = turn(at('b'), at('c')) - turn(at('b'), at('a'));
    expect(Math.abs(Math.atan2(Math.sin(inside), Math.cos(inside))) * (180 / Math.PI)).toBeCloseTo(88, 7);
  });

  it('overall, of a path whose widest place is on an arc', () => {
    const sketch = plate();
    decide(sketch, 'width', 30, ['slot']);
    decide(sketch, 'height', 9, ['slot']);
    const at = settled(sketch);
    const [right, left] = [arc(at, 'f', 'v', 'g'), arc(at, 'h', 'w', 'e')];
    expect(right.centre.x + right.radius - (left.centre.x - left.radius)).toBeCloseTo(30, 6);
  });

  it('far from what was seen are reached, the form going along', () => {
    const sketch = plate();
    decide(sketch, 'distance', 90, ['a', 'b']);
    decide(sketch, 'distance', 3, ['b', 'c']);
    decide(sketch, 'angle', 60, ['rect-c0', 'rect-c1']);
    const at = settled(sketch);
    expect(away(at('a'), at('b'))).toBeCloseTo(90, 8);
    expect(away(at('b'), at('c'))).toBeCloseTo(3, 8);
  });

  it('that cannot be together are not settled', () => {
    const sketch = plate();
    decide(sketch, 'distance', 40, ['a', 'b']);
    decide(sketch, 'distance', 10, ['b', 'c']);
    decide(sketch, 'distance', 80, ['a', 'c']);
    expect(settleCluster(sketch, clustersOf(sketch).all[0]!, flat(sketch))).toMatchObject({
      ok: false,
      reason: 'contradicts',
    });
  });

  it('that are none hold nothing, and say why', () => {
    const sketch = plate();
    decide(sketch, 'distance', -3, ['a', 'b']);
    decide(sketch, 'radius', 0, ['slot-c1']);
    relate(sketch, 'square', 'slot-c1', 'rect-c0');
    const lost = clustersOf(sketch).all.flatMap((c) => settleCluster(sketch, c, flat(sketch)).lost);
    expect(lost).toEqual([
      { condition: 'c0', reason: 'nothing-to-hold' },
      { condition: 'd0', reason: 'no-length' },
      { condition: 'd1', reason: 'no-length' },
    ]);
  });
});

describe('what is held', () => {
  it('stays where it was measured, and the rest goes', () => {
    const sketch = plate();
    relate(sketch, 'fixed', 'a');
    decide(sketch, 'distance', 45, ['a', 'b']);
    const at = settled(sketch);
    expect(away(at('a'), { x: 0.1, y: 0.2 })).toBeLessThan(1e-6);
    expect(away(at('a'), at('b'))).toBeCloseTo(45, 8);
  });
});

describe('sizes of one thing alone', () => {
  it('are places from zero, directions, and how far an arc turns', () => {
    const sketch = plate();
    decide(sketch, 'distance', -0.5, ['a'], 'x');
    decide(sketch, 'distance', 0, ['a'], 'y');
    decide(sketch, 'distance', 10, ['hole-c'], 'y');
    decide(sketch, 'angle', 2, ['rect-c0']);
    decide(sketch, 'angle', 150, ['slot-c1']);
    const at = settled(sketch);
    expect(at('a').x).toBeCloseTo(-0.5, 9);
    expect(at('a').y).toBeCloseTo(0, 9);
    expect(circle(at, 'hole').centre.y).toBeCloseTo(10, 8);
    expect((turn(at('a'), at('b')) * 180) / Math.PI).toBeCloseTo(2, 8);
    expect((Math.abs(arc(at, 'f', 'v', 'g').sweep) * 180) / Math.PI).toBeCloseTo(150, 7);
    // Nothing else of the rectangle is turned with it.
    expect(at('c').x).toBeCloseTo(39.9, 8);
  });

  it('a direction is the same whichever way the line runs, and may be said by more than half a turn', () => {
    for (const [id, ends, said, wanted] of [
      ['rect-c2', ['d', 'c'], 181.5, 1.5],
      ['rect-c2', ['d', 'c'], -178.5, 1.5],
      ['rect-c1', ['b', 'c'], -91, 89],
      ['rect-c3', ['a', 'd'], 92, 92],
    ] as const) {
      const sketch = plate();
      decide(sketch, 'angle', said, [id]);
      const at = settled(sketch);
      expect((turn(at(ends[0]), at(ends[1])) * 180) / Math.PI, `${id} ${said}`).toBeCloseTo(wanted, 8);
    }
  });

  it('two places and a direction hold a part on the sheet: nothing of how it lies is left', () => {
    const sketch = plate();
    decide(sketch, 'distance', 1, ['a'], 'x');
    decide(sketch, 'distance', 2, ['a'], 'y');
    decide(sketch, 'angle', 0, ['rect-c0']);
    decide(sketch, 'distance', 40, ['a', 'b']);
    const at = settled(sketch);
    expect(at('b').x).toBeCloseTo(41, 8);
    expect(at('b').y).toBeCloseTo(2, 8);
  });
});

describe('slopes', () => {
  it('are those that differences give, of every kind', () => {
    const sketch = plate();
    relate(sketch, 'level', 'rect-c0');
    relate(sketch, 'square', 'rect-c0', 'rect-c1');
    relate(sketch, 'tangent', 'slot-c0', 'slot-c1');
    relate(sketch, 'tangent', 'rect-c1', 'hole-c');
    relate(sketch, 'tangent', 'pin-c', 'pin2-c');
    relate(sketch, 'tangent', 'rect-c0', 'slot-c1');
    relate(sketch, 'smooth', 'curve-c0', 'curve-c1');
    relate(sketch, 'equal', 'slot-c1', 'hole-c');
    relate(sketch, 'concentric', 'slot-c3', 'pin-c');
    relate(sketch, 'on', 'p', 'slot-c1');
    relate(sketch, 'on', 'e', 'rect-c0');
    relate(sketch, 'symmetric', 'a', 'd', 'slot-c2');
    relate(sketch, 'around', 'hole-c', 'a', 'b', 'c', 'd');
    decide(sketch, 'distance', 10.5, ['hole-c', 'rect-c0']);
    decide(sketch, 'distance', 70, ['slot-c1', 'slot-c3']);
    decide(sketch, 'radius', 4.6, ['slot-c1']);
    decide(sketch, 'arc-length', 14, ['slot-c3']);
    decide(sketch, 'angle', 88, ['rect-c0', 'rect-c1']);
    decide(sketch, 'width', 30, ['slot']);
    decide(sketch, 'angle', 1, ['rect-c2']);
    decide(sketch, 'angle', 175, ['slot-c1']);
    decide(sketch, 'distance', -1, ['d'], 'x');
    decide(sketch, 'distance', 11, ['hole-c'], 'y');
    for (const cluster of clustersOf(sketch).all) {
      const unknowns = unknownsOf(sketch, cluster, flat(sketch), new Set())!;
      for (const condition of cluster.conditions) {
        const made = equationsOf(sketch, unknowns, condition);
        if (!made.ok) throw new Error(condition.id);
        for (const { at, value } of made.equations) {
          const x = Float64Array.from(unknowns.start);
          const slopes = new Float64Array(unknowns.size);
          value(x, slopes, 1);
          for (let k = 0; k < unknowns.size; k++) {
            const step = 1e-5;
            x[k] = unknowns.start[k]! + step;
            const plus = value(x, null, 1);
            x[k] = unknowns.start[k]! - step;
            const minus = value(x, null, 1);
            x[k] = unknowns.start[k]!;
            expect(slopes[k], `${condition.kind} by ${k}`).toBeCloseTo((plus - minus) / (2 * step), 5);
            if (slopes[k] !== 0) expect(at).toContain(k);
          }
        }
      }
    }
  });
});

describe('sizes that only just can be together', () => {
  const wanted = (seed: number, by: number, kind: 'width' | 'height') => {
    const random = seededRandom(seed);
    const off = () => by * (random() - 0.5);
    const [w, h] = [20 + 20 * random(), 10 + 10 * random()];
    const sketch = newSketch('sketch', 'Sketch', null);
    const at = {
      a: seen(off(), off()),
      b: seen(w + off(), off()),
      c: seen(w + off(), h + off()),
      d: seen(off(), h + off()),
    };
    putPath(sketch, at, {
      id: 'p',
      points: ['a', 'b', 'c', 'd'],
      bent: ['line', 'line', 'line', 'line'],
      closed: true,
    });
    const sides = kind === 'width' ? ['p-c1', 'p-c3'] : ['p-c0', 'p-c2'];
    decide(sketch, 'distance', kind === 'width' ? w : h, sides);
    return { sketch, size: kind === 'width' ? w : h, kind, other: kind === 'width' ? h : w };
  };

  it('are never called a contradiction: the distance of two sides beside the overall size of the same form', () => {
    let settled = 0;
    for (let seed = 1; seed <= 24; seed++) {
      const { sketch, size, kind } = wanted(seed, seed % 3 === 0 ? 2 : 0.2, seed % 2 ? 'width' : 'height');
      decide(sketch, kind, size, ['p']);
      const told = tellSketch(sketch, flat(sketch));
      expect(told.contradictions).toEqual([]);
      if (told.notFound.length === 0) settled += 1;
    }
    expect(settled).toBeGreaterThan(12);
  });

  it('are one where they differ by more than anybody can doubt, and then they are named', () => {
    let named = 0;
    for (let seed = 1; seed <= 8; seed++) {
      const { sketch, size, kind, other } = wanted(seed, 0.2, 'width');
      // Narrower overall than its sides lie apart.
      decide(sketch, kind, size - 1, ['p']);
      for (const side of ['p-c1', 'p-c3']) {
        relate(sketch, 'plumb', side);
        decide(sketch, 'distance', other, side === 'p-c1' ? ['b', 'c'] : ['d', 'a']);
      }
      // A line that comes to nothing has no direction, so that some of them can be after all, in a form that nobody wants.
      const [set] = tellSketch(sketch, flat(sketch)).contradictions;
      if (set) expect(set).toEqual(expect.arrayContaining(['d0', 'd1']));
      if (set) named += 1;
    }
    expect(named).toBeGreaterThan(4);
  });
});
