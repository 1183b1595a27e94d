import type { Finish, Flaw, Plate } from '../scene';
import type { Grains, Surface } from './surface';

/** What a plate that is no painted sheet looks like. */
export function finishOf(item: Plate, finish: Finish, grains: Grains): Pick<Surface, 'shade' | 'wall'> {
  const [r, g, b] = item.colour;
  const light = { rubber: rubberLight, paper: paperLight, plywood: plywoodLight }[finish];
  const flaws = item.flaws ?? [];
  return {
    wall: finish === 'paper' ? [r * 0.7, g * 0.7, b * 0.7] : [r * 0.4, g * 0.4, b * 0.4],
    shade(x, y, out) {
      const flaw = flaws.find((f) => inFlaw(f, x, y, grains));
      const own = light(x, y, grains) * (flaw ? 0.28 + 0.1 * grains.fine.at(x * 3, y * 3) : 1);
      out[0] = r * own;
      out[1] = g * own * (flaw ? 0.8 : 1);
      out[2] = b * own * (flaw ? 0.65 : 1);
      return flaw ? 1 : 0;
    },
  };
}

const rubberLight = (x: number, y: number, { rough, fine }: Grains): number =>
  1 +
  0.1 * rough.at(x * 1.3, y * 1.3) +
  0.12 * fine.at(x * 12, y * 12) +
  (fine.at(x * 2.3, y * 2.1 + 40) > 0.9 ? 0.25 : 0);

const paperLight = (x: number, y: number, { rough, fine }: Grains): number =>
  1 + 0.015 * fine.at(x * 7, y * 7) + 0.02 * rough.at(x * 0.3, y * 0.3);

/** Rotary-cut veneer: broad flames along x, pores, a little gloss. */
function plywoodLight(x: number, y: number, { rough, fine }: Grains): number {
  const bend = 3 * rough.at(x * 0.05 + 11, y * 0.12);
  const flame = rough.at(x * 0.03 + 60, y * 0.35 + bend);
  const pore = fine.at(x * 0.5 + 7, y * 9 + 2 * bend);
  return 1 + 0.13 * flame + 0.05 * pore - (pore > 0.7 ? 0.12 : 0) + 0.03 * fine.at(x * 6, y * 6);
}

/** A knot is no circle: its rim wanders by a fifth of its radius. */
function inFlaw({ x: fx, y: fy, radius }: Flaw, x: number, y: number, { rough }: Grains): boolean {
  const away = Math.hypot(x - fx, y - fy);
  if (away > 1.3 * radius) return false;
  const angle = Math.atan2(y - fy, x - fx);
  return away < radius * (1 + 0.2 * rough.at(2 * Math.cos(angle) + fx, 2 * Math.sin(angle) + fy));
}
