import { circle, type Film, type GridMat, type Item, type Rgb, type Rule, type Scene, type Sheet } from '../scene';
import { steadyShot } from './steadyShot';

const OAK: Rgb = [0.38, 0.25, 0.15];
const STEEL: Rgb = [0.5, 0.5, 0.51];
const INK: Rgb = [0.04, 0.04, 0.045];
const BLUE_GRAY: Rgb = [0.2, 0.25, 0.33];
const PALE: Rgb = [0.66, 0.65, 0.62];

/** What phones do to a picture before anybody sees it, and a white balance set for another lamp. */
const SHARPENED: Partial<Film> = { sharpening: 1.4, colourBlurPx: 3 };
const MISBALANCED: Partial<Film> = { gain: [1.35, 1, 0.6] };

/** Rules on a table, photographed small: 2 megapixels, six pixels to the millimetre. */
export const LYING_RULES = [
  'faint strokes',
  'brass on oak',
  'wood on oak',
  'yellow folding rule, every 2 mm',
  'as bright as the table, another color',
  'brushed steel',
  'sharpened by the phone',
  'white balance off',
] as const;
export type LyingRule = (typeof LYING_RULES)[number];

interface RuleLook {
  look: Rule['look'];
  table: Rgb;
  film?: Partial<Film>;
}

function ruleLook(kind: LyingRule): RuleLook {
  switch (kind) {
    case 'faint strokes':
      // Blurred by a lens that is not quite in focus, five gray levels of 255 are left of them.
      return {
        look: { ground: [0.45, 0.45, 0.46], ink: [0.35, 0.35, 0.36], brushed: 0.01 },
        table: OAK,
        film: { blurPx: 1.3 },
      };
    case 'brass on oak':
      return { look: { ground: [0.42, 0.33, 0.13], ink: INK, brushed: 0.04 }, table: OAK };
    case 'wood on oak':
      return { look: { ground: [0.5, 0.36, 0.2], ink: [0.12, 0.08, 0.05], brushed: 0.12 }, table: OAK };
    case 'yellow folding rule, every 2 mm':
      return { look: { ground: [0.55, 0.42, 0.06], ink: INK, brushed: 0.02, everyMm: 2 }, table: BLUE_GRAY };
    case 'as bright as the table, another color':
      return { look: { ground: [0.36, 0.22, 0.16], ink: INK, brushed: 0.03 }, table: BLUE_GRAY };
    case 'brushed steel':
      return { look: { ground: STEEL, ink: INK, brushed: 0.25 }, table: OAK };
    case 'sharpened by the phone':
      return { look: { ground: STEEL, ink: INK, brushed: 0.06 }, table: OAK, film: SHARPENED };
    case 'white balance off':
      return { look: { ground: STEEL, ink: INK, brushed: 0.06 }, table: OAK, film: MISBALANCED };
  }
}

const RULE_MM = 200;

/** A rule of a kind, somewhere about the middle; the same for the same seed. */
export function lyingRule(kind: LyingRule, seed: number): { scene: Scene; rule: Rule } {
  const { look, table, film } = ruleLook(kind);
  const { shot, next } = smallShot(seed, film);
  const turn = 0.5 * (next() - 0.5);
  const rule: Rule = {
    kind: 'rule',
    lengthMm: RULE_MM,
    widthMm: 20 + 8 * next(),
    spacing: 1,
    lie: {
      x: -0.5 * RULE_MM * Math.cos(turn) + 20 * (next() - 0.5),
      y: -0.5 * RULE_MM * Math.sin(turn) + 30 * (next() - 0.5),
      turn,
    },
    base: 0,
    thickness: 0.8,
    ...(look && { look }),
  };
  return { rule, scene: { ...shot, items: [rule], table: { colour: table, grain: 0.1 } } };
}

/** Printed grids that were used, or lie half hidden. */
export const LYING_GRIDS = [
  'worn lines',
  'half covered',
  'faint lines',
  'sharpened by the phone',
  'white balance off',
] as const;
export type LyingGrid = (typeof LYING_GRIDS)[number];

