import {
  addReference,
  believeResolution,
  type JobAction,
  type KnownLengthRecord,
  type Picture,
  setAxis,
  together,
} from '@steady-moth/core/job';
import { type ReadDimension, unitSaid } from '@steady-moth/core/read';
import { type LengthUnit, parseLength, writeLength } from '@steady-moth/core/units';
import { useEffect, useState } from 'react';
import { Act, Button, Choice } from '../../../kit';
import { lengthSentence } from '../../../kit/lengthSentence';
import { useJob } from '../../../session/jobStore';
import { newId } from '../../../session/newId';
import type { DimensionsRead, HeldDimension } from '../useReadings';
import { liesAlong } from './rulerGuess';
import { useEnter } from './useEnter';

/** More lengths of one page than these tell nothing new: the longest are taken. */
const MOST_TAKEN = 12;
/** A page's own scale and that of its figures, apart by more than this: the drawing is made larger or smaller. */
const ANOTHER_SCALE = 0.02;

/** The printed dimensions of a drawing as they were read: one key takes those that agree, a wrong one is put right. */
export function DimensionOffers({
  picture,
  dimensions,
  held,
  onCorrect,
  unit,
}: {
  picture: Picture;
  dimensions: DimensionsRead;
  held: readonly HeldDimension[];
  onCorrect(index: number, value: number | null): void;
  unit: LengthUnit;
}) {
  // What stands behind most figures is what they are printed in, until somebody says otherwise.
  const [said, setPrinted] = useState<LengthUnit | null>(null);
  const printed = said ?? printedIn(held) ?? unit;
  const agreeing = held.filter((d) => d.check === 'agrees');
  const taken = [...agreeing].sort((a, b) => pxOf(b) - pxOf(a)).slice(0, MOST_TAKEN);
  const take = (chosen: readonly ReadDimension[]) =>
    chosen.length > 0 && useJob.getState().apply(takeDimensions(picture, chosen, printed));
  useEnter(() => take(taken));
  if (dimensions.state === 'reading')
    return (
      <p className="mb-3 text-ink2" role="status">
        Reading its dimensions … <Act onClick={dimensions.stop}>Stop reading</Act>
      </p>
    );
  if (held.length === 0) return null;
  return (
    <section aria-label="Dimensions read" className="mb-4 rounded border border-rust bg-sheet p-3.5">
      <h3 className="font-semibold">Dimensions read in the drawing</h3>
      <p className="mt-1 text-[12.5px] text-ink2">{summaryOf(held)}</p>
      <ul className="mt-2 grid max-h-64 gap-1.5 overflow-y-auto">
        {held.map((d, k) => (
          <DimensionRow
            key={d.index}
            number={k + 1}
            own={d}
            printed={printed}
            onCorrect={(value) => onCorrect(d.index, value)}
          />
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        {taken.length > 0 ? (
          <Button strong onClick={() => take(taken)}>
            {`Use ${taken.length < agreeing.length ? `the ${taken.length} longest` : `these ${taken.length}`} that agree`}
          </Button>
        ) : (
          <Button strong onClick={() => take(held.slice(0, MOST_TAKEN))}>
            {held.length === 1 ? 'Use it' : `Use all ${Math.min(MOST_TAKEN, held.length)}`}
          </Button>
        )}
        <span className="flex items-center gap-2 text-[12.5px] text-ink2">
          printed in
          <Choice label="Printed in" value={printed} options={UNITS} onChange={(v) => setPrinted(v)} />
        </span>
      </div>
      <p className="mt-3 text-[12.5px] text-ink2">
        {taken.length > 0 && 'Enter uses them. '}A figure that was read wrong is put right in its field.
      </p>
    </section>
  );
}

const UNITS: readonly { value: LengthUnit; text: string }[] = [
  { value: 'mm', text: 'mm' },
  { value: 'in', text: 'in' },
];

/** The unit that stands behind figures of the page, else that of its note; null where neither tells. */
function printedIn(held: readonly ReadDimension[]): LengthUnit | null {
  const count = (unit: LengthUnit) => held.filter((d) => unitSaid(d.text) === unit).length;
  const [mm, inches] = [count('mm'), count('in')];
  if (mm !== inches) return mm > inches ? 'mm' : 'in';
  return held[0]?.noted ?? null;
}

const toMm = (value: number, printed: LengthUnit): number => (printed === 'in' ? 25.4 : 1) * value;

const pxOf = ({ from, to }: ReadDimension): number => Math.hypot(to.uPx - from.uPx, to.vPx - from.vPx);

function summaryOf(held: readonly ReadDimension[]): string {
  const agreeing = held.filter((d) => d.check === 'agrees').length;
  const against = held.filter((d) => d.check === 'contradicts').length;
  if (held.length === 1) return 'One figure was read, and nothing to hold it against: please compare it.';
  if (agreeing === 0)
    return 'These figures do not agree about one scale: some were read wrong, or the drawing is not to scale.';
  return `${agreeing} of ${held.length} agree about the scale${against > 0 ? `; ${against === 1 ? 'one contradicts' : `${against} contradict`} it` : ''}.`;
}

function DimensionRow({
  number,
  own,
  printed,
  onCorrect,
}: {
  number: number;
  own: ReadDimension;
  printed: LengthUnit;
  onCorrect(value: number | null): void;
}) {
  const [text, setText] = useState(String(own.value));
  const [fault, setFault] = useState<string | null>(null);
  const plain = () => {
    setText(String(own.value));
    setFault(null);
  };
  useEffect(plain, [own.value]);
  const accept = () => {
    if (text === String(own.value)) return plain();
    const read = parseLength(text, printed);
    if (!read.ok) return setFault(lengthSentence(read.reason));
    setFault(null);
    onCorrect(Number((read.mm / toMm(1, printed)).toFixed(9)));
  };
  return (
    <li className="grid grid-cols-[1.5rem_5.5rem_1fr_auto] items-center gap-2 text-[12.5px]">
      <span className="figure text-ink2">{number}</span>
      <input
        aria-label={`Dimension ${number}`}
        value={text}
        inputMode="text"
        autoComplete="off"
        aria-invalid={fault !== null}
        onChange={(e) => setText(e.target.value)}
        onBlur={accept}
        onKeyDown={(e) => {
          if (e.key === 'Enter') e.currentTarget.blur();
          if (e.key === 'Escape') plain();
        }}
        className="figure w-full rounded border border-line bg-sheet px-1.5 py-0.5 text-right text-[14px]"
      />
      <span className={own.check === 'contradicts' ? 'text-brick' : 'text-ink2'}>{checkWords(own)}</span>
      <Act onClick={() => onCorrect(null)} aria-label={`Leave out dimension ${number}`}>
        Leave out
      </Act>
      {fault && (
        <span role="alert" className="col-span-4 text-brick">
          {fault}
        </span>
      )}
    </li>
  );
}

function checkWords({ check, byOthers, value }: ReadDimension): string {
  if (check === 'agrees') return 'agrees';
  if (byOthers === null) return 'not checked';
  const decimals = Math.min(3, Math.max(1, 3 - Math.ceil(Math.log10(value))));
  return check === 'unsure'
    ? `about right: ${byOthers.toFixed(decimals)}`
    : `by the others ${byOthers.toFixed(decimals)}`;
}

/** Takes dimensions as known lengths; the longest gives the direction, and a drawing to another scale its own. */
function takeDimensions(picture: Picture, chosen: readonly ReadDimension[], printed: LengthUnit): JobAction {
  const records = chosen.map(
    ({ from, to, value }): KnownLengthRecord => ({
      id: newId(),
      kind: 'known-length',
      plane: 'reference',
      from,
      to,
      lengthMm: toMm(value, printed),
      plusMinusMm: null,
      typed: `${writeLength(toMm(value, printed), null, printed).value.replace(/\.?0+$/, '')} ${printed}`,
      graduations: null,
      width: null,
    }),
  );
  const { resolution } = picture.facts;
  const { axis, believeResolution: believes } = picture.calibration;
  const [longest] = [...records].sort((a, b) => b.lengthMm - a.lengthMm);
  const perMm = chosen.reduce((s, d) => s + pxOf(d), 0) / records.reduce((s, r) => s + r.lengthMm, 0);
  const isOtherScale =
    resolution && believes && Math.abs(perMm / Math.sqrt(resolution.perMmX * resolution.perMmY) - 1) > ANOTHER_SCALE;
  return together(
    records.length === 1 ? 'add a known length' : 'add known lengths',
    ...records.map((r) => addReference(picture.id, r)),
    ...(isOtherScale ? [believeResolution(picture.id, false)] : []),
    ...(axis || !longest
      ? []
      : [setAxis(picture.id, { along: liesAlong(picture, longest.from, longest.to), reference: longest.id })]),
  );
}
