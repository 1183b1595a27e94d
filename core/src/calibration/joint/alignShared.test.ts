import type { CameraSetup } from '@steady-moth/rig/camera';
import { describe, expect, it } from 'vitest';
import { inputOf, SETUP, seenBy } from '../reference/kinds/yardsticks.test-data';
import type { Grid, Reference, Sheet } from '../reference/reference';
import { distance, figureOf, type PlanePick } from '../uncertainty/figure';
import type { JoinedInput } from './joinedInput';
import { joinPictures } from './joinPictures';

const LEFT: CameraSetup = { ...SETUP, target: [-60, 0], tilt: 0.14, tiltTowards: 2.6 };
const RIGHT: CameraSetup = { ...SETUP, target: [65, 8], tilt: 0.2, tiltTowards: 0.4 };
const ENDS = [
  [-170, 10],
  [180, -20],
] as const;
const LENGTH = Math.hypot(ENDS[1][0] - ENDS[0][0], ENDS[1][1] - ENDS[0][1]);

type Seen = ReturnType<typeof seenBy>;

/** A mat of 10 mm under the whole part: each picture shows a piece of it, numbered from where it was clicked on. */
function mat(seen: Seen, fromX: number, columns: number, quarter: number): Grid {
  const grid = seen.grid('mat', fromX, -60, 10, columns, 12);
  const turned = [
    (i: number, j: number) => [i, j] as const,
    (i: number, j: number) => [-j, i] as const,
    (i: number, j: number) => [-i, -j] as const,
    (i: number, j: number) => [j, -i] as const,
  ][quarter]!;
  const crossings = grid.crossings.map((c) => {
    const [i, j] = turned(c.i - 4, c.j - 7);
    return { ...c, i, j };
  });
  return { ...grid, crossings };
}

const SHARED = [
  {
    id: 'shared',
    seen: [
      { picture: 'left', reference: 'mat' },
      { picture: 'right', reference: 'mat' },
    ],
  },
];

function joined(
  left: Seen,
  right: Seen,
  references: [Reference[], Reference[]],
  common: readonly (readonly [number, number])[],
): JoinedInput {
  const pick = (seen: Seen, picture: string, x: number, y: number): PlanePick & { picture: string } => ({
    ...seen.pick(x, y),
    plane: 'table',
    picture,
  });
  return {
    pictures: [
      { id: 'left', input: inputOf(...references[0]) },
      { id: 'right', input: inputOf(...references[1]) },
    ],
    points: common.map(([x, y], k) => ({
      id: `p${k}`,
      seen: [pick(left, 'left', x, y), pick(right, 'right', x, y)],
    })),
    references: SHARED,
  };
}

function measured(found: ReturnType<typeof joinPictures>, left: Seen, right: Seen) {
  if (!found.ok) throw new Error(JSON.stringify(found.fault));
  const ends: PlanePick[] = [
    { ...left.pick(...ENDS[0]), plane: 'table', picture: 'left' },
    { ...right.pick(...ENDS[1]), plane: 'table', picture: 'right' },
  ];
  const figure = figureOf(found.calibrations.left!, ends, distance);
  return { off: Math.abs((figure?.value ?? 0) - LENGTH), plusMinus: figure?.plusMinus ?? 0 };
}

