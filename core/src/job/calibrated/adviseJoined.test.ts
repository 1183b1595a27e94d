import { buildCamera, type CameraSetup, pictureOf } from '@steady-moth/rig/camera';
import { LATCH_PLATE_SCENE } from '@steady-moth/rig/demo';
import { describe, expect, it } from 'vitest';
import {
  type JoinRecord,
  type KnownLengthRecord,
  newCalibrationRecord,
  newPicture,
  type PictureGroup,
  type ReferenceRecord,
} from '..';
import { adviseJoined } from './adviseJoined';

const view = (target: [number, number]): CameraSetup => ({
  ...LATCH_PLATE_SCENE.camera,
  distanceMm: 350,
  target,
  radial: [0, 0, 0],
});
const CAMERAS = { left: buildCamera(view([-80, 0])), right: buildCamera(view([85, 0])) };
const pick = (side: 'left' | 'right', x: number, y: number) => {
  const [uPx, vPx] = pictureOf(CAMERAS[side], { x, y, z: 0 }) ?? [0, 0];
  return { uPx, vPx, sigmaPx: 0.2 };
};

/** A picture with four known lengths round it: well trued by itself. */
function picture(side: 'left' | 'right', middle: number, known: boolean): PictureGroup['pictures'][number] {
  const corners: [number, number][] = [
    [middle - 90, -60],
    [middle + 90, -60],
    [middle + 90, 60],
    [middle - 90, 60],
  ];
  const references = corners.map(
    (from, k): ReferenceRecord => ({
      id: `${side}${k}`,
      kind: 'known-length',
      plane: 'table',
      from: pick(side, ...from),
      to: pick(side, ...corners[(k + 1) % 4]!),
      lengthMm: k % 2 ? 120 : 180,
      plusMinusMm: 0.03,
      typed: '',
      graduations: null,
      width: null,
    }),
  );
  const facts = { widthPx: 4032, heightPx: 3024, focal35Mm: 27, focalMm: 5.6, doubts: [], resolution: null };
  const file = { blob: side, fileName: `${side}.jpg`, mime: 'image/jpeg' as const, facts };
  return {
    ...newPicture(side, file, 'photo'),
    calibration: { ...newCalibrationRecord(), references: known ? references : [] },
  };
}
const point = (x: number, y: number): JoinRecord => ({
  id: `${x} ${y}`,
  kind: 'point',
  seen: (['left', 'right'] as const).map((side) => ({ picture: side, plane: 'table', pick: pick(side, x, y) })),
});
const group = (rightKnown: boolean, ...points: [number, number][]): PictureGroup => ({
  unit: 'mm',
  pictures: [picture('left', -80, true), picture('right', 85, rightKnown)],
  joins: points.map(([x, y]) => point(x, y)),
});

describe('adviseJoined', () => {
  it('says what a further common point or a length would bring where two points stand close together', () => {
    const advice = adviseJoined(group(true, [0, 0], [12, 6]));
    expect(advice?.picture).toBe('right');
    expect(advice?.options.map((o) => o.what).sort()).toEqual(['length', 'point']);
    for (const { wouldBeMm } of advice?.options ?? []) expect(wouldBeMm).toBeLessThan(0.8 * (advice?.nowMm ?? 0));
    expect(advice?.options[0]?.wouldBeMm).toBeLessThanOrEqual(advice?.options[1]?.wouldBeMm ?? 0);
    // Two points more, at either end of what both show, do more than the one that was tried.
    const then = adviseJoined(group(true, [0, 0], [12, 6], [2, -62], [2, 62]));
    const promised = advice?.options.find((o) => o.what === 'point')?.wouldBeMm ?? 0;
    expect(then === null || then.nowMm < promised).toBe(true);
  });

  it('asks for a further point where nothing in the picture has a size of its own', () => {
    const advice = adviseJoined(group(false, [-10, -55], [12, 55], [14, -50], [-12, 48]));
    expect(advice?.options.map((o) => o.what)).toEqual(['point']);
  });

  it('asks for the widths of the rulers where these decide, and no more once they are measured', () => {
    const tilted = (side: 'left' | 'right') =>
      buildCamera({ ...view([side === 'left' ? -80 : 85, 0]), tilt: 0.35, tiltTowards: Math.PI / 2 });
    const cameras = { left: tilted('left'), right: tilted('right') };
    const at = (side: 'left' | 'right', x: number, y: number) => {
      const [uPx, vPx] = pictureOf(cameras[side], { x, y, z: 0 }) ?? [0, 0];
      return { uPx, vPx, sigmaPx: 0.06 };
    };
    const ruled = (side: 'left' | 'right', middle: number, width: KnownLengthRecord['width']) => {
      const rule: KnownLengthRecord = {
        id: side,
        kind: 'known-length',
        plane: 'table',
        from: at(side, middle - 70, -62),
        to: at(side, middle + 70, -62),
        lengthMm: 140,
        plusMinusMm: null,
        typed: '',
        graduations: {
          spacingMm: 1,
          graduations: Array.from({ length: 141 }, (_, n) => ({
            n,
            places: [at(side, middle - 70 + n, -61), at(side, middle - 70 + n, -63)],
          })),
          edge: Array.from({ length: 28 }, (_, k) => at(side, middle - 68 + 5 * k, -60)),
          far: Array.from({ length: 28 }, (_, k) => at(side, middle - 68 + 5 * k, -79)),
        },
        width,
      };
      const plain = picture(side, middle, false);
      return { ...plain, calibration: { ...plain.calibration, references: [rule] } };
    };
    const seen = (x: number, y: number): JoinRecord => ({
      id: `${x} ${y}`,
      kind: 'point',
      seen: (['left', 'right'] as const).map((side) => ({ picture: side, plane: 'table', pick: at(side, x, y) })),
    });
    const asked = (width: KnownLengthRecord['width']) =>
      adviseJoined({
        unit: 'mm',
        pictures: [ruled('left', -80, width), ruled('right', 85, width)],
        joins: [seen(-10, -50), seen(12, 55), seen(2, 0)],
      })?.options.map((o) => o.what) ?? [];
    expect(asked(null)).toContain('width');
    expect(asked({ widthMm: 19, plusMinusMm: 0.03 })).not.toContain('width');
  });

  it('says nothing where the pictures do not hold together', () => {
    expect(adviseJoined(group(true, [0, 0]))).toBeNull();
  });
});
