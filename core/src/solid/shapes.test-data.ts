import type { Form, Vec2 } from '../geometry';
import { type ExtrudeStep, frameOf, type Loop, regionsOf } from '.';

/** A polygon through places in order. */
export const polygon = (...places: readonly (readonly [number, number])[]): Extract<Form, { kind: 'chain' }> => {
  const points = places.map(([x, y]): Vec2 => ({ x, y }));
  return {
    kind: 'chain',
    closed: true,
    segments: points.map((from, k) => ({ kind: 'line', from, to: points[(k + 1) % points.length]! })),
  };
};

export const rectangle = (x: number, y: number, w: number, h: number) =>
  polygon([x, y], [x + w, y], [x + w, y + h], [x, y + h]);

export const circle = (x: number, y: number, radius: number): Form => ({ kind: 'circle', centre: { x, y }, radius });

/** A loop whose pieces are called by their path and number. */
export const loop = (path: string, form: Form): Loop => ({
  path,
  form,
  curves: form.kind === 'circle' ? [`${path}-0`] : form.segments.map((_, k) => `${path}-${k}`),
});

/** A plate 40 × 20 with a hole of 8 in it, drawn out from 0 to a height. */
export const plate = (toMm = 3): ExtrudeStep => ({
  kind: 'extrude',
  id: 'plate',
  does: 'add',
  frame: frameOf('top', 0),
  regions: regionsOf([loop('outer', rectangle(0, 0, 40, 20)), loop('hole', circle(10, 10, 4))]),
  heights: { fromMm: 0, toMm },
  draftRad: 0,
  inside: null,
});

export const PLATE_AREA = 800 - 16 * Math.PI;
