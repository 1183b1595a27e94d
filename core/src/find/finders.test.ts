import { setStage, shoot } from '@steady-moth/rig/render';
import type { Rule } from '@steady-moth/rig/scene';
import { describe, expect, it } from 'vitest';
import { calibrate, type PixelPick, type Reference } from '../calibration';
import { findDisc, findGrid, findRuler, findSheet, tellFamilies } from '.';
import { blurred, cutOut, openDemo, painted } from './demo.test-data';

const latch = await openDemo('latch-plate', 'rule');
const offcut = await openDemo('plywood-offcut', 'rule');
const coin = await openDemo('lamp-gasket', 'coin');
const paper = await openDemo('lamp-gasket', 'sheet');
const mat = await openDemo('baffle-pattern', 'mat');
const FACTS = { widthPx: 4032, heightPx: 3024, focal35Mm: 27, focalMm: 5.6, doubts: [], resolution: null };
/** Tilt in degrees that one reference gives, and its ±. */
function tiltBy(reference: Reference, heightMm: number) {
  const result = calibrate({
    facts: FACTS,
    lens: 'photo',
    believeResolution: false,
    hold: 'free',
    planes: [{ id: 'own', heightMm, plusMinusMm: 0 }],
    references: [{ ...reference, plane: 'own' }],
  });
  if (!result.ok) throw new Error(result.reason);
  const degrees = 180 / Math.PI;
  return {
    tilt: result.calibration.tiltRad * degrees,
    plusMinus: Math.max(...result.calibration.tiltPlusMinusRad) * degrees,
    heightMm: result.calibration.cameraHeightMm,
  };
}
const TRUE_TILT = (d: typeof mat) => (d.scene.camera.tilt * 180) / Math.PI;
const blank = { width: 800, height: 600, data: new Uint8ClampedArray(800 * 600 * 4).fill(128) };
const middle = { uPx: 400, vPx: 300 };

