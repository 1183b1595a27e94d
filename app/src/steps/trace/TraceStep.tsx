import { dropStub, setOpacity } from '@steady-moth/core/job';
import { Circle, Diameter, MoveDiagonal, Plus, Spline, Tangent } from 'lucide-react';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Board } from '../../board/Board';
import { useJoinedSources } from '../../board/useJoinedSources';
import { useLayers } from '../../board/useLayers';
import { boxAround } from '../../frames/view';
import { useBench } from '../../session/benchStore';
import { useJob } from '../../session/jobStore';
import { useBoardFace, useBoardFaces } from '../../session/useBoardFace';
import { StepLayout, type StepProps } from '../../step/StepLayout';
import type { Pocket } from '../../step/ToolRoll';
import { WorkedOn } from '../../step/WorkedOn';
import { TraceCanvas } from './TraceCanvas';
import { inHand, TraceOverlay } from './TraceOverlay';
import { TraceSlip } from './TraceSlip';
import { useForms, usePlacePoint } from './useForms';
import { useKept } from './useKept';
import { useMeasureTool } from './useMeasureTool';
import { useTraceKeys } from './useTraceKeys';
import { type Growing, NO_DRAFT, type TraceDraft, useTraceTool } from './useTraceTool';
import { useTypedLength } from './useTypedLength';

const POCKETS: readonly Pocket[] = [
  {
    tool: 'line',
    word: 'Line',
    hint: 'Draw a path of lines; press its first point to close it, Enter to end it',
    icon: <MoveDiagonal size={20} />,
    at: 0,
  },
  { tool: 'arc', word: 'Arc', hint: 'Drag the middle of a segment into an arc', icon: <Tangent size={20} />, at: 1 },
  {
    tool: 'curve',
    word: 'Curve',
    hint: 'Drag the middle of a segment into a curve',
    icon: <Spline size={20} />,
    at: 2,
  },
  {
    tool: 'circle',
    word: 'Circle',
    hint: 'Drag from the middle of a hole to its rim',
    icon: <Circle size={20} />,
    at: 3,
  },
  { tool: 'point', word: 'Point', hint: 'Put a point into a segment', icon: <Plus size={20} />, at: 4 },
  { tool: 'measure', word: 'Measure', hint: 'Pick two points to measure between', icon: <Diameter size={20} />, at: 5 },
];

export function TraceStep({ job, picture }: StepProps) {
  const { face, settled } = useBoardFace(job, picture);
  const faces = useBoardFaces(job, picture, face);
  const placePoint = usePlacePoint(faces);
  const [growing, setGrowing] = useState<Growing | null>(null);
  const [draft, setDraft] = useState<TraceDraft>(NO_DRAFT);
  const [dim, setDim] = useState<number | null>(null);
  const tool = useBench((s) => s.tool);
  const selection = useBench((s) => s.selection);
  const apply = useJob((s) => s.apply);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another tool ends what was begun
  useEffect(() => {
    setGrowing(null);
    setDraft(NO_DRAFT);
  }, [tool]);
  // A path that is left before its second point was none.
  const grown = useRef<string | null>(null);
  useEffect(() => {
    if (grown.current && grown.current !== growing?.run) apply(dropStub(grown.current));
    grown.current = growing?.run ?? null;
  }, [growing, apply]);
  // The slider tells its last move after its end as well: what was tried is over once the picture has changed.
  // biome-ignore lint/correctness/useExhaustiveDependencies: on a change of the picture's own
  useEffect(() => setDim(null), [picture.opacity]);
  const drawn = useForms(job.part, faces, draft.points);
  const hands = useMemo(() => inHand(drawn, selection, growing, draft), [drawn, selection, growing, draft]);
  const live = useKept(hands.live);
  const painted = useKept(hands.painted);
  const board = useTraceTool({ job, picture, face, placePoint, drawn, growing, setGrowing, draft, setDraft });
  useTraceKeys({ job, faces, growing, setGrowing });
  useTypedLength({ job, picture, face, placePoint, growing });
  const measured = useMeasureTool(job, picture, face.kind === 'true', draft.measure);
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
      isTrue={face.kind === 'true'}
      pockets={POCKETS}
      board={
        <Board
          picture={picture}
          face={face}
          layers={layers}
          also={also}
          settled={settled}
          unit={job.unit}
          tool={board}
          partBox={drawn.length > 0 ? () => boxAround(drawn.flatMap((d) => (d.bounds ? [d.bounds] : []))) : undefined}
          under={(view) => painted.length > 0 && <TraceCanvas drawn={painted} view={view} />}
        >
          {(drawing) => (
            <TraceOverlay
              {...drawing}
              job={job}
              placePoint={placePoint}
              drawn={live}
              draft={draft}
              growing={growing}
              selection={selection}
              isTrue={face.kind === 'true'}
              unit={job.unit}
              measured={measured}
            />
          )}
        </Board>
      }
      slip={
        <>
          <WorkedOn job={job} picture={picture} />
          <TraceSlip
            job={job}
            drawn={drawn}
            isTrue={face.kind === 'true'}
            growing={growing}
            placePoint={placePoint}
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
