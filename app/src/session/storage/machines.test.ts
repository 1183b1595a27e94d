import 'fake-indexeddb/auto';
import { afterEach, expect, it } from 'vitest';
import { type Database, openDatabase } from './database';
import { forgetMachine, keepMachine, listMachines } from './machines';

let db: Database | null = null;
afterEach(async () => {
  await db?.delete();
  db = null;
});

const CUTTER = { name: 'Cutter', barXMm: 99.8, barYMm: 100.1, kerfMm: 0.18, holesMm: 0.1, date: '2026-03-01' };

it('keeps machines under their names, and leaves out what storage holds that is none', async () => {
  db = openDatabase('machines-test');
  await keepMachine(db, CUTTER);
  await keepMachine(db, { ...CUTTER, kerfMm: 0.2 });
  await keepMachine(db, { ...CUTTER, name: 'Printer' });
  expect((await listMachines(db)).map((m) => [m.name, m.kerfMm])).toEqual([
    ['Cutter', 0.2],
    ['Printer', 0.18],
  ]);
  await forgetMachine(db, 'Cutter');
  expect((await listMachines(db)).map((m) => m.name)).toEqual(['Printer']);
  await db.notes.put({
    key: 'machines',
    value: [CUTTER, { ...CUTTER, barXMm: 1 }, 'a machine', { ...CUTTER, date: 'today' }],
  });
  expect(await listMachines(db)).toEqual([CUTTER]);
});
