import { MACHINE, type Machine } from '@steady-moth/core/format/profile';
import { readFormula } from '@steady-moth/core/units';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Act, Button, SlipLine } from '../../kit';
import { useJob } from '../../session/jobStore';
import { NOT_KEPT } from '../../session/sentences';
import { database } from '../../session/storage';
import { forgetMachine, keepMachine, listMachines } from '../../session/storage/machines';
import { today } from '../../session/today';

const KEY = ['machines'];

/** The machines that were kept in this browser. */
function useMachines(): Machine[] {
  const { data } = useQuery({ queryKey: KEY, queryFn: () => listMachines(database) });
  return data ?? [];
}

const FIELDS = [
  { key: 'barXMm', label: 'Bar along X came out as', bounds: MACHINE.bar },
  { key: 'barYMm', label: 'Bar along Y came out as', bounds: MACHINE.bar },
  { key: 'kerfMm', label: 'Width of the cut', bounds: MACHINE.kerf },
  { key: 'holesMm', label: 'Holes came out too small by', bounds: MACHINE.holes },
] as const;

const NEW = { name: '', barXMm: '100', barYMm: '100', kerfMm: '0', holesMm: '0' };

/** Which machine it is drawn for; a new one by what its check bars or a test cut came out as. */
export function MachineLine({ chosen, onChoose }: { chosen: Machine | null; onChoose(machine: Machine | null): void }) {
  const machines = useMachines();
  const client = useQueryClient();
  const [typed, setTyped] = useState<typeof NEW | null>(null);
  const told = () => client.invalidateQueries({ queryKey: KEY });
  const read = FIELDS.map(({ key, label, bounds }) => {
    const found = typed && readFormula(typed[key], 'mm', () => null);
    const mm = found?.ok ? found.mm : Number.NaN;
    const fits = mm >= bounds.least && mm <= bounds.most;
    return { key, mm, fault: typed && !fits ? `${label}: between ${bounds.least} and ${bounds.most} mm.` : null };
  });
  const name = typed?.name.trim() ?? '';
  const fault = typed && (name === '' ? 'Give it a name.' : read.find((r) => r.fault)?.fault);
  const keep = async () => {
    const { barXMm, barYMm, kerfMm, holesMm } = Object.fromEntries(read.map((r) => [r.key, r.mm])) as Record<
      (typeof FIELDS)[number]['key'],
      number
    >;
    const machine: Machine = { name, barXMm, barYMm, kerfMm, holesMm, date: today() };
    if (!(await keepMachine(database, machine))) useJob.setState({ notice: NOT_KEPT });
    await told();
    setTyped(null);
    onChoose(machine);
  };
  return (
    <SlipLine
      title="Machine"
      figure={
        <select
          aria-label="Machine"
          value={chosen?.name ?? ''}
          onChange={(e) => onChoose(machines.find((m) => m.name === e.target.value) ?? null)}
          className="max-w-44 rounded border border-line bg-sheet px-1.5 py-0.5 text-[13px]"
        >
          <option value="">as it is</option>
          {machines.map((m) => (
            <option key={m.name}>{m.name}</option>
          ))}
        </select>
      }
    >
      {chosen
        ? `drawn so that it comes out as it is meant; measured ${chosen.date}. The files say so.`
        : 'what came out of a machine, measured and typed in, is made up for in what goes to it'}
      <div className="mt-1 flex gap-4">
        {!typed && <Act onClick={() => setTyped(NEW)}>Add a machine</Act>}
        {chosen && (
          <Act
            onClick={() => {
              void forgetMachine(database, chosen.name).then(told);
              onChoose(null);
            }}
          >
            Forget {chosen.name}
          </Act>
        )}
      </div>
      {typed && (
        <form
          aria-label="A new machine"
          className="mt-2 flex flex-col gap-1.5 rounded border border-rust bg-sheet p-2 text-ink"
          onSubmit={(e) => {
            e.preventDefault();
            if (!fault) void keep();
          }}
        >
          <label className="flex items-center justify-between gap-2">
            Its name
            <input
              value={typed.name}
              maxLength={80}
              onChange={(e) => setTyped({ ...typed, name: e.target.value })}
              className="w-32 rounded border border-line bg-paper px-1.5 py-0.5"
            />
          </label>
          {FIELDS.map(({ key, label }) => (
            <label key={key} className="flex items-center justify-between gap-2">
              {label}, mm
              <input
                value={typed[key]}
                inputMode="decimal"
                onChange={(e) => setTyped({ ...typed, [key]: e.target.value })}
                className="figure w-20 rounded border border-line bg-paper px-1.5 py-0.5 text-right"
              />
            </label>
          ))}
          {fault && <p className="text-brick">{fault}</p>}
          <div className="flex gap-3">
            <Button type="submit" strong disabled={Boolean(fault)}>
              Keep it
            </Button>
            <Button onClick={() => setTyped(null)}>Leave it</Button>
          </div>
        </form>
      )}
    </SlipLine>
  );
}