describe('findRuler, one click', () => {
  it.each([
    ['on the strokes', latch, 50, -2, 150],
    ['on the figures', latch, 100, -10, 150],
    ['beside the ruler', latch, 60, 3, 150],
    ['of another picture', offcut, 80, -5, 200],
    ['low on its body', offcut, 120, -14, 200],
  ] as const)('%s', (_, demo, x, y, count) => {
    const found = findRuler(demo.pixels, demo.place(x, y));
    if (!found.ok) throw new Error(found.reason);
    expect(found).toMatchObject({ count, seen: count + 1, runsOut: false });
    expect(found.family).toEqual({ unit: 'mm', spacingMm: 1, every: 10, whole: 0 });
    const [[u, v], [p, q]] = [demo.at(0, -2), demo.at(0, -3)];
    // Across stroke 0: its ends along the stroke are of no matter.
    const off = ((p - u) * (found.from.vPx - v) - (q - v) * (found.from.uPx - u)) / Math.hypot(p - u, q - v);
    expect(Math.abs(off)).toBeLessThan(0.5);
    const graduations = { ...found.graduations, spacingMm: 1 };
    const ruler = {
      id: 'r',
      kind: 'known-length',
      plane: 'own',
      from: found.from,
      to: found.to,
      lengthMm: count,
    } as const;
    const { tilt, plusMinus } = tiltBy({ ...ruler, plusMinusMm: null, graduations }, 1);
    expect(Math.abs(tilt - TRUE_TILT(demo))).toBeLessThan(1.5 * plusMinus);
    expect(plusMinus).toBeLessThan(3);
  });

  it('tells the sixteenths of an inch rule from millimetres', () => {
    const { look: _, ...rule } = latch.scene.items.find((i) => i.kind === 'rule') as Rule;
    const scene = { ...latch.scene, items: [{ ...rule, lengthMm: 101.6, inches: true }] };
    const [from, to] = [latch.at(-4, 6), latch.at(106, -24)];
    const corner = [Math.min(from[0], to[0]) - 20, Math.min(from[1], to[1]) - 120].map(Math.round);
    const frame = { left: corner[0]!, top: corner[1]!, width: 2200, height: 640 };
    const rgb = shoot(setStage(scene), frame).pixels;
    const data = new Uint8ClampedArray(frame.width * frame.height * 4).fill(255);
    for (let k = 0; k < frame.width * frame.height; k++) data.set(rgb.subarray(3 * k, 3 * k + 3), 4 * k);
    const click = latch.place(40, -3);
    const found = findRuler(
      { width: frame.width, height: frame.height, data },
      { uPx: click.uPx - corner[0]!, vPx: click.vPx - corner[1]! },
    );
    expect(found).toMatchObject({ ok: true, count: 64, runsOut: false });
    expect(found.ok && found.family).toEqual({ unit: 'in', spacingMm: 25.4 / 16, every: 16, whole: 0 });
  });

  it('steps over a finger, and gives up when most is hidden', () => {
    const [u, v] = latch.at(70, -2);
    const few = findRuler(painted(latch.pixels, u - 60, v - 90, 120, 180), latch.place(40, -2));
    expect(few).toMatchObject({ ok: true, count: 150 });
    expect(few.ok && few.seen).toBeLessThan(150);
    const [a, b] = latch.at(4, -2);
    const most = findRuler(painted(latch.pixels, a, b - 260, 2500, 600), latch.place(1, -2));
    expect(most.ok).toBe(false);
  });

  it('steps over glare that has burnt out a few strokes', () => {
    const [u, v] = latch.at(110, -3);
    const found = findRuler(painted(latch.pixels, u - 50, v - 60, 100, 120, 255), latch.place(40, -2));
    expect(found).toMatchObject({ ok: true, count: 150 });
  });

  it('says that a ruler runs out of the picture, and counts what is seen', () => {
    const [u] = latch.at(100, -2);
    const found = findRuler(cutOut(latch.pixels, 0, 0, Math.round(u), 3024), latch.place(50, -2));
    expect(found).toMatchObject({ ok: true, runsOut: true, count: 99 });
  });

  it('finds none on bare wood, in a blank or in a blurred picture', () => {
    expect(findRuler(latch.pixels, { uPx: 300, vPx: 300 }).ok).toBe(false);
    expect(findRuler(blank, middle)).toEqual({ ok: false, reason: 'no-strokes' });
    const [u, v] = latch.at(50, -2).map(Math.round) as [number, number];
    const soft = blurred(cutOut(latch.pixels, u - 400, v - 200, 800, 400), 9);
    expect(findRuler(soft, { uPx: 400, vPx: 200 }).ok).toBe(false);
  });
});

describe('the family of a ruler', () => {
  const graduations = (rank: (n: number) => number) =>
    Array.from({ length: 120 }, (_, n) => ({ n, length: 3 + 3 * rank(n + 3) + 0.2 * Math.sin(17 * n) }));
  it('tells millimetres from inches', () => {
    expect(tellFamilies(graduations((n) => (n % 10 ? (n % 5 ? 0 : 0.5) : 1)))).toMatchObject([
      { unit: 'mm', spacingMm: 1, whole: 7 },
    ]);
    const sixteenths = graduations((n) => (n % 16 ? (n % 8 ? (n % 4 ? (n % 2 ? 0 : 0.25) : 0.5) : 0.75) : 1));
    expect(tellFamilies(sixteenths)[0]).toMatchObject({ unit: 'in', spacingMm: 25.4 / 16, whole: 13 });
    const eighths = graduations((n) => (n % 8 ? (n % 4 ? (n % 2 ? 0 : 0.33) : 0.67) : 1));
    expect(tellFamilies(eighths)[0]).toMatchObject({ unit: 'in', spacingMm: 25.4 / 8 });
  });
  it('says nothing of strokes of one length, or of a few', () => {
    expect(tellFamilies(graduations(() => 0))).toEqual([]);
    expect(tellFamilies(graduations((n) => Number(n % 10 === 0)).slice(0, 8))).toEqual([]);
  });
});

