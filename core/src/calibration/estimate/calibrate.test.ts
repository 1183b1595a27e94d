import { buildCamera, type Camera, pictureOf } from '@steady-moth/rig/camera';
import { describe, expect, it } from 'vitest';
import { agreements, checkSpot } from '../consistency/agreement';
import { type Datum, planeMap, planeMapper, positionOf } from '../datum/datum';
import type { KnownLength } from '../reference/reference';
import { distance, figureOf, type PlanePick } from '../uncertainty/figure';
import { calibrate } from './calibrate';
import type { CalibrationInput } from './calibrationInput';

/* The truth comes from the simulated camera's own mathematics, which shares nothing with the estimator. */

const CAMERA: Camera = buildCamera({
  widthPx: 4032,
  heightPx: 3024,
  cPx: 3080,
  centre: [2025, 1500],
  radial: [0.03, -0.02, 0],
  decentring: [0, 0],
  target: [0, 0],
  distanceMm: 380,
  tilt: 0.16,
  tiltTowards: 2.1,
  roll: 0.03,
});

const pick = (x: number, y: number, z: number, plane: string): PlanePick => {
  const at = pictureOf(CAMERA, { x, y, z });
  if (!at) throw new Error('not pictured');
  return { uPx: at[0], vPx: at[1], sigmaPx: 0.1, plane };
};
const known = (id: string, from: [number, number], to: [number, number], z = 2, plane = 'face'): KnownLength => ({
  id,
  kind: 'known-length',
  plane,
  from: pick(...from, z, plane),
  to: pick(...to, z, plane),
  lengthMm: Math.hypot(to[0] - from[0], to[1] - from[1]),
  plusMinusMm: 0.04,
});
const input = (references: KnownLength[]): CalibrationInput => ({
  facts: { widthPx: 4032, heightPx: 3024, focal35Mm: 27, focalMm: 5.6, doubts: [], resolution: null },
  lens: 'photo',
  believeResolution: false,
  hold: 'free',
  planes: [
    { id: 'reference', heightMm: 1, plusMinusMm: 0.05 },
    { id: 'face', heightMm: 2, plusMinusMm: 0.05 },
  ],
  references,
});
const RULER = known('ruler', [-80, -60], [70, -60], 1, 'reference');
const FOUR = [
  RULER,
  known('right', [75, -40], [75, 60]),
  known('top', [-70, 65], [60, 65]),
  known('left', [-75, -35], [-75, 55]),
];
const solved = (references: KnownLength[], options = {}) => {
  const result = calibrate(input(references), options);
  if (!result.ok) throw new Error(result.reason);
  return result.calibration;
};
const span = [pick(-30, 5, 2, 'face'), pick(45, 20, 2, 'face')];
const SPAN_MM = Math.hypot(75, 15);

describe('truePicture', () => {
  it('finds the camera again from four known lengths', () => {
    const calibration = solved(FOUR);
    expect(Math.abs(calibration.tiltRad - 0.16)).toBeLessThan(Math.max(...calibration.tiltPlusMinusRad));
    expect(calibration.cameraHeightMm / (380 * Math.cos(0.16))).toBeCloseTo(1, 1);
    const found = figureOf(calibration, span, distance);
    expect(Math.abs((found?.value ?? 0) - SPAN_MM)).toBeLessThan(found?.plusMinus ?? 0);
    expect(found?.plusMinus).toBeLessThan(0.5);
  });

  it('leaves the tilt to the prior with two readings, and says so by a large ±', () => {
    const calibration = solved([RULER]);
    expect(Math.min(...calibration.tiltUnseen)).toBeGreaterThan(0.9);
    expect(calibration.draws?.length).toBeGreaterThan(300);
    const found = figureOf(calibration, span, distance);
    expect(found?.plusMinus).toBeGreaterThan(2);
    expect(Math.abs((found?.value ?? 0) - SPAN_MM)).toBeLessThan(found?.plusMinus ?? 0);
    // Along the ruler itself it is known all the same.
    const along = figureOf(
      calibration,
      [
        { ...RULER.from, plane: 'reference' },
        { ...RULER.to, plane: 'reference' },
      ],
      distance,
    );
    expect(along?.value).toBeCloseTo(150, 1);
    expect(along?.plusMinus).toBeLessThan(0.2);
  });

  it('becomes surer with each further known length', () => {
    const spread = [1, 2, 3, 4].map((n) => figureOf(solved(FOUR.slice(0, n)), span, distance)?.plusMinus ?? 0);
    expect(spread[1]).toBeLessThan(spread[0]!);
    expect(spread[3]).toBeLessThan(spread[1]!);
  });

  it('believes a camera held flat-on', () => {
    const free = figureOf(solved([RULER]), span, distance)?.plusMinus ?? 0;
    const flat = calibrate({ ...input([RULER]), hold: 'flat-on' });
    const held = flat.ok ? (figureOf(flat.calibration, span, distance)?.plusMinus ?? 0) : 0;
    expect(held).toBeLessThan(free / 3);
  });

  it('takes a height for what it is: 12 mm above the ruler is 3 % nearer', () => {
    const wrong = input(FOUR);
    const high = [pick(-30, 5, 14, 'face'), pick(45, 20, 14, 'face')];
    const low = figureOf(solved(FOUR), high, distance)?.value ?? 0;
    expect(low / SPAN_MM).toBeGreaterThan(1.025);
    const told = calibrate({ ...wrong, planes: [...wrong.planes, { id: 'high', heightMm: 14, plusMinusMm: 0.05 }] });
    const right = told.ok
      ? figureOf(
          told.calibration,
          high.map((p) => ({ ...p, plane: 'high' })),
          distance,
        )
      : null;
    expect(Math.abs((right?.value ?? 0) - SPAN_MM)).toBeLessThan(right?.plusMinus ?? 0);
  });

  it('gives the same figures for the same seed', () => {
    expect(figureOf(solved([RULER]), span, distance)).toEqual(figureOf(solved([RULER]), span, distance));
  });

  it.each([
    ['nothing known', [], 'no-yardstick'],
    ['both picks in one place', [{ ...RULER, to: { ...RULER.from, uPx: RULER.from.uPx + 1 } }], 'picks-coincide'],
    ['a plane that is not there', [{ ...RULER, plane: 'attic' }], 'unknown-plane'],
  ])('refuses %s', (_, references, reason) => {
    expect(calibrate(input(references as KnownLength[]))).toMatchObject({ ok: false, reason });
  });
});

