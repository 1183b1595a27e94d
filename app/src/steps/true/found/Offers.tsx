import type { FoundThing } from '@steady-moth/core/find';
import type { Picture } from '@steady-moth/core/job';
import type { LengthUnit } from '@steady-moth/core/units';
import { useEffect, useRef } from 'react';
import { isTextField } from '../../../board/useViewControls';
import { Act, Button } from '../../../kit';
import { type FoundRuler, useBench } from '../../../session/benchStore';
import { useJob } from '../../../session/jobStore';
import { newId } from '../../../session/newId';
import type { Search } from '../useSearch';
import { guessedText, takeRuler } from './rulerGuess';

/** What was found in the picture without being asked for: one key takes the first of it. */
export function Offers({ picture, search, unit }: { picture: Picture; search: Search; unit: LengthUnit }) {
  const { state, found, stop } = search;
  const take = (thing: FoundThing) => {
    const bench = useBench.getState();
    if (thing.kind !== 'ruler') return bench.setFound(thing);
    if (thing.found.family)
      return useJob.getState().apply(takeRuler(picture, thing.found, thing.found.family, newId(), unit));
    bench.setPending({ purpose: 'readings', from: thing.found.from, to: thing.found.to, ruler: thing.found });
  };
  const first = useRef<() => void>(() => {});
  first.current = () => found[0] && take(found[0]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const onControl =
        event.target instanceof Element &&
        event.target.closest('button, a:not([aria-current]), [role="radio"]') !== null;
      if (event.key !== 'Enter' || event.repeat || isTextField(event.target) || onControl) return;
      event.preventDefault();
      first.current();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  if (state === 'looking')
    return (
      <p className="mb-3 text-ink2" role="status">
        Looking for rulers, paper, coins and grids … <Act onClick={stop}>Stop looking</Act>
      </p>
    );
  if (found.length === 0)
    return (
      <p className="mb-3 font-medium text-rust" role="status">
        Nothing of known size was found by itself. Take a tool and click on what you know.
      </p>
    );
  return (
    <section aria-label="Found in the picture" className="mb-4 rounded border border-rust bg-sheet p-3.5">
      <h3 className="font-semibold">Found in the picture</h3>
      <ul className="mt-2 grid gap-2.5">
        {found.map((thing, k) => (
          <li key={k} className="flex items-center justify-between gap-3">
            <span>{wordsOf(thing, unit)}</span>
            <Button
              strong={k === 0}
              className="shrink-0 whitespace-nowrap"
              onClick={() => take(thing)}
              aria-label={`Use this: ${wordsOf(thing, unit)}`}
            >
              Use it
            </Button>
          </li>
        ))}
      </ul>
      <p className="mt-3 text-[12.5px] text-ink2">
        Enter uses the first, as it is drawn on the picture. Or take a tool and click on something else.
      </p>
    </section>
  );
}

function wordsOf(thing: FoundThing, unit: LengthUnit): string {
  switch (thing.kind) {
    case 'ruler':
      return rulerWords(thing.found, unit);
    case 'sheet':
      return 'A sheet of paper, or a card';
    case 'grid':
      return `A grid of ${thing.found.columns} by ${thing.found.rows} lines`;
    case 'disc':
      return 'A coin, or another disc';
  }
}

const rulerWords = (ruler: FoundRuler, unit: LengthUnit): string =>
  ruler.family
    ? `A ruler: ${guessedText(ruler, ruler.family, unit)} ${unit} between its first and last graduation`
    : `A ruler of ${ruler.count} divisions`;
