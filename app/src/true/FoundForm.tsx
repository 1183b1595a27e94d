import {
  addYardstick,
  type DiscRecord,
  type GridRecord,
  type Picture,
  type SheetRecord,
  setAxis,
  together,
} from '@steady-moth/core/job';
import { COINS, GRIDS, sheetsLike } from '@steady-moth/core/truing';
import { type LengthUnit, writeLength } from '@steady-moth/core/units';
import { useState } from 'react';
import { Button, LengthField, Select } from '../kit';
import { type PendingFound, useBench } from '../store/benchStore';
import { useJob } from '../store/jobStore';
import { newId } from '../store/newId';
import { ForgetOwn, KeepOwn } from './KeepOwn';
import { useOwnYardsticks } from './ownYardsticks';

type Record_ = DiscRecord | SheetRecord | GridRecord;

/** What was found by one click: its name and its size are confirmed, and it becomes a yardstick. */
export function FoundForm({ picture, pending, unit }: { picture: Picture; pending: PendingFound; unit: LengthUnit }) {
  const add = (record: Record_) => {
    const first = picture.truing.yardsticks.length === 0 && !picture.truing.axis && record.kind !== 'disc';
    useJob
      .getState()
      .apply(
        together(
          'add a yardstick',
          addYardstick(picture.id, record),
          ...(first ? [setAxis(picture.id, { along: 'x', yardstick: record.id })] : []),
        ),
      );
    useBench.getState().take(null);
  };
  const title = {
    disc: 'Which coin or disc is it?',
    sheet: 'Which sheet is it?',
    grid: 'How far apart are its lines?',
  };
  return (
    <section aria-label="What was found" className="mb-4 rounded border border-rust bg-sheet p-3.5">
      <h3 className="font-semibold">{title[pending.kind]}</h3>
      {pending.kind === 'disc' && <DiscForm found={pending.found} unit={unit} add={add} />}
      {pending.kind === 'sheet' && <SheetForm found={pending.found} unit={unit} add={add} />}
      {pending.kind === 'grid' && <GridForm found={pending.found} unit={unit} add={add} />}
    </section>
  );
}

const OTHER = 'another size';
const shown = (mm: number, unit: LengthUnit): string =>
  mm > 0 ? writeLength(mm, null, unit).value.replace(/\.?0+$/, '') : '';

function DiscForm({
  found,
  unit,
  add,
}: {
  found: Extract<PendingFound, { kind: 'disc' }>['found'];
  unit: LengthUnit;
  add(record: Record_): void;
}) {
  const own = useOwnYardsticks('disc');
  const presets = [...own, ...COINS];
  const [name, setName] = useState('');
  const [size, setSize] = useState({ diameterMm: 0, thicknessMm: 0, plusMinusMm: null as number | null });
  const choose = (chosen: string) => {
    setName(chosen);
    const preset = presets.find((p) => p.name === chosen);
    if (preset) setSize({ plusMinusMm: null, ...preset });
  };
  const typed = name && name !== OTHER ? name : '';
  const record = (diameterMm: number | null): DiscRecord => ({
    id: newId(),
    kind: 'disc',
    plane: 'table',
    typed,
    rim: found.rim,
    diameterMm,
    plusMinusMm: size.plusMinusMm,
    thicknessMm: size.thicknessMm,
  });
  return (
    <>
      <p className="mt-1 text-[12.5px] text-ink2">
        {Math.round(100 * found.seen)} % of its rim is seen, drawn on the picture.
        {found.seen < 0.75 && ' The rest is covered: it is worth less.'}
      </p>
      <Rows>
        <dt>It is a</dt>
        <dd>
          <Select
            label="Which coin"
            value={name}
            onChange={choose}
            options={['', ...presets.map((p) => p.name), OTHER]}
          />
        </dd>
        <dt>Diameter</dt>
        <dd>
          <LengthField
            label="Diameter"
            value={shown(size.diameterMm, unit)}
            unit={unit}
            onAccept={(diameterMm, plusMinusMm) => setSize({ ...size, diameterMm, plusMinusMm })}
          />
        </dd>
        <dt>Thickness</dt>
        <dd>
          <LengthField
            label="Thickness"
            value={shown(size.thicknessMm, unit)}
            unit={unit}
            onAccept={(thicknessMm) => setSize({ ...size, thicknessMm })}
          />
        </dd>
      </Rows>
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <Button strong disabled={size.diameterMm === 0} onClick={() => add(record(size.diameterMm))}>
          Take it
        </Button>
        <Button onClick={() => add(record(null))}>A circle of unknown size</Button>
        <ForgetOwn kind="disc" name={name} own={own} />
        <KeepOwn entry={size.diameterMm > 0 ? { kind: 'disc', ...size } : null} />
      </div>
    </>
  );
}

