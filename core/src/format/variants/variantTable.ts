import Papa from 'papaparse';
import type { Expression, Id, Part, Variant } from '../../sketch';
import type { LengthUnit } from '../../units';
import { readFormula } from '../../units';

/** The first column's heading, and what its first row is called: the parameters as they were drawn. */
const NAME = 'variant';
const AS_DRAWN = 'as drawn';

/** More of a table than this is not read. */
const MOST = { bytes: 1e6, rows: 200 } as const;

/** What a cell is written as: with its unit where that is not the job's; of a formula in brackets behind it. */
const cellOf = ({ text, unit }: Expression, own: LengthUnit): string =>
  unit === own ? text : /[a-z"'°]/i.test(text) ? `${text} [${unit}]` : `${text} ${unit}`;

/** A cell's formula and the unit that its bare figures count in. */
function ofCell(cell: string, own: LengthUnit): Expression {
  const said = /^(.*?)\s*\[(mm|in)\]$/.exec(cell);
  return said ? { text: said[1]!, unit: said[2] as LengthUnit } : { text: cell, unit: own };
}

/**
 * The variants of a part as a table (RFC 4180): a column for each parameter, a first row with what was drawn, then one
 * for each variant; an empty cell is as drawn. Figures without a unit count in `unit`.
 */
export function writeVariantTable({ parameters, variants }: Part, unit: LengthUnit): string {
  const rows = [
    [AS_DRAWN, ...parameters.map((p) => cellOf(p.value, unit))],
    ...variants.map((v) => [
      v.name,
      ...parameters.map((p) => (Object.hasOwn(v.overrides, p.id) ? cellOf(v.overrides[p.id]!, unit) : '')),
    ]),
  ];
  return `${Papa.unparse({ fields: [NAME, ...parameters.map((p) => p.name)], data: rows }, { newline: '\r\n' })}\r\n`;
}

export type VariantTable =
  | { ok: true; variants: Variant[] }
  | { ok: false; reason: 'no-table' | 'too-large' }
  | { ok: false; reason: 'no-such-parameter' | 'no-formula' | 'named-twice'; name: string; row?: number };

/**
 * Reads a table of variants: the first row names parameters that the part has, in any order. A row that was drawn is left
 * as it is; a variant that has the name of one that is there takes its place.
 */
export function readVariantTable(text: string, part: Part, unit: LengthUnit, newId: () => Id): VariantTable {
  if (text.length > MOST.bytes) return { ok: false, reason: 'too-large' };
  const { data, errors } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy' });
  const [head, ...rows] = data;
  if (!head || errors.some((e) => e.type === 'Quotes') || head.length < 2) return { ok: false, reason: 'no-table' };
  if (rows.length > MOST.rows) return { ok: false, reason: 'too-large' };
  const columns = head.slice(1).map((name) => part.parameters.find((p) => p.name === name.trim()));
  const stranger = columns.findIndex((p) => !p);
  if (stranger >= 0) return { ok: false, reason: 'no-such-parameter', name: head[stranger + 1]!.trim() };
  const names = new Set<string>();
  const known = new Set(part.parameters.map((p) => p.name));
  const variants: Variant[] = [];
  let isDrawnSeen = false;
  for (const [k, row] of rows.entries()) {
    const name = (row[0] ?? '').trim().slice(0, 200);
    if (name === '') continue;
    // The first row of that name is what was drawn; somebody may have called a variant so as well.
    if (!isDrawnSeen && name.toLowerCase() === AS_DRAWN) {
      isDrawnSeen = true;
      continue;
    }
    if (names.has(name)) return { ok: false, reason: 'named-twice', name, row: k + 2 };
    names.add(name);
    const overrides: Record<Id, Expression> = {};
    for (const [c, parameter] of columns.entries()) {
      const cell = (row[c + 1] ?? '').trim();
      if (cell === '') continue;
      // Whether names lead round in a circle is told where the variant is shown.
      const own = ofCell(cell, unit);
      const read = readFormula(own.text, own.unit, (asked) => (known.has(asked) ? 1 : null));
      if (!read.ok || own.text.length > 80)
        return { ok: false, reason: 'no-formula', name: parameter!.name, row: k + 2 };
      overrides[parameter!.id] = own;
    }
    variants.push({ id: part.variants.find((v) => v.name === name)?.id ?? newId(), name, overrides });
  }
  return { ok: true, variants };
}
