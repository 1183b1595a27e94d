import type { Tones } from '@steady-moth/core/job';
import { fixed } from '@steady-moth/core/units';
import { useEffect, useState } from 'react';
import { Board, type BoardTool } from '../board/Board';
import { StepLayout, type StepProps } from '../frame/StepLayout';
import { SlipLine } from '../kit';
import { usePictureFace } from '../store/useTruing';
import { Judged } from './Judged';
import { Prepare } from './Prepare';

/** Nothing is set or moved here: the picture is looked at. */
const LOOK: BoardTool = { wish: null, targets: () => [], grab: () => false, hover() {}, place() {}, drop() {} };

export function PictureStep({ job, picture, ready }: StepProps) {
  const { facts } = picture;
  const face = usePictureFace(picture);
  const [tried, setTried] = useState<Tones | null>(null);
  // The sliders tell their last move after its end as well: what was tried is over once the picture has changed.
  // biome-ignore lint/correctness/useExhaustiveDependencies: on a change of the picture's own
  useEffect(() => setTried(null), [picture.preparation.tones]);
  return (
    <StepLayout
      title="Picture"
      lead="As it came from the camera; its pixels never change."
      unit={job.unit}
      isTrue={false}
      pockets={[]}
      board={
        <Board
          picture={picture}
          face={face}
          ready={ready}
          unit={job.unit}
          tool={LOOK}
          opacity={1}
          tones={tried ?? undefined}
        >
          {() => null}
        </Board>
      }
      slip={
        <ol>
          <SlipLine
            title="File"
            figure={<span className="inline-block max-w-48 truncate align-bottom">{picture.fileName}</span>}
          />
          <SlipLine title="Size" figure={<span className="figure">{`${facts.widthPx} × ${facts.heightPx}`}</span>}>
            {fixed((facts.widthPx * facts.heightPx) / 1e6, 1)} megapixels, shown upright
          </SlipLine>
          <SlipLine
            title="Lens"
            figure={
              <span className="figure">{facts.focal35Mm ? `${fixed(facts.focal35Mm, 0)} mm` : 'not stated'}</span>
            }
          >
            {facts.focal35Mm
              ? `of a 35 mm camera${facts.focalMm ? `; ${fixed(facts.focalMm, 1)} mm in truth` : ''}. It is believed to 4 %.`
              : 'The file does not say, so how far the camera stood is only known from the yardsticks; a second known length across helps.'}
          </SlipLine>
          <Prepare picture={picture} ready={ready} tried={tried} setTried={setTried} />
          <Judged picture={picture} ready={ready} />
          {facts.cropped && (
            <SlipLine title="Cropped or zoomed">
              The middle of this picture may not be the middle of the lens; that is allowed for.
            </SlipLine>
          )}
          <SlipLine title="For the next shot">
            Hold the camera flat over the part, stand back and zoom in. Lay the ruler beside it, level with its face.
            Light from the side shows edges; none of them may be cut off by the frame.
          </SlipLine>
        </ol>
      }
    />
  );
}
