import { fixed } from '@steady-moth/core/units';
import { useEffect, useRef, useState } from 'react';
import { pages } from '../compute';
import { MOST_PAGE_PX } from '../compute/pageBounds';
import type { PageSize } from '../compute/pages.worker';
import { Act, Button, Choice } from '../kit';
import { Modal } from '../kit/Modal';

/** Pages to be brought in, and how finely they are drawn. */
export interface ChosenPages {
  pages: number[];
  perMm: number;
}

/** Pages shown at once: a document of thousands is leafed through, never drawn as a whole. */
const AT_ONCE = 8;
const MOST_CHOSEN = 10;
const THUMB_PX = 260;
const PER_INCH = ['150', '300', '600'] as const;
const BOUNDS = { least: 36, most: 1200 } as const;

/** A page is chosen by its picture, and drawn as finely as the person wants. */
export function PageChooser({
  name,
  count,
  onChoose,
}: {
  name: string;
  count: number;
  onChoose(chosen: ChosenPages | null): void;
}) {
  const [first, setFirst] = useState(1);
  const [chosen, setChosen] = useState<readonly number[]>([1]);
  const [perInch, setPerInch] = useState('300');
  const [size, setSize] = useState<PageSize | null>(null);
  const fine = Number(perInch);
  const sound = Number.isFinite(fine) && fine >= BOUNDS.least && fine <= BOUNDS.most;
  const perMm = fine / 25.4;
  const latest = chosen.at(-1);
  useEffect(() => {
    if (latest) void pages.call((w) => w.size(latest)).then(setSize, () => setSize(null));
  }, [latest]);
  const wouldBe = size && sound ? [size.widthMm * perMm, size.heightMm * perMm].map(Math.ceil) : null;
  const tooLarge = wouldBe !== null && wouldBe[0]! * wouldBe[1]! > MOST_PAGE_PX;
  const toggle = (page: number) =>
    setChosen((now) => (now.includes(page) ? now.filter((p) => p !== page) : [...now, page].slice(-MOST_CHOSEN)));
  const shown = Array.from({ length: Math.min(AT_ONCE, count - first + 1) }, (_, k) => first + k);
  const go = (to: number) => setFirst(Math.min(Math.max(1, to), Math.max(1, count)));
  const can = chosen.length > 0 && sound && !tooLarge;
  return (
    <Modal
      title={`Which page of ${name}?`}
      description={
        count === 1 ? 'It has one page.' : `It has ${count} pages; up to ${MOST_CHOSEN} come in together, into one job.`
      }
      onClose={() => onChoose(null)}
      className="h-[calc(100vh-4rem)] w-[calc(100vw-4rem)] max-w-[1000px]"
    >
      <div className="flex h-[calc(100%-3.5rem)] flex-col">
        <div className="mt-4 grid min-h-0 grow grid-cols-4 grid-rows-2 gap-4">
          {shown.map((page) => (
            <PageThumb key={page} page={page} chosen={chosen.includes(page)} onToggle={() => toggle(page)} />
          ))}
        </div>
        {count > AT_ONCE && (
          <div className="mt-3 flex items-center gap-5">
            <Act disabled={first === 1} onClick={() => go(first - AT_ONCE)}>
              Earlier pages
            </Act>
            <Act disabled={first + AT_ONCE > count} onClick={() => go(first + AT_ONCE)}>
              Later pages
            </Act>
            <label className="flex items-center gap-2 text-ink2">
              from page
              <input
                type="number"
                min={1}
                max={count}
                value={first}
                onChange={(e) => e.target.value && go(Math.round(Number(e.target.value)))}
                className="figure w-20 rounded border border-line bg-sheet px-1.5 py-0.5 text-right text-ink"
              />
              of {count}
            </label>
          </div>
        )}
        <div className="mt-4 flex items-center gap-4 border-line border-t pt-4">
          <span className="flex items-center gap-2">
            Draw it with
            <Choice
              label="Pixels to the inch"
              value={perInch}
              options={PER_INCH.map((value) => ({ value, text: value }))}
              onChange={setPerInch}
            />
            or
            <input
              type="number"
              aria-label="Pixels to the inch, any number"
              min={BOUNDS.least}
              max={BOUNDS.most}
              value={perInch}
              aria-invalid={!sound || tooLarge}
              onChange={(e) => setPerInch(e.target.value)}
              className="figure w-20 rounded border border-line bg-sheet px-1.5 py-0.5 text-right aria-invalid:border-brick"
            />
            pixels to the inch
          </span>
          <span className={`grow text-[12.5px] ${tooLarge || !sound ? 'text-brick' : 'text-ink2'}`} aria-live="polite">
            {!sound
              ? `From ${BOUNDS.least} to ${BOUNDS.most}.`
              : size && wouldBe
                ? `${fixed(size.widthMm, 0)} × ${fixed(size.heightMm, 0)} mm, ${wouldBe[0]} × ${wouldBe[1]} pixels${tooLarge ? ': too many' : ''}`
                : ''}
          </span>
          <Button onClick={() => onChoose(null)}>Leave it</Button>
          <Button strong disabled={!can} onClick={() => onChoose({ pages: [...chosen].sort((a, b) => a - b), perMm })}>
            {chosen.length > 1 ? `Bring in ${chosen.length} pages` : 'Bring in the page'}
          </Button>
        </div>
      </div>
    </Modal>
  );
}

function PageThumb({ page, chosen, onToggle }: { page: number; chosen: boolean; onToggle(): void }) {
  const ref = useRef<HTMLCanvasElement>(null);
  const [state, setState] = useState<'drawing' | 'drawn' | 'broken'>('drawing');
  useEffect(() => {
    const stop = new AbortController();
    pages
      .call((w) => w.thumb(page, THUMB_PX), stop.signal)
      .then((bitmap) => {
        const canvas = ref.current;
        if (!bitmap || !canvas) throw new Error('no page');
        canvas.width = bitmap.width;
        canvas.height = bitmap.height;
        canvas.getContext('bitmaprenderer')?.transferFromImageBitmap(bitmap);
        setState('drawn');
      })
      .catch(() => {
        if (!stop.signal.aborted) setState('broken');
      });
    return () => stop.abort();
  }, [page]);
  return (
    <button
      type="button"
      aria-pressed={chosen}
      aria-label={`Page ${page}`}
      onClick={onToggle}
      className={`flex min-h-0 min-w-0 cursor-pointer flex-col items-center rounded border-2 bg-deeper p-2 ${chosen ? 'border-rust' : 'border-transparent hover:border-ink3'}`}
    >
      <canvas ref={ref} className="min-h-0 max-w-full grow object-contain" data-drawn={state === 'drawn'} />
      <span className="figure mt-1 text-[12.5px]">{state === 'broken' ? `${page}: damaged` : page}</span>
    </button>
  );
}
