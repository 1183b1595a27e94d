import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { buildCamera, pictureOf } from '@steady-moth/rig/camera';
import { LATCH_PLATE_SCENE } from '@steady-moth/rig/demo';
import { toScene } from '@steady-moth/rig/scene';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Pixels } from '../raster';
import { measurePicture } from './measurePicture';
import type { MeasureRequest, ScriptPiece, ScriptPlace } from './request';

const root = fileURLToPath(new URL('../../../', import.meta.url));
const example: MeasureRequest = JSON.parse(readFileSync(`${root}demo/script/latch-plate.json`, 'utf8'));
const facts = { widthPx: 4032, heightPx: 3024, focal35Mm: 27, focalMm: 5.6, doubts: [], resolution: null };

/* The demo's latch plate, 2 mm thick, on wood, worn in places; where it lies is told by the simulated camera. */
const camera = buildCamera(LATCH_PLATE_SCENE.camera);
const [plate] = LATCH_PLATE_SCENE.items;
const at = (x: number, y: number): ScriptPlace => {
  const [sx, sy] = toScene(plate!.lie, x, y);
  return pictureOf(camera, { x: sx, y: sy, z: 2 }) ?? [0, 0];
};
const off = ([u, v]: ScriptPlace, du: number, dv: number): ScriptPlace => [u + du, v + dv];

let pixels: Pixels;
beforeAll(async () => {
  const { data, info } = await sharp(`${root}demo/pictures/latch-plate.jpg`)
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  pixels = { width: info.width, height: info.height, data: new Uint8ClampedArray(data) };
});

const settled = (pieces: ScriptPiece[], ground?: 'inside') => {
  const result = measurePicture(
    { ...example, settle: [{ id: 'it', pieces, ...(ground && { ground }) }] },
    facts,
    pixels,
  );
  if (!result.ok) throw new Error(result.reason);
  return result.answer.settled!.it!;
};

describe('settling by a script', () => {
  it('puts a hole where it is, and its ± holds the truth', () => {
    const [u, v] = at(11, 35.5);
    const radius = Math.hypot(at(15.5, 35.5)[0] - u, at(15.5, 35.5)[1] - v) - 2.5;
    const rim = [0.3, 2.4, 4.5].map((a): ScriptPlace => [u + 2 + radius * Math.cos(a), v + radius * Math.sin(a)]);
    const told = settled([{ kind: 'circle', px: rim }], 'inside');
    if (!('pieces' in told)) throw new Error(told.reason);
    const [{ mm, px }] = told.pieces as [(typeof told.pieces)[number]];
    expect(Math.abs(mm.radius!.value - 4.5)).toBeLessThan(mm.radius!.plusMinus);
    expect(Math.abs(mm.radius!.value - 4.5)).toBeLessThan(0.03);
    // The chain goes round the true rim: each of its places is as far from the middle as that is there.
    const away = px.map(([x, y]) => {
      const nearest = Math.min(
        ...Array.from({ length: 7200 }, (_, k) => {
          const [ru, rv] = at(11 + 4.5 * Math.cos((k * Math.PI) / 3600), 35.5 + 4.5 * Math.sin((k * Math.PI) / 3600));
          return Math.hypot(x - ru, y - rv);
        }),
      );
      return nearest;
    });
    expect(Math.max(...away)).toBeLessThan(0.5);
  });

  it('puts three lines and their corners where they are', () => {
    const corners = [at(90, 16), at(90, 24), at(84, 28), at(84, 41)] as const;
    const drawn = corners.map((c, k) => off(c, [2, -2, 1.5, -2.5][k]!, [1, 2, -2, 1.5][k]!));
    const told = settled([0, 1, 2].map((k) => ({ kind: 'line', px: [drawn[k]!, drawn[k + 1]!] })));
    if (!('pieces' in told)) throw new Error(told.reason);
    // Beside the first one runs a glint that may be meant as well; where the others meet is told by two clear edges.
    expect(told.pieces.map((p) => p.doubtful)).toEqual([[], [], []]);
    for (const k of [1, 2]) {
      const [u, v] = told.pieces[k]!.px[0]!;
      const away = Math.hypot(u - corners[k]![0], v - corners[k]![1]);
      expect(away).toBeLessThan(k === 1 ? 1.2 : 0.6);
      expect(away).toBeLessThan(2.5 * told.pieces[k - 1]!.sigmaPx);
    }
    expect(Math.abs(told.pieces[1]!.mm.length!.value - Math.hypot(6, 4))).toBeLessThan(
      told.pieces[1]!.mm.length!.plusMinus,
    );
  });

  it('says why it settles nothing', () => {
    expect(
      settled([
        {
          kind: 'line',
          px: [
            [100, 100],
            [160, 130],
          ],
        },
        {
          kind: 'line',
          px: [
            [300, 300],
            [400, 300],
          ],
        },
      ]),
    ).toEqual({
      reason: 'no-form',
    });
    expect(
      settled([
        {
          kind: 'circle',
          px: [
            [10, 10],
            [20, 10],
          ],
        },
      ]),
    ).toEqual({ reason: 'no-form' });
    const result = measurePicture(
      {
        ...example,
        yardsticks: [{ id: 'a', from: [2000, 1500], to: [2500, 1500], length: '30', cling: 'none' }],
        points: {},
        distances: [],
        settle: [
          {
            id: 'it',
            pieces: [
              {
                kind: 'line',
                px: [
                  [1, 1],
                  [9, 9],
                ],
              },
            ],
          },
        ],
      },
      facts,
      null,
    );
    expect(result.ok && result.answer.settled).toEqual({ it: { reason: 'no-picture' } });
  });
});
