import { type KnownLengthRecord, type Picture, setStrokes } from '@steady-moth/core/job';
import { useEffect, useState } from 'react';
import { Act } from '../kit';
import { useJob } from '../store/jobStore';
import { countSentence } from '../store/sentences';
import { pixels } from '../workers';

/** The graduations between two readings, counted and taken as lines: how they converge shows the tilt. */
export function CountStrokes({
  picture,
  yardstick,
  number,
}: {
  picture: Picture;
  yardstick: KnownLengthRecord;
  number: number;
}) {
  const apply = useJob((s) => s.apply);
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const { id, from, to, lengthMm, strokes } = yardstick;
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was said of other readings is over
  useEffect(() => setFault(null), [from, to, lengthMm]);
  const count = async () => {
    setBusy(true);
    setFault(null);
    const counted = await pixels.call((w) => w.countStrokes(picture.blob, from, to, lengthMm)).catch(() => null);
    setBusy(false);
    if (counted?.ok) apply(setStrokes(picture.id, id, counted.strokes));
    else setFault(counted ? countSentence(counted.reason, counted.count) : 'The strokes could not be counted.');
  };
  if (strokes)
    return (
      <div className="mt-1">
        {strokes.strokes.length} of its strokes taken as lines{strokes.edge.length ? ', and its edge' : ''}.{' '}
        <Act onClick={() => apply(setStrokes(picture.id, id, null))} aria-label={`Leave out the strokes of ${number}`}>
          Leave them out
        </Act>
      </div>
    );
  return (
    <div className="mt-1">
      <Act disabled={busy || picture.locked} onClick={() => void count()} aria-label={`Count the strokes of ${number}`}>
        {busy ? 'Counting …' : 'Count the strokes between'}
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
