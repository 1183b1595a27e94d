import { numbers } from '../render/noise';
import { DRAWING_FONTS } from './drawings';

/** Rulers as they are made: how far apart their strokes are, which of them are long, and what stands beside those. */
export interface RulerKind {
  name: string;
  spacingMm: number;
  /** Strokes whose number is a multiple are so long, mm; the first that fits counts. */
  lengths: readonly (readonly [multiple: number, mm: number])[];
  /** A figure at each multiple of so many strokes, and by how much it counts on. */
  figureEvery: number;
  figureStep: number;
  unit: 'mm' | 'cm' | 'in';
  ground: readonly [string, string];
  ink: string;
}

const STEEL = ['#c9cbcd', '#b4b7ba'] as const;
const YELLOW = ['#e6c443', '#d8b437'] as const;
const WOOD = ['#d9b987', '#caa671'] as const;
const BLACK = ['#202124', '#2b2c30'] as const;

export const RULER_KINDS: readonly RulerKind[] = [
  kind(
    'steel, mm',
    1,
    [
      [10, 6],
      [5, 4.5],
      [1, 3],
    ],
    10,
    1,
    'cm',
    STEEL,
  ),
  kind(
    'steel, half mm',
    0.5,
    [
      [20, 6],
      [10, 5],
      [2, 3.8],
      [1, 2.4],
    ],
    20,
    1,
    'cm',
    STEEL,
  ),
  kind(
    'figures in mm',
    1,
    [
      [10, 6],
      [5, 4.5],
      [1, 3],
    ],
    10,
    10,
    'mm',
    STEEL,
  ),
  kind(
    'wood, mm',
    1,
    [
      [10, 7],
      [5, 5],
      [1, 3.5],
    ],
    10,
    1,
    'cm',
    WOOD,
    '#4b3a28',
  ),
  kind(
    'folding, 2 mm',
    2,
    [
      [5, 8],
      [1, 4.5],
    ],
    5,
    1,
    'cm',
    YELLOW,
  ),
  kind(
    'light on black, mm',
    1,
    [
      [10, 6],
      [5, 4.5],
      [1, 3],
    ],
    10,
    1,
    'cm',
    BLACK,
    '#e9e9e4',
  ),
  kind(
    'inch, sixteenths',
    25.4 / 16,
    [
      [16, 9],
      [8, 7],
      [4, 5.5],
      [2, 4],
      [1, 2.8],
    ],
    16,
    1,
    'in',
    STEEL,
  ),
  kind(
    'inch, thirty-seconds',
    25.4 / 32,
    [
      [32, 9],
      [16, 7.5],
      [8, 6.2],
      [4, 5],
      [2, 3.8],
      [1, 2.6],
    ],
    32,
    1,
    'in',
    STEEL,
  ),
  kind(
    'inch, eighths',
    25.4 / 8,
    [
      [8, 9],
      [4, 6.5],
      [2, 5],
      [1, 3.4],
    ],
    8,
    1,
    'in',
    YELLOW,
  ),
];

function kind(
  name: string,
  spacingMm: number,
  lengths: RulerKind['lengths'],
  figureEvery: number,
  figureStep: number,
  unit: RulerKind['unit'],
  ground: RulerKind['ground'],
  ink = '#1b1b1b',
): RulerKind {
  return { name, spacingMm, lengths, figureEvery, figureStep, unit, ground, ink };
}

export interface DrawnRuler {
  widthMm: number;
  heightMm: number;
  /** The table with the ruler on it, as SVG, at so many pixels to the millimetre. */
  svg(perMm: number): string;
  kind: RulerKind;
  /** The places of its strokes' feet on the picture, mm from the upper left corner, by number. */
  feet: [number, number][];
  /** What it reads at its first stroke, in the unit of its figures. */
  firstReading: number;
}

/**
 * A ruler lying on a table, by a seed: kind, letters, where the figures stand, which part of it, its turn. Where its
 * first stroke is the end of its body, the first figure stands beside it, on the ruler.
 */
