import {
  type Dimension,
  type DimensionDrawing,
  decidedOf,
  dimensionValue,
  drawDimensions,
  type Id,
  isSigned,
  type Part,
  type SettledSketch,
  sketchesOf,
  workedOut,
} from '../../sketch';

/** A size as it is drawn on a sheet, with its figure. */
export interface ProfileSize {
  drawing: DimensionDrawing;
  text: string;
}

/** How far a size's line stands off the part, mm (ISO 129-1 asks for eight at least). */
const GAP_MM = 8;
const PREFIX: Partial<Record<Dimension['kind'], string>> = { diameter: 'Ø ', radius: 'R ', 'arc-length': 'arc ' };
const prefixOf = (d: Dimension): string =>
  d.kind === 'distance' && isSigned(d) ? `${d.along.toUpperCase()} ` : (PREFIX[d.kind] ?? '');
const DEGREES = 180 / Math.PI;

/**
 * The sizes of a part as a sheet shows them: decided ones as they come out, measured ones in brackets, since they are not
 * asked for (ISO 129-1, auxiliary dimensions). `view`: only of what lies in it; null for all.
 */
export function sizesOf(
  part: Part,
  settled: ReadonlyMap<Id, SettledSketch>,
  unit: 'mm' | 'in',
  view: Id | null,
): ProfileSize[] {
  return sketchesOf(workedOut(part)).flatMap((sketch) => {
    const place = settled.get(sketch.id)?.place;
    if (!place || (view !== null && sketch.frame.view !== view)) return [];
    return drawDimensions(sketch, place, GAP_MM).flatMap(({ dimension, drawing }) => {
      const value = dimensionValue(sketch, dimension, place);
      if (value === null) return [];
      const plain = dimension.kind === 'angle' ? `${figure(value * DEGREES, 2)}°` : lengthText(value, unit);
      const text = `${prefixOf(dimension)}${plain}`;
      return [{ drawing, text: decidedOf(dimension) ? text : `(${text})` }];
    });
  });
}

const lengthText = (mm: number, unit: 'mm' | 'in'): string => (unit === 'in' ? figure(mm / 25.4, 3) : figure(mm, 2));

/** A figure without zeros that say nothing. */
const figure = (value: number, decimals: number): string => String(Number(value.toFixed(decimals)));
