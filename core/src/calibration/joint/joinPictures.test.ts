import type { CameraSetup } from '@steady-moth/rig/camera';
import { describe, expect, it } from 'vitest';
import { joinedMap, planeMap, planeMapper } from '../datum/datum';
import { type Calibration, calibrate } from '../estimate/calibrate';
import { inputOf, SETUP, seenBy } from '../reference/kinds/yardsticks.test-data';
import type { KnownLength, Reference } from '../reference/reference';
import { distance, figureOf, type PlanePick } from '../uncertainty/figure';
import { grownBy } from '../uncertainty/scaleTo';
import type { JoinedInput } from './joinedInput';
import { joinPictures } from './joinPictures';
import { layOutJoined, poseJoined } from './poseJoined';
import { estimateAlone, startJoined } from './startJoined';

/** Two pictures of a long part, each of a little more than half of it, the camera moved, tilted and turned between. */
const LEFT: CameraSetup = { ...SETUP, target: [-85, 0], tilt: 0.14, tiltTowards: 2.6 };
const RIGHT: CameraSetup = { ...SETUP, target: [90, 8], tilt: 0.2, tiltTowards: 0.4, roll: -0.25 };
/** Both ends of the part, and places seen in both pictures, mm. */
const ENDS = [
  [-200, 10],
  [205, -20],
] as const;
const BOTH = [
  [-30, -40],
  [25, 45],
  [28, -50],
  [-22, 50],
] as const;
const LENGTH = Math.hypot(ENDS[1][0] - ENDS[0][0], ENDS[1][1] - ENDS[0][1]);

type Seen = ReturnType<typeof seenBy>;

function common(left: Seen, right: Seen, count: number): JoinedInput['points'] {
  return BOTH.slice(0, count).map(([x, y], k) => ({
    id: `p${k}`,
    seen: [
      { ...left.pick(x, y), plane: 'table', picture: 'left' },
      { ...right.pick(x, y), plane: 'table', picture: 'right' },
    ],
  }));
}

/** A rule of 440 mm along the part; each picture shows a part of it, by its own graduations. */
function rulerPart(seen: Seen, from: number, to: number): KnownLength {
  const part = seen.ruler('rule', -220 + from, 78, to - from);
  if (!part.graduations) throw new Error('no strokes');
  return { ...part, graduations: { ...part.graduations, first: from } };
}

function pair(
  seed: number,
  of: (left: Seen, right: Seen) => { left: Reference[]; right: Reference[] } & Partial<JoinedInput>,
) {
  const [left, right] = [seenBy(LEFT, seed), seenBy(RIGHT, seed + 5000)];
  const { left: mine, right: theirs, points = [], references = [] } = of(left, right);
  const joined: JoinedInput = {
    pictures: [
      { id: 'left', input: inputOf(...mine) },
      { id: 'right', input: inputOf(...theirs) },
    ],
    points,
    references,
  };
  const ends: PlanePick[] = [
    { ...left.pick(...ENDS[0]), plane: 'table', picture: 'left' },
    { ...right.pick(...ENDS[1]), plane: 'table', picture: 'right' },
  ];
  return { joined, ends, left, right };
}

function across(found: ReturnType<typeof joinPictures>, ends: PlanePick[]) {
  if (!found.ok) throw new Error(JSON.stringify(found.fault));
  const figure = figureOf(found.calibrations.left!, ends, distance);
  return { off: Math.abs((figure?.value ?? 0) - LENGTH), plusMinus: figure?.plusMinus ?? 0 };
}

const mats = (left: Seen, right: Seen) => ({
  left: [left.grid('mat', -190, -60, 20, 9, 7)],
  right: [right.grid('mat', 10, -60, 20, 9, 7)],
});
const rule = (left: Seen, right: Seen) => ({
  left: [rulerPart(left, 20, 250)],
  right: [rulerPart(right, 200, 425)],
  references: [
    {
      id: 'rule',
      seen: [
        { picture: 'left', reference: 'rule' },
        { picture: 'right', reference: 'rule' },
      ],
    },
  ],
});