export function drawRuler(kind: RulerKind, seed: number, zeroIsEnd = false): DrawnRuler {
  const random = numbers(seed * 7919 + 11);
  const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)]!;
  const [widthMm, heightMm] = [200, 130];
  const font = pick(DRAWING_FONTS);
  const lengthMm = 110 + 50 * random();
  const count = Math.floor((lengthMm - 8) / kind.spacingMm);
  // Some lie with figures that go on from elsewhere: a long rule of which a part is seen.
  const first = random() < 0.4 ? kind.figureEvery * Math.floor(1 + 30 * random()) : 0;
  const widthOfRuler = 18 + 10 * random();
  const isBeside = random() < 0.3;
  const tall = 3 + 1.6 * random();
  const stroke = kind.spacingMm < 0.6 ? 0.14 : 0.2 + 0.08 * random();
  const turn = (random() - 0.5) * 30 + (random() < 0.25 ? 180 : 0);
  const longest = kind.lengths[0]![1];
  const parts: string[] = [];
  const start = zeroIsEnd ? 0 : 4;
  for (let n = 0; n <= count; n++) {
    const own = kind.lengths.find(([multiple]) => (n + first) % multiple === 0)![1];
    const x = start + n * kind.spacingMm;
    parts.push(`<line x1="${x}" y1="0.4" x2="${x}" y2="${own}" stroke="${kind.ink}" stroke-width="${stroke}"/>`);
    if ((n + first) % kind.figureEvery !== 0) continue;
    const value = ((n + first) / kind.figureEvery) * kind.figureStep;
    const isMoved = isBeside || (zeroIsEnd && n === 0);
    const [fx, fy] = isMoved ? [x + 0.9, longest + 0.3] : [x, longest + 1.1 + 0.73 * tall];
    parts.push(
      `<text x="${fx}" y="${fy}" font-family="${font}" font-size="${tall / 0.73}" text-anchor="${isMoved ? 'start' : 'middle'}" fill="${kind.ink}">${value}</text>`,
    );
  }
  const [cx, cy] = [widthMm / 2, heightMm / 2];
  const [ox, oy] = [cx - lengthMm / 2, cy - widthOfRuler / 2];
  const table = pick(['#7d6a58', '#4f5a5e', '#8b8f86', '#5d4634']);
  const scratches = Array.from({ length: 14 }, () => {
    const [x, y, a] = [widthMm * random(), heightMm * random(), Math.PI * random()];
    const l = 5 + 30 * random();
    return `<line x1="${x}" y1="${y}" x2="${x + l * Math.cos(a)}" y2="${y + l * Math.sin(a)}" stroke="#00000022" stroke-width="0.3"/>`;
  });
  const svg = (perMm: number) =>
    `<svg xmlns="http://www.w3.org/2000/svg" width="${perMm * widthMm}" height="${perMm * heightMm}" viewBox="0 0 ${widthMm} ${heightMm}"><defs><linearGradient id="g" x1="0" y1="0" x2="1" y2="0.4"><stop offset="0" stop-color="${kind.ground[0]}"/><stop offset="1" stop-color="${kind.ground[1]}"/></linearGradient></defs><rect width="100%" height="100%" fill="${table}"/>${scratches.join('')}<g transform="rotate(${turn} ${cx} ${cy}) translate(${ox} ${oy})"><rect x="-0.6" y="1" width="${lengthMm + 1.6}" height="${widthOfRuler}" fill="#00000055"/><rect width="${lengthMm}" height="${widthOfRuler}" fill="url(#g)"/>${parts.join('')}</g></svg>`;
  const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  const feet = Array.from({ length: count + 1 }, (_, n): [number, number] => {
    const [x, y] = [ox + start + n * kind.spacingMm - cx, oy + 0.4 - cy];
    return [cx + c * x - s * y, cy + s * x + c * y];
  });
  return { widthMm, heightMm, svg, kind, feet, firstReading: (first / kind.figureEvery) * kind.figureStep };
}