export function lyingGrid(kind: LyingGrid, seed: number): { scene: Scene; mat: GridMat } {
  const film = kind === 'sharpened by the phone' ? SHARPENED : kind === 'white balance off' ? MISBALANCED : {};
  const { shot, next } = smallShot(seed, film);
  const turn = 0.8 * (next() - 0.5);
  const colour: Rgb = kind === 'faint lines' ? [0.5, 0.5, 0.36] : [0.08, 0.2, 0.14];
  const mat: GridMat = {
    kind: 'mat',
    widthMm: 200,
    heightMm: 150,
    pitchMm: 10,
    colour,
    lie: { x: -100 * Math.cos(turn) + 75 * Math.sin(turn), y: -100 * Math.sin(turn) - 75 * Math.cos(turn), turn },
    base: 0,
    thickness: 2,
    ...(kind === 'worn lines' && { worn: 0.35 }),
  };
  const things: Item[] =
    kind === 'half covered'
      ? [
          {
            kind: 'plate',
            forms: [circle(0, 0, 90)],
            lie: { x: -40 + 20 * next(), y: 30 * (next() - 0.5), turn: 0 },
            base: 2,
            thickness: 1,
            colour: [0.45, 0.44, 0.42],
            wear: 0.3,
          },
          {
            kind: 'coin',
            diameterMm: 23,
            colour: [0.46, 0.34, 0.13],
            lie: { x: 40 + 20 * next(), y: 40 * (next() - 0.5), turn: 1 },
            base: 2,
            thickness: 2,
          },
        ]
      : [];
  return { mat, scene: { ...shot, items: [mat, ...things], table: { colour: OAK, grain: 0.1 } } };
}

/** Sheets that hardly differ from what they lie on, or not in brightness. */
export const LYING_SHEETS = [
  'white on a pale table',
  'a green card on oak, as bright',
  'white on oak, a corner covered',
  'sharpened by the phone',
  'white balance off',
] as const;
export type LyingSheet = (typeof LYING_SHEETS)[number];

export function lyingSheet(kind: LyingSheet, seed: number): { scene: Scene; sheet: Sheet } {
  const film = kind === 'sharpened by the phone' ? SHARPENED : kind === 'white balance off' ? MISBALANCED : {};
  const { shot, next } = smallShot(seed, film);
  const turn = 0.6 * (next() - 0.5);
  const sheet: Sheet = {
    kind: 'sheet',
    widthMm: 148,
    heightMm: 105,
    lie: { x: -74 * Math.cos(turn) + 52 * Math.sin(turn), y: -74 * Math.sin(turn) - 52 * Math.cos(turn), turn },
    base: 0,
    thickness: 0.1,
    ...(kind === 'a green card on oak, as bright' && { colour: [0.22, 0.3, 0.16] }),
  };
  const corner: Item = {
    kind: 'coin',
    diameterMm: 30,
    colour: [0.3, 0.28, 0.25],
    lie: { x: sheet.lie.x, y: sheet.lie.y, turn: 0 },
    base: 0.1,
    thickness: 2,
  };
  const isCovered = kind === 'white on oak, a corner covered';
  return {
    sheet,
    scene: {
      ...shot,
      items: isCovered ? [sheet, corner] : [sheet],
      table: { colour: kind === 'white on a pale table' ? PALE : OAK, grain: 0.06 },
    },
  };
}

/** Two megapixels from a quarter of a metre, held nearly level. */
function smallShot(seed: number, film: Partial<Film> = {}) {
  const { next, ...shot } = steadyShot(seed, film);
  const distanceMm = 258 * (0.92 + 0.16 * next());
  const camera = { ...shot.camera, widthPx: 1600, heightPx: 1200, cPx: 1550, centre: [803, 596] as [number, number] };
  return {
    next,
    shot: { ...shot, camera: { ...camera, distanceMm, tilt: 0.6 * shot.camera.tilt, roll: 0.2 * shot.camera.roll } },
  };
}