describe('pictures of one part', () => {
  it('are joined by common points: what reaches over both is within its ±, and two are enough', () => {
    for (const count of [2, 3, 4]) {
      const { joined, ends } = pair(7, (l, r) => ({ ...mats(l, r), points: common(l, r, count) }));
      const { off, plusMinus } = across(joinPictures(joined), ends);
      expect(off).toBeLessThan(plusMinus);
      expect(plusMinus).toBeLessThan(0.5);
    }
  });

  it('tell how far apart they put each common point, and which is not the same place', () => {
    const { joined, left, right } = pair(11, (l, r) => ({ ...mats(l, r), points: common(l, r, 4) }));
    const good = joinPictures(joined);
    expect(good.ok && good.seams.map((s) => s.fits)).toEqual([true, true, true, true]);
    expect(good.ok && Math.max(...good.seams.map((s) => s.apart.value))).toBeLessThan(0.08);
    const [first, ...others] = common(left, right, 4);
    // In the right picture another corner was picked, 2 mm beside.
    const wrong = {
      ...first!,
      seen: [first!.seen[0]!, { ...first!.seen[1]!, ...right.pick(BOTH[0][0] + 2, BOTH[0][1]) }],
    };
    const bad = joinPictures({ ...joined, points: [wrong, ...others] });
    expect(bad.ok && bad.seams[0]!.fits).toBe(false);
    expect(bad.ok && bad.seams[0]!.apart.value).toBe(bad.ok && Math.max(...bad.seams.map((s) => s.apart.value)));
  });

  it('are joined by one rule along both, by its graduations alone', () => {
    const { joined, ends } = pair(3, rule);
    const found = joinPictures(joined);
    const { off, plusMinus } = across(found, ends);
    expect(off).toBeLessThan(plusMinus);
    expect(plusMinus).toBeLessThan(2.5);
    // One rule is one: its spacing errs alike in both, and its share of the ± grows with the length.
    const apart = joinPictures({ ...joined, references: [] });
    expect(apart).toEqual({ ok: false, fault: { reason: 'too-little-joins', picture: 'right' } });
  });

  it.each([
    ['its rim alone', false],
    ['its foot told in the second alone', true],
  ] as const)('are joined by a coin and a common point: %s', (_, hasFoot) => {
    const { joined, ends } = pair(5, (l, r) => {
      const { left, right } = mats(l, r);
      return {
        left: [...left, l.disc('coin', 5, 30, 25.75, 1.9)],
        // The second one: its own unknowns would run on into those of other things.
        right: [...right, hasFoot ? r.twoRims('coin', 5, 30, 25.75, 1.9) : r.disc('coin', 5, 30, 25.75, 1.9)],
        points: common(l, r, 1),
        references: [
          {
            id: 'coin',
            seen: [
              { picture: 'left', reference: 'coin' },
              { picture: 'right', reference: 'coin' },
            ],
          },
        ],
      };
    });
    const { off, plusMinus } = across(joinPictures(joined), ends);
    expect(off).toBeLessThan(plusMinus);
    expect(plusMinus).toBeLessThan(0.6);
  });

  it('true one in which nothing of known size lies, by four common points', () => {
    const { joined, ends } = pair(17, (l, r) => ({ left: mats(l, r).left, right: [], points: common(l, r, 4) }));
    const found = joinPictures(joined);
    const { off, plusMinus } = across(found, ends);
    expect(off).toBeLessThan(plusMinus);
    // It hangs on what the other picture lends it, and says so.
    const both = pair(17, (l, r) => ({ ...mats(l, r), points: common(l, r, 4) }));
    expect(plusMinus).toBeGreaterThan(2 * across(joinPictures(both.joined), both.ends).plusMinus);
  });

  it('lend each other what they know: a picture beside a grid is better joined than alone', () => {
    const alone = (left: Seen) => [left.length('a', [-190, -60], [-60, -60]), left.length('b', [-190, 60], [-60, 60])];
    const { joined, left } = pair(23, (l, r) => ({ left: alone(l), right: mats(l, r).right, points: common(l, r, 4) }));
    const found = joinPictures(joined);
    const one = calibrate(joined.pictures[0]!.input);
    const span = [
      { ...left.pick(-120, -50), plane: 'table' },
      { ...left.pick(-40, 40), plane: 'table' },
    ];
    const spread = (calibration: Calibration) => figureOf(calibration, span, distance)?.plusMinus ?? 0;
    if (!found.ok || !one.ok) throw new Error('not joined');
    expect(spread(found.calibrations.left!)).toBeLessThan(0.7 * spread(one.calibration));
    const figure = figureOf(found.calibrations.left!, span, distance);
    expect(Math.abs((figure?.value ?? 0) - Math.hypot(80, 90))).toBeLessThan(figure?.plusMinus ?? 0);
  });

  it('hold the truth within their ± as often as they say', () => {
    const COUNT = 40;
    let within = 0;
    for (let seed = 1; seed <= COUNT; seed++) {
      const { joined, ends } = pair(seed * 31, (l, r) => ({ ...mats(l, r), points: common(l, r, 3) }));
      const { off, plusMinus } = across(joinPictures(joined), ends);
      if (off <= plusMinus) within += 1;
    }
    expect(within).toBeGreaterThanOrEqual(0.87 * COUNT);
  });

  it('are each measured alike by their own truing and by the first one, and grow together', () => {
    const { joined, right, ends } = pair(29, (l, r) => ({ ...mats(l, r), points: common(l, r, 3) }));
    const found = joinPictures(joined);
    if (!found.ok) throw new Error('not joined');
    const span: PlanePick[] = [
      { ...right.pick(60, -30), plane: 'table', picture: 'right' },
      { ...right.pick(160, 40), plane: 'table', picture: 'right' },
    ];
    const through = figureOf(found.calibrations.left!, span, distance);
    const own = figureOf(found.calibrations.right!, span, distance);
    expect(through?.value).toBeCloseTo(own?.value ?? 0, 9);
    expect(through?.plusMinus).toBeCloseTo(own?.plusMinus ?? 0, 9);
    const grown = figureOf(grownBy(found.calibrations.left!, 0.5), ends, distance);
    expect(grown?.value).toBeCloseTo((figureOf(found.calibrations.left!, ends, distance)?.value ?? 0) / 2, 6);
  });

  it('lie on one board: the maps of both put a common point in one place, turned and moved as the datum says', () => {
    const { joined } = pair(37, (l, r) => ({ ...mats(l, r), points: common(l, r, 3) }));
    const found = joinPictures(joined);
    if (!found.ok) throw new Error('not joined');
    const [first, second] = [joined.points[0]!.seen[0]!, joined.points[1]!.seen[0]!];
    const datum = { zero: first, axis: { from: first, to: second, along: 'x' as const }, flip: true };
    const left = planeMap(found.calibrations.left!, datum, 'table', { uPx: 2016, vPx: 1512 });
    const right = joinedMap(found.calibrations.right!, 'table', left, found.moves.right!);
    for (const { seen } of joined.points) {
      const [a, b] = [planeMapper(left).toPart(seen[0]!), planeMapper(right).toPart(seen[1]!)];
      expect(Math.hypot((a?.xMm ?? 0) - (b?.xMm ?? 9), (a?.yMm ?? 0) - (b?.yMm ?? 9))).toBeLessThan(0.1);
    }
    const length = Math.hypot(BOTH[1][0] - BOTH[0][0], BOTH[1][1] - BOTH[0][1]);
    expect(Math.abs(planeMapper(right).toPart(joined.points[1]!.seen[1]!)?.xMm ?? 0)).toBeCloseTo(length, 0);
  });

  it('say which one has a fault of its own, or is held by too little', () => {
    const { joined } = pair(2, (l, r) => ({ left: [], right: mats(l, r).right, points: common(l, r, 1) }));
    expect(joinPictures(joined)).toMatchObject({ ok: false, fault: { reason: 'picture', picture: 'left' } });
    const one = pair(2, (l, r) => ({ ...mats(l, r), points: common(l, r, 1) }));
    expect(joinPictures(one.joined)).toMatchObject({ ok: false, fault: { reason: 'too-little-joins' } });
    const broken = pair(2, (l, r) => ({ ...mats(l, r), points: common(l, r, 3) }));
    broken.joined.pictures[1]!.input.references = [{ ...broken.right.length('x', [20, 0], [20, 0.001]), lengthMm: 5 }];
    expect(joinPictures(broken.joined)).toMatchObject({
      fault: { picture: 'right', fault: { reason: 'picks-coincide' } },
    });
  });

  const PER_MM = 11.8;
  /** A scan laid on the glass turned and moved, by a scanner that is 0.2 % off along its line what its file says. */
  const scan = (id: string, turn: number, x0: number, y0: number, sigma = 0.0025) => {
    const at = (x: number, y: number): PlanePick => {
      const [dx, dy] = [x - x0, y - y0];
      const [px, py] = [Math.cos(turn) * dx + Math.sin(turn) * dy, Math.cos(turn) * dy - Math.sin(turn) * dx];
      return { uPx: 1240 + 1.002 * PER_MM * px, vPx: 1750 - PER_MM * py, sigmaPx: 0.2, plane: 'table', picture: id };
    };
    const facts = {
      ...inputOf().facts,
      widthPx: 2480,
      heightPx: 3508,
      focal35Mm: null,
      resolution: { perMmX: PER_MM, perMmY: PER_MM, sigma },
    };
    return { at, picture: { id, input: { ...inputOf(), facts, lens: 'page' as const, believeResolution: true } } };
  };
  const reach = (a: ReturnType<typeof scan>, b: ReturnType<typeof scan>, known: Reference[] = []) => {
    const points = BOTH.map(([x, y], k) => ({ id: `p${k}`, seen: [a.at(x, y), b.at(x, y)] as never[] }));
    const first = { ...a.picture, input: { ...a.picture.input, references: known } };
    const found = joinPictures({ pictures: [first, b.picture], points, references: [] });
    if (!found.ok) throw new Error(JSON.stringify(found.fault));
    const figure = figureOf(found.calibrations.a!, [a.at(...ENDS[0]), b.at(...ENDS[1])], distance);
    if (!figure) throw new Error('no figure');
    return { ...figure, turn: found.moves.b![0] };
  };

  it('join scans that each lie turned another way, with the stated scale of their files', () => {
    const found = reach(scan('a', 0.02, -80, 0), scan('b', 1.6, 90, 5));
    expect(Math.abs(found.value - LENGTH)).toBeLessThan(found.plusMinus);
    expect(found.turn).toBeCloseTo(1.58, 1);
  });

  it('take scans from one scanner to err alike: over both they are no better than over one', () => {
    const alike = reach(scan('a', 0, -80, 0), scan('b', 0, 90, 5));
    expect(alike.plusMinus / (2 * 0.0025 * LENGTH)).toBeCloseTo(1, 1);
    // Files that state different things are from different scanners, whose errors may cancel.
    const apart = reach(scan('a', 0, -80, 0), scan('b', 0, 90, 5, 0.00251));
    expect(apart.plusMinus).toBeLessThan(0.85 * alike.plusMinus);
  });

  it('learn the scale of one scan from a length known in another of the same scanner', () => {
    const [a, b] = [scan('a', 0, -80, 0), scan('b', 0, 90, 5)];
    const [from, to] = [a.at(-150, -20), a.at(-20, -20)];
    const known: Reference = {
      id: 'known',
      kind: 'known-length',
      plane: 'table',
      from,
      to,
      lengthMm: 130,
      plusMinusMm: 0.03,
      graduations: null,
    };
    const found = reach(a, b, [known]);
    expect(Math.abs(found.value - LENGTH)).toBeLessThan(found.plusMinus);
    expect(found.plusMinus).toBeLessThan(0.25);
  });
});

