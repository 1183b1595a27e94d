import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import fc from 'fast-check';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { buildCamera, pictureOf, rayOf } from '../camera';
import { LATCH_PLATE_SCENE } from '../demo';
import { type Scene, toScene } from '../scene';
import { tellTruth } from '../write';
import { shoot } from './develop';

describe('the simulated camera', () => {
  it('sees along each ray what it pictures there', () => {
    const camera = buildCamera(LATCH_PLATE_SCENE.camera);
    const ray = { x: 0, y: 0, z: 0 };
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 4032, noNaN: true }),
        fc.double({ min: 0, max: 3024, noNaN: true }),
        (u, v) => {
          rayOf(camera, u, v, ray);
          const at = pictureOf(camera, {
            x: camera.lens.x + 170 * ray.x,
            y: camera.lens.y + 170 * ray.y,
            z: camera.lens.z + 170 * ray.z,
          });
          expect(Math.hypot((at?.[0] ?? 0) - u, (at?.[1] ?? 0) - v)).toBeLessThan(1e-6);
        },
      ),
    );
  });

  it('pictures its target in the middle, at its distance', () => {
    const camera = buildCamera(LATCH_PLATE_SCENE.camera);
    const [x, y] = LATCH_PLATE_SCENE.camera.target;
    expect(pictureOf(camera, { x, y, z: 0 })).toEqual(LATCH_PLATE_SCENE.camera.centre.map((c) => expect.closeTo(c, 9)));
    expect(Math.hypot(camera.lens.x - x, camera.lens.y - y, camera.lens.z)).toBeCloseTo(172, 9);
  });

  it('draws the same bytes for the same scene, and others for another seed', () => {
    const frame = { left: 900, top: 1800, width: 120, height: 80 };
    const [one, two] = [shoot(LATCH_PLATE_SCENE, frame), shoot(LATCH_PLATE_SCENE, frame)];
    expect(one.pixels).toEqual(two.pixels);
    expect(shoot({ ...LATCH_PLATE_SCENE, seed: 12 }, frame).pixels).not.toEqual(one.pixels);
  });

  it('took the demo picture that is in the repository', async () => {
    const frame = { left: 1150, top: 700, width: 200, height: 150 };
    const file = fileURLToPath(new URL('../../../demo/pictures/latch-plate.jpg', import.meta.url));
    const kept = await sharp(file).extract(frame).removeAlpha().raw().toBuffer();
    const { pixels } = shoot(LATCH_PLATE_SCENE, frame);
    let sum = 0;
    for (let k = 0; k < pixels.length; k++) sum += Math.abs(pixels[k]! - kept[k]!);
    // JPEG and the noise of another frame's seed lie between them, no more.
    expect(sum / pixels.length).toBeLessThan(4);
    const truth = JSON.parse(readFileSync(file.replace('.jpg', '.truth.json'), 'utf8'));
    expect(truth).toEqual(JSON.parse(JSON.stringify(tellTruth(LATCH_PLATE_SCENE))));
  });

  it('stands an edge where the geometry says', () => {
    const scene: Scene = {
      ...LATCH_PLATE_SCENE,
      items: [
        { kind: 'sheet', lie: { x: -20, y: -20, turn: 0.1 }, base: 0, thickness: 0.1, widthMm: 40, heightMm: 40 },
      ],
      film: { blurPx: 0.8, noise: 0, sharpening: 0, toneCurve: 0, vignette: 0 },
      benchTone: 0.05,
    };
    const camera = buildCamera(scene.camera);
    const [x, y] = toScene(scene.items[0]!.lie, 0, 20);
    const edge = pictureOf(camera, { x, y, z: 0.1 }) ?? [0, 0];
    const frame = { left: Math.round(edge[0]) - 15, top: Math.round(edge[1]), width: 30, height: 1 };
    const { pixels } = shoot(scene, frame);
    const linear = Array.from({ length: 30 }, (_, k) => {
      const s = pixels[3 * k + 1]! / 255;
      return s <= 0.04045 ? s / 12.92 : ((s + 0.055) / 1.055) ** 2.4;
    });
    const [dark, bright] = [linear[2]!, linear[27]!];
    const dim = linear.reduce((sum, l) => sum + (bright - l) / (bright - dark), 0);
    const row = pictureOf(camera, { x, y, z: 0.1 }) ?? [0, 0];
    // The row's own middle lies half a pixel below its top.
    expect(Math.abs(frame.left + dim - row[0])).toBeLessThan(0.15);
  });

  it('shows a coin, a sheet and a mat where they lie, the upper one on top', () => {
    const scene: Scene = {
      ...LATCH_PLATE_SCENE,
      film: { blurPx: 0.5, noise: 0, sharpening: 0, toneCurve: 0, vignette: 0 },
      items: [
        {
          kind: 'mat',
          lie: { x: -40, y: -30, turn: 0 },
          base: 0,
          thickness: 2,
          widthMm: 60,
          heightMm: 40,
          pitchMm: 10,
          colour: [0.02, 0.1, 0.06],
        },
        { kind: 'sheet', lie: { x: -20, y: -20, turn: 0 }, base: 2, thickness: 0.1, widthMm: 30, heightMm: 20 },
        {
          kind: 'coin',
          lie: { x: -5, y: -10, turn: 0 },
          base: 2.1,
          thickness: 2,
          diameterMm: 10,
          colour: [0.3, 0.2, 0.05],
        },
      ],
    };
    const camera = buildCamera(scene.camera);
    const colour = (x: number, y: number, z: number): number[] => {
      const [u, v] = pictureOf(camera, { x, y, z }) ?? [0, 0];
      return [...shoot(scene, { left: Math.floor(u), top: Math.floor(v), width: 1, height: 1 }).pixels];
    };
    const [paper, coin, mat, line] = [
      colour(-17, -3, 2.1),
      colour(-5, -13.4, 4.1),
      colour(-35, -25, 2),
      colour(-30, -25, 2),
    ];
    expect(Math.min(...paper)).toBeGreaterThan(200);
    expect(coin[0]! - coin[2]!).toBeGreaterThan(40);
    expect(mat[1]).toBeGreaterThan(mat[0]! + 20);
    expect(line[0]).toBeGreaterThan(mat[0]! + 80);
  });
});
