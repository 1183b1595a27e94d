import { type Bend, LEAST_PAIRS } from '@steady-moth/core/geometry';
import { fixed } from '@steady-moth/core/units';
import { Act, Button, Choice, SlipLine } from '../../kit';
import type { SwapHandle } from './useSwap';

const SIDES = [
  { value: 'old', text: 'the one here' },
  { value: 'new', text: 'the new one' },
] as const;

const BENDS: readonly { value: Bend; text: string }[] = [
  { value: 'similar', text: 'turned, resized' },
  { value: 'slanted', text: 'slanted' },
  { value: 'tilted', text: 'tilted' },
];

/** Lining up a picture that takes another's place; nothing of the job changes until it is taken. */
export function SwapForm({ handle }: { handle: SwapHandle }) {
  const { swap, lined, look, setBend, dropPair, cancel, take } = handle;
  if (!swap) return null;
  const { pairs, side, first, bend, next } = swap;
  const askedFor =
    side === 'old' ? 'Pick a point that both pictures show, here.' : 'Now the same point in the new picture.';
  return (
    <section aria-label="Swap the picture">
      <p className="mb-3 font-medium text-rust">
        {side === 'new' && !first ? 'Look at the one here to pick the next point.' : askedFor}
      </p>
      <ol>
        <SlipLine
          title="New picture"
          figure={<span className="inline-block max-w-40 truncate align-bottom">{next.fileName}</span>}
        >
          <span className="flex items-center gap-2">
            Looking at <Choice label="Picture looked at" value={side} options={SIDES} onChange={look} />
          </span>
        </SlipLine>
        {pairs.map((_, k) => (
          <SlipLine
            key={k}
            mark={k + 1}
            title="Common point"
            figure={
              lined?.apart[k] === undefined ? '' : <span className="figure">{fixed(lined.apart[k], 1)} px off</span>
            }
          >
            <Act onClick={() => dropPair(k)} aria-label={`Remove common point ${k + 1}`}>
              Remove
            </Act>
          </SlipLine>
        ))}
        <SlipLine
          title="The new one is"
          figure={
            <Choice
              label="How the new picture differs"
              value={bend}
              options={offered(pairs.length)}
              onChange={setBend}
            />
          }
        >
          {pairs.length < 2
            ? 'Without two common points its frame is laid on the old frame: right for a page drawn or scanned again.'
            : lined === null
              ? 'These points lie too near to one line. Pick others.'
              : lined.rms === null
                ? 'As many points as are needed; a further one shows how well they fit.'
                : `The points are ${fixed(lined.rms, 1)} px apart (RMS) after lining up.`}
        </SlipLine>
      </ol>
      <div className="mt-3 flex gap-3">
        <Button strong disabled={!lined} onClick={take}>
          Put it in its place
        </Button>
        <Button onClick={cancel}>Leave it</Button>
      </div>
    </section>
  );
}

const offered = (pairs: number) => BENDS.filter(({ value }) => value === 'similar' || pairs >= LEAST_PAIRS[value]);
