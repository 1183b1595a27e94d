import { buildCamera, pictureOf } from '@steady-moth/rig/camera';
import { LATCH_PLATE_SCENE } from '@steady-moth/rig/demo';
import { describe, expect, it } from 'vitest';
import { calibrate, planeMap, rulerWidths } from '../../calibration';
import { calibrationInput, type KnownLengthRecord, newCalibrationRecord } from '..';
import { adviseNext } from './adviseNext';

const camera = buildCamera({ ...LATCH_PLATE_SCENE.camera, distanceMm: 350 });
const picksBy = (by: typeof camera) => (x: number, y: number) => {
  const [uPx, vPx] = pictureOf(by, { x, y, z: 0 }) ?? [0, 0];
  return { uPx, vPx, sigmaPx: 0.1 };
};
const pick = picksBy(camera);
const known = (id: string, a: [number, number], b: [number, number]) => ({
  id,
  kind: 'known-length' as const,
  plane: 'table' as const,
  from: pick(...a),
  to: pick(...b),
  lengthMm: Math.hypot(b[0] - a[0], b[1] - a[1]),
  plusMinusMm: 0.03,
  typed: '',
  graduations: null,
  width: null,
});
const advise = (references: KnownLengthRecord[]) => {
  const said = {
    facts: { widthPx: 4032, heightPx: 3024, focal35Mm: 27, focalMm: 5.6, doubts: [], resolution: null },
    kind: 'photo' as const,
    calibration: { ...newCalibrationRecord(), references },
  };
  const input = calibrationInput(said);
  const result = calibrate(input);
  if (!result.ok) throw new Error(result.reason);
  return adviseNext(
    said,
    input,
    result.calibration,
    planeMap(result.calibration, { zero: null, axis: null, rows: 0, flip: false }, 'face', { uPx: 2016, vPx: 1512 }),
    rulerWidths(input),
  );
};

describe('adviseNext', () => {
  it('tells after two readings what would help, and that it is much', () => {
    const found = advise([known('rule', [-75, -55], [75, -55])]);
    expect(found?.options.map((o) => o.what)).toContain('flat-on');
    for (const o of found?.options ?? []) expect(o.wouldBeMm).toBeLessThan(0.67 * (found?.nowMm ?? 0));
  });

  it('asks for the width of a ruler where that is what would help', () => {
    const at = picksBy(
      buildCamera({ ...LATCH_PLATE_SCENE.camera, distanceMm: 350, tilt: 0.3, tiltTowards: Math.PI / 2 }),
    );
    const edge = (downMm: number) => Array.from({ length: 30 }, (_, k) => at(-75 + 5 * k, -53 - downMm));
    const graduations = Array.from({ length: 151 }, (_, n) => ({ n, places: [at(n - 75, -54), at(n - 75, -56)] }));
    const rule: KnownLengthRecord = {
      ...known('rule', [-75, -55], [75, -55]),
      from: at(-75, -55),
      to: at(75, -55),
      graduations: { spacingMm: 1, graduations, edge: edge(0), far: edge(19) },
    };
    expect(advise([rule])?.options.map((o) => o.what)).toContain('width');
    const measured = advise([{ ...rule, width: { widthMm: 19, plusMinusMm: 0.03 } }]);
    expect(measured?.options.map((o) => o.what) ?? []).not.toContain('width');
  });

  it('asks for less the more is known', () => {
    const round = [
      known('a', [-90, -70], [90, -70]),
      known('b', [90, -70], [90, 70]),
      known('c', [90, 70], [-90, 70]),
      known('d', [-90, 70], [-90, -70]),
      known('e', [-90, -70], [90, 70]),
      known('f', [-90, 70], [90, -70]),
    ];
    const [one, all] = [advise(round.slice(0, 1)), advise(round)];
    expect(all?.nowMm ?? 0).toBeLessThan((one?.nowMm ?? 0) / 10);
  });
});
