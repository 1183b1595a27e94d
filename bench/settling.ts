import type { AddRow } from './addRow';
import { checkProposals, checkSettledSizes } from './rows/proposed';
import { checkContradictions, checkSettling, timeSettling } from './rows/settling';

/** What settles relations and sizes: what it costs, and whether it is right. */
export async function measureSettling(row: AddRow): Promise<void> {
  const ms = ([median, most]: readonly [number, number]) => `${median.toFixed(0)} ms, 95 % ${most.toFixed(0)}`;
  for (const [pieces, sketches] of [
    [300, 20],
    [1000, 6],
  ] as const) {
    const { conditions, solve, drag } = timeSettling(pieces, sketches);
    row(
      `settled from the start, with what is free and said twice: ${pieces} pieces, ${conditions} conditions; a frame of a drag`,
      'settling',
      String(sketches),
      `${ms(solve)}; ${ms(drag)}`,
      pieces === 300 ? '≤ 100, 95 % ≤ 200; ≤ 8, 95 % ≤ 16' : '≤ 500',
    );
  }
  const { sketches, solved, worstMm, ranked, rankRight, onlyJust } = checkSettling(500);
  row(
    'random sketches whose conditions can hold, disturbed by 5 %: settled to 1e-9 mm',
    'settling',
    String(sketches),
    `${solved}; worst of those ${worstMm.toExponential(0)} mm`,
    'all',
  );
  row(
    'ways that are free, against a dense computation',
    'settling',
    String(ranked),
    `${rankRight} right; left out where the rank itself is in doubt: ${onlyJust}`,
    'all',
  );
  const told = checkContradictions(200);
  row(
    'sketches that contradict themselves: the set that is named is a smallest one',
    'settling',
    '200',
    `told ${told.told}, irreducible ${told.irreducible}; ${ms(told.ms)}`,
    'all irreducible',
  );
  const { truths, offered, tempting, fallenFor } = checkProposals(200);
  const share = (part: number, all: number) => `${((100 * part) / all).toFixed(1)} %`;
  row(
    'proposals on simulated parts: of true relations offered; of those that only tempt',
    'settling',
    `${truths}; ${tempting}`,
    `${share(offered, truths)}; ${share(fallenFor, tempting)}`,
    '≥ 95 %; ≤ 2 %',
  );
  const { sizes, held } = checkSettledSizes(200);
  row('± of sizes after settling that hold the true size', 'settling', String(sizes), share(held, sizes), '94 to 97 %');
}
