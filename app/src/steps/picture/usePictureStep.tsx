import type { Clearing, Picture } from '@steady-moth/core/job';
import { useEffect, useMemo, useState } from 'react';
import { Board, type Drawing } from '../../board/Board';
import { PickMark } from '../../board/marks';
import { plainLayer } from '../../board/PictureLayer';
import { comparisonOf } from '../../board/useLayers';
import { AdviceCard } from '../../door/AdviceCard';
import { boardMapper, wholeOf } from '../../frames/boardMap';
import { toScreen } from '../../frames/view';
import { SlipLine } from '../../kit';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { useSession } from '../../session/sessionStore';
import { usePictureFrame } from '../../session/useBoardFrame';
import type { Pocket, StepParts, StepProps } from '../../step/description';
import { useTool } from '../../tool/useTool';
import { AboutFile } from './AboutFile';
import { BeforeLine } from './BeforeLine';
import { type Aspect, CropLine, ratioOf } from './CropLine';
import { Judged } from './Judged';
import { PictureList } from './PictureList';
import { PictureOverlay } from './PictureOverlay';
import { BackgroundLine, OpacityLine, TonesLine, type Tried, TurnLine } from './Prepare';
import { PICTURE_TOOLS } from './pockets';
import { colourQuestions } from './questions';
import { SwapForm } from './SwapForm';
import { boxOf } from './tools/boxes';
import type { CropRules, Symmetry } from './tools/cropDrag';
import { type PictureContext, pictureToolOf } from './tools/pictureTools';
import { type Swap, useSwap } from './useSwap';
import { ViewLines } from './ViewLines';

export function usePictureStep({ job, picture, onFiles, readOne }: StepProps): StepParts {
  const [tried, setTried] = useState<Tried>({});
  const [aspect, setAspect] = useState<Aspect>('free');
  const [symmetry, setSymmetry] = useState<Symmetry>('none');
  const [clearBy, setClearBy] = useState<Clearing['by']>(picture.preparation.clear?.by ?? 'region');
  const tool = useSession((s) => s.tool);
  const compare = useSession((s) => s.compare);
  const swap = useSwap(picture);
  // The sliders tell their last move after its end as well: what was tried is over once the picture has changed.
  // biome-ignore lint/correctness/useExhaustiveDependencies: on a change of the picture's own
  useEffect(() => setTried({}), [picture.preparation, picture.opacity]);
  // The tool that was taken out is explained on the slip: its line comes into sight.
  useEffect(() => {
    const line = tool === 'darkest' || tool === 'lightest' ? 'tones' : tool;
    if (line) document.getElementById(`line-${line}`)?.scrollIntoView({ block: 'center' });
  }, [tool]);
  const shown: Picture = swap.swap?.side === 'new' ? swap.swap.next : picture;
  const frame = usePictureFrame(shown);
  const rules = useMemo((): CropRules => {
    const within = boxOf(wholeOf(picture.facts), boardMapper(frame));
    const lying = within.right - within.left >= within.bottom - within.top;
    return { aspect: ratioOf(aspect, lying), symmetry, within };
  }, [picture.facts, frame, aspect, symmetry]);
  const hand = useTool({
    tool: pictureToolOf(tool),
    nothing: null,
    unit: job.unit,
    questions: colourQuestions(picture),
    perform: () => {},
    context: (): PictureContext => ({
      picture: useJob.getState().state?.job.pictures.find((p) => p.id === picture.id) ?? picture,
      mapper: boardMapper(frame),
      rules,
      name: useSession.getState().tool,
      clearBy,
      newId,
    }),
  });
  const draft = hand.preview;
  const layers = useMemo(() => {
    if (shown !== picture) return [plainLayer(shown, frame, 1)];
    const own = plainLayer(picture, frame, tried.opacity ?? picture.opacity);
    return [
      {
        ...own,
        clip: tool === 'crop' || swap.swap ? null : own.clip,
        tones: tried.tones ?? own.tones,
        clear: tried.clear ?? own.clear,
        compare: comparisonOf(picture, compare),
      },
    ];
  }, [shown, picture, frame, tried, tool, compare, swap.swap]);
  return {
    lead: swap.swap ? 'Where does the new one lie on the old?' : undefined,
    isTrue: false,
    tools: swap.swap || picture.locked ? NO_TOOLS : PICTURE_TOOLS,
    board: (
      <Board picture={shown} frame={frame} layers={layers} unit={job.unit} tool={swap.swap ? swap.tool : hand.board}>
        {(drawing) =>
          swap.swap ? (
            <CommonPoints {...drawing} swap={swap.swap} />
          ) : (
            <PictureOverlay {...drawing} picture={picture} draft={draft} symmetry={symmetry} />
          )
        }
      </Board>
    ),
    slip: swap.swap ? (
      <SwapForm handle={swap} />
    ) : (
      <>
        <PictureList pictures={job.pictures} chosen={picture.id} onFiles={onFiles} />
        {picture.locked && <p className="mb-2 text-ink2">This picture is locked: nothing of it changes.</p>}
        <ol>
          <AboutFile picture={picture} />
          <Judged job={job} picture={picture} />
          <TurnLine picture={picture} />
          <CropLine
            picture={picture}
            aspect={aspect}
            onAspect={setAspect}
            symmetry={symmetry}
            onSymmetry={setSymmetry}
          />
          <TonesLine picture={picture} tried={tried} setTried={setTried} />
          <BackgroundLine picture={picture} tried={tried} setTried={setTried} by={clearBy} onBy={setClearBy} />
          <OpacityLine picture={picture} tried={tried} setTried={setTried} />
          <ViewLines picture={picture} unit={job.unit} />
          <BeforeLine
            key={picture.id}
            job={job}
            picture={picture}
            onSwap={async (file) => {
              const arrived = await readOne(file);
              if (arrived) swap.begin(arrived);
            }}
          />
          {picture.kind === 'photo' && (
            <SlipLine title="For the next shot">
              <AdviceCard className="mt-2" />
            </SlipLine>
          )}
        </ol>
      </>
    ),
  };
}

const NO_TOOLS: readonly Pocket[] = [];

/** The points picked so far in the picture that is looked at. */
function CommonPoints({ view, mapper, swap }: Drawing & { swap: Swap }) {
  const picked = swap.pairs.map((pair) => pair[swap.side]);
  if (swap.first && swap.side === 'old') picked.push(swap.first);
  return picked.map((point, k) => {
    const place = mapper.toPlace(point);
    return (
      place && <PickMark key={k} at={toScreen(view, place)} colour="var(--verdigris)" label={`Common point ${k + 1}`} />
    );
  });
}
