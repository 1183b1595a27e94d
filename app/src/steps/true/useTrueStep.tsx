import { recordKindOf } from '@steady-moth/core/job';
import type { ReadDimension } from '@steady-moth/core/read';
import { useMemo, useRef } from 'react';
import { Board } from '../../board/Board';
import { plainLayer } from '../../board/PictureLayer';
import { type BoardFrame, boardMapper } from '../../frames/boardMap';
import { useGroup } from '../../session/group';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { isWaiting } from '../../session/questions';
import { useSession } from '../../session/sessionStore';
import { useBoardFrame, usePictureFrame } from '../../session/useBoardFrame';
import { useCertainty } from '../../session/useFigures';
import type { StepParts, StepProps } from '../../step/description';
import { WorkedOn } from '../../step/WorkedOn';
import { useTool } from '../../tool/useTool';
import { DimensionOffers } from './found/DimensionOffers';
import { FoundForm } from './found/FoundForm';
import { Offers } from './found/Offers';
import { onTrueKey } from './keys';
import { PendingForm } from './PendingForm';
import { commonPicks, movedSilhouette, type PickDraft } from './picks';
import { TRUE_TOOLS } from './pockets';
import { trueQuestions } from './questions';
import { TrueOverlay } from './TrueOverlay';
import { TrueSlip } from './TrueSlip';
import { trueToolOf } from './tools';
import { NO_PREVIEW, type TrueContext, type TrueEffect } from './tools/context';
import { type FoundRuler, useTrue } from './trueStore';
import { useCorrections, useDimensionsRead, useRulerFigures } from './useReadings';
import { type Search, useSearch } from './useSearch';

/** Where there is no other picture to share a point with. */
const TOOLS_ALONE = TRUE_TOOLS.filter((p) => p.tool !== 'common');

export function useTrueStep({ job, picture }: StepProps): StepParts {
  const pending = useTrue((s) => s.pending);
  const findFault = useTrue((s) => s.findFault);
  const tool = useSession((s) => s.tool);
  const datumBy = useTrue((s) => s.datumBy);
  /** The frame as it lay when the screen was drawn last: what is dragged makes it anew. */
  const drawnFrame = useRef<BoardFrame | null>(null);
  const own = usePictureFrame(picture);
  const hand = useTool({
    tool: trueToolOf(tool, datumBy),
    nothing: NO_PREVIEW,
    unit: job.unit,
    questions: trueQuestions(picture),
    perform,
    context: (): TrueContext => {
      const waiting = useTrue.getState();
      const lying = drawnFrame.current ?? own;
      const now = useJob.getState().state?.job ?? job;
      return {
        job: now,
        picture: now.pictures.find((p) => p.id === picture.id) ?? picture,
        mapper: boardMapper(lying),
        isTrue: lying.kind === 'true',
        name: useSession.getState().tool,
        datumBy: waiting.datumBy,
        acrossFirst: waiting.acrossFirst,
        common: waiting.common,
        commonWith: waiting.commonWith,
        laying: waiting.laying,
        isFinding: isWaiting(),
        newId,
      };
    },
  });
  const { draft, first } = hand.preview;
  const seen = useMemo(() => withDraft(picture, draft), [picture, draft]);
  const { frame, fault, modelScale } = useBoardFrame(job, seen);
  drawnFrame.current = frame;
  const group = useGroup(job, picture);
  const found = useTrue((s) => s.found);
  const certainty = useCertainty(job, picture);
  // The whole picture, not only the crop: the ruler often lies beside what shall be shown.
  const layers = useMemo(() => [{ ...plainLayer(picture, frame, 1), clip: null }], [picture, frame]);
  // Whoever has taken something up knows what to do next.
  const isIdle = !tool && !pending && !found;
  const search = useSearch(picture, frame.kind === 'true', isIdle);
  const dimensions = useDimensionsRead(picture, isIdle);
  // A page whose dimensions are read is no bench with a ruler on it.
  const reads = dimensions.state !== 'off' && isIdle && (dimensions.state === 'reading' || dimensions.read.length > 0);
  const offering = search.state !== 'off' && isIdle && !reads;
  const rulers = useMemo(
    () => (pending?.ruler ? [pending.ruler] : offering ? rulersOf(search.found) : NO_RULERS),
    [pending, offering, search.found],
  );
  const figures = useRulerFigures(picture, rulers);
  const said = (ruler: FoundRuler) => figures[rulers.indexOf(ruler)];
  const corrections = useCorrections(dimensions.read);
  return {
    isTrue: frame.kind === 'true',
    tools: job.pictures.length > 1 ? TRUE_TOOLS : TOOLS_ALONE,
    asked: pending ?? found ?? findFault,
    giveUp,
    onKey: (event) => onTrueKey(event, job, picture, frame),
    board: (
      <Board
        picture={picture}
        frame={frame}
        layers={layers}
        staysInPlace={tool === 'common' && group !== null && frame.kind === 'true'}
        unit={job.unit}
        tool={hand.board}
      >
        {(drawing) => (
          <TrueOverlay
            {...drawing}
            isTrue={frame.kind === 'true'}
            picture={seen}
            common={commonPicks(job, picture)}
            draft={draft}
            leads={group === null || group.pictures[0]!.id === picture.id}
            first={first}
            unit={job.unit}
            certainty={certainty.data ?? null}
            offers={offering ? search.found : NO_OFFERS}
            figures={figures.flatMap((f) => f?.figures ?? [])}
            dimensions={reads ? corrections.held : NO_DIMENSIONS}
          />
        )}
      </Board>
    ),
    slip: (
      <>
        <WorkedOn job={job} picture={picture} views={false} />
        {reads && (
          <DimensionOffers
            key={picture.id}
            picture={picture}
            dimensions={dimensions}
            held={corrections.held}
            onCorrect={corrections.correct}
            unit={job.unit}
          />
        )}
        {offering && <Offers picture={picture} search={search} said={said} unit={job.unit} />}
        {pending && (
          <PendingForm
            key={`${pending.from.uPx} ${pending.to.uPx}`}
            picture={picture}
            pending={pending}
            read={pending.ruler ? said(pending.ruler) : null}
            unit={job.unit}
          />
        )}
        {found && <FoundForm key={found.kind} picture={picture} pending={found} unit={job.unit} />}
        <TrueSlip
          job={job}
          picture={picture}
          unit={job.unit}
          certainty={certainty.data ?? null}
          waiting={certainty.isFetching}
          fault={fault}
          tool={tool}
          begun={first !== null}
          modelScale={modelScale}
        />
      </>
    ),
  };
}

