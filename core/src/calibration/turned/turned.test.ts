import { describe, expect, it } from 'vitest';
import { agreements } from '../consistency/agreement';
import { type Calibration, calibrate } from '../estimate/calibrate';
import type { CalibrationInput } from '../estimate/calibrationInput';
import { axisFrom, silhouetteAt } from '../model/silhouette';
import { inputOf, SETUP, seenBy } from '../reference/kinds/yardsticks.test-data';
import type { Reference } from '../reference/reference';
import { distance, figureOf, type PlanePick } from '../uncertainty/figure';
import { betweenOnTurned, silhouetteDiameter, type TurnedPart } from './turned';

const AXIS_MM = 20;
/** The axis runs at this angle through this place of the scene, mm. */
const TURN = 0.3;
const AT = { x: -12, y: 25 };

type Profile = (along: number) => { radius: number; slope: number };
const rod: Profile = () => ({ radius: 18, slope: 0 });
const cone: Profile = (z) => ({ radius: 12 + 0.12 * z, slope: 0.12 });
const ball: Profile = (z) => ({
  radius: Math.sqrt(400 - (z - 25) ** 2),
  slope: -(z - 25) / Math.sqrt(400 - (z - 25) ** 2),
});

/** Seen by the simulated camera: its own geometry is the truth. */
function sceneOf(seed: number, sigmaPx: number) {
  const seen = seenBy(SETUP, seed);
  const { lens } = seen.camera;
  const [c, s] = [Math.cos(TURN), Math.sin(TURN)];
  const place = (along: number, across: number, up: number, sigma = sigmaPx): PlanePick => ({
    ...seen.pick(AT.x + c * along - s * across, AT.y + s * along + c * across, AXIS_MM + up, sigma),
    plane: 'axis',
  });
  // The lens in the part's own mm.
  const own = {
    along: c * (lens.x - AT.x) + s * (lens.y - AT.y),
    across: c * (lens.y - AT.y) - s * (lens.x - AT.x),
    up: lens.z - AXIS_MM,
  };
  /** Where a profile is just touched at a station, by sin θ = (ρ − ρ′ (z − zc)) / D (docs/measurement.md). */
  const silhouette = (profile: Profile, along: number, side: 1 | -1): PlanePick => {
    const { radius, slope } = profile(along);
    const far = Math.hypot(own.across, own.up);
    const off = Math.acos((radius - slope * (along - own.along)) / far);
    const angle = Math.atan2(own.up, own.across) - side * off;
    return place(along, radius * Math.cos(angle), radius * Math.sin(angle));
  };
  const turned = (profile: Profile): TurnedPart => ({
    silhouettes: [
      [silhouette(profile, 5, 1), silhouette(profile, 45, 1)],
      [silhouette(profile, 5, -1), silhouette(profile, 45, -1)],
    ],
  });
  return { seen, place, silhouette, turned, own };
}

/** The camera's own figures are known, so that what is left is the geometry of the part. */
const SAVED = {
  mean: [Math.log(SETUP.cPx), ...SETUP.centre, SETUP.radial[0], SETUP.radial[1]],
  covariance: Array.from({ length: 25 }, (_, k) => (k % 6 === 0 ? 1e-10 : 0)),
};

function calibrationOf(scene: ReturnType<typeof sceneOf>): Calibration {
  const plane = { id: 'axis', heightMm: AXIS_MM, plusMinusMm: 0.05 };
  const input = inputOf(scene.seen.grid('mat', -80, -60, 10, 17, 13));
  const found = calibrate({ ...input, facts: { ...input.facts, focalMm: null }, saved: SAVED, planes: [plane] });
  if (!found.ok) throw new Error(found.reason);
  return found.calibration;
}

/** The calibration of a picture in which nothing scatters, to see the geometry alone. */
const clear = sceneOf(1, 0);
const exact = calibrationOf(clear);

