import { NO_LENGTH_MM } from '../../../geometry';

/** What lacks less than this of a whole inch is one: rounding of what was typed. */
const WHOLE_INCH = 1e-9;

/** A size that things are made to, mm. */
export interface StandardSize {
  mm: number;
  /** What it is for, as it is said on the screen. */
  what: string;
}

/** Clearance holes for metric screws: fine, medium, coarse. ISO 273:1979, table 1. */
const CLEARANCE: Readonly<Record<string, readonly [number, number, number]>> = {
  'M1.6': [1.7, 1.8, 2],
  M2: [2.2, 2.4, 2.6],
  'M2.5': [2.7, 2.9, 3.1],
  M3: [3.2, 3.4, 3.6],
  M4: [4.3, 4.5, 4.8],
  M5: [5.3, 5.5, 5.8],
  M6: [6.4, 6.6, 7],
  M8: [8.4, 9, 10],
  M10: [10.5, 11, 12],
  M12: [13, 13.5, 14.5],
  M14: [15, 15.5, 16.5],
  M16: [17, 17.5, 18.5],
  M20: [21, 22, 24],
  M24: [25, 26, 28],
};

/** Tapping drills of metric coarse threads: nominal diameter less pitch (ISO 2306:1972; pitches of ISO 261:1998). */
const TAPPING: Readonly<Record<string, number>> = {
  M2: 1.6,
  'M2.5': 2.05,
  M3: 2.5,
  M4: 3.3,
  M5: 4.2,
  M6: 5,
  M8: 6.8,
  M10: 8.5,
  M12: 10.2,
  M16: 14,
  M20: 17.5,
};

/** Clearance holes for inch screws, normal: 1/32 in over the screw up to 7/16 in, 1/16 in over 1/2 in. ASME B18.2.8:1999. */
const INCH: Readonly<Record<string, number>> = {
  '1/4 in': 9 / 32,
  '5/16 in': 11 / 32,
  '3/8 in': 13 / 32,
  '1/2 in': 9 / 16,
};

/** Outer diameters of ball bearings by their bore and series (ISO 15:2017), and their designations as all makers print them. */
const BEARINGS: Readonly<Record<string, readonly [number, number]>> = {
  '623': [3, 10],
  '624': [4, 13],
  '625': [5, 16],
  '626': [6, 19],
  '608': [8, 22],
  '6000': [10, 26],
  '6001': [12, 28],
  '6002': [15, 32],
  '6200': [10, 30],
  '6202': [15, 35],
};

/** Outer diameters of plain washers, normal series. ISO 7089:2000, table 1. */
const WASHERS: Readonly<Record<string, number>> = { M3: 7, M4: 9, M5: 10, M6: 12, M8: 16, M10: 20, M12: 24 };

const FITS = ['fine', 'medium', 'coarse'] as const;

/** Diameters that holes are made to. */
export const HOLES: readonly StandardSize[] = [
  ...Object.entries(CLEARANCE).flatMap(([screw, sizes]) =>
    sizes.map((mm, k): StandardSize => ({ mm, what: `clearance for ${screw}, ${FITS[k]} (ISO 273)` })),
  ),
  ...Object.entries(TAPPING).map(
    ([screw, mm]): StandardSize => ({ mm, what: `tapping drill for ${screw} (ISO 2306)` }),
  ),
  ...Object.entries(INCH).map(
    ([screw, inches]): StandardSize => ({ mm: inches * 25.4, what: `clearance for ${screw} (ASME B18.2.8)` }),
  ),
  ...Object.entries(BEARINGS).map(
    ([name, [, mm]]): StandardSize => ({ mm, what: `seat of a ball bearing ${name} (ISO 15)` }),
  ),
];

/** Diameters that round things are made to. */
export const DISCS: readonly StandardSize[] = Object.entries(WASHERS).map(([screw, mm]) => ({
  mm,
  what: `washer for ${screw} (ISO 7089)`,
}));

/** Steps that sizes are rounded to, the coarsest first, mm. */
const ROUND_MM = [10, 5, 1, 0.5] as const;
const ROUND_IN = [1 / 2, 1 / 4, 1 / 8, 1 / 16] as const;

/** How near in its own ± (two sigma) a size must be to what it is taken for; whatever else is as near is not told from it. */
const NEAR = 1.5;
/** Known less well than to this, mm, nothing is a standard size; and than to this share of a step, nothing is round. */
const SURE_MM = 0.25;
const TOLD_APART = 0.45;

/** A size that something measured may have been made to. */
export interface MadeTo {
  mm: number;
  /** As it would be typed. */
  text: string;
  unit: 'mm' | 'in';
  what: string;
}

/**
 * What sizes something measured may have been made to: standard ones first, then the roundest. Only where its ± tells it
 * from the next candidate of its kind.
 */
export function madeTo(mm: number, plusMinus: number, standards: readonly StandardSize[], unit: 'mm' | 'in'): MadeTo[] {
  const found: MadeTo[] = [];
  const near = standards.filter((s) => Math.abs(s.mm - mm) <= NEAR * plusMinus);
  // Of two kinds of the same size both are said; of two sizes neither is told from the other.
  const sizes = new Set(near.map((s) => s.mm));
  if (sizes.size === 1 && plusMinus <= SURE_MM)
    for (const { mm: size, what } of near.slice(0, 2)) {
      const isInch = what.includes(' in ');
      found.push({ mm: size, text: isInch ? fraction(size / 25.4) : String(size), unit: isInch ? 'in' : 'mm', what });
    }
  const steps = unit === 'in' ? ROUND_IN : ROUND_MM;
  const perUnit = unit === 'in' ? 25.4 : 1;
  for (const step of steps) {
    const size = Math.round(mm / perUnit / step) * step * perUnit;
    const isNear = Math.abs(size - mm) <= NEAR * plusMinus && size > 0;
    if (!isNear || plusMinus > TOLD_APART * step * perUnit) continue;
    const text = unit === 'in' ? fraction(size / 25.4) : String(Number(size.toFixed(3)));
    if (!found.some((f) => Math.abs(f.mm - size) < NO_LENGTH_MM))
      found.push({ mm: size, text, unit, what: 'a round size' });
    break;
  }
  return found;
}

/** Inches in sixteenths, or thirty-seconds, as they are written: 1 3/8. */
function fraction(inches: number): string {
  const whole = Math.floor(inches + WHOLE_INCH);
  let [over, under] = [Math.round((inches - whole) * 32), 32];
  while (over > 0 && over % 2 === 0) {
    over /= 2;
    under /= 2;
  }
  return over === 0 ? `${whole}` : `${whole > 0 ? `${whole} ` : ''}${over}/${under}`;
}
