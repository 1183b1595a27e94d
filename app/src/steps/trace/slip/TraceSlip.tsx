import { pathFinding } from '@steady-moth/core/findings';
import type { SmoothWay } from '@steady-moth/core/geometry';
import type { JobDocument } from '@steady-moth/core/job';
import { planeOfPath } from '@steady-moth/core/sketch';
import { type Growing, placed, type Setting, smoothed } from '@steady-moth/core/tracing';
import { fixed } from '@steady-moth/core/units';
import { useMemo } from 'react';
import { Act, Choice, SlipLine } from '../../../kit';
import { Range } from '../../../kit/Range';
import { chosenOf, itemsOf, onePathOf } from '../../../part/chosen';
import { TRACE_COLOURS, usePart } from '../../../part/partStore';
import type { Drawn, DrawnPath } from '../../../part/useDrawn';
import { formulaOf, numbersOf } from '../../../session/formulaOf';
import { useJob } from '../../../session/jobStore';
import { useSession } from '../../../session/sessionStore';
import type { DeviationState } from '../useDeviation';
import { Against } from './Against';
import { Changing } from './Changing';
import { Forming } from './Forming';
import { HoleOrDisc } from './HoleOrDisc';
import { LayerLines } from './LayerLines';
import { Making } from './Making';
import { NearEnds } from './NearEnds';
import { OnEdge } from './OnEdge';
import { PathLine } from './PathLine';
import { PathList } from './PathList';
import { SnapLine, ToolLine } from './ToolLine';
import { WhichEdge } from './WhichEdge';
import { WorthALook } from './WorthALook';

interface Props {
  job: JobDocument;
  drawn: Drawn;
  isTrue: boolean;
  /** It is known, and its map is still worked out. */
  isComing: boolean;
  /** What changes of what is chosen look at; null while nothing is true. */
  setting: Setting | null;
  deviation: DeviationState;
  growing: Growing | null;
  opacity: number;
  onDim(value: number): void;
  onDimmed(value: number): void;
}

export function TraceSlip({
  job,
  drawn,
  isTrue,
  isComing,
  setting,
  deviation,
  growing,
  opacity,
  onDim,
  onDimmed,
}: Props) {
  const selection = useSession((s) => s.selection);
  const take = useSession((s) => s.take);
  const chosen = onePathOf(selection) ?? growing?.path ?? null;
  const paths = useMemo(() => drawn.paths.map((d) => d.path), [drawn.paths]);
  const findings = useMemo(() => drawn.faults.map((f) => pathFinding(f, job.part)), [drawn.faults, job.part]);
  const read = useMemo(() => formulaOf(job.part), [job.part]);
  const readNumber = useMemo(() => numbersOf(job.part), [job.part]);
  const items = itemsOf(selection);
  const lines = useMemo(() => paths.filter((p) => !p.closed), [paths]);
  const straight = useMemo(() => drawn.paths.flatMap(straightOf), [drawn.paths]);
  const index = useMemo(() => new Map(paths.map((p, k) => [p.id, k])), [paths]);
  return (
    <>
      {!isTrue && !isComing && (
        <p className="mb-3 rounded border-amber border-l-3 bg-amberpaper px-3 py-2">
          The picture is not true yet, so nothing here has a size. What you trace now is kept, and becomes true with it.
        </p>
      )}
      <ol>
        <ToolLine isGrowing={growing !== null} />
      </ol>
      {items.length > 0 && setting && <OnEdge items={items} setting={setting} />}
      {items.length > 0 && setting && <Changing items={items} unit={job.unit} lines={lines} setting={setting} />}
      {items.length > 0 && setting && <Forming items={items} unit={job.unit} setting={setting} />}
      <PathList
        paths={paths}
        chosen={chosen}
        line={(path) => {
          const found = drawn.paths[index.get(path.id) ?? -1];
          return (
            found && (
              <PathLine
                drawn={found}
                job={job}
                chosen={path.id === chosen}
                growing={growing?.path === path.id}
                straight={straight}
                smooth={setting && ((point, way) => smoothAt(found, point, way, setting))}
                deviation={deviation.path === path.id ? deviation.result : null}
                against={
                  isTrue && (
                    <Against
                      deviation={deviation}
                      isOwn={deviation.path === path.id}
                      unit={job.unit}
                      onAsk={() => deviation.ask(found, wholeOf(job, found).worn)}
                    />
                  )
                }
                making={
                  <Making
                    sketch={wholeOf(job, found)}
                    path={path}
                    unit={job.unit}
                    paths={drawn.paths}
                    findings={findings}
                    read={read}
                    readNumber={readNumber}
                    onLoose={setting && found.made ? () => cutLoose(found, setting) : null}
                  />
                }
                which={
                  <>
                    <WhichEdge
                      sketch={found.sketch}
                      path={path}
                      unit={job.unit}
                      isTrue={isTrue}
                      placeSeen={drawn.placeSeen}
                    />
                    {setting && path.id === chosen && <HoleOrDisc key={path.id} own={found} setting={setting} />}
                  </>
                }
              />
            )
          );
        }}
      />
      <LayerLines job={job} />
      {isTrue && <NearEnds drawn={drawn} unit={job.unit} />}
      {isTrue && <WorthALook job={job} drawn={drawn.paths} setting={setting} />}
      <ol>
        <SlipLine
          title={<Act onClick={() => take('line')}>{paths.length ? 'Draw another path' : 'Draw the outer edge'}</Act>}
        >
          {growing && growing.path === null
            ? 'The first point is set; press where the next one goes.'
            : paths.length === 0 &&
              'Or press Q. Straight from corner to corner first; then drag the middle of a line into an arc or a curve.'}
        </SlipLine>
        <SlipLine title="Picture" figure={<span className="figure">{fixed(100 * opacity, 0)} %</span>}>
          <Range
            labels={['How much of the picture shows']}
            step={5}
            value={[Math.round(100 * opacity)]}
            onTry={([v]) => onDim(v / 100)}
            onSet={([v]) => onDimmed(v / 100)}
          />
          The picture stays put while you trace. Hold <b>V</b> to look through the trace.
          <TraceColourLine />
        </SlipLine>
        <SnapLine />
      </ol>
    </>
  );
}

