import type { PickRecord } from '@steady-moth/core/job';
import {
  Circle,
  Combine,
  Crosshair,
  File,
  Grid3x3,
  MoveHorizontal,
  MoveRight,
  Ruler,
  Scale,
  Square,
} from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { Board } from '../../board/Board';
import { plainLayer } from '../../board/PictureLayer';
import { useBench } from '../../session/benchStore';
import { useGroup } from '../../session/group';
import { useBoardFace } from '../../session/useBoardFace';
import { useCertainty } from '../../session/useFigures';
import { StepLayout, type StepProps } from '../../step/StepLayout';
import type { Pocket } from '../../step/ToolRoll';
import { WorkedOn } from '../../step/WorkedOn';
import { FoundForm } from './found/FoundForm';
import { PendingForm } from './PendingForm';
import { commonPicks, movedSilhouette, type PickDraft } from './picks';
import { TrueOverlay } from './TrueOverlay';
import { TrueSlip } from './TrueSlip';
import { useNudgePick } from './useNudgePick';
import { useTrueTool } from './useTrueTool';

const POCKETS: readonly Pocket[] = [
  {
    tool: 'readings',
    word: 'Readings',
    hint: 'Pick two readings on the ruler, or both ends of anything of known length',
    icon: <MoveHorizontal size={20} />,
    at: 0,
  },
  { tool: 'ruler', word: 'Ruler', hint: 'One click on a ruler counts its strokes', icon: <Ruler size={20} />, at: 1 },
  {
    tool: 'disc',
    word: 'Coin',
    hint: 'One click inside a coin or disc finds its rim',
    icon: <Circle size={20} />,
    at: 2,
  },
  {
    tool: 'sheet',
    word: 'Paper',
    hint: 'One click on paper or a card finds its edges',
    icon: <File size={20} />,
    at: 3,
  },
  { tool: 'grid', word: 'Grid', hint: 'One click on a grid finds its crossings', icon: <Grid3x3 size={20} />, at: 4 },
  {
    tool: 'lines',
    word: 'Square',
    hint: 'Two points on each of two lines that are square or parallel',
    icon: <Square size={20} />,
    at: 5,
  },
  {
    tool: 'direction',
    word: 'Direction',
    hint: 'Pick two points on a line that runs along X or Y',
    icon: <MoveRight size={20} />,
    at: 6,
  },
  { tool: 'zero', word: 'Zero', hint: 'Pick where zero is', icon: <Crosshair size={20} />, at: 7 },
  {
    tool: 'spot',
    word: 'Spot check',
    hint: 'Pick two points and type what the caliper says',
    icon: <Scale size={20} />,
    at: 8,
  },
  {
    tool: 'common',
    word: 'Common',
    hint: 'Pick a place of the part here, then the same one in another picture',
    icon: <Combine size={20} />,
    at: 9,
  },
];

/** Where there is no other picture to share a point with. */
const POCKETS_ALONE = POCKETS.filter((p) => p.tool !== 'common');

export function TrueStep({ job, picture }: StepProps) {
  const [draft, setDraft] = useState<PickDraft | null>(null);
  const [first, setFirst] = useState<PickRecord | null>(null);
  const pending = useBench((s) => s.pending);
  const tool = useBench((s) => s.tool);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another tool, or a figure that waits, ends what was begun
  useEffect(() => setFirst(null), [tool, pending]);
  const seen = useMemo(() => withDraft(picture, draft), [picture, draft]);
  const { face, fault, modelScale } = useBoardFace(job, seen);
  const group = useGroup(job, picture);
  const found = useBench((s) => s.found);
  const certainty = useCertainty(job, picture);
  // All of the picture, whatever of it is cropped: the ruler often lies beside what shall be shown.
  const layers = useMemo(() => [{ ...plainLayer(picture, face, 1), clip: null }], [picture, face]);
  const board = useTrueTool({ job, picture, face, first, setFirst, setDraft });
  useNudgePick(job, picture, face);
  return (
    <StepLayout
      title="True"
      lead="What size do you already know?"
      unit={job.unit}
      isTrue={face.kind === 'true'}
      pockets={job.pictures.length > 1 ? POCKETS : POCKETS_ALONE}
      board={
        <Board
          picture={picture}
          face={face}
          layers={layers}
          staysInPlace={tool === 'common' && group !== null && face.kind === 'true'}
          unit={job.unit}
          tool={board}
        >
          {(drawing) => (
            <TrueOverlay
              {...drawing}
              isTrue={face.kind === 'true'}
              picture={seen}
              common={commonPicks(job, picture)}
              draft={draft}
              leads={group === null || group.pictures[0].id === picture.id}
              first={first}
              unit={job.unit}
              certainty={certainty.data ?? null}
            />
          )}
        </Board>
      }
      slip={
        <>
          <WorkedOn job={job} picture={picture} views={false} />
          {pending && (
            <PendingForm
              key={`${pending.from.uPx} ${pending.to.uPx}`}
              picture={picture}
              pending={pending}
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
      }
    />
  );
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
    if (y.kind === 'known-length') return span(y);
    if (y.kind === 'square-lines') return { ...y, lines: y.lines.map((l, k) => (k === draft.span ? span(l) : l)) };
    if (y.kind === 'equal-lengths') return { ...y, lengths: y.lengths.map((l, k) => (k === draft.span ? span(l) : l)) };
    return y;
  });
  const spotChecks = calibration.spotChecks.map((s) => (s.id === draft.id ? span(s) : s));
  const wanted = draft.id === 'wanted' && calibration.wanted ? span(calibration.wanted) : calibration.wanted;
  return { ...picture, calibration: { ...calibration, references, spotChecks, wanted } };
}
