import { type Picture, PLAIN_TONES, setTones, type Tones, turnPicture } from '@steady-moth/core/job';
import { fixed } from '@steady-moth/core/units';
import { useQuery } from '@tanstack/react-query';
import { RotateCcw, RotateCw } from 'lucide-react';
import { Slider } from 'radix-ui';
import { Act, Choice, SlipLine } from '../kit';
import { useJob } from '../store/jobStore';
import { pixels } from '../workers';

/** Gamma runs from a quarter to four on the slider, its middle is one. */
const GAMMA_REACH = 2;

/** How the picture is shown: quarter turns and tones. Measuring goes on using the original pixels. */
export function Prepare({
  picture,
  ready,
  tried,
  setTried,
}: {
  picture: Picture;
  ready: boolean;
  tried: Tones | null;
  setTried(tones: Tones | null): void;
}) {
  const apply = useJob((s) => s.apply);
  const { data: counts = [] } = useQuery({
    queryKey: ['histogram', picture.blob],
    queryFn: ({ signal }) => pixels.call((w) => w.histogram(), signal),
    enabled: ready,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const tones = tried ?? picture.preparation.tones;
  const settle = (next: Tones) => {
    setTried(null);
    apply(setTones(picture.id, next));
  };
  const { turns } = picture.preparation;
  const percent = (share: number) => Math.round(100 * share);
  const withEnds = ([dark, light]: number[]): Tones => ({ ...tones, dark: dark / 100, light: light / 100 });
  const withGamma = ([step]: number[]): Tones => ({ ...tones, gamma: 2 ** (step / 50) });
  return (
    <>
      <SlipLine title="Turned" figure={<span className="figure">{turns * 90}°</span>}>
        <span className="flex gap-4">
          <Act onClick={() => apply(turnPicture(picture.id, -1))} className="inline-flex items-center gap-1">
            <RotateCcw size={14} aria-hidden /> A quarter left
          </Act>
          <Act onClick={() => apply(turnPicture(picture.id, 1))} className="inline-flex items-center gap-1">
            <RotateCw size={14} aria-hidden /> A quarter right
          </Act>
        </span>
      </SlipLine>
      <SlipLine
        title="Tones"
        figure={<span className="figure">{`${percent(tones.dark)} to ${percent(tones.light)} %`}</span>}
      >
        <Histogram counts={counts} tones={tones} />
        <Ends label="What shall be darkest and lightest">
          <Slider.Root
            className="relative my-1 flex h-4 w-full items-center"
            min={0}
            max={100}
            minStepsBetweenThumbs={3}
            value={[percent(tones.dark), percent(tones.light)]}
            onValueChange={(v) => setTried(withEnds(v))}
            onValueCommit={(v) => settle(withEnds(v))}
          >
            <Track />
            <Thumb label="Darkest" />
            <Thumb label="Lightest" />
          </Slider.Root>
        </Ends>
        <div className="flex items-center gap-3">
          <span>between</span>
          <Slider.Root
            className="relative my-1 flex h-4 grow items-center"
            min={-50 * GAMMA_REACH}
            max={50 * GAMMA_REACH}
            value={[Math.round(50 * Math.log2(tones.gamma))]}
            onValueChange={(v) => setTried(withGamma(v))}
            onValueCommit={(v) => settle(withGamma(v))}
          >
            <Track />
            <Thumb label="Tones between" />
          </Slider.Root>
          <span className="figure w-8 text-right">{fixed(tones.gamma, 2)}</span>
        </div>
        <div className="mt-1.5 flex items-center justify-between">
          <Choice
            label="Colours"
            value={tones.gray ? 'gray' : 'colour'}
            options={COLOURS}
            onChange={(v) => settle({ ...tones, gray: v === 'gray' })}
          />
          <Act onClick={() => settle({ ...PLAIN_TONES })}>As it came</Act>
        </div>
      </SlipLine>
    </>
  );
}

const COLOURS: readonly { value: 'colour' | 'gray'; text: string }[] = [
  { value: 'colour', text: 'colour' },
  { value: 'gray', text: 'gray' },
];

function Ends({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div role="group" aria-label={label}>
      {children}
    </div>
  );
}

function Track() {
  return (
    <Slider.Track className="relative h-1 grow rounded bg-line">
      <Slider.Range className="absolute h-full rounded bg-ink3" />
    </Slider.Track>
  );
}

function Thumb({ label }: { label: string }) {
  return <Slider.Thumb aria-label={label} className="block h-4 w-4 rounded-full border-2 border-paper bg-rust" />;
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
