import type { FoundThing } from '@steady-moth/core/find';
import type { Picture } from '@steady-moth/core/job';
import type { LengthUnit } from '@steady-moth/core/units';
import { Act, Button } from '../../../kit';
import { useJob } from '../../../session/jobStore';
import { newId } from '../../../session/newId';
import { figuresSentence } from '../../../session/sentences';
import { type FoundRuler, useTrue } from '../trueStore';
import type { RulerSaid } from '../useReadings';
import type { Search } from '../useSearch';
import { saidText, scaleOf, takeRuler } from './rulerGuess';
import { useEnter } from './useEnter';

/** What was found in the picture without being asked for: one key takes the first of it. */
export function Offers({
  picture,
  search,
  said,
  unit,
}: {
  picture: Picture;
  search: Search;
  /** What the figures of a ruler that was found say. */
  said(ruler: FoundRuler): RulerSaid;
  unit: LengthUnit;
}) {
  const { state, found, stop } = search;
  const ask = ({ from, to, ...ruler }: FoundRuler) =>
    useTrue.getState().setPending({ purpose: 'readings', from, to, ruler: { from, to, ...ruler } });
  const take = (thing: FoundThing) => {
    if (thing.kind !== 'ruler') return useTrue.getState().setFound(thing);
    const scale = scaleOf(thing.found, said(thing.found), unit);
    if (!scale) return ask(thing.found);
    useJob.getState().apply(takeRuler(picture, thing.found, scale, newId()));
  };
  useEnter(() => found[0] && take(found[0]));
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
            <span>
              {wordsOf(thing, said, unit)}
              {thing.kind === 'ruler' && (
                <RulerFiguresLine ruler={thing.found} said={said(thing.found)} onCorrect={() => ask(thing.found)} />
              )}
            </span>
            <Button
              strong={k === 0}
              className="shrink-0 whitespace-nowrap"
              onClick={() => take(thing)}
              aria-label={`Use this: ${wordsOf(thing, said, unit)}`}
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

/** What was read on a ruler, and the way to say it better. */
function RulerFiguresLine({ ruler, said, onCorrect }: { ruler: FoundRuler; said: RulerSaid; onCorrect(): void }) {
  return (
    <span className="block text-[12.5px] text-ink2">
      {said === undefined ? 'Reading its figures …' : figuresSentence(ruler, said)}{' '}
      {said !== undefined && <Act onClick={onCorrect}>Correct it</Act>}
    </span>
  );
}

function wordsOf(thing: FoundThing, said: (ruler: FoundRuler) => RulerSaid, unit: LengthUnit): string {
  switch (thing.kind) {
    case 'ruler':
      return rulerWords(thing.found, said(thing.found), unit);
    case 'sheet':
      return 'A sheet of paper, or a card';
    case 'grid':
      return `A grid of ${thing.found.columns} by ${thing.found.rows} lines`;
    case 'disc':
      return 'A coin, or another disc';
  }
}

function rulerWords(ruler: FoundRuler, said: RulerSaid, unit: LengthUnit): string {
  const scale = scaleOf(ruler, said, unit);
  if (!scale) return `A ruler of ${ruler.count} divisions`;
  return said ? `A ruler, ${saidText(said)}` : `A ruler: ${scale.typed} ${unit} between its first and last graduation`;
}
