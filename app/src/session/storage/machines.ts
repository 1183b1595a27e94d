import { MACHINE, type Machine } from '@steady-moth/core/format/profile';
import type { Database } from './database';
import { LITTLE, roomFor } from './room';

const NOTE = 'machines';
const MOST = 50;

/** All machines that were kept; anything else that storage holds in their place is left out. */
export async function listMachines(db: Database): Promise<Machine[]> {
  const row = await db.notes.get(NOTE);
  return Array.isArray(row?.value) ? row.value.filter(isMachine).slice(0, MOST) : [];
}

/** Keeps one under its name; one of the same name is replaced. False on a full disk. */
export async function keepMachine(db: Database, machine: Machine): Promise<boolean> {
  if ((await roomFor(LITTLE)) === 'none') return false;
  await db.transaction('rw', db.notes, async () => {
    const others = (await listMachines(db)).filter((m) => m.name !== machine.name);
    await db.notes.put({ key: NOTE, value: [...others, machine].slice(-MOST) });
  });
  return true;
}

export async function forgetMachine(db: Database, name: string): Promise<void> {
  await db.transaction('rw', db.notes, async () => {
    const others = (await listMachines(db)).filter((m) => m.name !== name);
    await db.notes.put({ key: NOTE, value: others });
  });
}

const within = (value: unknown, { least, most }: { least: number; most: number }): boolean =>
  typeof value === 'number' && value >= least && value <= most;

/** Storage is outside: what comes from it is looked at. */
function isMachine(value: unknown): value is Machine {
  if (typeof value !== 'object' || value === null) return false;
  const { name, date, barXMm, barYMm, kerfMm, holesMm } = value as Record<string, unknown>;
  return (
    typeof name === 'string' &&
    name.length > 0 &&
    name.length <= 80 &&
    typeof date === 'string' &&
    /^\d{4}-\d{2}-\d{2}$/.test(date) &&
    within(barXMm, MACHINE.bar) &&
    within(barYMm, MACHINE.bar) &&
    within(kerfMm, MACHINE.kerf) &&
    within(holesMm, MACHINE.holes)
  );
}
