import { CALIPER, spacingOf } from '@steady-moth/core/calibration';
import {
  type AxisRecord,
  addReference,
  addSpotCheck,
  type GraduationsRecord,
  type Picture,
  setAxis,
  setHeight,
  setWanted,
  setZero,
  together,
} from '@steady-moth/core/job';
import { type LengthUnit, parseLength } from '@steady-moth/core/units';
import { useRef, useState } from 'react';
import { useFocusAfter } from '../../board/focusBoard';
import { Choice, LengthField, Select } from '../../kit';
import { lengthSentence } from '../../kit/lengthSentence';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { figuresSentence, rulerSentence } from '../../session/sentences';
import { useSession } from '../../session/sessionStore';
import { useAsk } from '../../session/useAsk';
import { guessedMm, guessedText, liesAlong, longWords, offeredBeside, saidText } from './found/rulerGuess';
import { ForgetOwn } from './KeepOwn';
import { useOwnReferences } from './ownReferences';
import { type FoundRuler, type PendingLength, useTrue } from './trueStore';
import type { RulerSaid } from './useReadings';

type Along = 'x' | 'y' | 'none';
type ZeroAt = 'from' | 'to' | 'none';

const ASKS = {
  readings: { label: 'Known length', question: 'What lies between the two readings?' },
  across: { label: 'Known length', question: 'How long is this?' },
  spot: { label: 'Caliper reading', question: 'What does the caliper say?' },
  wanted: { label: 'Wanted length', question: 'How long shall this become?' },
} as const;

