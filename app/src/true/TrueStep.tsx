import type { PickRecord } from '@steady-moth/core/job';
import { Crosshair, MoveRight, Ruler, Scale } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { Board } from '../board/Board';
import { plainLayer } from '../board/PictureLayer';
import { StepLayout, type StepProps } from '../frame/StepLayout';
import type { Pocket } from '../frame/ToolRoll';
import { WorkedOn } from '../frame/WorkedOn';
import { useBench } from '../store/benchStore';
import { useBoardFace, useCertainty } from '../store/useTruing';
import { PendingForm } from './PendingForm';
import type { PickDraft } from './picks';
import { TrueOverlay } from './TrueOverlay';
import { TrueSlip } from './TrueSlip';
import { useNudgePick } from './useNudgePick';
import { useTrueTool } from './useTrueTool';

const POCKETS: readonly Pocket[] = [
  {
    tool: 'readings',
    word: 'Readings',
    hint: 'Pick two readings on the ruler, or both ends of anything of known length',
    icon: <Ruler size={20} />,
    at: 0,
  },
  {
    tool: 'direction',
    word: 'Direction',
    hint: 'Pick two points on a line that runs along X or Y',
    icon: <MoveRight size={20} />,
    at: 1,
  },
  { tool: 'zero', word: 'Zero', hint: 'Pick where zero is', icon: <Crosshair size={20} />, at: 2 },
  {
    tool: 'spot',
    word: 'Spot check',
    hint: 'Pick two points and type what the caliper says',
    icon: <Scale size={20} />,
    at: 3,
  },
];

export function TrueStep({ job, picture }: StepProps) {
  const [draft, setDraft] = useState<PickDraft | null>(null);
  const [first, setFirst] = useState<PickRecord | null>(null);
  const pending = useBench((s) => s.pending);
  const tool = useBench((s) => s.tool);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another tool, or a figure that waits, ends what was begun
  useEffect(() => setFirst(null), [tool, pending]);
  const seen = useMemo(() => withDraft(picture, draft), [picture, draft]);
  const { face, fault } = useBoardFace(seen);
  const certainty = useCertainty(picture);
  // All of the picture, whatever of it is cropped: the ruler often lies beside what shall be shown.
  const layers = useMemo(() => [{ ...plainLayer(picture, face, 1), clip: null }], [picture, face]);
  const board = useTrueTool({ picture, face, first, setFirst, setDraft });
  useNudgePick(picture, face);
  return (
    <StepLayout
      title="True"
      lead="What is known in this picture?"
      unit={job.unit}
      isTrue={face.kind === 'true'}
      pockets={POCKETS}
      board={
        <Board picture={picture} face={face} layers={layers} unit={job.unit} tool={board}>
          {(drawing) => (
            <TrueOverlay {...drawing} picture={seen} first={first} unit={job.unit} certainty={certainty.data ?? null} />
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
          <TrueSlip
            picture={picture}
            unit={job.unit}
            certainty={certainty.data ?? null}
            waiting={certainty.isFetching}
            fault={fault}
            tool={tool}
            begun={first !== null}
          />
        </>
      }
    />
  );
}

function withDraft(picture: StepProps['picture'], draft: PickDraft | null): StepProps['picture'] {
  if (!draft) return picture;
  const { truing } = picture;
  if (draft.id === 'zero')
    return truing.zero && 'pick' in truing.zero
      ? { ...picture, truing: { ...truing, zero: { ...truing.zero, pick: draft.pick } } }
      : picture;
  if (draft.id === 'axis')
    return truing.axis && 'from' in truing.axis
      ? { ...picture, truing: { ...truing, axis: { ...truing.axis, [draft.end]: draft.pick } } }
      : picture;
  const swap = <T extends { id: string }>(list: T[]): T[] =>
    list.map((item) => (item.id === draft.id ? { ...item, [draft.end]: draft.pick } : item));
  return {
    ...picture,
    truing: { ...truing, yardsticks: swap(truing.yardsticks), spotChecks: swap(truing.spotChecks) },
  };
}