/** In what colour traces are drawn. */
function TraceColourLine() {
  const colour = usePart((s) => s.traceColour);
  const setColour = usePart((s) => s.setTraceColour);
  return (
    <div className="mt-1.5 flex items-center gap-2">
      Traces are
      <Choice
        label="Color of traces"
        value={colour}
        options={TRACE_COLOURS.map((value) => ({ value, text: value }))}
        onChange={setColour}
      />
    </div>
  );
}

/** What is made of a path becomes ordinary paths in its stead: they follow nothing any more. */
function cutLoose({ sketch, path, made }: DrawnPath, setting: Setting): void {
  const plane = planeOfPath(sketch, path);
  const { apply } = useJob.getState();
  const forms = (made ?? []).map((form, k) => ({
    form,
    path: { ...path, plane, name: k === 0 ? path.name : `${path.name} ${k + 1}`.slice(0, 200) },
  }));
  const loose = placed('cut loose what is made', forms, setting, [path.id]);
  if (!loose) {
    useJob.setState({ notice: 'A part of it lies beyond what the camera could see.' });
    return;
  }
  apply(loose.action);
  useSession.getState().select(chosenOf(loose.items));
}

/** Makes a path go on smoothly at a point, by turning the handles of its curves. */
function smoothAt(own: DrawnPath, point: string, way: SmoothWay, setting: Setting): void {
  const action = smoothed(own, point, way, setting);
  if (action) useJob.getState().apply(action);
  else
    useJob.setState({
      notice: 'Only curves can turn: make one of both pieces a curve first, and let a line or an arc run that way.',
    });
}

/** The sketch that a path lies in, as the job has it: the drawn one holds that path alone. */
const wholeOf = (job: JobDocument, { sketch }: DrawnPath) => job.part.sketches[sketch.id] ?? sketch;

/** An open path that is one straight line, by its direction. */
function straightOf({ path, form }: DrawnPath): { name: string; way: SmoothWay }[] {
  const [only] = form?.kind === 'chain' && !form.closed && form.segments.length === 1 ? form.segments : [];
  if (only?.kind !== 'line') return [];
  return [{ name: path.name, way: { along: { x: only.to.x - only.from.x, y: only.to.y - only.from.y } } }];
}
