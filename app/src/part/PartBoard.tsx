import { boxAround } from '@steady-moth/core/geometry';
import type { JobDocument, Picture } from '@steady-moth/core/job';
import type { ReactNode } from 'react';
import { useMemo } from 'react';
import { Board, type Drawing } from '../board/Board';
import type { BoardTool } from '../board/boardTool';
import type { useLayers } from '../board/useLayers';
import type { BoardFrame } from '../frames/boardMap';
import type { Selection } from '../session/sessionStore';
import { PartCanvas } from './PartCanvas';
import { inHand, PartOverlay } from './PartOverlay';
import { NO_PREVIEW } from './preview';
import type { Drawn } from './useDrawn';

const NOTHING_MEASURED: readonly never[] = [];

/** The part on the board where it is looked at and not drawn. */
export function PartBoard({
  job,
  picture,
  frame,
  settled,
  layers,
  drawn,
  selection,
  tool,
  children,
}: {
  job: JobDocument;
  picture: Picture;
  frame: BoardFrame;
  settled: boolean;
  layers: ReturnType<typeof useLayers>;
  drawn: Drawn;
  selection: Selection;
  tool: BoardTool;
  /** What a step draws over the part. */
  children?: (drawing: Drawing) => ReactNode;
}) {
  const { live, painted } = useMemo(() => inHand(drawn.paths, selection, NO_PREVIEW), [drawn.paths, selection]);
  return (
    <Board
      picture={picture}
      frame={frame}
      layers={layers}
      settled={settled}
      unit={job.unit}
      tool={tool}
      partBox={drawn.paths.length > 0 ? () => boxAround(drawn.paths.flatMap((d) => d.bounds ?? [])) : undefined}
      under={(view) => painted.length > 0 && <PartCanvas drawn={painted} view={view} />}
    >
      {(drawing) => (
        <>
          <PartOverlay
            {...drawing}
            job={job}
            drawn={drawn}
            live={live}
            preview={NO_PREVIEW}
            selection={selection}
            isTrue={frame.kind === 'true'}
            unit={job.unit}
            measured={NOTHING_MEASURED}
            deviation={null}
            plain
          />
          {children?.(drawing)}
        </>
      )}
    </Board>
  );
}
