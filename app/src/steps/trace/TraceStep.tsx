import { boxAround } from '@steady-moth/core/geometry';
import { setOpacity } from '@steady-moth/core/job';
import {
  BoxSelect,
  Circle,
  Diameter,
  MoveDiagonal,
  Plus,
  RectangleHorizontal,
  Scissors,
  Slash,
  Spline,
  Tangent,
} from 'lucide-react';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Board } from '../../board/Board';
import { useJoinedSources } from '../../board/useJoinedSources';
import { useLayers } from '../../board/useLayers';
import { boardMapper } from '../../frames/boardMap';
import { isPathChosen } from '../../part/chosen';
import { PartCanvas } from '../../part/PartCanvas';
import { inHand, PartOverlay } from '../../part/PartOverlay';
import { NO_PREVIEW } from '../../part/preview';
import { type Drawn, NOTHING_DRAWN, useDrawn, useShown } from '../../part/useDrawn';
import { type Tool, useBench } from '../../session/benchStore';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { useReadout } from '../../session/readoutStore';
import { useBoardFace, useBoardFaces } from '../../session/useBoardFace';
import type { StepProps } from '../../step/description';
import { StepLayout } from '../../step/StepLayout';
import type { Pocket } from '../../step/ToolRoll';
import { WorkedOn } from '../../step/WorkedOn';
import { useTool } from '../../tool/useTool';
import { traceQuestions } from './questions';
import { TraceSlip } from './slip/TraceSlip';
import { traceToolOf } from './tools';
import type { TraceContext } from './tools/context';
import { useTrace } from './traceStore';
import { useClipboard } from './useClipboard';
import { useDeviation } from './useDeviation';
import { useKept } from './useKept';
import { useMeasureTool } from './useMeasureTool';
import { useTraceKeys } from './useTraceKeys';

const POCKETS: readonly Pocket[] = [
  {
    tool: 'line',
    word: 'Line',
    hint: 'Draw a path of lines; press its first point to close it, Enter to end it',
    icon: <MoveDiagonal size={20} />,
    at: 0,
  },
  {
    tool: 'arc',
    word: 'Arc',
    hint: 'An arc through one point to the next; or drag the middle of a piece into an arc',
    icon: <Tangent size={20} />,
    at: 1,
  },
  {
    tool: 'curve',
    word: 'Curve',
    hint: 'A curve through one point to the next; or drag the middle of a piece into a curve',
    icon: <Spline size={20} />,
    at: 2,
  },
  {
    tool: 'circle',
    word: 'Circle',
    hint: 'Drag from the middle of a hole to its rim, or type its diameter',
    icon: <Circle size={20} />,
    at: 3,
  },
  { tool: 'point', word: 'Point', hint: 'Put a point into a piece', icon: <Plus size={20} />, at: 4 },
  { tool: 'measure', word: 'Measure', hint: 'Pick two points to measure between', icon: <Diameter size={20} />, at: 5 },
  {
    tool: 'shape',
    word: 'Shape',
    hint: 'A rectangle, slot, polygon, or a circle by its rim; press its places, or type its sizes',
    icon: <RectangleHorizontal size={20} />,
    at: 6,
  },
  {
    tool: 'trim',
    word: 'Trim',
    hint: 'Press what shall go, up to the next crossing; a piece that nothing crosses is drawn on to what lies ahead',
    icon: <Scissors size={20} />,
    at: 7,
  },
  {
    tool: 'choose',
    word: 'Choose',
    hint: 'Drag a box round what you want to change; Shift adds',
    icon: <BoxSelect size={20} />,
    at: 8,
  },
  {
    tool: 'guide',
    word: 'Guide',
    hint: 'A construction line: through two places, parallel to a line, or the middle between two',
    icon: <Slash size={20} />,
    at: 9,
  },
];

/** What the next piece of a path is, by the tool in hand and what was chosen for it. */
function pieceOf(
  name: Tool,
  { curveThrough, tangent }: { curveThrough: boolean; tangent: boolean },
): TraceContext['piece'] {
  if (name === 'arc') return 'arc';
  if (name === 'curve') return curveThrough ? 'spline' : 'curve';
  return tangent ? 'tangent' : 'line';
}

export function TraceStep({ job, picture }: StepProps) {
  const { face, settled, isComing } = useBoardFace(job, picture);
  const faces = useBoardFaces(job, picture, face);
  const [dim, setDim] = useState<number | null>(null);
  const tool = useBench((s) => s.tool);
  const selection = useBench((s) => s.selection);
  const apply = useJob((s) => s.apply);
  // The slider tells its last move after its end as well: what was tried is over once the picture has changed.
  // biome-ignore lint/correctness/useExhaustiveDependencies: on a change of the picture's own
  useEffect(() => setDim(null), [picture.opacity]);
  const drawn = useRef<Drawn | null>(null);
  const isTrue = face.kind === 'true';
  const inHandNow = useTool({
    tool: traceToolOf(tool),
    nothing: NO_PREVIEW,
    unit: job.unit,
    perform: () => {},
    questions: traceQuestions(picture, face),
    // Presses may follow one another faster than the screen is drawn: what the one before changed must count already.
    context: (): TraceContext => {
      const { selection: chosen, tool: name, view, freeHand } = useBench.getState();
      const now = useTrace.getState();
      return {
        job: useJob.getState().state?.job ?? job,
        picture,
        drawn: drawn.current ?? NOTHING_DRAWN,
        mapper: boardMapper(face),
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
  const all = useDrawn(job.part, faces, preview.points);
  const shown = useShown(all, job.part.layers);
  drawn.current = shown;
  const hands = useMemo(() => inHand(shown.paths, selection, preview), [shown.paths, selection, preview]);
  const live = useKept(hands.live);
  const painted = useKept(hands.painted);
  useTraceKeys({ job, drawn: all, faces, isGrowing: preview.growing !== null, finish: inHandNow.finish });
  const setting = useMemo(
    () => ({ job, picture, drawn: all, mapper: boardMapper(face), newId }),
    [job, picture, all, face],
  );
  useClipboard(setting, isTrue);
  const deviation = useDeviation(picture, setting.mapper, all.paths);
  const through = useTrace((s) => s.seeThrough);
  const chain = useTrace((s) => s.chain);
  const measured = useMeasureTool(job, picture, isTrue, preview.measure);
  const also = useJoinedSources(job, picture, faces);
  const opacity = dim ?? picture.opacity;
  const layers = useLayers(
    job,
    picture,
    faces,
    useCallback((p) => (p.id === picture.id ? opacity : p.opacity), [picture.id, opacity]),
    true,
  );
  return (
    <StepLayout
      title="Trace"
      lead="Trace what will be cut or marked."
      unit={job.unit}
      isTrue={isTrue}
      pockets={POCKETS}
      board={
        <Board
          picture={picture}
          face={face}
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
      }
      slip={
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
      }
    />
  );
}
