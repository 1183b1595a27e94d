import { dropConditions } from '@steady-moth/core/job';
import { useEffect, useMemo, useRef } from 'react';
import { useLayers } from '../../board/useLayers';
import { boardMapper } from '../../frames/boardMap';
import { Notice } from '../../kit';
import { useBench } from '../../session/benchStore';
import { formulaOf } from '../../session/formulaOf';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { useBoardFace, useBoardFaces } from '../../session/useBoardFace';
import { StepLayout, type StepProps } from '../../step/StepLayout';
import { WorkedOn } from '../../step/WorkedOn';
import { useTool } from '../../tool/useTool';
import { PartBoard } from '../trace/PartBoard';
import { type Drawn, NOTHING_DRAWN, useDrawn } from '../trace/useDrawn';
import { FreeLine } from './FreeLine';
import { LaidOver } from './LaidOver';
import { Offers } from './Offers';
import { ParameterLines } from './ParameterLines';
import { ProposalLines } from './ProposalLines';
import { RelationLines } from './RelationLines';
import { SizeLines } from './SizeLines';
import { SizeOverlay } from './SizeOverlay';
import { chosenIn, type SketchState, useSketchState } from './sketchState';
import { NO_SIZE_PREVIEW, type SizeContext, takeTool } from './tools/takeTool';
import { VariantLines } from './VariantLines';

const shownWhole = (): number => 0.5;

/** From a measured trace to a parametric part: relations, sizes, names, variants. */
export function SizeStep({ job, picture }: StepProps) {
  const { face, settled } = useBoardFace(job, picture);
  const faces = useBoardFaces(job, picture, face);
  const selection = useBench((s) => s.selection);
  const condition = useBench((s) => s.condition);
  const layers = useLayers(job, picture, faces, shownWhole);
  const isTrue = face.kind === 'true';
  const latest = useRef<{ drawn: Drawn; state: SketchState | null }>({ drawn: NOTHING_DRAWN, state: null });
  const hand = useTool({
    tool: takeTool,
    nothing: NO_SIZE_PREVIEW,
    unit: job.unit,
    ask: async () => undefined as never,
    perform: ({ lookAt }) => useBench.getState().lookAt(lookAt),
    context: (): SizeContext => {
      const now = useBench.getState();
      const { state, drawn } = latest.current;
      return {
        job,
        drawn,
        // What was chosen a moment ago counts already.
        state: state && { ...state, chosen: chosenIn(state.sketch, now.selection) },
        mapper: boardMapper(face),
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
  const drawn = useDrawn(job.part, faces, preview.points);
  // While something is dragged what is told stays as it was: only where things lie follows the hand.
  const resting = useRef(drawn);
  if (!preview.points) resting.current = drawn;
  const atRest = useSketchState(job, resting.current, isTrue);
  const state = useMemo<SketchState | null>(
    () =>
      atRest && {
        ...atRest,
        place: (id) => {
          const p = drawn.placeOf(id);
          return p && { x: p.x, y: -p.y };
        },
      },
    [atRest, drawn],
  );
  latest.current = { drawn, state: atRest };
  useDropKey(atRest, condition);
  return (
    <StepLayout
      title="Size"
      lead="What is measured, and what you decide."
      unit={job.unit}
      isTrue={isTrue}
      pockets={[]}
      board={
        <PartBoard
          job={job}
          picture={picture}
          face={face}
          settled={settled}
          layers={layers}
          drawn={drawn}
          selection={selection}
          tool={hand.board}
        >
          {({ view }) => (
            <>
              {isTrue && <LaidOver job={job} faces={faces} view={view} />}
              {state && <SizeOverlay view={view} state={state} preview={preview} unit={job.unit} />}
            </>
          )}
        </PartBoard>
      }
      slip={
        <>
          <WorkedOn job={job} picture={picture} />
          {!isTrue && (
            <Notice tone="doubt">
              The picture is not true yet, so nothing has a size. What is typed here is kept.
            </Notice>
          )}
          {atRest && (
            <>
              <FreeLine state={atRest} unit={job.unit} />
              <Offers job={job} state={atRest} />
              <ProposalLines job={job} state={atRest} />
              <RelationLines state={atRest} />
            </>
          )}
          <ParameterLines job={job} />
          <SizeLines job={job} drawn={drawn.paths} faults={drawn.faults} state={atRest} />
          <VariantLines job={job} faces={faces} />
        </>
      }
    />
  );
}

/** Delete takes away the relation or size that is looked at. */
function useDropKey(state: SketchState | null, condition: string | null): void {
  useEffect(() => {
    if (!state || condition === null) return;
    const onKey = (e: KeyboardEvent) => {
      const isTyping = e.target instanceof HTMLInputElement || e.target instanceof HTMLTextAreaElement;
      if (isTyping || (e.key !== 'Delete' && e.key !== 'Backspace')) return;
      e.preventDefault();
      useJob.getState().apply(dropConditions(state.sketch.id, [condition]));
      useBench.getState().lookAt(null);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [state, condition]);
}
