import { CALIPER, type RulerWidth } from '@steady-moth/core/calibration';
import {
  type KnownLengthRecord,
  leaveOutFarEdge,
  type Picture,
  setGraduations,
  setRulerWidth,
} from '@steady-moth/core/job';
import { type LengthUnit, writeLength } from '@steady-moth/core/units';
import { useEffect, useState } from 'react';
import { pixels } from '../../compute';
import { Act, LengthField } from '../../kit';
import { useJob } from '../../session/jobStore';
import { countSentence } from '../../session/sentences';
import { widthSentence } from './words';

interface RulerProps {
  picture: Picture;
  reference: KnownLengthRecord;
  number: number;
  unit: LengthUnit;
  width: RulerWidth | null;
}

/** The graduations between two readings, counted and taken as lines: how they converge shows the tilt. */
export function CountGraduations({ picture, reference, number, unit, width }: RulerProps) {
  const apply = useJob((s) => s.apply);
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const { id, from, to, lengthMm, graduations } = reference;
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was said of other readings is over
  useEffect(() => setFault(null), [from, to, lengthMm]);
  const count = async () => {
    setBusy(true);
    setFault(null);
    const counted = await pixels.call((w) => w.countGraduations(picture.blob, from, to, lengthMm)).catch(() => null);
    setBusy(false);
    if (counted?.ok) apply(setGraduations(picture.id, id, counted.graduations));
    else setFault(counted ? countSentence(counted.reason, counted.count) : 'The graduations could not be counted.');
  };
  if (graduations)
    return (
      <div className="mt-1">
        {graduations.graduations.length} of its graduations taken as lines{EDGES[edgesSeen(graduations)]}.{' '}
        <Act
          onClick={() => apply(setGraduations(picture.id, id, null))}
          aria-label={`Leave them out: the graduations of known length ${number}`}
        >
          Leave them out
        </Act>
        {graduations.far.length > 0 && (
          <Width picture={picture} reference={reference} number={number} unit={unit} width={width} />
        )}
      </div>
    );
  return (
    <div className="mt-1">
      <Act
        disabled={busy || picture.locked}
        onClick={() => void count()}
        aria-label={busy ? undefined : `Count the graduations between the readings of known length ${number}`}
      >
        {busy ? 'Counting …' : 'Count the graduations between'}
      </Act>
      {!busy && !fault && ', if it is a ruler: they show the tilt.'}
      {fault && (
        <p role="alert" className="text-brick">
          {fault}
        </p>
      )}
    </div>
  );
}

const EDGES = { none: '', one: ', and its edge', both: ', and both its long edges' } as const;

const edgesSeen = ({ edge, far }: NonNullable<KnownLengthRecord['graduations']>): keyof typeof EDGES =>
  edge.length && far.length ? 'both' : edge.length + far.length > 0 ? 'one' : 'none';

/** How wide the ruler is, by a caliper: against its length it shows the tilt without any guess about the lens. */
function Width({ picture, reference: { id, width: measured }, number, unit, width }: RulerProps) {
  const apply = useJob((s) => s.apply);
  const say = (widthMm: number, plusMinusMm: number | null) => {
    const spread = plusMinusMm ?? CALIPER.plusMinusMm;
    apply(setRulerWidth(picture.id, id, { widthMm, plusMinusMm: spread }));
  };
  const { words, doubtful } = widthSentence(width, measured !== null, unit);
  return (
    <div className="mt-1.5">
      <div className="flex items-center justify-between gap-3">
        <span>Edge to edge, by caliper</span>
        <LengthField
          label={`Width of ruler ${number}`}
          value={measured ? writeLength(measured.widthMm, measured.plusMinusMm, unit).value : ''}
          unit={unit}
          disabled={picture.locked}
          narrow
          onAccept={say}
        />
      </div>
      {words && <p className={doubtful ? 'text-brick' : ''}>{words}</p>}
      <div className="flex flex-wrap gap-x-4">
        {measured && <Act onClick={() => apply(setRulerWidth(picture.id, id, null))}>Leave its width out</Act>}
        {!measured && <Act onClick={() => apply(leaveOutFarEdge(picture.id, id))}>Leave its other edge out</Act>}
      </div>
    </div>
  );
}
