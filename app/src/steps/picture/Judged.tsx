import type { JobDocument, Picture } from '@steady-moth/core/job';
import { fixed } from '@steady-moth/core/units';
import { useQuery } from '@tanstack/react-query';
import { pixels } from '../../compute';
import { SlipLine } from '../../kit';
import { useIsHeld } from '../../session/pixelsStore';
import { useMmPerPx } from '../../session/useBoardFrame';
import { clippingWords, contrastWords, resolutionWords, sharpnessWords } from './words';

/** Is the picture good enough? Each figure with a sentence of advice. */
export function Judged({ job, picture }: { job: JobDocument; picture: Picture }) {
  const held = useIsHeld(picture.blob);
  const { crop } = picture.preparation;
  const { data } = useQuery({
    queryKey: ['judge', picture.blob, crop],
    queryFn: ({ signal }) => pixels.call((w) => w.judge(picture.blob, crop), signal),
    enabled: held,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const mmPerPx = useMmPerPx(job, picture);
  return (
    <>
      {data && (
        <>
          <SlipLine
            title="Sharpness"
            figure={<span className="figure">{data.blurPx === null ? '—' : `${fixed(data.blurPx, 1)} px`}</span>}
          >
            {sharpnessWords(data, picture.kind)}
          </SlipLine>
          {picture.kind !== 'drawing' && (
            <>
              <SlipLine title="Contrast" figure={<span className="figure">{fixed(100 * data.contrast, 0)} %</span>}>
                {contrastWords(data, picture.kind)}
              </SlipLine>
              <SlipLine
                title="Clipped"
                figure={<span className="figure">{fixed(100 * Math.max(data.white, data.black), 1)} %</span>}
              >
                {clippingWords(data, picture.kind)}
              </SlipLine>
            </>
          )}
        </>
      )}
      <SlipLine
        title="Resolution"
        figure={<span className="figure">{mmPerPx ? `${fixed(1 / mmPerPx, 1)} px/mm` : '—'}</span>}
      >
        {resolutionWords(mmPerPx, data?.blurPx ?? null, picture.kind)}
      </SlipLine>
    </>
  );
}
