import {
  type Clearing,
  clearBackground,
  flipPicture,
  type Picture,
  PLAIN_TONES,
  setOpacity,
  setTones,
  type Tones,
  turnPicture,
} from '@steady-moth/core/job';
import { fixed } from '@steady-moth/core/units';
import { useQuery } from '@tanstack/react-query';
import { FlipHorizontal2, RotateCcw, RotateCw } from 'lucide-react';
import { pixels } from '../../compute';
import { Act, Choice, SlipLine } from '../../kit';
import { Range } from '../../kit/Range';
import { useJob } from '../../session/jobStore';
import { useIsHeld } from '../../session/pixelsStore';
import { useSession } from '../../session/sessionStore';

/** Gamma runs from a quarter to four on the slider, its middle is one. */
const GAMMA_REACH = 2;

/** What of a preparation is being tried by a slider that has not been let go. */
export interface Tried {
  tones?: Tones;
  clear?: Clearing;
  opacity?: number;
}

interface Props {
  picture: Picture;
  tried: Tried;
  setTried(tried: Tried): void;
}

/** Quarter turns, and the view from behind. */
export function TurnLine({ picture }: { picture: Picture }) {
  const apply = useJob((s) => s.apply);
  const { id, locked, preparation } = picture;
  const { turns, flip } = preparation;
  return (
    <SlipLine title="Turned" figure={<span className="figure">{`${turns * 90}°${flip ? ', flipped' : ''}`}</span>}>
      <span className="flex flex-wrap gap-x-4 gap-y-1">
        <Act disabled={locked} onClick={() => apply(turnPicture(id, -1))} className="inline-flex items-center gap-1">
          <RotateCcw size={14} aria-hidden /> A quarter left
        </Act>
        <Act disabled={locked} onClick={() => apply(turnPicture(id, 1))} className="inline-flex items-center gap-1">
          <RotateCw size={14} aria-hidden /> A quarter right
        </Act>
        <Act disabled={locked} onClick={() => apply(flipPicture(id))} className="inline-flex items-center gap-1">
          <FlipHorizontal2 size={14} aria-hidden /> Mirror
        </Act>
      </span>
    </SlipLine>
  );
}

