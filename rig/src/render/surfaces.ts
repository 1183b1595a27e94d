import type { Form } from '@steady-moth/core/geometry';
import { buildOutline, circle, type Item, type Outline, type Rule, rectangle, type Scene } from '../scene';
import { onText } from './figures';
import { finishOf } from './finishes';
import type { Grains, Surface } from './surface';
import { sideOf } from './turned';

export function buildSurface(item: Item, grains: Grains): Surface {
  const outline = buildOutline(formsOf(item));
  return { outline, ...faceOf(item, outline, grains) };
}

/** The true forms of a thing, in its own mm. */
export function formsOf(item: Item): Form[] {
  switch (item.kind) {
    case 'plate':
      return item.forms;
    case 'turned':
      return [sideOf(item.profile)];
    case 'rule':
      return [rectangle(RULE.startMm, -item.widthMm, item.lengthMm + RULE.endMm, 0)];
    case 'coin':
      return [circle(0, 0, item.diameterMm)];
    case 'sheet':
      return [rectangle(0, 0, item.widthMm, item.heightMm)];
    case 'mat':
      return [rectangle(-MAT_BORDER_MM, -MAT_BORDER_MM, item.widthMm + MAT_BORDER_MM, item.heightMm + MAT_BORDER_MM)];
  }
}

/** A rule's body beyond its first and last graduation, and its engraving, mm. */
const RULE = {
  startMm: -5,
  endMm: 6,
  strokeMm: 0.14,
  ones: 3.2,
  fives: 4.8,
  tens: 6.6,
  figureMm: 2.6,
  figureAt: -9.4,
} as const;
const MAT_BORDER_MM = 8;

function faceOf(item: Item, outline: Outline, grains: Grains): Pick<Surface, 'shade' | 'wall'> {
  switch (item.kind) {
    case 'turned':
      // Never asked: a turned part has no flat top (`turned.ts`).
      return { wall: item.colour, shade: () => 0 };
    case 'plate': {
      if (item.finish) return finishOf(item, item.finish, grains);
      const [r, g, b] = item.colour;
      return {
        wall: [r * 0.35, g * 0.35, b * 0.35],
        shade(x, y, out) {
          const haze = 1 + 0.09 * grains.rough.at(x * 2.2, y * 2.2) + 0.07 * grains.fine.at(x * 9, y * 11);
          const scratch = grains.fine.at(x * 1.4 + y * 30, y * 0.9 - x * 0.8) > 0.93 ? 1.35 : 1;
          const bare =
            outline.rim(x, y) > -0.35 - 0.5 * grains.rough.at(x * 5, y * 5) &&
            grains.rough.at(x * 1.1 + 70, y * 1.1) > 1 - 1.6 * item.wear;
          const light = haze * scratch;
          out[0] = bare ? 0.42 * haze : r * light;
          out[1] = bare ? 0.41 * haze : g * light;
          out[2] = bare ? 0.39 * haze : b * light;
          return 0;
        },
      };
    }
    case 'rule': {
      if (item.look) return ruleOf(item, item.look, grains);
      return {
        wall: [0.2, 0.2, 0.2],
        shade(x, y, out) {
          const brushed = 1 + 0.05 * grains.fine.at(x * 0.5, y * 55) + 0.05 * grains.rough.at(x * 0.9, y * 3);
          const sheen = 0.52 + 0.1 * Math.sin(x * 0.021 + 0.6) + 0.02 * Math.sin(x * 0.13);
          const mark = item.inches
            ? inchMark(x / item.spacing, y, item.lengthMm)
            : ruleMark(x / item.spacing, y, item.lengthMm);
          const worn = grains.rough.at(x * 4 + 9, y * 4) > 0.55 ? 0.35 : 0;
          const light = mark ? 0.035 + worn * 0.12 : sheen * brushed;
          out[0] = light;
          out[1] = light * 1.005;
          out[2] = light * 1.01;
          return mark ? 1 : 0;
        },
      };
    }
    case 'coin': {
      const radius = item.diameterMm / 2;
      const wall = item.colour;
      return {
        wall: [wall[0] * 0.4, wall[1] * 0.4, wall[2] * 0.4],
        shade(x, y, out) {
          const d = Math.hypot(x, y);
          const [r, g, b] = item.core && d < item.core.diameterMm / 2 ? item.core.colour : item.colour;
          const notch = item.isMilled && d > radius - 0.5 ? 0.25 * Math.sin(NOTCHES * Math.atan2(y, x)) : 0;
          const groove = item.ringMm && Math.abs(d - item.ringMm / 2) < GROOVE_MM ? -0.45 : 0;
          const rim = (d > radius - 1.3 ? 1.16 - 0.5 * Math.abs(d - radius + 0.65) : 0.86) + notch + groove;
          const relief = d < radius - 2 ? 0.16 * grains.rough.at(x * 6 + 200, y * 6) : 0;
          const light =
            rim +
            relief +
            0.03 * grains.fine.at(x * 20, y * 20) +
            (d < radius - 1.5 && onText('20', radius * 0.9, x, y) ? 0.22 : 0);
          out[0] = r * light;
          out[1] = g * light;
          out[2] = b * light;
          return (d > radius - 1.3 ? 1 : 0) + (groove ? 2 : 0) + (item.core && d < item.core.diameterMm / 2 ? 4 : 0);
        },
      };
    }
    case 'sheet':
      return {
        wall: [0.5, 0.5, 0.49],
        shade(x, y, out) {
          const [r, g, b] = item.colour ?? WHITE;
          const light = 1 + 0.015 * grains.fine.at(x * 7, y * 7) + 0.01875 * grains.rough.at(x * 0.3, y * 0.3);
          out[0] = r * light;
          out[1] = g * light;
          out[2] = b * light;
          return 0;
        },
      };
    case 'mat': {
      const [r, g, b] = item.colour;
      return {
        wall: [r * 0.4, g * 0.4, b * 0.4],
        shade(x, y, out) {
          const printed = matLine(x, item.pitchMm, item.widthMm) || matLine(y, item.pitchMm, item.heightMm);
          const isWorn = item.worn && grains.rough.at(x * 0.4 + 31, y * 0.4) > 1 - 2 * item.worn;
          const on = printed && !isWorn && x > -0.2 && y > -0.2 && x < item.widthMm + 0.2 && y < item.heightMm + 0.2;
          const light = 1 + 0.1 * grains.fine.at(x * 8, y * 8) + 0.08 * grains.rough.at(x, y);
          out[0] = on ? 0.62 : r * light;
          out[1] = on ? 0.6 : g * light;
          out[2] = on ? 0.42 : b * light;
          return on ? 1 : 0;
        },
      };
    }
  }
}

