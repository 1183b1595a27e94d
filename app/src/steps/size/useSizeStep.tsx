import { pathFinding } from '@steady-moth/core/findings';
import { dropConditions } from '@steady-moth/core/job';
import type { Offer } from '@steady-moth/core/sketch';
import { useEffect, useMemo, useRef } from 'react';
import { afterPresses } from '../../board/pressQueue';
import { useLayers } from '../../board/useLayers';
import { boardMapper } from '../../frames/boardMap';
import { Notice } from '../../kit';
import { PartBoard } from '../../part/PartBoard';
import { type Drawn, NOTHING_DRAWN, useDrawn } from '../../part/useDrawn';
import { formulaOf } from '../../session/formulaOf';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { useSession } from '../../session/sessionStore';
import { useBoardFrame, useBoardFrames } from '../../session/useBoardFrame';
import { useOffers } from '../../session/useFigures';
import type { StepParts, StepProps } from '../../step/description';
import { WorkedOn } from '../../step/WorkedOn';
import { useTool } from '../../tool/useTool';
import { FreeLine } from './FreeLine';
import { LaidOver } from './LaidOver';
import { Offers } from './Offers';
import { ParameterLines } from './ParameterLines';
import { ProposalLines } from './ProposalLines';
import { RelationLines } from './RelationLines';
import { SizeLines } from './SizeLines';
import { SizeOverlay } from './SizeOverlay';
import { SizeToolLine } from './SizeToolLine';
import { useSize } from './sizeStore';
import { chosenIn, type SketchState, useSketchState } from './sketchState';
import { NO_SIZE_PREVIEW, type SizeContext, sizeToolOf } from './tools';
import { VariantLines } from './VariantLines';

const shownWhole = (): number => 0.5;

/** From a measured trace to a parametric part: relations, sizes, names, variants. */
export function useSizeStep({ job, picture }: StepProps): StepParts {
  const { frame, settled, isComing } = useBoardFrame(job, picture);
  const frames = useBoardFrames(job, picture, frame);
  const selection = useSession((s) => s.selection);
  const layers = useLayers(job, picture, frames, shownWhole);
  const isTrue = frame.kind === 'true';
  const offersNow = useRef<readonly Offer[]>([]);
  const latest = useRef<{ drawn: Drawn; state: SketchState | null }>({ drawn: NOTHING_DRAWN, state: null });
  const name = useSession((s) => s.tool);
  const hand = useTool({
    tool: sizeToolOf(name),
    nothing: NO_SIZE_PREVIEW,
    unit: job.unit,
    questions: {},
    perform: ({ lookAt }) => useSession.getState().lookAt(lookAt),
    context: (): SizeContext => {
      const now = useSession.getState();
      const { state, drawn } = latest.current;
      return {
        job,
        drawn,
        // What was chosen a moment ago counts already.
        state: state && { ...state, chosen: chosenIn(state.sketch, now.selection) },
        mapper: boardMapper(frame),
        offers: offersNow.current,
        selection: now.selection,
        condition: now.condition,
        scale: now.view?.scale ?? 1,
        read: formulaOf(job.part),
        unit: job.unit,
        newId,
      };
    },
  });
  const { preview } = hand;
  const drawn = useDrawn(job.part, frames, preview.points);
  // While something is dragged what is told stays as it was: only where things lie follows the hand.
  const resting = useRef(drawn);
  if (!preview.points) resting.current = drawn;
  const atRest = useSketchState(job, resting.current, isTrue);
  const state = useMemo<SketchState | null>(
    () =>
      atRest && {
        ...atRest,
        place: drawn.placeOf,
      },
    [atRest, drawn],
  );
  latest.current = { drawn, state: atRest };
  const { data: offers } = useOffers(atRest?.sketch ?? null, atRest?.chosen ?? NOTHING_CHOSEN, atRest?.places ?? null);
  offersNow.current = offers ?? [];
  useEffect(() => {
    if (name !== 'compare') return;
    useSize.getState().layOver('seen');
    return () => useSize.getState().layOver(null);
  }, [name]);
  return {
    isTrue,
    onKey: (event) => onSizeKey(event, atRest, hand.finish),
    board: (
      <PartBoard
        job={job}
        picture={picture}
        frame={frame}
        settled={settled}
        layers={layers}
        drawn={drawn}
        selection={selection}
        tool={hand.board}
      >
        {({ view }) => (
          <>
            {isTrue && <LaidOver job={job} frames={frames} view={view} />}
            {state && <SizeOverlay view={view} state={state} preview={preview} unit={job.unit} />}
          </>
        )}
      </PartBoard>
    ),
    slip: (
      <>
        <WorkedOn job={job} picture={picture} />
        {!isTrue && !isComing && (
          <Notice tone="doubt">The picture is not true yet, so nothing has a size. What is typed here is kept.</Notice>
        )}
        {atRest && (
          <>
            <SizeToolLine job={job} state={atRest} tool={name} />
            <FreeLine state={atRest} unit={job.unit} />
            <Offers job={job} state={atRest} />
            <ProposalLines job={job} state={atRest} />
            <RelationLines state={atRest} />
          </>
        )}
        <ParameterLines job={job} />
        <SizeLines
          job={job}
          drawn={drawn.paths}
          findings={drawn.faults.map((f) => pathFinding(f, job.part))}
          state={atRest}
        />
        <VariantLines job={job} frames={frames} />
      </>
    ),
  };
}

const NOTHING_CHOSEN: readonly string[] = [];

/** Enter ends what was begun; Delete takes away the relation or size that is looked at. */
function onSizeKey({ key, target }: KeyboardEvent, state: SketchState | null, finish: () => void): boolean {
  const { tool, condition, lookAt } = useSession.getState();
  const isOnControl = target instanceof Element && target.closest('button, a') !== null;
  if (key === 'Enter' && tool !== null && !isOnControl) {
    afterPresses(finish);
    return true;
  }
  if (!state || condition === null || (key !== 'Delete' && key !== 'Backspace')) return false;
  useJob.getState().apply(dropConditions(state.sketch.id, [condition]));
  lookAt(null);
  return true;
}
