import { parseLength } from '../units';
import type { Dimension, Expression, Id, Sketch } from './part';

/** What an expression comes to, mm; null where it is no length. */
export function lengthOf({ text, unit }: Expression): number | null {
  const found = parseLength(text, unit);
  return found.ok ? found.mm : null;
}

/** The size that was decided for a circle; null where none was. */
export function decidedDiameter({ dimensions }: Sketch, curve: Id): Dimension | null {
  for (const d of Object.values(dimensions)) if (d.kind === 'diameter' && d.refs[0]!.id === curve) return d;
  return null;
}

/** The distance that was decided between two points; null where none was. */
export function decidedDistance({ dimensions }: Sketch, a: Id, b: Id): Dimension | null {
  for (const d of Object.values(dimensions)) {
    if (d.kind !== 'distance') continue;
    const [p, q] = [d.refs[0]!.id, d.refs[1]!.id];
    if ((p === a && q === b) || (p === b && q === a)) return d;
  }
  return null;
}
