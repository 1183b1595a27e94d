import { useMemo } from 'react';
import type { BoardTool } from '../../board/Board';
import { useLayers } from '../../board/useLayers';
import { Notice } from '../../kit';
import { useBench } from '../../session/benchStore';
import { useBoardFace, useBoardFaces } from '../../session/useBoardFace';
import { StepLayout, type StepProps } from '../../step/StepLayout';
import { WorkedOn } from '../../step/WorkedOn';
import { hitSegment } from '../trace/hit';
import { PartBoard } from '../trace/PartBoard';
import { useDrawn } from '../trace/useDrawn';
import { ParameterLines } from './ParameterLines';
import { SizeLines } from './SizeLines';
import { VariantLines } from './VariantLines';

const shownWhole = (): number => 0.5;
/** How near a press is to the path that it chooses, px of the screen. */
const REACH_PX = 12;

/** From a measured trace to a parametric part: named sizes, formulas, variants. */
export function SizeStep({ job, picture }: StepProps) {
  const { face, settled } = useBoardFace(job, picture);
  const faces = useBoardFaces(job, picture, face);
  const drawn = useDrawn(job.part, faces, null);
  const selection = useBench((s) => s.selection);
  const layers = useLayers(job, picture, faces, shownWhole);
  const isTrue = face.kind === 'true';
  const tool = useMemo<BoardTool>(
    () => ({
      wish: null,
      targets: () => [],
      grab(at, view) {
        const found = hitSegment(drawn, at, REACH_PX / view.scale);
        useBench.getState().select(found && { kind: 'path', path: found.path });
        return false;
      },
      hover() {},
      place() {},
      letGo: () => () => {},
    }),
    [drawn],
  );
  return (
    <StepLayout
      title="Size"
      lead="Which sizes have a name, and what they are in each variant."
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
          tool={tool}
        />
      }
      slip={
        <>
          <WorkedOn job={job} picture={picture} />
          {!isTrue && (
            <Notice tone="doubt">
              The picture is not true yet, so nothing has a size. What is typed here is kept.
            </Notice>
          )}
          <ParameterLines job={job} />
          <SizeLines job={job} drawn={drawn.paths} faults={drawn.faults} />
          <VariantLines job={job} />
        </>
      }
    />
  );
}
