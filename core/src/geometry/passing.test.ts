import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../numeric';
import { type Form, flattenForm, meetings, piecesOf, type Segment, type Vec2, WELD_MM, weldedForm } from '.';

const at = (x: number, y: number): Vec2 => ({ x, y });
const line = (from: Vec2, to: Vec2): Segment => ({ kind: 'line', from, to });
const polar = (r: number, a: number, c = at(0, 0)): Vec2 => at(c.x + r * Math.cos(a), c.y + r * Math.sin(a));
/** Where forms pass through one another, each place once: the beginning of a circle lies on two of its pieces. */
const passings = (...forms: Form[]) =>
  meetings(piecesOf(forms))
    .filter((m) => m.passes)
    .filter((m, k, all) => all.findIndex((o) => Math.hypot(o.at.x - m.at.x, o.at.y - m.at.y) < 1e-6) === k);
const chain = (segments: Segment[], closed: boolean): Form => ({ kind: 'chain', segments, closed });
const open = (...places: Vec2[]): Form =>
  chain(
    places.slice(1).map((to, k) => line(places[k]!, to)),
    false,
  );

/** Whether any two sides of a polygon cross, by signs of areas alone. */
function polygonCrosses(p: readonly Vec2[]): boolean {
  const side = (a: Vec2, b: Vec2, c: Vec2) => (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
  for (let i = 0; i < p.length; i++)
    for (let j = i + 2; j < p.length; j++) {
      if (i === 0 && j === p.length - 1) continue;
      const [a, b, c, d] = [p[i]!, p[i + 1]!, p[j]!, p[(j + 1) % p.length]!];
      if (side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0) return true;
    }
  return false;
}

describe('passing through one another', () => {
  it('is told of forms of curves as of their fine polygons', () => {
    const random = seededRandom(Number(process.env.SEED ?? 11));
    const place = () => at(40 * random(), 40 * random());
    let [crossing, sound] = [0, 0];
    for (let n = 0; n < 400; n++) {
      const places = Array.from({ length: 3 + (n % 3) }, place);
      const segments = places.map((from, k): Segment => {
        const to = places[(k + 1) % places.length]!;
        const kind = Math.floor(3 * random());
        if (kind === 0) return line(from, to);
        // Bent mildly, so that about half of all forms are sound.
        const bend = () => 0.3 * (random() - 0.5);
        const beside = (t: number) => {
          const h = bend();
          return at(
            from.x + t * (to.x - from.x) - h * (to.y - from.y),
            from.y + t * (to.y - from.y) + h * (to.x - from.x),
          );
        };
        if (kind === 1) return { kind: 'arc', from, via: beside(0.5), to };
        return { kind: 'curve', from, handleFrom: beside(0.3), handleTo: beside(0.7), to };
      });
      const form = chain(segments, true);
      // What hardly crosses is told by no polygon: two of them must agree.
      const [fine, finer] = [0.01, 0.0005].map((mm) => polygonCrosses(flattenForm(form, mm)));
      if (fine !== finer) continue;
      expect(passings(form).length > 0, JSON.stringify(form)).toBe(fine);
      if (fine) crossing += 1;
      else sound += 1;
    }
    expect(Math.min(crossing, sound)).toBeGreaterThan(80);
  });

  it('is none at joints, where ends stop on a line, and where circles touch, wherever they lie', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        fc.double({ min: 1, max: 60, noNaN: true }),
        fc.double({ min: -0.9, max: 0.9, noNaN: true }),
        (turn, r, off) => {
          const c = at(100 * off, 37 * off);
          const big: Form = { kind: 'circle', centre: c, radius: r };
          const slip = off * WELD_MM;
          const outside: Form = { kind: 'circle', centre: polar(r + 3 + slip, turn, c), radius: 3 };
          const inside: Form = { kind: 'circle', centre: polar(r - r / 3 + slip, turn, c), radius: r / 3 };
          const square = chain(
            [0, 1, 2, 3].map((k) =>
              line(
                polar(r * Math.SQRT2, turn + (k * Math.PI) / 2, c),
                polar(r * Math.SQRT2, turn + ((k + 1) * Math.PI) / 2, c),
              ),
            ),
            true,
          );
          for (const other of [outside, inside, square]) expect(passings(big, other)).toEqual([]);
          expect(meetings(piecesOf([big, square])).length).toBeGreaterThan(3);
          // An end that was trimmed at the rim, a hair short of it or past it.
          expect(passings(big, open(c, polar(r + slip, turn, c)))).toEqual([]);
          // Past it by more than a hair it passes; so do circles that overlap by more.
          expect(passings(big, open(c, polar(r + 3 * WELD_MM, turn, c)))).toHaveLength(1);
          expect(passings(big, { kind: 'circle', centre: polar(r + 3 - 0.01, turn, c), radius: 3 })).toHaveLength(2);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('is one where a corner of a path lies on another that it goes through, and none where it turns back', () => {
    const wall = open(at(-10, 0), at(10, 0));
    expect(passings(wall, open(at(-3, -5), at(0, 0), at(4, 6))).length).toBeGreaterThan(0);
    expect(passings(wall, open(at(-3, 5), at(0, 0), at(4, 6)))).toEqual([]);
    expect(passings(open(at(-9, -9), at(0, 0), at(9, -9)), open(at(0, -5), at(0, 0), at(0, 7))).length).toBeGreaterThan(
      0,
    );
  });

  it('closes what ends within a micrometre of its beginning, and nothing else', () => {
    const near = open(at(0, 0), at(10, 0), at(10, 10), at(2e-4, 5e-4));
    const welded = weldedForm(near);
    expect(welded).toMatchObject({ closed: true });
    if (welded.kind === 'chain') expect(welded.segments[2]!.to).toEqual(at(0, 0));
    expect(weldedForm(open(at(0, 0), at(10, 0), at(10, 10), at(0, 0.01)))).toMatchObject({ closed: false });
  });
});