/** Paper, linear light. */
const WHITE = [0.8, 0.8, 0.776] as const;

/** A rule of another make than the steel one. */
function ruleOf(item: Rule, look: NonNullable<Rule['look']>, grains: Grains): Pick<Surface, 'shade' | 'wall'> {
  const [r, g, b] = look.ground;
  const every = look.everyMm ?? 1;
  return {
    wall: [r * 0.4, g * 0.4, b * 0.4],
    shade(x, y, out) {
      const along = x / item.spacing;
      const mark = Math.round(along) % every === 0 && ruleMark(along, y, item.lengthMm);
      const grain = 1 + look.brushed * (grains.fine.at(x * 0.5, y * 14) + 0.5 * grains.rough.at(x * 0.9, y * 3));
      for (let c = 0; c < 3; c++) out[c] = mark ? look.ink[c]! : [r, g, b][c]! * grain;
      return mark ? 1 : 0;
    },
  };
}

/** Notches round a milled rim, and half the width of an engraved ring, mm. */
const NOTCHES = 110;
const GROOVE_MM = 0.18;

function matLine(p: number, pitch: number, most: number): boolean {
  const n = Math.round(p / pitch);
  return n >= 0 && n * pitch <= most + 0.1 && Math.abs(p - n * pitch) < (n % 5 === 0 ? 0.25 : 0.14);
}

function ruleMark(x: number, y: number, length: number): boolean {
  const n = Math.round(x);
  if (n >= 0 && n <= length && Math.abs(x - n) < RULE.strokeMm / 2) {
    const deep = n % 10 === 0 ? RULE.tens : n % 5 === 0 ? RULE.fives : RULE.ones;
    if (y > -deep) return true;
  }
  const ten = Math.round(x / 10) * 10;
  return ten >= 0 && ten <= length && onText(String(ten / 10), RULE.figureMm, x - ten, y - RULE.figureAt);
}

const INCH_MM = 25.4;

/** Sixteenths, each longer one by how often the inch is halved down to it. */
function inchMark(x: number, y: number, length: number): boolean {
  const n = Math.round((16 * x) / INCH_MM);
  const at = (n * INCH_MM) / 16;
  if (n >= 0 && at <= length && Math.abs(x - at) < RULE.strokeMm / 2) {
    const halvings = n % 16 === 0 ? 4 : n % 8 === 0 ? 3 : n % 4 === 0 ? 2 : n % 2 === 0 ? 1 : 0;
    if (y > -(RULE.ones + (halvings / 4) * (RULE.tens - RULE.ones))) return true;
  }
  const whole = Math.round(x / INCH_MM);
  const away = x - whole * INCH_MM;
  return whole >= 0 && whole * INCH_MM <= length && onText(String(whole), RULE.figureMm, away, y - RULE.figureAt);
}

/**
 * The bench top: worn wood, its grain along x. Every look-up is turned or stretched differently, so that the tiles of
 * noise do not show as a repeat.
 */
export function shadeBench(scene: Scene, { rough, fine }: Grains, x: number, y: number, out: Float64Array): void {
  if (scene.table) {
    const { colour, grain } = scene.table;
    const own = 1 + grain * (0.6 * fine.at(x * 5.3 + 11, y * 5.1) + 0.6 * rough.at(x * 0.7, y * 0.6 + 30));
    for (let c = 0; c < 3; c++) out[c] = colour[c]! * own;
    return;
  }
  const bend = 5 * rough.at(x * 0.11 + 17, y * 0.43 + x * 0.013);
  const grain = fine.at(x * 0.41 + y * 0.07 + 40, y * 6.3 + bend);
  const hair = fine.at(x * 1.3 - y * 0.11, y * 31 + 2 * bend);
  const bands = rough.at(x * 0.047 + 90, y * 1.7 + bend + x * 0.021);
  const pore = fine.at(x * 0.83 + y * 0.29 + 7, y * 19 + bend) + 0.5 * rough.at(x * 0.37 - 60, y * 2.1);
  const pores = pore > 0.62 ? -0.5 * Math.min(0.5, pore - 0.62) : 0;
  const stain = rough.at(x * 0.17 + y * 0.09 + 300, y * 0.19 + 120);
  const light = scene.benchTone * (1 + 0.14 * grain + 0.12 * hair + 0.16 * bands + pores + 0.09 * stain);
  out[0] = light * 1.24;
  out[1] = light;
  out[2] = light * (0.74 + 0.04 * bands);
}