/** Tones by a small histogram, or by what is picked as darkest and lightest. */
export function TonesLine({ picture, tried, setTried }: Props) {
  const apply = useJob((s) => s.apply);
  const take = useSession((s) => s.take);
  const held = useIsHeld(picture.blob);
  const { data: counts = [] } = useQuery({
    queryKey: ['histogram', picture.blob],
    queryFn: ({ signal }) => pixels.call((w) => w.histogram(picture.blob), signal),
    enabled: held,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const { locked } = picture;
  const tones = tried.tones ?? picture.preparation.tones;
  const settle = (next: Tones) => {
    setTried({});
    apply(setTones(picture.id, next));
  };
  const percent = (share: number) => Math.round(100 * share);
  const withEnds = ([dark, light]: [number, number]): Tones => ({ ...tones, dark: dark / 100, light: light / 100 });
  const withGamma = ([step]: [number]): Tones => ({ ...tones, gamma: 2 ** (step / 50) });
  return (
    <SlipLine
      id="line-tones"
      title="Tones"
      figure={<span className="figure">{`${percent(tones.dark)} to ${percent(tones.light)} %`}</span>}
    >
      <Histogram counts={counts} tones={tones} />
      <Range
        labels={['Darkest', 'Lightest']}
        value={[percent(tones.dark), percent(tones.light)]}
        apart={3}
        disabled={locked}
        onTry={(v) => setTried({ tones: withEnds(v) })}
        onSet={(v) => settle(withEnds(v))}
      />
      <div className="flex items-center gap-3">
        <span>between</span>
        <Range
          labels={['Tones between']}
          min={-50 * GAMMA_REACH}
          max={50 * GAMMA_REACH}
          value={[Math.round(50 * Math.log2(tones.gamma))]}
          disabled={locked}
          onTry={(v) => setTried({ tones: withGamma(v) })}
          onSet={(v) => settle(withGamma(v))}
        />
        <span className="figure w-8 text-right">{fixed(tones.gamma, 2)}</span>
      </div>
      <div className="mt-1.5 flex flex-wrap items-center gap-x-4 gap-y-1">
        <Choice
          label="Colours"
          value={tones.gray ? 'gray' : 'colour'}
          options={COLOURS}
          disabled={locked}
          onChange={(v) => settle({ ...tones, gray: v === 'gray' })}
        />
        <Act disabled={locked} onClick={() => take('darkest')}>
          Pick darkest
        </Act>
        <Act disabled={locked} onClick={() => take('lightest')}>
          Pick lightest
        </Act>
        <Act disabled={locked} onClick={() => settle({ ...PLAIN_TONES })}>
          As it came
        </Act>
      </div>
    </SlipLine>
  );
}

/** The background, taken away by its colour, or by what joins a place in it. */
export function BackgroundLine({
  picture,
  tried,
  setTried,
  by,
  onBy,
}: Props & { by: Clearing['by']; onBy(by: Clearing['by']): void }) {
  const apply = useJob((s) => s.apply);
  const take = useSession((s) => s.take);
  const tool = useSession((s) => s.tool);
  const clear = tried.clear ?? picture.preparation.clear;
  const { locked } = picture;
  return (
    <SlipLine
      id="line-background"
      title="Background"
      figure={
        clear ? (
          <span className="inline-flex items-center gap-2">
            {clear.by === 'colour' && <Swatch colour={clear.colour} />} cleared
          </span>
        ) : (
          'kept'
        )
      }
    >
      <span className="flex gap-4">
        <Act
          disabled={locked}
          aria-pressed={tool === 'background'}
          onClick={() => take(tool === 'background' ? null : 'background')}
        >
          {tool === 'background' ? 'Done' : clear === null ? 'Clear it' : WORDS[by].again}
        </Act>
        {clear && (
          <Act disabled={locked} onClick={() => apply(clearBackground(picture.id, null))}>
            Keep it
          </Act>
        )}
      </span>
      {tool === 'background' && (
        <div className="mt-1.5 flex flex-col gap-1.5">
          <span>
            <Choice label="What is cleared" value={by} options={WAYS} disabled={locked} onChange={onBy} />
          </span>
          {clear?.by === by ? WORDS[by].more : WORDS[by].first}
        </div>
      )}
      {clear && (
        <div className="mt-1 flex items-center gap-3">
          <span className="shrink-0">how unlike</span>
          <Range
            labels={['How unlike it may be']}
            min={1}
            max={60}
            value={[Math.round(100 * clear.tolerance)]}
            disabled={locked}
            onTry={([v]) => setTried({ clear: { ...clear, tolerance: v / 100 } })}
            onSet={([v]) => {
              setTried({});
              apply(clearBackground(picture.id, { ...clear, tolerance: v / 100 }));
            }}
          />
          <span className="figure w-8 text-right">{Math.round(100 * clear.tolerance)}</span>
        </div>
      )}
    </SlipLine>
  );
}

/** How much of the picture shows when it lies with others under the drawing. */
export function OpacityLine({ picture, tried, setTried }: Props) {
  const apply = useJob((s) => s.apply);
  const opacity = tried.opacity ?? picture.opacity;
  return (
    <SlipLine title="Opacity" figure={<span className="figure">{fixed(100 * opacity, 0)} %</span>}>
      <Range
        labels={['How much of it shows']}
        step={5}
        value={[Math.round(100 * opacity)]}
        onTry={([v]) => setTried({ opacity: v / 100 })}
        onSet={([v]) => {
          setTried({});
          apply(setOpacity(picture.id, v / 100));
        }}
      />
    </SlipLine>
  );
}

const COLOURS: readonly { value: 'colour' | 'gray'; text: string }[] = [
  { value: 'colour', text: 'colour' },
  { value: 'gray', text: 'gray' },
];

const WAYS: readonly { value: Clearing['by']; text: string }[] = [
  { value: 'region', text: 'all that joins it' },
  { value: 'colour', text: 'all of its colour' },
];

const WORDS: Record<Clearing['by'], { again: string; first: string; more: string }> = {
  region: {
    again: 'Clear more',
    first: 'Press on the background: it goes as far as the next edge, however it shades.',
    more: 'Press on what is left of it, such as in a hole.',
  },
  colour: {
    again: 'Pick another colour',
    first: 'Press on the background: what is like it goes, wherever it is.',
    more: 'Press on another colour to take that instead.',
  },
};

function Swatch({ colour: [r, g, b] }: { colour: readonly [number, number, number] }) {
  return (
    <svg viewBox="0 0 14 14" className="h-3.5 w-3.5" aria-hidden>
      <rect width="14" height="14" rx="2" fill={`rgb(${r} ${g} ${b})`} stroke="var(--line)" />
    </svg>
  );
}

/** How often each brightness occurs, as roots, so that little is seen beside much; what is cut off is paler. */
function Histogram({ counts, tones }: { counts: readonly number[]; tones: Tones }) {
  return (
    <svg viewBox="0 0 64 20" preserveAspectRatio="none" className="mt-1 h-10 w-full" aria-hidden>
      {counts.map((count, k) => {
        const height = 20 * Math.sqrt(count);
        const inside = (k + 1) / 64 >= tones.dark && k / 64 <= tones.light;
        return (
          <rect
            key={k}
            x={k}
            y={20 - height}
            width={0.9}
            height={height}
            fill="var(--ink2)"
            opacity={inside ? 1 : 0.3}
          />
        );
      })}
    </svg>
  );
}