const NO_OFFERS: Search['found'] = [];
const NO_RULERS: readonly FoundRuler[] = [];
const NO_DIMENSIONS: readonly ReadDimension[] = [];

const rulersOf = (found: Search['found']): readonly FoundRuler[] =>
  found.flatMap((thing) => (thing.kind === 'ruler' ? [thing.found] : []));

/** A length that waits for its figure is given up; false where none does. */
function giveUp(): boolean {
  const { pending, setPending } = useTrue.getState();
  if (pending) setPending(null);
  return pending !== null;
}

/** What a tool of True wants done beside a change of the job. */
function perform(effect: TrueEffect): void {
  const waiting = useTrue.getState();
  if (effect.kind === 'pending') waiting.setPending(effect.pending);
  else if (effect.kind === 'found') waiting.setFound(effect.found);
  else if (effect.kind === 'back') useSession.getState().choosePicture(effect.picture);
  else if (effect.kind === 'seek') waiting.seekCommon(effect.picture, effect.begun);
  else if (effect.sentence !== null || waiting.findFault) waiting.setFindFault(effect.sentence);
}

function withDraft(picture: StepProps['picture'], draft: PickDraft | null): StepProps['picture'] {
  if (!draft) return picture;
  const { calibration } = picture;
  if (draft.id === 'zero')
    return calibration.zero && 'pick' in calibration.zero
      ? { ...picture, calibration: { ...calibration, zero: { ...calibration.zero, pick: draft.pick } } }
      : picture;
  if (draft.id === 'axis')
    return calibration.axis && 'from' in calibration.axis
      ? { ...picture, calibration: { ...calibration, axis: { ...calibration.axis, [draft.end]: draft.pick } } }
      : picture;
  if (draft.id === 'turned')
    return calibration.turned
      ? {
          ...picture,
          calibration: {
            ...calibration,
            turned: movedSilhouette(calibration.turned, draft.end, draft.span, draft.pick),
          },
        }
      : picture;
  const span = <T extends object>(s: T): T => ({ ...s, [draft.end]: draft.pick });
  const references = calibration.references.map((y) => {
    if (y.id !== draft.id) return y;
    const moved = structuredClone(y);
    recordKindOf(moved).movePick(moved, draft.span, draft.end, draft.pick);
    // What was counted goes only once it is let go.
    return y.kind === 'known-length' ? { ...moved, graduations: y.graduations } : moved;
  }) as typeof calibration.references;
  const spotChecks = calibration.spotChecks.map((s) => (s.id === draft.id ? span(s) : s));
  const wanted = draft.id === 'wanted' && calibration.wanted ? span(calibration.wanted) : calibration.wanted;
  return { ...picture, calibration: { ...calibration, references, spotChecks, wanted } };
}
