import { onlySheetLike, sheetsLike } from '@steady-moth/core/calibration';
import type { SheetRecord } from '@steady-moth/core/job';
import type { LengthUnit } from '@steady-moth/core/units';
import { useState } from 'react';
import { newId } from '../../../session/newId';
import { useOwnReferences } from '../ownReferences';
import type { PendingFound } from '../trueStore';
import { FoundActs, FoundSizes } from './FoundSize';

/** ± of a side that was measured and typed without one, mm. */
const MEASURED_PLUS_MINUS_MM = 0.1;

/** Nothing is taken for granted where sheets of several sizes have one shape. */
const CHOOSE = 'choose which';
const NOT_SAID = { widthMm: 0, heightMm: 0, plusMinusMm: MEASURED_PLUS_MINUS_MM };

/** Four edges that were found: which paper or card they are, or how large. */
export function SheetForm({
  found,
  unit,
  add,
}: {
  found: Extract<PendingFound, { kind: 'sheet' }>['found'];
  unit: LengthUnit;
  add(record: SheetRecord): void;
}) {
  const own = useOwnReferences('sheet');
  const presets = [...own, ...sheetsLike(found.ratio)];
  const only = onlySheetLike(found.ratio);
  const [name, setName] = useState(only?.name ?? CHOOSE);
  const [size, setSize] = useState(only ?? NOT_SAID);
  const choose = (chosen: string) => {
    setName(chosen);
    const preset = presets.find((p) => p.name === chosen);
    if (preset) setSize({ ...preset });
  };
  const side = (which: 'widthMm' | 'heightMm') => (mm: number, plusMinusMm: number | null) =>
    setSize({ ...size, [which]: mm, plusMinusMm: plusMinusMm ?? MEASURED_PLUS_MINUS_MM });
  const { widthMm, heightMm, plusMinusMm } = size;
  const isSaid = widthMm > 0 && heightMm > 0;
  const { edges, missingCorners } = found;
  return (
    <>
      <p className="mt-1 text-[12.5px] text-ink2">
        Its four edges are drawn on the picture.
        {missingCorners > 0 &&
          ` ${missingCorners === 1 ? 'A corner is' : `${missingCorners} corners are`} folded or covered, and left out.`}
      </p>
      <FoundSizes
        ask="It is"
        label="Which sheet"
        name={name}
        names={[...(name === CHOOSE ? [CHOOSE] : []), ...presets.map((p) => p.name)]}
        onChoose={choose}
        unit={unit}
        sizes={[
          { text: 'Longer side', mm: widthMm, onAccept: side('widthMm') },
          { text: 'Shorter side', mm: heightMm, onAccept: side('heightMm') },
        ]}
      />
      <p className="mt-2 text-[12.5px] text-ink2">
        {isSaid
          ? `Good to ± ${plusMinusMm} mm. Measured with a caliper and typed here, it is worth far more.`
          : 'Sheets of this shape come in several sizes, each half as large as the next: say which it is, or type its sides.'}
      </p>
      <FoundActs
        kind="sheet"
        name={name}
        own={own}
        entry={isSaid ? { kind: 'sheet', widthMm, heightMm, plusMinusMm } : null}
        onTake={() =>
          add({
            id: newId(),
            kind: 'sheet',
            plane: 'table',
            typed: name === CHOOSE ? '' : name,
            edges,
            widthMm,
            heightMm,
            plusMinusMm,
          })
        }
      />
    </>
  );
}
