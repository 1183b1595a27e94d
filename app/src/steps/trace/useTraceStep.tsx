import { boxAround } from '@steady-moth/core/geometry';
import { setOpacity } from '@steady-moth/core/job';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Board } from '../../board/Board';
import { useJoinedSources } from '../../board/useJoinedSources';
import { useLayers } from '../../board/useLayers';
import { boardMapper } from '../../frames/boardMap';
import { isPathChosen, itemsOf } from '../../part/chosen';
import { PartCanvas } from '../../part/PartCanvas';
import { inHand, PartOverlay } from '../../part/PartOverlay';
import { NO_PREVIEW } from '../../part/preview';
import { type Drawn, NOTHING_DRAWN, useDrawn, useShown } from '../../part/useDrawn';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { useReadout } from '../../session/readoutStore';
import { type Tool, useSession } from '../../session/sessionStore';
import { useBoardFrame, useBoardFrames } from '../../session/useBoardFrame';
import type { StepParts, StepProps } from '../../step/description';
import { WorkedOn } from '../../step/WorkedOn';
import { useTool } from '../../tool/useTool';
import { type Setting as KeySetting, onTraceKey, useSeenAgain } from './keys';
import { traceQuestions } from './questions';
import { settleChosen } from './settleOnEdges';
import { TraceSlip } from './slip/TraceSlip';
import { traceToolOf } from './tools';
import type { TraceContext } from './tools/context';
import { useTrace } from './traceStore';
import { useClipboard } from './useClipboard';
import { useDeviation } from './useDeviation';
import { useKept } from './useKept';
import { useMeasureTool } from './useMeasureTool';

/** What the next piece of a path is, by the tool in hand and what was chosen for it. */
function pieceOf(
  name: Tool,
  { curveThrough, tangent }: { curveThrough: boolean; tangent: boolean },
): TraceContext['piece'] {
  if (name === 'arc') return 'arc';
  if (name === 'curve') return curveThrough ? 'spline' : 'curve';
  return tangent ? 'tangent' : 'line';
}

export function useTraceStep({ job, picture }: StepProps): StepParts {
  const { frame, settled, isComing } = useBoardFrame(job, picture);
  const frames = useBoardFrames(job, picture, frame);
  const [dim, setDim] = useState<number | null>(null);
  const tool = useSession((s) => s.tool);
  const selection = useSession((s) => s.selection);
  const apply = useJob((s) => s.apply);
  // The slider tells its last move after its end as well: what was tried is over once the picture has changed.
  // biome-ignore lint/correctness/useExhaustiveDependencies: on a change of the picture's own
  useEffect(() => setDim(null), [picture.opacity]);
  const drawn = useRef<Drawn | null>(null);
  const isTrue = frame.kind === 'true';
  const inHandNow = useTool({
    tool: traceToolOf(tool),
    nothing: NO_PREVIEW,
    unit: job.unit,
    perform: () => {},
    questions: traceQuestions(picture, frame),
    // Presses may follow one another faster than the screen is drawn: what the one before changed must count already.
    context: (): TraceContext => {
      const { selection: chosen, tool: name, view, freeHand } = useSession.getState();
      const now = useTrace.getState();
      return {
        job: useJob.getState().state?.job ?? job,
        picture,
        drawn: drawn.current ?? NOTHING_DRAWN,
        mapper: boardMapper(frame),
        isTrue,
        isFreeHand: freeHand,
        selection: chosen,
        piece: pieceOf(name, now),
        shape: now.shape,
        corners: now.corners,
        guide: now.guide,
        chain: now.chain,
        boxTouches: now.boxTouches,
        snapOff: now.snapOff,
        scale: view?.scale ?? 1,
        angle: useReadout.getState().reading.angle,
        newId,
      };
    },
  });
  const { preview } = inHandNow;
  const all = useDrawn(job.part, frames, preview.points);
  const shown = useShown(all, job.part.layers);
  drawn.current = shown;
  const hands = useMemo(() => inHand(shown.paths, selection, preview), [shown.paths, selection, preview]);
  const live = useKept(hands.live);
  const painted = useKept(hands.painted);
  const setting = useMemo(
    () => ({ job, picture, drawn: all, mapper: boardMapper(frame), newId }),
    [job, picture, all, frame],
  );
  useClipboard(setting, isTrue);
  // A key that waits for the presses before it goes by what is then.
  const keyed = useRef<KeySetting>(null!);
  keyed.current = {
    job,
    drawn: all,
    frames,
    isGrowing: preview.growing !== null,
    finish: inHandNow.finish,
    settle: () => void (isTrue && settleChosen(itemsOf(useSession.getState().selection), setting, frame)),
  };
  useSeenAgain();
  const deviation = useDeviation(picture, setting.mapper, all.paths);
  const through = useTrace((s) => s.seeThrough);
  const chain = useTrace((s) => s.chain);
  const measured = useMeasureTool(job, picture, isTrue, preview.measure);
  const also = useJoinedSources(job, picture, frames);
  const opacity = dim ?? picture.opacity;
  const layers = useLayers(
    job,
    picture,
    frames,
    useCallback((p) => (p.id === picture.id ? opacity : p.opacity), [picture.id, opacity]),
    true,
  );
  return {
    isTrue,
    onKey: (event) => onTraceKey(event, keyed),
    board: (
      <Board
        picture={picture}
        frame={frame}
        layers={layers}
        also={also}
        settled={settled}
        unit={job.unit}
        tool={inHandNow.board}
        partBox={all.paths.length > 0 ? () => boxAround(all.paths.flatMap((d) => d.bounds ?? [])) : undefined}
        under={(view) => !through && painted.length > 0 && <PartCanvas drawn={painted} view={view} />}
      >
        {(drawing) =>
          !through && (
            <PartOverlay
              {...drawing}
              job={job}
              drawn={all}
              live={live}
              preview={preview}
              selection={selection}
              isTrue={isTrue}
              unit={job.unit}
              measured={measured}
              measuresOn={chain}
              deviation={deviation.path !== null && isPathChosen(selection, deviation.path) ? deviation.result : null}
            />
          )
        }
      </Board>
    ),
    slip: (
      <>
        <WorkedOn job={job} picture={picture} />
        <TraceSlip
          job={job}
          drawn={all}
          isTrue={isTrue}
          isComing={isComing}
          setting={isTrue ? setting : null}
          deviation={deviation}
          growing={preview.growing}
          opacity={opacity}
          onDim={setDim}
          onDimmed={(value) => {
            setDim(null);
            apply(setOpacity(picture.id, value));
          }}
        />
      </>
    ),
  };
}