describe('a grid under a long part', () => {
  it('joins two pictures with one common point, however each was numbered', () => {
    const [left, right] = [seenBy(LEFT, 41), seenBy(RIGHT, 42)];
    // Numbered a quarter turn apart in the second picture, as a search that began on another line does.
    for (const quarter of [0, 1, 2, 3]) {
      const input = joined(left, right, [[mat(left, -180, 22, 0)], [mat(right, -30, 20, quarter)]], [[5, 20]]);
      const { off, plusMinus } = measured(joinPictures(input), left, right);
      expect(off).toBeLessThan(plusMinus);
      expect(plusMinus).toBeLessThan(0.25);
    }
  });

  it('holds better than the common point and a turn of its own would', () => {
    const [left, right] = [seenBy(LEFT, 43), seenBy(RIGHT, 44)];
    // A pitch known well: else its error, which two grids would not share, is most of the ±.
    const known = { plusMinusShare: 2e-5 };
    const both: [Reference[], Reference[]] = [
      [{ ...mat(left, -180, 22, 0), ...known }],
      [{ ...mat(right, -30, 20, 1), ...known }],
    ];
    const points = [
      [5, 20],
      [12, -40],
    ] as const;
    const shared = measured(joinPictures(joined(left, right, both, points)), left, right);
    const apart = measured(joinPictures({ ...joined(left, right, both, points), references: [] }), left, right);
    expect(shared.plusMinus).toBeLessThan(0.6 * apart.plusMinus);
  });

  it('is told apart by two common points where a picture was taken from the other side', () => {
    const [left, right] = [seenBy(LEFT, 45), seenBy({ ...RIGHT, roll: Math.PI - 0.1 }, 46)];
    const both: [Reference[], Reference[]] = [[mat(left, -180, 22, 0)], [mat(right, -30, 20, 0)]];
    const points = [
      [5, 20],
      [12, -40],
    ] as const;
    const { off, plusMinus } = measured(joinPictures(joined(left, right, both, points)), left, right);
    expect(off).toBeLessThan(plusMinus);
    expect(plusMinus).toBeLessThan(0.25);
  });

  it('joins nothing as long as no point says which crossing is which, or the point lies between', () => {
    const [left, right] = [seenBy(LEFT, 47), seenBy(RIGHT, 48)];
    const both: [Reference[], Reference[]] = [[mat(left, -180, 22, 0)], [mat(right, -30, 20, 0)]];
    const fault = { ok: false, fault: { reason: 'which-is-which', picture: 'right' } };
    expect(joinPictures(joined(left, right, both, []))).toEqual(fault);
    const input = joined(left, right, both, [[5, 20]]);
    // In the right picture a place half a pitch beside was taken for it.
    const point = input.points[0]!;
    const wrong = { ...point, seen: [point.seen[0]!, { ...point.seen[1]!, ...right.pick(10, 20) }] };
    expect(joinPictures({ ...input, points: [wrong] })).toEqual(fault);
  });
});

describe('a sheet seen in two pictures', () => {
  const sheet = (seen: Seen, firstEdge: number): Sheet => {
    const whole = { ...seen.sheet('mat', -74, -52, 148, 105), id: 'mat' };
    return { ...whole, edges: whole.edges.map((_, k) => whole.edges[(k + firstEdge) % 4]) as Sheet['edges'] };
  };

  it.each([0, 2])('joins them, its edges counted from edge %d', (firstEdge) => {
    const near = (target: [number, number]): CameraSetup => ({ ...SETUP, target, distanceMm: 360 });
    const [left, right] = [seenBy(near([-40, 0]), 51), seenBy(near([45, 5]), 52)];
    const input = joined(left, right, [[sheet(left, 0)], [sheet(right, firstEdge)]], []);
    const { off, plusMinus } = measured(joinPictures(input), left, right);
    expect(off).toBeLessThan(plusMinus);
    expect(plusMinus).toBeLessThan(1);
  });

  it('is turned as common points say', () => {
    const [left, right] = [
      seenBy({ ...SETUP, target: [-40, 0], distanceMm: 360 }, 53),
      seenBy({ ...SETUP, target: [45, 5], distanceMm: 360, roll: Math.PI }, 54),
    ];
    const points = [
      [-20, 30],
      [30, -35],
    ] as const;
    const input = joined(left, right, [[sheet(left, 0)], [sheet(right, 2)]], points);
    const found = joinPictures(input);
    const { off, plusMinus } = measured(found, left, right);
    expect(off).toBeLessThan(plusMinus);
    expect(found.ok && found.seams.every((s) => s.fits)).toBe(true);
  });
});
