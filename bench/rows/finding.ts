import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { type CalibrationInput, calibrate, type PicturePoint } from '../../core/src/calibration';
import { findAll, findDisc, findGrid, findRuler, findSheet } from '../../core/src/find';
import type { Pixels } from '../../core/src/raster';
import { buildCamera, pictureOf } from '../../rig/src/camera';
import { type Item, type Scene, toScene } from '../../rig/src/scene';
import { drawScene } from '../drawScene';
import { WAYS } from './ways';

const folder = fileURLToPath(new URL('../../demo/pictures/', import.meta.url));

/** Each finder on its demo picture, the slowest of a few clicks. */
export async function timeFinding(): Promise<{ name: string; clicks: number; found: number; worstMs: number }[]> {
  const looks: [string, string, Item['kind'], [number, number][], (p: Pixels, at: PicturePoint) => { ok: boolean }][] =
    [
      [
        'a ruler',
        'latch-plate',
        'rule',
        [
          [50, -2],
          [100, -10],
          [60, 3],
          [120, -14],
        ],
        findRuler,
      ],
      [
        'a coin',
        'lamp-gasket',
        'coin',
        [
          [0, 0],
          [5, -4],
          [-7, 2],
          [0, -9],
        ],
        findDisc,
      ],
      [
        'a sheet',
        'lamp-gasket',
        'sheet',
        [
          [10, 10],
          [140, 98],
          [90, 90],
        ],
        findSheet,
      ],
      [
        'a grid',
        'baffle-pattern',
        'mat',
        [
          [25, 26],
          [250, 150],
          [12, 101],
        ],
        findGrid,
      ],
    ];
  const out = [];
  for (const [name, picture, kind, places, find] of looks) {
    const { data, info } = await sharp(`${folder}${picture}.jpg`)
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const pixels = { width: info.width, height: info.height, data };
    const { scene } = JSON.parse(readFileSync(`${folder}${picture}.truth.json`, 'utf8')) as { scene: Scene };
    const camera = buildCamera(scene.camera);
    const item = scene.items.find((i) => i.kind === kind) as Item;
    let [found, worstMs] = [0, 0];
    for (const place of places) {
      const [x, y] = toScene(item.lie, ...place);
      const at = pictureOf(camera, { x, y, z: item.base + item.thickness }) ?? [0, 0];
      const started = performance.now();
      if (find(pixels, { uPx: at[0], vPx: at[1] }).ok) found += 1;
      worstMs = Math.max(worstMs, performance.now() - started);
    }
    out.push({ name, clicks: places.length, found, worstMs });
  }
  return out;
}

/** Each demo picture searched as a whole, and what its things of known size are. */
const SHOWN: readonly { picture: string; kinds: readonly string[] }[] = [
  { picture: 'latch-plate', kinds: ['ruler'] },
  { picture: 'plywood-offcut', kinds: ['ruler'] },
  { picture: 'hanger-rail-left', kinds: ['ruler'] },
  { picture: 'hanger-rail-right', kinds: ['ruler'] },
  { picture: 'baffle-pattern', kinds: ['grid'] },
  { picture: 'lamp-gasket', kinds: ['sheet', 'disc'] },
  { picture: 'focus-knob', kinds: [] },
];

/** How often the search of a whole picture tells exactly what is there, and how long it takes at worst. */
export async function timeSearch(): Promise<{ pictures: number; right: number; worstMs: number }> {
  let [right, worstMs] = [0, 0];
  for (const { picture, kinds } of SHOWN) {
    const { data, info } = await sharp(`${folder}${picture}.jpg`)
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const started = performance.now();
    const found = findAll({ width: info.width, height: info.height, data });
    worstMs = Math.max(worstMs, performance.now() - started);
    if (found.map((thing) => thing.kind).join() === kinds.join()) right += 1;
  }
  return { pictures: SHOWN.length, right, worstMs };
}

/** A homography over 12 megapixels by a native library on one thread, ms; null where it is not on this machine. */
export function timeNativeWarp(): number | null {
  const script = `
import time, numpy, cv2
cv2.setNumThreads(1)
a = numpy.random.randint(0, 255, (3024, 4032, 4), numpy.uint8)
m = numpy.array([[1, .02, 20], [-.02, 1, 30], [2e-5, -1e-5, 1]])
t = []
for k in range(5):
    s = time.perf_counter(); cv2.warpPerspective(a, m, (4032, 3024), flags=cv2.INTER_LINEAR); t.append(time.perf_counter() - s)
print(sorted(t)[2] * 1000)`;
  try {
    return Number(execFileSync('/usr/bin/python3', ['-c', script], { stdio: ['ignore', 'pipe', 'ignore'] }).toString());
  } catch {
    return null;
  }
}

/**
 * The estimate of a ruler and a coin, a grid, paper and a ruler across: ms of the map alone, the first time and as it
 * goes on in a worker that stays, and its observations.
 */
export function timeManyPlaces(): { firstMs: number; ms: number; observations: number } {
  const scene = drawScene(11, 'free', { tilt: 11 });
  const byName = (name: string) => WAYS.find((w) => w.name.startsWith(name))?.say(scene) ?? [];
  const references = [
    ...byName('a ruler by its strokes and a coin'),
    ...byName('a checked grid'),
    ...byName('paper measured'),
    ...byName('two rulers').slice(1),
  ];
  const input: CalibrationInput = { ...scene.input, references };
  let observations = 0;
  for (const y of references) {
    if (y.kind === 'disc') observations += y.rim.length;
    if (y.kind === 'grid') observations += 2 * y.crossings.length;
    if (y.kind === 'sheet') observations += y.edges.flat().length;
    if (y.kind === 'known-length' && y.graduations)
      observations += y.graduations.edge.length + y.graduations.graduations.reduce((n, s) => n + s.places.length, 0);
  }
  const times = Array.from({ length: 21 }, () => {
    const started = performance.now();
    calibrate(input, { draws: 0 });
    return performance.now() - started;
  });
  const goingOn = times.slice(-7).sort((a, b) => a - b);
  return { firstMs: times[0]!, ms: goingOn[3]!, observations };
}
