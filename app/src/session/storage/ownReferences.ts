import type { Database } from './database';
import { LITTLE, roomFor } from './room';

/** A reference of the person's own, kept for next time with its ±: a steel rule, a washer, a cut sheet, a mat. */
export type OwnReference = { name: string } & (
  | {
      kind: 'ruler';
      thicknessMm: number;
      plusMinusShare: number;
      /** From one long edge to the other; null where nobody measured it. */
      widthMm: number | null;
      widthPlusMinusMm: number | null;
    }
  | { kind: 'disc'; diameterMm: number; thicknessMm: number; plusMinusMm: number | null }
  | { kind: 'sheet'; widthMm: number; heightMm: number; plusMinusMm: number }
  | { kind: 'grid'; pitchMm: number; plusMinusShare: number | null }
);

const NOTE = 'own yardsticks';
const MOST = 200;

/** All that were kept; anything else that storage holds in their place is left out. */
export async function listReferences(db: Database): Promise<OwnReference[]> {
  const row = await db.notes.get(NOTE);
  const kept = Array.isArray(row?.value) ? row.value.filter(isOwnReference).slice(0, MOST) : [];
  // What was kept before widths were asked for has none.
  return kept.map((y) => (y.kind === 'ruler' ? { ...y, ...widthOf(y) } : y));
}

const widthOf = ({ widthMm, widthPlusMinusMm }: Extract<OwnReference, { kind: 'ruler' }>) => ({
  widthMm: widthMm ?? null,
  widthPlusMinusMm: widthPlusMinusMm ?? null,
});

/** Keeps one under its name; one of the same name and kind is replaced. False on a full disk. */
export async function keepReference(db: Database, entry: OwnReference): Promise<boolean> {
  if ((await roomFor(LITTLE)) === 'none') return false;
  await db.transaction('rw', db.notes, async () => {
    const others = (await listReferences(db)).filter((y) => y.name !== entry.name || y.kind !== entry.kind);
    await db.notes.put({ key: NOTE, value: [...others, entry].slice(-MOST) });
  });
  return true;
}

export async function forgetReference(db: Database, kind: OwnReference['kind'], name: string): Promise<void> {
  await db.transaction('rw', db.notes, async () => {
    const others = (await listReferences(db)).filter((y) => y.name !== name || y.kind !== kind);
    await db.notes.put({ key: NOTE, value: others });
  });
}

const FIELDS: Record<OwnReference['kind'], readonly string[]> = {
  ruler: ['thicknessMm', 'plusMinusShare'],
  disc: ['diameterMm', 'thicknessMm'],
  sheet: ['widthMm', 'heightMm', 'plusMinusMm'],
  grid: ['pitchMm'],
};
/** What may be left unsaid. */
const OPTIONAL: Record<OwnReference['kind'], readonly string[]> = {
  ruler: ['widthMm', 'widthPlusMinusMm'],
  disc: ['plusMinusMm'],
  sheet: [],
  grid: ['plusMinusShare'],
};

/** Storage is outside: what comes from it is looked at. */
function isOwnReference(value: unknown): value is OwnReference {
  if (typeof value !== 'object' || value === null) return false;
  const { kind, name, ...rest } = value as Record<string, unknown>;
  if (typeof name !== 'string' || name.length === 0 || name.length > 200) return false;
  if (typeof kind !== 'string' || !Object.hasOwn(FIELDS, kind)) return false;
  const fields = FIELDS[kind as OwnReference['kind']];
  const optional = OPTIONAL[kind as OwnReference['kind']];
  return (
    fields.every((f) => isLength(rest[f])) &&
    optional.every((f) => rest[f] === undefined || rest[f] === null || isLength(rest[f]))
  );
}

const isLength = (value: unknown): boolean => typeof value === 'number' && value >= 0 && value <= 10_000;
