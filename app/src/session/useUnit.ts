import type { LengthUnit } from '@steady-moth/core/units';
import { useLiveQuery } from 'dexie-react-hooks';
import { database } from './storage';

const NOTE = 'unit';

/** The unit in which new jobs begin: the one last chosen. */
export function useUnit(): [LengthUnit, (unit: LengthUnit) => void] {
  const note = useLiveQuery(() => database.notes.get(NOTE), []);
  return [note?.value === 'in' ? 'in' : 'mm', (unit) => void database.notes.put({ key: NOTE, value: unit })];
}