describe('the residuals of joined pictures', () => {
  it('have the slopes that they say, for points in three pictures and a shared rule', () => {
    const views = [LEFT, RIGHT, { ...SETUP, target: [0, 10] as [number, number], roll: 0.4 }].map((v, k) =>
      seenBy(v, k + 1),
    );
    const pictures = views.map((v, k) => ({
      id: `${k}`,
      input: {
        ...inputOf(rulerPart(v, 150, 230)),
        planes: [{ id: 'face', heightMm: 4, plusMinusMm: k === 2 ? 0.3 : 0.1 }],
      },
    }));
    const points = BOTH.map(([x, y], n) => ({
      id: `${n}`,
      seen: views.map((v, k) => ({ ...v.pick(x, y, 4), plane: 'face', picture: `${k}` })),
    }));
    const references = [{ id: 'rule', seen: pictures.map((p) => ({ picture: p.id, reference: 'rule' })) }];
    const begun = estimateAlone({ pictures, points, references });
    if (!begun.ok) throw new Error('not begun');
    const layout = layOutJoined(begun.alone, references);
    // The heights that are said alike are one, the ruler is one: 3 cameras, 2 heights, 5 of the ruler, 2 moves.
    expect(layout.size).toBe(3 * 8 + 2 + 7 + 2 * 3);
    const start = startJoined(layout, begun.alone, { pictures, points, references }, [0, 0, 0]) as Float64Array;
    const problem = poseJoined(
      layout,
      points,
      points.map((p) => p.seen.map((_, k) => 0.05 + 0.01 * k)),
      null,
    );
    const gather = (at: Float64Array) => {
      const all: { residual: number; slopes: Map<number, number> }[] = [];
      expect(
        problem.residuals(at, {
          add: (residual, indices, derivatives) =>
            void all.push({ residual, slopes: new Map(Array.from(indices, (i, k) => [i, derivatives[k]!])) }),
        }),
      ).toBe(true);
      return all;
    };
    const here = gather(start);
    expect(here.length).toBeGreaterThan(400);
    for (let k = 0; k < layout.size; k++) {
      const step = 1e-6 * Math.max(1, Math.abs(start[k]!));
      const [up, down] = [1, -1].map((way) => gather(start.map((v, j) => (j === k ? v + way * step : v))));
      for (const [n, { slopes }] of here.entries()) {
        const numeric = (up![n]!.residual - down![n]!.residual) / (2 * step);
        expect(Math.abs(numeric - (slopes.get(k) ?? 0))).toBeLessThan(1e-3 * Math.max(1, Math.abs(numeric)));
      }
    }
  });
});