describe('a turned part seen from the side', () => {
  it('is larger than it looks on the plane of its axis, and is measured as large as it is', () => {
    for (const [profile, diameter] of [
      [rod, 36],
      [cone, 2 * (12 + 0.12 * 25)],
    ] as const) {
      const found = silhouetteDiameter(exact, clear.turned(profile));
      // The grid of the estimate was seen with its own scatter.
      expect(Math.abs((found?.value ?? 0) - diameter)).toBeLessThan(found?.plusMinus ?? 0);
      expect(Math.abs((found?.value ?? 0) - diameter)).toBeLessThan(0.02);
    }
  });

  it('tells each place of a shaped profile from where the limb is seen and how it runs', () => {
    // Worked out on the plane of the axis itself, without a picture: exact but for rounding and the tangent's step.
    const lens = [clear.own.along, clear.own.across, clear.own.up];
    const onPlane = (profile: Profile, along: number, side: 1 | -1): [number, number] => {
      const { radius, slope } = profile(along);
      const far = Math.hypot(clear.own.across, clear.own.up);
      const angle =
        Math.atan2(clear.own.up, clear.own.across) -
        side * Math.acos((radius - slope * (along - clear.own.along)) / far);
      const up = radius * Math.sin(angle);
      const t = lens[2]! / (lens[2]! - up);
      return [lens[0]! + t * (along - lens[0]!), lens[1]! + t * (radius * Math.cos(angle) - lens[1]!)];
    };
    for (const profile of [rod, cone, ball])
      for (const side of [1, -1] as const)
        for (const along of [8, 15, 25, 33, 42]) {
          const [x, y] = onPlane(profile, along, side);
          const [nx, ny] = onPlane(profile, along + 1e-4, side);
          const [px, py] = onPlane(profile, along - 1e-4, side);
          const found = silhouetteAt({ x: 0, y: 0, dx: 1, dy: 0 }, lens, x, y, nx - px, ny - py);
          expect(found.along).toBeCloseTo(along, 5);
          expect(found.radius).toBeCloseTo(profile(along).radius, 5);
          expect(found.slope).toBeCloseTo(profile(along).slope, 4);
          expect(found.side).toBe(side);
        }
    const cylinder = [...onPlane(rod, 5, 1), ...onPlane(rod, 45, 1), ...onPlane(rod, 5, -1), ...onPlane(rod, 45, -1)];
    const axis = axisFrom(cylinder, 0, lens);
    expect(Math.abs(axis.y)).toBeLessThan(1e-9);
    expect([axis.dx, Math.abs(axis.dy) < 1e-12]).toEqual([1, true]);
  });

  it('is r = w / sqrt(1 + (w/D)²) on the principal ray', () => {
    const [w, d] = [21, 280];
    const found = silhouetteAt({ x: 0, y: 0, dx: 1, dy: 0 }, [0, 0, d], 0, w, 1, 0);
    expect(found.radius).toBeCloseTo(w / Math.sqrt(1 + (w / d) ** 2), 10);
  });

  it('measures a diameter across, a length between corners, and one between the near rims of both ends', () => {
    const turned = clear.turned(rod);
    const across = betweenOnTurned(exact, turned, clear.silhouette(rod, 20, 1), clear.silhouette(rod, 22, -1));
    expect(across?.what).toBe('diameter');
    expect(Math.abs((across?.figure.value ?? 0) - 36)).toBeLessThan(0.02);
    const corners = betweenOnTurned(exact, turned, clear.silhouette(rod, 2, 1), clear.silhouette(rod, 48, 1));
    expect(corners?.what).toBe('length');
    expect(Math.abs((corners?.figure.value ?? 0) - 46)).toBeLessThan(0.02);
    // The near rim stands a radius above the axis: seen on the axis's plane it would be D / (D − r) too long.
    const rims = betweenOnTurned(
      exact,
      turned,
      clear.place(2, 3, Math.sqrt(18 ** 2 - 9)),
      clear.place(48, -2, Math.sqrt(18 ** 2 - 4)),
    );
    expect(Math.abs((rims?.figure.value ?? 0) - 46)).toBeLessThan(0.02);
  });

  it('carries its ±: of picks that scatter nearly all lie within', () => {
    const COUNT = 60;
    let within = 0;
    for (let seed = 1; seed <= COUNT; seed++) {
      const scene = sceneOf(100 + seed, 0.2);
      const found = silhouetteDiameter(calibrationOf(scene), scene.turned(rod));
      if (found && Math.abs(found.value - 36) <= found.plusMinus) within += 1;
    }
    expect(within).toBeGreaterThanOrEqual(Math.floor(0.88 * COUNT));
  });

  it('says nothing of limbs that lie on each other, or of picks beside the part', () => {
    const { silhouettes } = clear.turned(rod);
    expect(silhouetteDiameter(exact, { silhouettes: [silhouettes[0], silhouettes[0]] })).toBeNull();
    const beside = betweenOnTurned(exact, { silhouettes }, clear.place(2, 0, 0), {
      ...clear.place(48, 0, 0),
      uPx: Number.NaN,
    });
    expect(beside).toBeNull();
    // A scan is not seen from one point.
    expect(silhouetteDiameter({ ...exact, lens: 'page' }, { silhouettes })).toBeNull();
    expect(
      betweenOnTurned({ ...exact, lens: 'page' }, { silhouettes }, silhouettes[0][0], silhouettes[1][0]),
    ).toBeNull();
  });
});

