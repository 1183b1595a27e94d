import { invertMap } from '@steady-moth/core/geometry';
import type { JobDocument, Picture } from '@steady-moth/core/job';
import { fixed } from '@steady-moth/core/units';
import { useQuery } from '@tanstack/react-query';
import { pixels } from '../../compute';
import type { DifferenceBox } from '../../compute/pixels.worker';
import { boardMapper, rectOutline } from '../../frames/boardMap';
import { fitView } from '../../frames/view';
import { Act } from '../../kit';
import { useIsHeld } from '../../session/pixelsStore';
import { useSession } from '../../session/sessionStore';
import { useMmPerPx, usePictureFrame } from '../../session/useBoardFrame';

/** Kept free round a place that is shown, px of the screen. */
const MARGIN_PX = 120;

const WORDS: Record<DifferenceBox['kind'], string> = {
  come: 'only now',
  gone: 'only before',
  changed: 'changed',
};

/** Each place where a picture differs from the one whose place it took, with its size, to be looked at one by one. */
export function Differences({ job, picture }: { job: JobDocument; picture: Picture }) {
  const { before } = picture;
  const frame = usePictureFrame(picture);
  const mmPerPx = useMmPerPx(job, picture);
  const held = [useIsHeld(picture.blob), useIsHeld(before?.blob ?? picture.blob)].every((h) => h);
  const back = before && invertMap(before.onto);
  const { data } = useQuery({
    queryKey: ['differences', picture.blob, before?.blob, before?.onto],
    queryFn: ({ signal }) =>
      pixels.call((w) => w.differences(picture.blob, { blob: before?.blob ?? '', back: back ?? [] }), signal),
    enabled: held && back !== null,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 10_000,
  });
  if (!data) return <p>Looking for the places …</p>;
  if (data.length === 0) return <p>No place differs by more than its edges.</p>;
  const show = (box: DifferenceBox) => {
    const { view, setView } = useSession.getState();
    if (view) setView(fitView(rectOutline(boardMapper(frame), box), view.width, view.height, MARGIN_PX));
  };
  const size = (px: number) =>
    mmPerPx === null
      ? `${Math.round(px)}`
      : fixed((px * mmPerPx) / (job.unit === 'in' ? 25.4 : 1), job.unit === 'in' ? 2 : 1);
  return (
    <ol aria-label="Places that differ" className="flex flex-col gap-1">
      {data.map((box, k) => (
        <li key={`${box.leftPx} ${box.topPx}`} className="flex items-baseline justify-between gap-3">
          <span>
            {k + 1}, {WORDS[box.kind]}:{' '}
            <span className="figure">
              {size(box.widthPx)} × {size(box.heightPx)} {mmPerPx === null ? 'px' : job.unit}
            </span>
          </span>
          <Act aria-label={`Show place ${k + 1}`} onClick={() => show(box)}>
            Show me
          </Act>
        </li>
      ))}
    </ol>
  );
}
