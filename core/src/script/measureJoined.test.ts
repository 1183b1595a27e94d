import { execFile } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { buildCamera, type CameraSetup, pictureOf } from '@steady-moth/rig/camera';
import { LATCH_PLATE_SCENE } from '@steady-moth/rig/demo';
import { describe, expect, it } from 'vitest';
import { type JoinedAnswer, measureJoined } from './measureJoined';
import type { JoinedRequest, ScriptPlace } from './request';

const root = fileURLToPath(new URL('../../../', import.meta.url));
const run = promisify(execFile);
const measure = (...args: string[]) => run('node', ['--import', 'tsx', 'scripts/measure.ts', ...args], { cwd: root });

describe('the hanger rail, from a script', () => {
  const [left, right, request] = [
    'demo/pictures/hanger-rail-left.jpg',
    'demo/pictures/hanger-rail-right.jpg',
    'demo/script/hanger-rail.json',
  ];

  it('is as long as it was drawn, from a hole in one picture to one in the other', async () => {
    const answer = JSON.parse((await measure(left, right, request)).stdout) as JoinedAnswer;
    const mm = answer.distances[0]!.mm ?? { value: 0, plusMinus: 0 };
    expect(Math.abs(mm.value - 340)).toBeLessThan(mm.plusMinus);
    expect(mm.plusMinus).toBeLessThan(0.6);
    expect(answer.seams.map((s) => [s.join, s.fits])).toEqual([
      [1, true],
      [2, true],
    ]);
    // One frame for both: the difference of their positions is that distance.
    const [a, b] = ['left', 'right'].map((id) => answer.pictures[id]!.positions['end hole']);
    const apart = Math.hypot((b?.xMm.value ?? 0) - (a?.xMm.value ?? 0), (b?.yMm.value ?? 0) - (a?.yMm.value ?? 0));
    expect(apart).toBeCloseTo(mm.value, 6);
  });

  it('says when there are fewer pictures than are spoken of', async () => {
    await expect(measure(left, request)).rejects.toMatchObject({
      stderr: expect.stringMatching(/speaks of 2 pictures, 1 were given/),
    });
  });
});

const view = (target: [number, number]): CameraSetup => ({
  ...LATCH_PLATE_SCENE.camera,
  distanceMm: 350,
  target,
  radial: [0, 0, 0],
});
const MIDDLES = { left: -80, right: 85 };
type Side = keyof typeof MIDDLES;
const place = (side: Side, x: number, y: number): ScriptPlace => {
  const at = pictureOf(buildCamera(view([MIDDLES[side], 0])), { x, y, z: 0 });
  if (!at) throw new Error('not pictured');
  return at;
};
/** A picture with four known lengths round its middle, and a point at either side of it, all on the table. */
function said(side: Side): JoinedRequest['pictures'][number] {
  const middle = MIDDLES[side];
  const corners: [number, number][] = [
    [middle - 90, -60],
    [middle + 90, -60],
    [middle + 90, 60],
    [middle - 90, 60],
  ];
  return {
    id: side,
    yardsticks: corners.map((from, k) => ({
      id: `side ${k}`,
      plane: 'table',
      from: place(side, ...from),
      to: place(side, ...corners[(k + 1) % 4]!),
      length: `${k % 2 ? 120 : 180} ± 0.03`,
    })),
    points: { near: { at: place(side, middle - 40, 20), plane: 'table' } },
  };
}
const both = (x: number, y: number): JoinedRequest['joins'][number] => ({
  point: {
    left: { at: place('left', x, y), plane: 'table' },
    right: { at: place('right', x, y), plane: 'table' },
  },
});
const facts = { widthPx: 4032, heightPx: 3024, focal35Mm: 27, focalMm: 5.6, doubts: [], resolution: null };
const seen = [
  { facts, pixels: null },
  { facts, pixels: null },
];
const request: JoinedRequest = {
  pictures: [said('left'), said('right')],
  joins: [both(0, -50), both(4, 50)],
  distances: [{ from: ['left', 'near'], to: ['right', 'near'] }],
};

describe('measureJoined', () => {
  it('measures over pictures that two common points hold together', () => {
    const result = measureJoined(request, seen);
    if (!result.ok) throw new Error(JSON.stringify(result));
    const { mm } = result.answer.distances[0]!;
    expect(Math.abs((mm?.value ?? 0) - 165)).toBeLessThan(mm?.plusMinus ?? 0);
    expect(mm?.plusMinus).toBeLessThan(1.5);
  });

  it('trues a picture in which nothing is known by four common points', () => {
    const { points } = said('right');
    const result = measureJoined(
      {
        ...request,
        pictures: [said('left'), { id: 'right', yardsticks: [], points }],
        joins: [both(-10, -55), both(12, 55), both(14, -50), both(-12, 48)],
      },
      seen,
    );
    if (!result.ok) throw new Error(JSON.stringify(result));
    const { mm } = result.answer.distances[0]!;
    expect(Math.abs((mm?.value ?? 0) - 165)).toBeLessThan(mm?.plusMinus ?? 0);
    expect(result.answer.seams.map((s) => s.join)).toEqual([0, 1, 2, 3]);
    expect(result.answer.pictures.right!.found).toEqual({});
  });

  it.each<[string, Partial<JoinedRequest>, string, string | undefined]>([
    ['one common point', { joins: [both(0, -50)] }, 'too-little-joins', 'right'],
    [
      'a picture that is not there',
      { joins: [{ point: { left: { at: [1, 1] }, middle: { at: [1, 1] } } }] },
      'unknown-picture',
      'middle',
    ],
    [
      'a length whose ends nothing tells apart in another picture',
      { joins: [{ yardstick: { left: 'side 0', right: 'coin' } }] },
      'not-numbered',
      'left, side 0',
    ],
    [
      'a coin that nobody named',
      { joins: [{ yardstick: { left: 'coin', right: 'coin' } }] },
      'unknown-yardstick',
      'left, coin',
    ],
    [
      'a plane that nobody named',
      { joins: [{ point: { left: { at: [1, 1] }, right: { at: [1, 1], plane: 'shelf' } } }] },
      'unknown-plane',
      'right',
    ],
    [
      'a point that is not there',
      { distances: [{ from: ['left', 'near'], to: ['right', 'far'] }] },
      'unknown-point',
      'right, far',
    ],
    ['a picture named twice', { pictures: [said('left'), said('left')] }, 'picture-twice', 'left'],
    [
      'a length that is none, and in which picture',
      {
        pictures: [said('left'), { id: 'right', yardsticks: [{ id: 'a', from: [1, 1], to: [900, 900], length: 'x' }] }],
      },
      'bad-length',
      'right, a',
    ],
  ])('refuses %s', (_, change, reason, at) => {
    expect(measureJoined({ ...request, ...change }, seen)).toEqual({ ok: false, reason, ...(at && { at }) });
  });

  it('refuses fewer pictures than it speaks of', () => {
    expect(measureJoined(request, seen.slice(1))).toEqual({ ok: false, reason: 'pictures-missing' });
  });
});
