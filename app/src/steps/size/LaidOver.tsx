import { pathData } from '@steady-moth/core/geometry';
import type { JobDocument } from '@steady-moth/core/job';
import { useMemo } from 'react';
import { Cased } from '../../board/marks';
import type { BoardFrame } from '../../frames/boardMap';
import { onBoard } from '../../frames/place';
import { transformOf, type View } from '../../frames/view';
import { useSize } from './sizeStore';
import { asSeen, formsOf, inVariant } from './variantForms';

/** What is laid over the part to be compared with it: as it was seen, or as another variant has it. */
export function LaidOver({
  job,
  frames,
  view,
}: {
  job: JobDocument;
  frames: ReadonlyMap<string, BoardFrame>;
  view: View;
}) {
  const laidOver = useSize((s) => s.laidOver);
  const data = useMemo(() => {
    if (laidOver === null) return '';
    const part = laidOver === 'seen' ? asSeen(job.part) : inVariant(job.part, laidOver.variant);
    return formsOf(part, frames)
      .map((form) => pathData(form, onBoard))
      .join(' ');
  }, [laidOver, job.part, frames]);
  if (!data) return null;
  return (
    <g data-testid="laid-over">
      <Cased d={data} transform={transformOf(view)} dash="7 3 2 3" width={1.4} colour="var(--verdigris)" />
    </g>
  );
}
