import { COINS } from '@steady-moth/core/calibration';
import type { DiscRecord } from '@steady-moth/core/job';
import { type LengthUnit, parseLength } from '@steady-moth/core/units';
import { useState } from 'react';
import { Act, Button } from '../../../kit';
import { lengthSentence } from '../../../kit/lengthSentence';
import { newId } from '../../../session/newId';
import { useAsk } from '../../../session/useAsk';
import { useOwnReferences } from '../ownReferences';
import { type PendingFound, useTrue } from '../trueStore';
import { FoundActs, FoundSizes, OTHER } from './FoundSize';

type Found = Extract<PendingFound, { kind: 'disc' }>['found'];

const sizeOf = ({ a, b }: Found['ellipse']): number => Math.sqrt(a * b);
const percentOf = ({ ellipse, other }: Found): number =>
  other ? Math.round((100 * sizeOf(other.ellipse)) / sizeOf(ellipse)) : 100;

/** The other circle in its place, and it in the other's. */
const swapped = (found: Found): Found =>
  found.other
    ? {
        ...found,
        ...found.other,
        other: { rim: found.rim, ellipse: found.ellipse, ...(found.foot && { foot: found.foot }) },
      }
    : found;

/** A rim that was found: which coin it is, or how large. */
export function DiscForm({ found, unit, add }: { found: Found; unit: LengthUnit; add(record: DiscRecord): void }) {
  const setFound = useTrue((s) => s.setFound);
  const own = useOwnReferences('disc');
  const presets = [...own, ...COINS];
  const [name, setName] = useState('');
  const [size, setSize] = useState({ diameterMm: 0, thicknessMm: 0, plusMinusMm: null as number | null });
  const choose = (chosen: string) => {
    setName(chosen);
    const preset = presets.find((p) => p.name === chosen);
    if (preset) setSize({ plusMinusMm: null, ...preset });
  };
  const isAsking = size.diameterMm === 0 || size.thicknessMm === 0;
  const what = size.diameterMm === 0 ? 'diameterMm' : 'thicknessMm';
  useAsk(isAsking ? (what === 'diameterMm' ? 'Its diameter' : 'Its thickness') : null, (text) => {
    const found = parseLength(text, unit);
    if (!found.ok) return lengthSentence(found.reason);
    const said = { ...size, [what]: found.mm, ...(what === 'diameterMm' && { plusMinusMm: found.plusMinusMm }) };
    // The last figure takes it, as the button does.
    if (said.diameterMm > 0 && said.thicknessMm > 0) add(record(said.diameterMm, said));
    else setSize(said);
    return null;
  });
  const record = (diameterMm: number | null, sizes = size): DiscRecord => ({
    id: newId(),
    kind: 'disc',
    plane: 'table',
    typed: name === OTHER ? '' : name,
    rim: found.rim,
    foot: found.foot ?? null,
    diameterMm,
    plusMinusMm: sizes.plusMinusMm,
    thicknessMm: sizes.thicknessMm,
  });
  return (
    <>
      <p className="mt-1 text-[12.5px] text-ink2">
        {Math.round(100 * found.seen)} % of its rim is seen, drawn on the picture.
        {found.seen < 0.75 && ' The rest is hidden or too faint: it is worth less.'}
        {found.doubt === 'ragged' && ' It runs to and fro, so that its size is not known better than that.'}
      </p>
      {found.other && found.doubt === 'opposite' && (
        <p className="mt-1 text-[12.5px] text-amber">
          The foot of its wall does not show, so it may be tilted the opposite way; the ± allows for both.{' '}
          <Act onClick={() => setFound({ kind: 'disc', found: swapped(found) })}>Look at that one</Act>
        </p>
      )}
      {found.other && found.doubt !== 'opposite' && (
        <p className="mt-1 text-[12.5px] text-amber">
          Another circle fits nearly as well, {percentOf(found)} % as large.{' '}
          <Act onClick={() => setFound({ kind: 'disc', found: swapped(found) })}>Take that one</Act>
        </p>
      )}
      <FoundSizes
        ask="It is a"
        label="Which coin"
        name={name}
        names={['', ...presets.map((p) => p.name), OTHER]}
        onChoose={choose}
        unit={unit}
        sizes={[
          {
            text: 'Diameter',
            mm: size.diameterMm,
            onAccept: (diameterMm, plusMinusMm) => setSize({ ...size, diameterMm, plusMinusMm }),
          },
          {
            text: 'Thickness',
            mm: size.thicknessMm,
            onAccept: (thicknessMm) => setSize({ ...size, thicknessMm }),
          },
        ]}
      />
      <FoundActs
        kind="disc"
        name={name}
        own={own}
        entry={size.diameterMm > 0 ? { kind: 'disc', ...size } : null}
        onTake={() => add(record(size.diameterMm))}
      >
        <Button onClick={() => add(record(null))}>A circle of unknown size</Button>
      </FoundActs>
    </>
  );
}