describe('findDisc, one click', () => {
  const disc = ({ rim, foot = null }: { rim: PixelPick[]; foot?: PixelPick[] | null }): Reference => ({
    id: 'c',
    kind: 'disc',
    plane: 'own',
    rim,
    foot,
    diameterMm: 22.25,
    plusMinusMm: 0.05,
    thicknessMm: 2.14,
  });
  it.each([
    [0, 0],
    [5, -4],
    [-7, 2],
    [0, -9],
  ])('inside the coin at %d, %d', (x, y) => {
    const found = findDisc(coin.pixels, coin.place(x, y));
    if (!found.ok) throw new Error(found.reason);
    expect(found.seen).toBeGreaterThan(0.85);
    const { tilt, plusMinus, heightMm } = tiltBy(disc(found), 0.1);
    expect(Math.abs(tilt - TRUE_TILT(coin))).toBeLessThan(plusMinus);
    const true_ = coin.scene.camera.distanceMm * Math.cos(coin.scene.camera.tilt);
    expect(Math.abs(heightMm / true_ - 1)).toBeLessThan(0.03);
  });

  it('takes a hole as well as a coin', () => {
    const gasket = coin.scene.items.find((i) => i.kind === 'plate');
    expect(gasket).toBeDefined();
    const found = findDisc(coin.pixels, { uPx: 1757, vPx: 1495 });
    if (!found.ok) throw new Error(found.reason);
    expect(found.ellipse.a / found.ellipse.b).toBeLessThan(1.03);
    expect(found.ellipse.a).toBeGreaterThan(240);
    expect(found.ellipse.a).toBeLessThan(260);
  });

  it.each([
    ['right third', 90, -300, 400, 600, -4, 0],
    ['left third', -490, -300, 400, 600, 4, 0],
    ['lower third', -300, 90, 600, 400, 0, 4],
    ['lower half', -300, 40, 600, 400, 0, 4],
  ])('takes a coin of which the %s is covered, its tilt within a larger ±', (_, du, dv, wide, high, x, y) => {
    const [u, v] = coin.at(0, 0);
    const found = findDisc(painted(coin.pixels, u + du, v + dv, wide, high, 60), coin.place(x, y));
    if (!found.ok) throw new Error(found.reason);
    expect(found.seen).toBeLessThan(0.8);
    if (found.doubt === 'another-circle') {
      // With half of it hidden the boundary of both metals is as clear as the rim: that is said, and the rim offered.
      const both = [found.ellipse, found.other!.ellipse].map((e) => Math.sqrt(e.a * e.b));
      const rim = [coin.at(11.125, 0), coin.at(-11.125, 0), coin.at(0, 11.125), coin.at(0, -11.125)];
      const size = rim.reduce((sum, [p, q]) => sum + Math.hypot(p - u, q - v) / 4, 0);
      expect(Math.min(...both.map((r) => Math.abs(r / size - 1)))).toBeLessThan(0.03);
      return;
    }
    const { tilt, plusMinus, heightMm } = tiltBy(disc(found), 0.1);
    expect(Math.abs(tilt - TRUE_TILT(coin))).toBeLessThan(plusMinus);
    const true_ = coin.scene.camera.distanceMm * Math.cos(coin.scene.camera.tilt);
    expect(Math.abs(heightMm / true_ - 1)).toBeLessThan(0.05);
    const whole = findDisc(coin.pixels, coin.place(0, 0));
    if (!whole.ok) throw new Error(whole.reason);
    expect(plusMinus).toBeGreaterThan(1.1 * tiltBy(disc(whole), 0.1).plusMinus);
  });

  it('refuses a coin of which most is covered', () => {
    const [u, v] = coin.at(0, 0);
    expect(findDisc(painted(coin.pixels, u - 130, v - 300, 600, 600, 60), coin.place(-8, 0)).ok).toBe(false);
  });

  it('finds none on bare paper or in a blank picture', () => {
    expect(findDisc(coin.pixels, { uPx: 900, vPx: 1000 }).ok).toBe(false);
    expect(findDisc(blank, middle)).toEqual({ ok: false, reason: 'not-round' });
  });
});

