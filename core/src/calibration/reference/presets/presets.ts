/** Things of known size that lie about in workshops. All lengths in mm. */
export interface SheetPreset {
  name: string;
  /** Longer side first. */
  widthMm: number;
  heightMm: number;
  /** Half width of the 95 % interval of both. */
  plusMinusMm: number;
}

export interface DiscPreset {
  name: string;
  diameterMm: number;
  thicknessMm: number;
}

export interface GridPreset {
  name: string;
  pitchMm: number;
}

/**
 * Papers and cards. ISO 216 allows ± 1.5 mm up to 150 mm and ± 2 mm up to 600 mm; cut paper is found within 1 mm.
 * Letter and legal: ANSI/ASME Y14.1. Cards: ISO/IEC 7810, ID-1 within 0.12 mm.
 */
export const SHEETS: readonly SheetPreset[] = [
  { name: 'A3', widthMm: 420, heightMm: 297, plusMinusMm: 1 },
  { name: 'A4', widthMm: 297, heightMm: 210, plusMinusMm: 1 },
  { name: 'A5', widthMm: 210, heightMm: 148, plusMinusMm: 1 },
  { name: 'A6', widthMm: 148, heightMm: 105, plusMinusMm: 1 },
  { name: 'Letter', widthMm: 279.4, heightMm: 215.9, plusMinusMm: 1 },
  { name: 'Legal', widthMm: 355.6, heightMm: 215.9, plusMinusMm: 1 },
  { name: 'Card (ID-1)', widthMm: 85.6, heightMm: 53.98, plusMinusMm: 0.12 },
];

/**
 * Round coins, as struck: diameter and thickness. Euro: Council Regulation (EU) No 729/2014. Swiss: Swissmint, coin
 * specifications. United States: 31 U.S.C. 5112 and the Mint's coin specifications. Canada: Royal Canadian Mint.
 * United Kingdom: the Royal Mint's specifications of the bronze and bimetal coins. Japan: Japan Mint.
 */
export const COINS: readonly DiscPreset[] = [
  { name: '2 euro', diameterMm: 25.75, thicknessMm: 2.2 },
  { name: '1 euro', diameterMm: 23.25, thicknessMm: 2.33 },
  { name: '50 euro cent', diameterMm: 24.25, thicknessMm: 2.38 },
  { name: '20 euro cent', diameterMm: 22.25, thicknessMm: 2.14 },
  { name: '10 euro cent', diameterMm: 19.75, thicknessMm: 1.93 },
  { name: '5 euro cent', diameterMm: 21.25, thicknessMm: 1.67 },
  { name: '2 euro cent', diameterMm: 18.75, thicknessMm: 1.67 },
  { name: '1 euro cent', diameterMm: 16.25, thicknessMm: 1.67 },
  { name: '5 Swiss francs', diameterMm: 31.45, thicknessMm: 2.35 },
  { name: '2 Swiss francs', diameterMm: 27.4, thicknessMm: 2.15 },
  { name: '1 Swiss franc', diameterMm: 23.2, thicknessMm: 1.55 },
  { name: '½ Swiss franc', diameterMm: 18.2, thicknessMm: 1.25 },
  { name: '20 Swiss rappen', diameterMm: 21.05, thicknessMm: 1.65 },
  { name: 'US dollar', diameterMm: 26.49, thicknessMm: 2 },
  { name: 'US half dollar', diameterMm: 30.61, thicknessMm: 2.15 },
  { name: 'US quarter', diameterMm: 24.26, thicknessMm: 1.75 },
  { name: 'US nickel', diameterMm: 21.21, thicknessMm: 1.95 },
  { name: 'US cent', diameterMm: 19.05, thicknessMm: 1.52 },
  { name: 'US dime', diameterMm: 17.91, thicknessMm: 1.35 },
  { name: 'Canadian quarter', diameterMm: 23.88, thicknessMm: 1.58 },
  { name: 'Canadian dime', diameterMm: 18.03, thicknessMm: 1.22 },
  { name: 'UK 2 pounds', diameterMm: 28.4, thicknessMm: 2.5 },
  { name: 'UK 2 pence', diameterMm: 25.9, thicknessMm: 2.03 },
  { name: 'UK 1 penny', diameterMm: 20.3, thicknessMm: 1.65 },
  { name: '500 yen', diameterMm: 26.5, thicknessMm: 1.8 },
  { name: '100 yen', diameterMm: 22.6, thicknessMm: 1.7 },
];

/** Pitches of cutting mats, squared paper and printed grids. */
export const GRIDS: readonly GridPreset[] = [
  { name: '10 mm', pitchMm: 10 },
  { name: '5 mm', pitchMm: 5 },
  { name: '4 mm', pitchMm: 4 },
  { name: '1 mm', pitchMm: 1 },
  { name: '1 in', pitchMm: 25.4 },
  { name: '1/2 in', pitchMm: 12.7 },
  { name: '1/4 in', pitchMm: 6.35 },
];

/** Sheets whose sides are to each other as those pictured, the likeliest first: a tilted camera changes them somewhat. */
export function sheetsLike(ratio: number): SheetPreset[] {
  const off = shapeOff(ratio);
  return [...SHEETS].sort((a, b) => off(a) - off(b) || COMMON.indexOf(b.name) - COMMON.indexOf(a.name));
}

/** The A sizes have one shape but for rounding: hundredths tell nothing between them. */
const shapeOff =
  (ratio: number) =>
  ({ widthMm, heightMm }: SheetPreset): number =>
    Math.round(50 * Math.abs(Math.log(ratio / (widthMm / heightMm))));

/**
 * The only sheet of a pictured shape; null where several have it. A4 and A6 look alike and differ twofold: taken for each other
 * everything would be twice as large, so nobody is spared being asked.
 */
export function onlySheetLike(ratio: number): SheetPreset | null {
  const off = shapeOff(ratio);
  const [first, second] = sheetsLike(ratio);
  return first && (!second || off(second) > off(first)) ? first : null;
}

/** Of one shape, that of everyday use last. */
const COMMON = ['A3', 'A6', 'A5', 'Letter', 'A4'];

/** Spacings of graduations on rulers, mm: millimetres, halves, fives and tens; sixteenths of an inch and their kin. */
const SPACINGS_MM = [
  1, 0.5, 5, 10, 2, 25.4, 12.7, 6.35, 3.175, 1.5875, 0.79375, 0.396875, 2.54, 1.27, 0.508, 0.254,
] as const;

/** A typed length may stray this much from a whole number of spacings, as a share. */
const SAME_SPACING = 0.004;

/** The spacing that a ruler has when so many of them make a length, and its unit; null where no ruler has such a one. */
export function spacingOf(lengthMm: number, count: number): { spacingMm: number; unit: 'mm' | 'in' } | null {
  const spacingMm = SPACINGS_MM.find((s) => Math.abs(lengthMm / count / s - 1) < SAME_SPACING);
  return spacingMm === undefined ? null : { spacingMm, unit: Number.isInteger(2 * spacingMm) ? 'mm' : 'in' };
}
