import type { Graduations } from '../calibration';
import type { Family } from '../find';
import type { Pixels } from '../raster';
import { type FigureBand, figureBand, lieOf, type RulerLie } from './figureBand';
import { type ReadFigure, type RulerReading, readRuler } from './rulerFigures';
import type { ReadText } from './text';

/** Figures stand between these depths, against the longest strokes: beside them, or beyond their tips. */
const BANDS = [
  [0.25, 2.8],
  [1.02, 2.8],
] as const;
/** So many figures that agree are enough to look no further. */
const PLENTY = 4;

/** The ruler as a finder gave it: its strokes, and what their lengths allow. */
export interface RulerToRead {
  graduations: Omit<Graduations, 'spacingMm'>;
  families: readonly Family[];
  /** Divisions between its first and its last stroke. */
  count: number;
}

/** A figure that was read, at its place in the picture, px. */
export interface PlacedFigure {
  value: number;
  uPx: number;
  vPx: number;
}

export type RulerFigures = Omit<RulerReading, 'figures'> & { figures: PlacedFigure[] };

/**
 * The figures printed along a ruler and what they say of its scale.
 *
 * In: the picture, the ruler's strokes by their numbers, and whoever reads letters. Out: as `readRuler`, each figure at
 * its place; null where nothing was read that holds together. It is read with its strokes above, then below.
 */
export async function readRulerFigures(
  pixels: Pixels,
  ruler: RulerToRead,
  read: ReadText,
): Promise<RulerFigures | null> {
  const lie = lieOf(ruler.graduations);
  if (!lie) return null;
  let best: RulerReading | null = null;
  // Without the table, which makes figures faint; then with it: of a few figures on nothing but paper readers see none.
  for (const withTable of [false, true])
    for (const [from, to] of BANDS)
      for (const side of ['top', 'below'] as const) {
        const band = figureBand(pixels, lie, from * lie.longest, to * lie.longest, side, withTable);
        const reading = readRuler(await figuresOf(band, read), ruler.families, 0, ruler.count);
        if (reading && (!best || reading.figures.length > best.figures.length)) best = reading;
        if (best && best.figures.length >= PLENTY) return placed(best, lie);
      }
  return best && placed(best, lie);
}

const placed = (reading: RulerReading, lie: RulerLie): RulerFigures => ({
  ...reading,
  figures: reading.figures.map(({ value, n, down }) => {
    const { x, y } = lie.at(n, down);
    return { value, uPx: x, vPx: y };
  }),
});

/** Whole figures alone: units, makers' names and scratches are left out. */
async function figuresOf(band: FigureBand, read: ReadText): Promise<ReadFigure[]> {
  return (await read(band)).flatMap(({ text, confidence, box }): ReadFigure[] => {
    const match = /^[^0-9A-Za-z]*(\d{1,4})[^0-9A-Za-z]*$/.exec(text);
    if (!match) return [];
    const [y0, y1] = [band.downAt(box.y0), band.downAt(box.y1)];
    return [
      {
        value: Number(match[1]),
        n: band.nAt((box.x0 + box.x1) / 2),
        down: (y0 + y1) / 2,
        tall: Math.abs(y1 - y0),
        wide: Math.abs(band.nAt(box.x1) - band.nAt(box.x0)),
        confidence,
      },
    ];
  });
}