describe('a known diameter of a turned part', () => {
  it.each([
    ['a rod', rod, 36],
    ['a cone, halfway along where it was picked', cone, 2 * (12 + 0.12 * 25)],
  ] as const)('gives the size of the picture: %s', (_, profile, diameterMm) => {
    const scene = sceneOf(3, 0.05);
    const { silhouettes } = scene.turned(profile);
    const known = {
      id: 'd',
      kind: 'turned-diameter',
      plane: 'axis',
      silhouettes,
      diameterMm,
      plusMinusMm: 0.02,
    } as const;
    // What is square tells the tilt and no size.
    const frame = scene.seen.lines('square', [
      ['x', [-60, -50], [60, -50]],
      ['x', [-60, 50], [60, 50]],
      ['y', [-60, -50], [-60, 50]],
      ['y', [60, -50], [60, 50]],
    ]);
    const about = (...references: Reference[]): CalibrationInput => {
      const input = inputOf(...references);
      const planes = [{ id: 'axis', heightMm: AXIS_MM, plusMinusMm: 0.05 }];
      return { ...input, facts: { ...input.facts, focalMm: null }, planes, saved: SAVED };
    };
    const result = calibrate(about(known, frame));
    if (!result.ok) throw new Error(result.reason);
    const { calibration } = result;
    expect(silhouetteDiameter(calibration, { silhouettes })!.value).toBeCloseTo(diameterMm, 1);
    const ends = [scene.place(0, -20, 0, 0.01), scene.place(40, 10, 0, 0.01)];
    const found = figureOf(calibration, ends, distance)!;
    expect(Math.abs(found.value - 50)).toBeLessThan(1.3 * found.plusMinus);
    expect(found.plusMinus).toBeLessThan(1);
    // And beside a grid it is held against that, by its own geometry: outlines are seen closer together than they are.
    const held = agreements(about(known, scene.seen.grid('mat', -80, -60, 10, 17, 13))).d!;
    expect(held.fits).toBe(true);
    expect(held.plusMinusMm).toBeLessThan(0.15);
  });
});

describe('a known length on a turned part', () => {
  it.each([
    ['along its axis, from corner to corner', (s: Scene) => [s.silhouette(rod, 2, 1), s.silhouette(rod, 48, 1)], 46],
    [
      'along its axis, between the near rims of both ends',
      (s: Scene) => [s.place(2, 3, Math.sqrt(18 ** 2 - 9)), s.place(48, -2, Math.sqrt(18 ** 2 - 4))],
      46,
    ],
    ['across it, a diameter', (s: Scene) => [s.silhouette(rod, 20, 1), s.silhouette(rod, 21, -1)], 36],
  ] as const)('gives the size of the picture: %s', (_, picksOf, lengthMm) => {
    const frameOf = (scene: Scene) =>
      scene.seen.lines('square', [
        ['x', [-60, -50], [60, -50]],
        ['x', [-60, 50], [60, 50]],
        ['y', [-60, -50], [-60, 50]],
        ['y', [60, -50], [60, 50]],
      ]);
    const about = (scene: Scene, ...references: Reference[]): CalibrationInput => {
      const [from, to] = picksOf(scene) as [PlanePick, PlanePick];
      const { silhouettes } = scene.turned(rod);
      const known = { id: 's', kind: 'turned-span', plane: 'axis', silhouettes, from, to } as const;
      const input = inputOf({ ...known, lengthMm, plusMinusMm: 0.02 }, ...references);
      const planes = [{ id: 'axis', heightMm: AXIS_MM, plusMinusMm: 0.05 }];
      return { ...input, facts: { ...input.facts, focalMm: null }, planes, saved: SAVED };
    };
    let within = 0;
    for (let seed = 1; seed <= 12; seed++) {
      const scene = sceneOf(40 + seed, 0.05);
      const result = calibrate(about(scene, frameOf(scene)));
      if (!result.ok) throw new Error(result.reason);
      const ends = [scene.place(0, -20, 0, 0.01), scene.place(40, 10, 0, 0.01)];
      const found = figureOf(result.calibration, ends, distance)!;
      expect(found.plusMinus).toBeLessThan(1);
      // Taken on the plane of the axis it would be off by its own height: 6 % between the near rims.
      expect(Math.abs(found.value - 50)).toBeLessThan(2 * found.plusMinus);
      if (Math.abs(found.value - 50) <= found.plusMinus) within += 1;
    }
    expect(within).toBeGreaterThanOrEqual(9);
    const scene = sceneOf(9, 0.05);
    const held = agreements(about(scene, scene.seen.grid('mat', -80, -60, 10, 17, 13))).s!;
    expect(held.fits).toBe(true);
    expect(held.plusMinusMm).toBeLessThan(0.25);
  });
});

type Scene = ReturnType<typeof sceneOf>;
