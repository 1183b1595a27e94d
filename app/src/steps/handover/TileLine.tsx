import type { FlatProfile, Paper, Tiling } from '@steady-moth/core/format';
import type { LengthUnit } from '@steady-moth/core/units';
import { writeLength } from '@steady-moth/core/units';
import { useState } from 'react';
import { files } from '../../compute';
import { Button, LengthField, Notice, SlipLine } from '../../kit';
import { download, fileNameFor } from '../../session/download';

const PAPERS: readonly Paper[] = ['A4', 'A3', 'Letter', 'Legal'];
const MARGIN = { least: 3, most: 30 } as const;
const OVERLAP = { least: 5, most: 60 } as const;

/** The profile over several pages, for a printer at home. */
export function TileLine({
  profile,
  name,
  unit,
  disabled,
}: {
  profile(): FlatProfile;
  name: string;
  unit: LengthUnit;
  disabled: boolean;
}) {
  const [tiling, setTiling] = useState<Tiling>({ paper: unit === 'in' ? 'Letter' : 'A4', marginMm: 8, overlapMm: 12 });
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const write = async () => {
    setBusy(true);
    setFault(null);
    try {
      const bytes = await files.call((w) => w.writeTiles(profile(), tiling));
      if (bytes) download(bytes, fileNameFor(`${name} pages`, 'pdf'), 'application/pdf');
      else setFault('There is no room on this paper, or it would take more than 400 pages. Nothing was written.');
    } catch {
      setFault('The pages could not be written. Nothing was changed; please try again.');
    }
    setBusy(false);
  };
  const within = (what: string, { least, most }: { least: number; most: number }, mm: number): boolean => {
    const fits = mm >= least && mm <= most;
    const say = (v: number) => writeLength(v, null, unit).value;
    setFault(fits ? null : `${what} lies between ${say(least)} and ${say(most)} ${unit}.`);
    return fits;
  };
  const shown = (mm: number): string => writeLength(mm, null, unit).value.replace(/\.?0+$/, '');
  return (
    <SlipLine
      title="Pages"
      figure={
        <Button disabled={disabled || busy} onClick={() => void write()}>
          {busy ? 'Writing …' : 'Download the pages'}
        </Button>
      }
    >
      one PDF over several sheets, with crossing marks, an overview, and check bars both ways
      {fault && <Notice tone="wrong">{fault}</Notice>}
      <div className="mt-1.5 flex flex-wrap items-center gap-x-3 gap-y-1">
        <label className="inline-flex items-center gap-1">
          Paper
          <select
            aria-label="Paper"
            value={tiling.paper}
            onChange={(e) => setTiling({ ...tiling, paper: e.target.value as Paper })}
            className="rounded border border-line bg-sheet px-1 py-0.5 text-ink"
          >
            {PAPERS.map((p) => (
              <option key={p}>{p}</option>
            ))}
          </select>
        </label>
        <span className="inline-flex items-center gap-1">
          margin
          <LengthField
            narrow
            label="Margin of the printer"
            value={shown(tiling.marginMm)}
            unit={unit}
            onAccept={(mm) => within('The margin', MARGIN, mm) && setTiling({ ...tiling, marginMm: mm })}
          />
        </span>
        <span className="inline-flex items-center gap-1">
          overlap
          <LengthField
            narrow
            label="Overlap of pages"
            value={shown(tiling.overlapMm)}
            unit={unit}
            onAccept={(mm) => within('The overlap', OVERLAP, mm) && setTiling({ ...tiling, overlapMm: mm })}
          />
        </span>
      </div>
    </SlipLine>
  );
}
