import { GRIDS } from '@steady-moth/core/calibration';
import type { GridRecord } from '@steady-moth/core/job';
import type { LengthUnit } from '@steady-moth/core/units';
import { useState } from 'react';
import { newId } from '../../../session/newId';
import { useOwnReferences } from '../ownReferences';
import type { PendingFound } from '../trueStore';
import { FoundActs, FoundSizes, OTHER } from './FoundSize';

/** A caliper over ten pitches, mm. */
const CALIPER_PLUS_MINUS_MM = 0.05;

/** Crossings that were found: how far apart they are, as said or as a caliper found over ten of them. */
export function GridForm({
  found,
  unit,
  add,
}: {
  found: Extract<PendingFound, { kind: 'grid' }>['found'];
  unit: LengthUnit;
  add(record: GridRecord): void;
}) {
  const own = useOwnReferences('grid');
  const presets = [...own, ...GRIDS];
  const [name, setName] = useState(presets[0]!.name);
  const [pitch, setPitch] = useState<{ pitchMm: number; plusMinusShare: number | null }>({
    plusMinusShare: null,
    ...presets[0]!,
  });
  const choose = (chosen: string) => {
    setName(chosen);
    const preset = presets.find((p) => p.name === chosen);
    if (preset) setPitch({ plusMinusShare: null, ...preset });
  };
  const { pitchMm, plusMinusShare } = pitch;
  const typed = name === OTHER ? '' : name;
  return (
    <>
      <p className="mt-1 text-[12.5px] text-ink2">
        {found.columns} by {found.rows} crossings, {Math.round(100 * found.seen)} % of them seen and drawn on the
        picture.
      </p>
      <FoundSizes
        ask="Pitch"
        label="Which grid"
        name={name}
        names={[...presets.map((p) => p.name), OTHER]}
        onChoose={choose}
        unit={unit}
        sizes={[
          {
            text: 'From line to line',
            mm: pitchMm,
            onAccept: (mm, spread) =>
              setPitch({ pitchMm: mm, plusMinusShare: spread === null ? plusMinusShare : spread / mm }),
          },
          {
            text: 'Checked over ten pitches',
            label: 'Ten pitches by the caliper',
            mm: 0,
            optional: true,
            onAccept: (mm, spread) =>
              setPitch({ pitchMm: mm / 10, plusMinusShare: (spread ?? CALIPER_PLUS_MINUS_MM) / mm }),
          },
        ]}
      />
      <FoundActs
        kind="grid"
        name={name}
        own={own}
        entry={{ kind: 'grid', pitchMm, plusMinusShare }}
        onTake={() =>
          add({
            id: newId(),
            kind: 'grid',
            plane: 'table',
            typed,
            crossings: found.crossings,
            pitchMm,
            plusMinusShare,
          })
        }
      />
    </>
  );
}