function SheetForm({
  found,
  unit,
  add,
}: {
  found: Extract<PendingFound, { kind: 'sheet' }>['found'];
  unit: LengthUnit;
  add(record: Record_): void;
}) {
  const own = useOwnYardsticks('sheet');
  const presets = [...own, ...sheetsLike(found.ratio)];
  const [name, setName] = useState(presets[own.length].name);
  const [size, setSize] = useState({ ...presets[own.length] });
  const choose = (chosen: string) => {
    setName(chosen);
    const preset = presets.find((p) => p.name === chosen);
    if (preset) setSize({ ...preset });
  };
  const side = (which: 'widthMm' | 'heightMm') => (mm: number, plusMinusMm: number | null) =>
    setSize({ ...size, [which]: mm, plusMinusMm: plusMinusMm ?? MEASURED_PLUS_MINUS_MM });
  return (
    <>
      <p className="mt-1 text-[12.5px] text-ink2">
        Its four edges are drawn on the picture.
        {found.missingCorners > 0 &&
          ` ${found.missingCorners === 1 ? 'A corner is' : `${found.missingCorners} corners are`} folded or covered, and left out.`}
      </p>
      <Rows>
        <dt>It is</dt>
        <dd>
          <Select label="Which sheet" value={name} onChange={choose} options={presets.map((p) => p.name)} />
        </dd>
        <dt>Longer side</dt>
        <dd>
          <LengthField label="Longer side" value={shown(size.widthMm, unit)} unit={unit} onAccept={side('widthMm')} />
        </dd>
        <dt>Shorter side</dt>
        <dd>
          <LengthField
            label="Shorter side"
            value={shown(size.heightMm, unit)}
            unit={unit}
            onAccept={side('heightMm')}
          />
        </dd>
      </Rows>
      <p className="mt-2 text-[12.5px] text-ink2">
        Good to ± {size.plusMinusMm} mm. Measured with a caliper and typed here, it is worth far more.
      </p>
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <Button
          strong
          onClick={() =>
            add({
              id: newId(),
              kind: 'sheet',
              plane: 'table',
              typed: name,
              edges: found.edges,
              widthMm: size.widthMm,
              heightMm: size.heightMm,
              plusMinusMm: size.plusMinusMm,
            })
          }
        >
          Take it
        </Button>
        <ForgetOwn kind="sheet" name={name} own={own} />
        <KeepOwn entry={{ kind: 'sheet', ...size }} />
      </div>
    </>
  );
}

/** ± of a side that was measured and typed without one, mm. */
const MEASURED_PLUS_MINUS_MM = 0.1;

function GridForm({
  found,
  unit,
  add,
}: {
  found: Extract<PendingFound, { kind: 'grid' }>['found'];
  unit: LengthUnit;
  add(record: Record_): void;
}) {
  const own = useOwnYardsticks('grid');
  const presets = [...own, ...GRIDS];
  const [name, setName] = useState(presets[0].name);
  const [pitch, setPitch] = useState({ pitchMm: presets[0].pitchMm, plusMinusShare: null as number | null });
  const choose = (chosen: string) => {
    setName(chosen);
    const preset = presets.find((p) => p.name === chosen);
    if (preset) setPitch({ plusMinusShare: null, ...preset });
  };
  return (
    <>
      <p className="mt-1 text-[12.5px] text-ink2">
        {found.columns} by {found.rows} crossings, {Math.round(100 * found.seen)} % of them seen and drawn on the
        picture.
      </p>
      <Rows>
        <dt>Pitch</dt>
        <dd>
          <Select label="Which grid" value={name} onChange={choose} options={[...presets.map((p) => p.name), OTHER]} />
        </dd>
        <dt>From line to line</dt>
        <dd>
          <LengthField
            label="From line to line"
            value={shown(pitch.pitchMm, unit)}
            unit={unit}
            onAccept={(pitchMm, spread) =>
              setPitch({ pitchMm, plusMinusShare: spread === null ? pitch.plusMinusShare : spread / pitchMm })
            }
          />
        </dd>
        <dt>Checked over ten pitches</dt>
        <dd>
          <LengthField
            label="Ten pitches by the caliper"
            value=""
            unit={unit}
            onAccept={(mm, spread) =>
              setPitch({ pitchMm: mm / 10, plusMinusShare: (spread ?? CALIPER_PLUS_MINUS_MM) / mm })
            }
          />
        </dd>
      </Rows>
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <Button
          strong
          onClick={() =>
            add({
              id: newId(),
              kind: 'grid',
              plane: 'table',
              typed: name === OTHER ? '' : name,
              crossings: found.crossings,
              ...{ pitchMm: pitch.pitchMm, plusMinusShare: pitch.plusMinusShare },
            })
          }
        >
          Take it
        </Button>
        <ForgetOwn kind="grid" name={name} own={own} />
        <KeepOwn entry={{ kind: 'grid', ...pitch }} />
      </div>
    </>
  );
}

/** A caliper over ten pitches, mm. */
const CALIPER_PLUS_MINUS_MM = 0.05;

const Rows = ({ children }: { children: React.ReactNode }) => (
  <dl className="mt-3 grid grid-cols-[1fr_auto] items-center gap-y-2 text-[12.5px] text-ink2">{children}</dl>
);