describe('findSheet, one click', () => {
  const sheet = (edges: [PixelPick[], PixelPick[], PixelPick[], PixelPick[]]): Reference => ({
    id: 's',
    kind: 'sheet',
    plane: 'own',
    edges,
    widthMm: 148,
    heightMm: 105,
    plusMinusMm: 0.05,
  });
  it('on the paper, with a part and a coin lying on it', () => {
    const found = findSheet(paper.pixels, paper.place(10, 10));
    if (!found.ok) throw new Error(found.reason);
    expect(found.missingCorners).toBe(0);
    expect(found.ratio).toBeGreaterThan(1.3);
    expect(found.ratio).toBeLessThan(1.5);
    const { tilt, plusMinus } = tiltBy(sheet(found.edges), 0.1);
    expect(Math.abs(tilt - TRUE_TILT(paper))).toBeLessThan(1.3 * plusMinus);
    expect(plusMinus).toBeLessThan(0.5);
  });

  it('with a folded corner, which is said', () => {
    const [u, v] = paper.at(148, 105);
    const folded = { ...paper.pixels, data: new Uint8ClampedArray(paper.pixels.data) };
    for (let y = 0; y < 260; y++)
      for (let x = -300; x < 0; x++)
        if (y - x < 230) {
          const at = ((Math.round(v) + y - 20) * 4032 + Math.round(u) + x + 20) * 4;
          folded.data.set([90, 80, 70], at);
        }
    const found = findSheet(folded, paper.place(20, 50));
    if (!found.ok) throw new Error(found.reason);
    expect(found.missingCorners).toBe(1);
    const { tilt, plusMinus } = tiltBy(sheet(found.edges), 0.1);
    expect(Math.abs(tilt - TRUE_TILT(paper))).toBeLessThan(1.3 * plusMinus);
  });

  it('by a click on the part that lies on it', () => {
    const [on, beside] = [
      findSheet(paper.pixels, { uPx: 1500, vPx: 1200 }),
      findSheet(paper.pixels, paper.place(10, 10)),
    ];
    expect(on).toEqual(beside);
  });

  it('says what is wrong with a sheet cut off, and with nothing', () => {
    expect(findSheet(cutOut(paper.pixels, 0, 0, 2400, 3024), paper.place(20, 50))).toMatchObject({
      reason: 'runs-out',
    });
    expect(findSheet(blank, middle)).toEqual({ ok: false, reason: 'no-sheet' });
  });
});

describe('findGrid, one click', () => {
  it.each([
    [25, 26],
    [250, 150],
    [12, 101],
  ])('at %d, %d of the mat, round the part that lies on it', (x, y) => {
    const found = findGrid(mat.pixels, mat.place(x, y));
    if (!found.ok) throw new Error(found.reason);
    expect(found).toMatchObject({ columns: 29, rows: 21 });
    const offs = found.crossings
      .map(({ i, j, pick }) => Math.hypot(mat.at(10 * i, 10 * j)[0] - pick.uPx, mat.at(10 * i, 10 * j)[1] - pick.vPx))
      .sort((p, q) => p - q);
    expect(offs[offs.length >> 1]).toBeLessThan(0.05);
    expect(offs[Math.floor(0.95 * offs.length)]).toBeLessThan(0.3);
    const grid: Reference = {
      id: 'g',
      kind: 'grid',
      plane: 'own',
      crossings: found.crossings,
      pitchMm: 10,
      plusMinusShare: 2e-4,
    };
    const { tilt, plusMinus } = tiltBy(grid, 2);
    expect(Math.abs(tilt - TRUE_TILT(mat))).toBeLessThan(2 * plusMinus);
    expect(plusMinus).toBeLessThan(0.2);
  });

  it('uses what is left of a grid that is mostly hidden, or says that it is', () => {
    const [u, v] = mat.at(20, 20);
    const most = painted(painted(mat.pixels, u + 320, 0, 4032, 3024), 0, 0, 4032, v - 320);
    const found = findGrid(most, mat.place(25, 26));
    expect(found.ok && found.crossings.length).toBeLessThan(60);
    const [p, q] = mat.at(25, 25);
    expect(
      findGrid(painted(painted(mat.pixels, p + 90, 0, 4032, 3024), 0, 0, 4032, q - 90), mat.place(25, 25)).ok,
    ).toBe(false);
  });

  it('finds none on wood or in a blank picture', () => {
    expect(findGrid(latch.pixels, { uPx: 400, vPx: 400 }).ok).toBe(false);
    expect(findGrid(blank, middle)).toEqual({ ok: false, reason: 'no-grid' });
  });
});
