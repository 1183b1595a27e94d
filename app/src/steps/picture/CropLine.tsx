import { cropPicture, type Picture, type Rect } from '@steady-moth/core/job';
import { wholeOf } from '../../frames/boardMap';
import { Act, Choice, SlipLine } from '../../kit';
import { useJob } from '../../session/jobStore';
import { useSession } from '../../session/sessionStore';
import type { Symmetry } from './tools/cropDrag';

const ASPECTS = [
  { value: 'free', text: 'free', ratio: null },
  { value: '1:1', text: '1 : 1', ratio: 1 },
  { value: '4:3', text: '4 : 3', ratio: 4 / 3 },
  { value: '3:2', text: '3 : 2', ratio: 1.5 },
  { value: 'sheet', text: '√2 : 1', ratio: Math.SQRT2 },
] as const;
export type Aspect = (typeof ASPECTS)[number]['value'];

/** Width over height, of a lying or of a standing crop as the picture itself lies or stands. */
export function ratioOf(aspect: Aspect, lying: boolean): number | null {
  const ratio = ASPECTS.find((a) => a.value === aspect)?.ratio ?? null;
  return ratio && !lying ? 1 / ratio : ratio;
}

const SYMMETRIES: readonly { value: Symmetry; text: string }[] = [
  { value: 'none', text: 'no' },
  { value: 'upright', text: 'upright line' },
  { value: 'level', text: 'level line' },
];

/** What of the picture is shown: dragged on it with the tool, or typed in pixels. */
export function CropLine({
  picture,
  aspect,
  onAspect,
  symmetry,
  onSymmetry,
}: {
  picture: Picture;
  aspect: Aspect;
  onAspect(aspect: Aspect): void;
  symmetry: Symmetry;
  onSymmetry(symmetry: Symmetry): void;
}) {
  const apply = useJob((s) => s.apply);
  const take = useSession((s) => s.take);
  const tool = useSession((s) => s.tool);
  const { crop } = picture.preparation;
  const { facts } = picture;
  const rect = crop ?? wholeOf(facts);
  const set = (change: Partial<Rect>) => {
    const next = within({ ...rect, ...change }, facts.widthPx, facts.heightPx);
    apply(cropPicture(picture.id, next));
  };
  return (
    <SlipLine
      id="line-crop"
      title="Crop"
      figure={
        <span className="figure">
          {crop ? `${Math.round(crop.widthPx)} × ${Math.round(crop.heightPx)}` : 'all of it'}
        </span>
      }
    >
      <span className="flex gap-4">
        <Act aria-pressed={tool === 'crop'} disabled={picture.locked} onClick={() => take('crop')}>
          {tool === 'crop' ? 'Done' : 'Crop it'}
        </Act>
        {crop && (
          <Act disabled={picture.locked} onClick={() => apply(cropPicture(picture.id, null))}>
            Show all of it
          </Act>
        )}
      </span>
      {tool === 'crop' && (
        <div className="mt-2 flex flex-col gap-2">
          <Choice label="Width to height" value={aspect} options={ASPECTS} onChange={onAspect} />
          <span className="flex items-center gap-2">
            Symmetric about{' '}
            <Choice label="Symmetric about a line" value={symmetry} options={SYMMETRIES} onChange={onSymmetry} />
          </span>
          <div className="grid grid-cols-4 gap-2">
            <Pixels label="Left" value={rect.leftPx} onSet={(leftPx) => set({ leftPx })} />
            <Pixels label="Top" value={rect.topPx} onSet={(topPx) => set({ topPx })} />
            <Pixels label="Width" value={rect.widthPx} onSet={(widthPx) => set({ widthPx })} />
            <Pixels label="Height" value={rect.heightPx} onSet={(heightPx) => set({ heightPx })} />
          </div>
          Drag a side, a corner, or {symmetry === 'none' ? 'all of it' : 'the line'}; True still shows all of the
          picture.
        </div>
      )}
    </SlipLine>
  );
}

const LEAST_PX = 8;

function within({ leftPx, topPx, widthPx, heightPx }: Rect, w: number, h: number): Rect {
  const left = Math.min(Math.max(0, leftPx), w - LEAST_PX);
  const top = Math.min(Math.max(0, topPx), h - LEAST_PX);
  return {
    leftPx: left,
    topPx: top,
    widthPx: Math.min(Math.max(LEAST_PX, widthPx), w - left),
    heightPx: Math.min(Math.max(LEAST_PX, heightPx), h - top),
  };
}

/** A number of pixels, given out when the field is left. */
function Pixels({ label, value, onSet }: { label: string; value: number; onSet(value: number): void }) {
  const accept = (text: string) => {
    const found = Math.round(Number(text));
    if (text.trim() && Number.isFinite(found) && found !== Math.round(value)) onSet(found);
  };
  return (
    <label className="flex flex-col text-[11.5px]">
      {label}, px
      <input
        key={value}
        type="number"
        defaultValue={Math.round(value)}
        onBlur={(e) => accept(e.currentTarget.value)}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        className="figure w-full rounded border border-line bg-sheet px-1 py-0.5 text-right text-[12.5px] text-ink"
      />
    </label>
  );
}
