import { findRuler } from '../../core/src/find';
import type { Pixels } from '../../core/src/raster';
import { buildCamera, pictureOf } from '../../rig/src/camera';
import { HANGER_RAIL_LEFT_SCENE } from '../../rig/src/demo';
import { shoot } from '../../rig/src/render';
import { type Rule, type Scene, toScene } from '../../rig/src/scene';

const degrees = (d: number): number => (d * Math.PI) / 180;
/** A rule as it lies in the pictures: half a frame high is seen of it. */
const RULE: Rule = {
  kind: 'rule',
  lengthMm: 300,
  widthMm: 25,
  spacing: 1,
  lie: { x: -150, y: -20, turn: degrees(3) },
  base: 0,
  thickness: 1,
};
const BAND_PX = 840;
/** Further off a place belongs to no stroke, px. */
const STRAY_PX = 1;

export interface GraduationScatter {
  distanceMm: number;
  places: number;
  biasPx: number;
  rmsPx: number;
  /** Mean of the σ told, px. */
  toldPx: number;
}

/** How far the located halves of strokes lie off where the simulated camera has them, on a rendered steel rule. */
export function measureGraduations(distanceMm: number, tiltDegrees: number, noise: number): GraduationScatter {
  const like = HANGER_RAIL_LEFT_SCENE;
  const scene: Scene = {
    ...like,
    seed: distanceMm,
    items: [RULE],
    camera: { ...like.camera, target: [0, 0], distanceMm, tilt: degrees(tiltDegrees), tiltTowards: 1.1 },
    film: { ...like.film, noise },
  };
  const camera = buildCamera(scene.camera);
  const at = (x: number, y: number): [number, number] => {
    const [sx, sy] = toScene(RULE.lie, x, y);
    const found = pictureOf(camera, { x: sx, y: sy, z: RULE.thickness });
    if (!found) throw new Error('the rule is not pictured');
    return found;
  };
  const middle = at(150, -2);
  const top = Math.round(middle[1] - BAND_PX / 2);
  const { widthPx } = scene.camera;
  const { pixels: rgb } = shoot(scene, { left: 0, top, width: widthPx, height: BAND_PX });
  const data = new Uint8ClampedArray(widthPx * BAND_PX * 4).fill(255);
  for (let k = 0; k < widthPx * BAND_PX; k++) for (let c = 0; c < 3; c++) data[4 * k + c] = rgb[3 * k + c]!;
  const pixels: Pixels = { width: widthPx, height: BAND_PX, data };
  const found = findRuler(pixels, { uPx: middle[0], vPx: middle[1] - top });
  if (!found.ok) throw new Error(`no ruler: ${found.reason}`);
  const graduations = Array.from({ length: RULE.lengthMm + 1 }, (_, n) => [at(n, 0), at(n, -8)] as const);
  const offs: number[] = [];
  let told = 0;
  for (const { places } of found.graduations.graduations)
    for (const { uPx, vPx, sigmaPx } of places) {
      const all = graduations.map(([a, b]) => {
        const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
        return ((uPx - a[0]) * -dy + (vPx + top - a[1]) * dx) / Math.hypot(dx, dy);
      });
      const off = all.reduce((best, o) => (Math.abs(o) < Math.abs(best) ? o : best));
      if (Math.abs(off) > STRAY_PX) continue;
      offs.push(off);
      told += sigmaPx;
    }
  const bias = offs.reduce((s, v) => s + v, 0) / offs.length;
  return {
    distanceMm,
    places: offs.length,
    biasPx: bias,
    rmsPx: Math.sqrt(offs.reduce((s, v) => s + v * v, 0) / offs.length),
    toldPx: told / offs.length,
  };
}
