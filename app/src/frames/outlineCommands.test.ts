import { type Form, flattenForm } from '@steady-moth/core/geometry';
import { expect, it } from 'vitest';
import { drawCommands, outlineCommands } from './outlineCommands';

const form: Form = {
  kind: 'chain',
  closed: true,
  segments: [
    { kind: 'line', from: { x: 0, y: 0 }, to: { x: 10, y: 0 } },
    { kind: 'arc', from: { x: 10, y: 0 }, via: { x: 12, y: 2 }, to: { x: 10, y: 4 } },
    { kind: 'arc', from: { x: 10, y: 4 }, via: { x: 9, y: 5 }, to: { x: 8, y: 4 } },
    { kind: 'curve', from: { x: 8, y: 4 }, handleFrom: { x: 5, y: 9 }, handleTo: { x: 2, y: 1 }, to: { x: 0, y: 4 } },
    { kind: 'line', from: { x: 0, y: 4 }, to: { x: 0, y: 0 } },
  ],
};

/** A pen that writes down the places it goes through, by the rules of a canvas: another way than the path data's. */
function places(of: Form): { x: number; y: number }[] {
  const all: { x: number; y: number }[] = [];
  let at = { x: 0, y: 0 };
  const go = (x: number, y: number) => {
    at = { x, y };
    all.push(at);
  };
  drawCommands(outlineCommands(of), {
    moveTo: go,
    lineTo: go,
    bezierCurveTo(x1, y1, x2, y2, x, y) {
      const from = at;
      for (let t = 0.125; t <= 1; t += 0.125) {
        const s = 1 - t;
        const on = (a: number, b: number, c: number, d: number) =>
          s ** 3 * a + 3 * s * s * t * b + 3 * s * t * t * c + t ** 3 * d;
        go(on(from.x, x1, x2, x), on(from.y, y1, y2, y));
      }
    },
    arc(x, y, radius, from, to, anticlockwise) {
      let sweep = to - from;
      // HTML, "arc": the way round is said by the flag.
      if (!anticlockwise && sweep < 0) sweep += 2 * Math.PI;
      if (anticlockwise && sweep > 0) sweep -= 2 * Math.PI;
      for (let t = 0; t <= 1; t += 0.125)
        go(x + radius * Math.cos(from + t * sweep), y + radius * Math.sin(from + t * sweep));
    },
    closePath() {},
  });
  return all;
}

it('draws what the form is', () => {
  const polygon = flattenForm(form, 1e-4);
  const nearest = (p: { x: number; y: number }) =>
    Math.min(...polygon.map((q, k) => distanceTo(p, q, polygon[(k + 1) % polygon.length]!)));
  for (const p of places(form)) expect(nearest({ x: p.x, y: -p.y })).toBeLessThan(1e-3);
  const circle: Form = { kind: 'circle', centre: { x: 3, y: 7 }, radius: 2 };
  for (const p of places(circle)) expect(Math.hypot(p.x - 3, -p.y - 7)).toBeCloseTo(2, 9);
  expect(outlineCommands(null)).toHaveLength(0);
});

function distanceTo(p: { x: number; y: number }, a: { x: number; y: number }, b: { x: number; y: number }): number {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const t = Math.min(1, Math.max(0, ((p.x - a.x) * dx + (p.y - a.y) * dy) / (dx * dx + dy * dy || 1)));
  return Math.hypot(p.x - a.x - t * dx, p.y - a.y - t * dy);
}