describe('agreement', () => {
  it('finds the wrong one of six known lengths', () => {
    const six = [...FOUR, known('low', [-60, -35], [60, -35]), known('slant', [-60, -30], [60, 55])];
    const wrong = six.map((y) => (y.id === 'low' ? { ...y, lengthMm: y.lengthMm * 1.03 } : y));
    const found = agreements(input(wrong)).low;
    expect(found?.fits).toBe(false);
    expect(Math.abs((found?.deviationShare ?? 0) + 0.029)).toBeLessThan(0.003);
    expect(Object.values(agreements(input(six))).every((a) => a?.fits)).toBe(true);
  });

  it('holds a spot check against its ±', () => {
    const calibration = solved(FOUR);
    const spot = (lengthMm: number) =>
      checkSpot(calibration, { from: span[0]!, to: span[1]!, lengthMm, plusMinusMm: null });
    expect(spot(SPAN_MM)?.fits).toBe(true);
    expect(spot(SPAN_MM * 1.02)?.fits).toBe(false);
    expect(spot(SPAN_MM * 1.02)?.deviationShare).toBeCloseTo(-0.0196, 2);
  });
});

describe('datum', () => {
  const calibration = solved(FOUR);
  const middle = { uPx: 2016, vPx: 1512 };

  it('puts zero and X where it was said, each without upsetting the other', () => {
    const axis: Datum['axis'] = { from: pick(-70, 65, 2, 'face'), to: pick(60, 65, 2, 'face'), along: 'x' };
    const zero = pick(10, 20, 2, 'face');
    const mapped = (datum: Datum, x: number, y: number) =>
      planeMapper(planeMap(calibration, datum, 'face', middle)).toPart(pick(x, y, 2, 'face'));
    const both = mapped({ zero, axis }, 50, 50);
    expect(both?.xMm).toBeCloseTo(40, 0);
    expect(both?.yMm).toBeCloseTo(30, 0);
    const length = Math.hypot(both?.xMm ?? 0, both?.yMm ?? 0);
    const unturned = mapped({ zero, axis: null }, 50, 50);
    expect(Math.hypot(unturned?.xMm ?? 0, unturned?.yMm ?? 0)).toBeCloseTo(length, 9);
  });

  it('takes a line along Y a quarter turn back, whichever end was picked first', () => {
    const up: Datum['axis'] = { from: pick(75, -40, 2, 'face'), to: pick(75, 60, 2, 'face'), along: 'y' };
    const down: Datum['axis'] = { from: up.to, to: up.from, along: 'y' };
    const turns = [up, down].map((axis) => planeMap(calibration, { zero: null, axis }, 'face', middle).turn);
    expect(turns[0]).toBeCloseTo(turns[1]!, 12);
    expect(Math.abs(turns[0]!)).toBeLessThan(0.2);
  });

  it('maps there and back', () => {
    const mapper = planeMapper(planeMap(calibration, { zero: null, axis: null }, 'face', middle));
    for (const uPx of [200, 1500, 3900])
      for (const vPx of [100, 2900]) {
        const part = mapper.toPart({ uPx, vPx });
        const back = part && mapper.toPicture(part);
        expect(Math.hypot((back?.uPx ?? 0) - uPx, (back?.vPx ?? 0) - vPx)).toBeLessThan(1e-6);
      }
  });

  it('adds the scatter of the axis to a far point', () => {
    const zero = pick(-70, 65, 2, 'face');
    const axis = (to: number): Datum['axis'] => ({ from: zero, to: pick(to, 65, 2, 'face'), along: 'x' });
    const far = pick(60, -50, 2, 'face');
    const long = positionOf(calibration, { zero, axis: axis(60) }, far);
    const short = positionOf(calibration, { zero, axis: axis(-66) }, far);
    expect((short?.x.plusMinus ?? 0) / (long?.x.plusMinus ?? 1)).toBeGreaterThan(2);
  });
});