/** Both picks are made: length, direction and zero are said in one go, and become one change. */
export function PendingForm({
  picture,
  pending,
  read,
  unit,
}: {
  picture: Picture;
  pending: PendingLength;
  /** What the figures of the ruler say, where it is one. */
  read: RulerSaid;
  unit: LengthUnit;
}) {
  const { ruler } = pending;
  const isReading = pending.purpose === 'readings';
  const firstOne = picture.calibration.references.length === 0;
  const [along, setAlong] = useState<Along>(
    isReading && !picture.calibration.axis && firstOne ? liesAlong(picture, pending.from, pending.to) : 'none',
  );
  const [zeroAt, setZeroAt] = useState<ZeroAt>(isReading && !picture.calibration.zero && firstOne ? 'from' : 'none');
  const own = useOwnReferences('ruler');
  const [mine, setMine] = useState('');
  const [doubt, setDoubt] = useState<{ text: string; typed: string } | null>(null);
  const said = useRef({ along, zeroAt, mine, doubt });
  said.current = { along, zeroAt, mine, doubt };

  /** Makes the change; a sentence where what was typed cannot be, or may be a slip and was not typed twice. */
  const accept = (lengthMm: number, plusMinusMm: number | null, typed: string): string | null => {
    const id = newId();
    const { from, to } = pending;
    const { apply } = useJob.getState();
    if (pending.purpose === 'spot')
      apply(addSpotCheck(picture.id, { id, plane: 'face', from, to, lengthMm, plusMinusMm, typed }));
    else if (pending.purpose === 'wanted') apply(setWanted(picture.id, { plane: 'face', from, to, lengthMm, typed }));
    else if (pending.purpose === 'across') {
      const said = {
        id,
        plane: 'face',
        from,
        to,
        lengthMm,
        plusMinusMm,
        typed,
        graduations: null,
        width: null,
      } as const;
      apply(addReference(picture.id, { ...said, kind: 'known-length' }));
      const waiting = useTrue.getState();
      if (!waiting.acrossFirst) {
        // The tool stays in hand for the one across.
        waiting.setPending(null);
        waiting.setAcrossFirst({ from, to });
        return null;
      }
    } else {
      const taken = ruler ? graduationsOf(ruler, lengthMm, unit) : { graduations: null, fault: null };
      if (taken.fault && !(taken.graduations && said.current.doubt?.typed === typed)) {
        setDoubt({ text: taken.fault, typed });
        return taken.fault;
      }
      const axis: AxisRecord | null =
        said.current.along === 'none' ? null : { along: said.current.along, reference: id };
      const end = said.current.zeroAt;
      const chosen = own.find((y) => y.name === said.current.mine);
      apply(
        together(
          'add a known length',
          addReference(picture.id, {
            id,
            kind: 'known-length',
            plane: 'reference',
            from,
            to,
            lengthMm,
            plusMinusMm: plusMinusMm ?? (chosen ? chosen.plusMinusShare * lengthMm : null),
            typed,
            graduations: taken.graduations,
            width: chosen ? ownWidth(chosen) : null,
          }),
          ...(chosen ? [setHeight(picture.id, 'reference', { heightMm: chosen.thicknessMm, plusMinusMm: 0.05 })] : []),
          ...(axis ? [setAxis(picture.id, axis)] : []),
          ...(end === 'none' ? [] : [setZero(picture.id, { reference: id, end })]),
        ),
      );
    }
    useSession.getState().take(null);
    return null;
  };
  useFocusAfter();
  const { label, question } = ASKS[pending.purpose];
  useAsk(label, (text) => {
    const found = parseLength(text, unit);
    return found.ok ? accept(found.mm, found.plusMinusMm, text.trim()) : lengthSentence(found.reason);
  });

  return (
    <section aria-label={label} className="mb-4 rounded border border-rust bg-sheet p-3.5">
      <div className="flex items-start justify-between gap-3">
        <h3 className="font-semibold">{ruler ? 'What lies between its first and last graduation?' : question}</h3>
        <LengthField label={label} value="" unit={unit} onAccept={accept} />
      </div>
      {ruler && (
        <p className="mt-2 text-[12.5px] text-ink2">
          {rulerSentence(ruler)} {read === undefined ? 'Reading its figures …' : figuresSentence(ruler, read)}{' '}
          {read && (
            <button
              type="button"
              className="mr-3 cursor-pointer rounded font-medium text-rust hover:underline"
              onClick={() => accept(ruler.count * read.spacingMm, null, saidText(read))}
            >
              It is {saidText(read)}
            </button>
          )}
          {offeredBeside(ruler, read).map((family) => (
            <button
              key={family.spacingMm}
              type="button"
              className="mr-3 cursor-pointer rounded font-medium text-rust hover:underline"
              onClick={() => accept(guessedMm(ruler, family), null, guessedText(ruler, family, unit))}
            >
              It is {guessedText(ruler, family, unit)} {unit}
              {ruler.families.length > 1 && `, ${longWords(family)}`}
            </button>
          ))}
        </p>
      )}
      {doubt && (
        <p role="alert" className="mt-2 text-[12.5px] text-brick">
          {doubt.text}
        </p>
      )}
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
          {own.length > 0 && (
            <>
              <dt>It is</dt>
              <dd>
                <Select label="Which ruler" value={mine} onChange={setMine} options={['', ...own.map((y) => y.name)]} />
              </dd>
            </>
          )}
        </dl>
      )}
      <p className="mt-3 text-[12.5px] text-ink2">
        Type the figure and press Enter. Write it as you like: 150, 12.5 mm, 1,2 cm, 1 3/8 in
        {isReading ? ', or both readings: 31 to 43' : ''}; behind it ± if you know how true it is.
      </p>
      {isReading && (
        <div className="mt-2 flex flex-wrap gap-4 text-[12.5px]">
          <ForgetOwn kind="ruler" name={mine} own={own} />
        </div>
      )}
    </section>
  );
}

const ownWidth = ({ widthMm, widthPlusMinusMm }: { widthMm: number | null; widthPlusMinusMm: number | null }) =>
  widthMm === null ? null : { widthMm, plusMinusMm: widthPlusMinusMm ?? CALIPER.plusMinusMm };

/** The strokes that were found with the spacing that the length gives them; a fault where no ruler has that spacing. */
function graduationsOf(
  ruler: FoundRuler,
  lengthMm: number,
  unit: LengthUnit,
): { graduations: GraduationsRecord | null; fault: string | null } {
  const spacing = spacingOf(lengthMm, ruler.count);
  if (!spacing)
    return {
      graduations: null,
      fault: `${ruler.count} divisions were counted, which do not make that length. Is it right, and in the ruler's unit?`,
    };
  const graduations = { spacingMm: spacing.spacingMm, ...ruler.graduations };
  const { family } = ruler;
  if (family && family.unit !== spacing.unit)
    return {
      graduations,
      fault: `By their long and short graduations these are ${family.unit === 'in' ? 'parts of an inch' : 'millimetres'}: that would make ${guessedText(ruler, family, unit)} ${unit}. If it is as typed all the same, enter it once more.`,
    };
  return { graduations, fault: null };
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
