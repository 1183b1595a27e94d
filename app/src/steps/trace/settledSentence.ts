import type { SettleFault, SettleResult, ToSettle } from '@steady-moth/core/outline';
import { fixed, type LengthUnit, writeLength } from '@steady-moth/core/units';

const FAULTS: Record<SettleFault, string> = {
  'not-here': 'parts of it were seen in another picture, or on a plane that is not on this board',
  'no-rim': 'its rim was never pressed, only its middle',
  'no-edge': 'the picture has no edge along it',
};

/** So many pieces are named. */
const NAMED = 4;

/**
 * What settling came to, in a sentence or two.
 *
 * @param unit what lengths are written in; null while the picture is not true, and all of it is in px
 */
export function settledSentence(
  settled: readonly { to: ToSettle; result: SettleResult }[],
  unit: LengthUnit | null,
): string {
  const moved = settled.flatMap(({ result }) => (result.ok ? [result.moved] : []));
  const write = (length: number) =>
    unit === null ? `${fixed(length, 1)} px` : `${writeLength(length, 0.01, unit).value} ${unit}`;
  const faults = settled.flatMap(({ to, result }) =>
    result.ok ? [] : [`“${to.path.name}” stays as it was: ${FAULTS[result.reason]}.`],
  );
  const doubtful = settled.flatMap(({ to, result }) =>
    result.ok
      ? result.pieces.flatMap((p) => (p.isDoubtful ? [`piece ${numberOf(to, p.curve)} of “${to.path.name}”`] : []))
      : [],
  );
  const more = doubtful.length > NAMED ? ` and ${doubtful.length - NAMED} more` : '';
  return [
    ...(moved.length > 0 ? [`Settled on the edge; it moved by up to ${write(Math.max(...moved))}.`] : []),
    ...(doubtful.length > 0
      ? [`Too little edge along ${doubtful.slice(0, NAMED).join(', ')}${more}: left as drawn.`]
      : []),
    ...faults,
  ].join(' ');
}

const numberOf = ({ path }: ToSettle, curve: string): number => path.uses.findIndex((u) => u.curve === curve) + 1;
