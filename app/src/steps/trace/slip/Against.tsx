import type { PieceDeviation } from '@steady-moth/core/proof';
import { fixed, type LengthUnit } from '@steady-moth/core/units';
import { Act } from '../../../kit';
import type { DeviationState } from '../useDeviation';

/** A deviation as it is read: largest and RMS, and in pixels of the picture. */
export function DeviationWords({ of, unit }: { of: PieceDeviation; unit: LengthUnit }) {
  if (of.found === 0) return <>no edge found along it</>;
  const write = (mm: number) => (unit === 'in' ? `${fixed(mm / 25.4, 4)} in` : `${fixed(mm, 3)} mm`);
  return (
    <>
      at most {write(of.largestMm)} ({fixed(of.largestPx, 1)} px), RMS {write(of.rmsMm)}
      {of.found < of.asked && `; no edge at ${of.asked - of.found} of ${of.asked} places`}
    </>
  );
}

/** Holds the path against the picture's edges. */
export function Against({
  deviation,
  isOwn,
  unit,
  onAsk,
}: {
  deviation: DeviationState;
  isOwn: boolean;
  unit: LengthUnit;
  onAsk(): void;
}) {
  const { result, isAsking, drop } = deviation;
  if (!isOwn || (!result && !isAsking))
    return (
      <p className="mt-2">
        <Act onClick={onAsk}>Compare it with the picture’s edges</Act>
      </p>
    );
  return (
    <p className="mt-2" role="status">
      {result ? (
        <>
          Edges of the picture lie off it by <DeviationWords of={result.whole} unit={unit} />.
        </>
      ) : (
        <>Comparing …</>
      )}{' '}
      <Act onClick={drop}>{result ? 'Leave it' : 'Cancel'}</Act>
    </p>
  );
}
