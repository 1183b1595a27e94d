import { buildCamera, pictureOf } from '@steady-moth/rig/camera';
import { describe, expect, it } from 'vitest';
import { normalRandom, seededRandom } from '../../numeric';
import { type KnownLength, type Pick, truePicture } from '..';
import { distance, figureOf } from '../figure';
import { thinnedStrokes } from './ruler';

const camera = buildCamera({
  widthPx: 4032,
  heightPx: 3024,
  cPx: 3100,
  centre: [2010, 1520],
  radial: [0.03, -0.02, 0],
  decentring: [0, 0],
  target: [0, 0],
  distanceMm: 330,
  tilt: 0.2,
  tiltTowards: -1.9,
  roll: 0.05,
});
const normal = normalRandom(seededRandom(4));
const SIGMA_PX = 0.06;
const pick = (x: number, y: number, sigmaPx = SIGMA_PX): Pick => {
  const [uPx, vPx] = pictureOf(camera, { x, y, z: 0 }) ?? [0, 0];
  return { uPx: uPx + sigmaPx * normal(), vPx: vPx + sigmaPx * normal(), sigmaPx };
};
const ruler: KnownLength = {
  id: 'rule',
  kind: 'known-length',
  plane: 'table',
  from: pick(-75, -57),
  to: pick(75, -57),
  lengthMm: 150,
  plusMinusMm: null,
  strokes: {
    spacingMm: 1,
    strokes: Array.from({ length: 151 }, (_, n) => ({ n, places: [pick(n - 75, -56), pick(n - 75, -57.6)] })),
    edge: Array.from({ length: 30 }, (_, k) => pick(-72 + 5 * k, -55)),
  },
};
const input = (yardstick: KnownLength) => ({
  facts: { widthPx: 4032, heightPx: 3024, focal35Mm: 27, focalMm: 5.6, doubts: [], resolution: null },
  lens: 'photo' as const,
  believeResolution: false,
  hold: 'free' as const,
  planes: [],
  yardsticks: [yardstick],
});

describe('a ruler by its strokes', () => {
  it('shows the tilt, along and across, that its two readings do not see', () => {
    const two = truePicture(input({ ...ruler, strokes: null }));
    const lines = truePicture(input(ruler));
    if (!two.ok || !lines.ok) throw new Error();
    expect(Math.max(...two.truing.tiltPlusMinusRad)).toBeGreaterThan(0.3);
    expect(Math.max(...lines.truing.tiltPlusMinusRad)).toBeLessThan(0.03);
    expect(Math.abs(lines.truing.tiltRad - 0.2)).toBeLessThan(0.015);
    // 100 mm anywhere beside it, in any direction.
    for (const [x, y, dx, dy] of [
      [-50, 0, 100, 0],
      [0, -40, 0, 100],
      [-40, -30, 80, 60],
    ]) {
      const ends = [pick(x, y, 0.01), pick(x + dx, y + dy, 0.01)].map((p) => ({ ...p, plane: 'table' }));
      const found = figureOf(lines.truing, ends, distance);
      expect(Math.abs((found?.value ?? 0) - 100)).toBeLessThan(found?.plusMinus ?? 0);
      expect(found?.plusMinus).toBeLessThan(0.6);
    }
  });

  it('knows the same by fewer strokes that stand for all', () => {
    const few = truePicture(input({ ...ruler, strokes: thinnedStrokes(ruler.strokes!) }));
    const all = truePicture(input(ruler));
    if (!few.ok || !all.ok) throw new Error();
    for (const k of [0, 1]) {
      const ratio = few.truing.tiltPlusMinusRad[k] / all.truing.tiltPlusMinusRad[k];
      expect(ratio).toBeGreaterThan(0.8);
      expect(ratio).toBeLessThan(1.25);
    }
  });
});
