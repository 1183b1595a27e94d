import {
  type AxisRecord,
  addSpotCheck,
  addYardstick,
  type Picture,
  setAxis,
  setZero,
  together,
} from '@steady-moth/core/job';
import { type LengthUnit, parseLength } from '@steady-moth/core/units';
import { useEffect, useRef, useState } from 'react';
import { Choice, LengthField } from '../kit';
import { type PendingLength, useBench } from '../store/benchStore';
import { useJob } from '../store/jobStore';
import { newId } from '../store/newId';
import { useReadout } from '../store/readoutStore';
import { lengthSentence } from '../store/sentences';

type Along = 'x' | 'y' | 'none';
type ZeroAt = 'from' | 'to' | 'none';

/** Both picks are made: length, direction and zero are said in one go, and become one change. */
export function PendingForm({
  picture,
  pending,
  unit,
}: {
  picture: Picture;
  pending: PendingLength;
  unit: LengthUnit;
}) {
  const isReading = pending.purpose === 'readings';
  const flat = Math.abs(pending.to.uPx - pending.from.uPx) >= Math.abs(pending.to.vPx - pending.from.vPx);
  const firstOne = picture.truing.yardsticks.length === 0;
  const [along, setAlong] = useState<Along>(
    isReading && !picture.truing.axis && firstOne ? (flat ? 'x' : 'y') : 'none',
  );
  const [zeroAt, setZeroAt] = useState<ZeroAt>(isReading && !picture.truing.zero && firstOne ? 'from' : 'none');
  const said = useRef({ along, zeroAt });
  said.current = { along, zeroAt };

  const accept = (lengthMm: number, plusMinusMm: number | null, typed: string) => {
    const id = newId();
    const { from, to } = pending;
    const { apply } = useJob.getState();
    if (!isReading) apply(addSpotCheck(picture.id, { id, plane: 'face', from, to, lengthMm, plusMinusMm, typed }));
    else {
      const axis: AxisRecord | null =
        said.current.along === 'none' ? null : { along: said.current.along, yardstick: id };
      const end = said.current.zeroAt;
      apply(
        together(
          'add a known length',
          addYardstick(picture.id, {
            id,
            kind: 'known-length',
            plane: 'yardstick',
            from,
            to,
            lengthMm,
            plusMinusMm,
            typed,
            strokes: null,
          }),
          ...(axis ? [setAxis(picture.id, axis)] : []),
          ...(end === 'none' ? [] : [setZero(picture.id, { yardstick: id, end })]),
        ),
      );
    }
    useBench.getState().take(null);
  };
  const acceptRef = useRef(accept);
  acceptRef.current = accept;

  const label = isReading ? 'Known length' : 'Caliper reading';
  useEffect(() => {
    useReadout.getState().ask({
      label,
      accept(text) {
        const found = parseLength(text, unit);
        if (!found.ok) return lengthSentence(found.reason);
        acceptRef.current(found.mm, found.plusMinusMm, text.trim());
        return null;
      },
    });
    return () => useReadout.getState().ask(null);
  }, [label, unit]);

  return (
    <section aria-label={label} className="mb-4 rounded border border-rust bg-sheet p-3.5">
      <div className="flex items-start justify-between gap-3">
        <h3 className="font-semibold">
          {isReading ? 'What lies between the two readings?' : 'What does the caliper say?'}
        </h3>
        <LengthField label={label} value="" unit={unit} onAccept={accept} />
      </div>
      {isReading && (
        <dl className="mt-3 grid grid-cols-[1fr_auto] items-center gap-y-2 text-[12.5px] text-ink2">
          <dt>This line runs along</dt>
          <dd>
            <Choice label="This line runs along" value={along} onChange={(v) => setAlong(v)} options={ALONG} />
          </dd>
          <dt>Zero is at</dt>
          <dd>
            <Choice label="Zero is at" value={zeroAt} onChange={(v) => setZeroAt(v)} options={ZERO_AT} />
          </dd>
        </dl>
      )}
      <p className="mt-3 text-[12.5px] text-ink2">
        Type the figure and press Enter. Write it as you like: 150, 12.5 mm, 1,2 cm, 1 3/8 in, and behind it ± if you
        know how true it is.
      </p>
    </section>
  );
}

const ALONG: readonly { value: Along; text: string }[] = [
  { value: 'x', text: 'X' },
  { value: 'y', text: 'Y' },
  { value: 'none', text: 'neither' },
];
const ZERO_AT: readonly { value: ZeroAt; text: string }[] = [
  { value: 'from', text: 'first' },
  { value: 'to', text: 'second' },
  { value: 'none', text: 'elsewhere' },
];
