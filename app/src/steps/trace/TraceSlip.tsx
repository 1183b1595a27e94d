import type { Form, SmoothWay } from '@steady-moth/core/geometry';
import {
  breakPath,
  changePath,
  closePath,
  deletePath,
  deletePoint,
  freeSize,
  type JobDocument,
  openPath,
  reversePath,
  setPathPlane,
  viewOfPath,
} from '@steady-moth/core/job';
import { observationIn, observedOf, type Path, planeOfPath, type Role, walkOf } from '@steady-moth/core/sketch';
import { fixed, type LengthUnit, writeFigure } from '@steady-moth/core/units';
import { type ReactNode, useEffect, useMemo, useState } from 'react';
import { Act, Choice, LengthFigure, Select, SlipLine } from '../../kit';
import { Range } from '../../kit/Range';
import { TRACE_COLOURS, useBench } from '../../session/benchStore';
import { formulaOf, numbersOf } from '../../session/formulaOf';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { usePathMeasures } from '../../session/useFigures';
import { PlaneChoice } from '../true/PlaneChoice';
import { Against } from './Against';
import { Changing } from './Changing';
import { placed, type Setting } from './change';
import { chosenOf, itemsOf, onePathOf } from './chosen';
import type { Deviation } from './deviation';
import { Forming } from './Forming';
import { HoleOrDisc } from './HoleOrDisc';
import { LayerLines } from './LayerLines';
import { LowerEdge } from './LowerEdge';
import { Making } from './Making';
import { NearEnds } from './NearEnds';
import { PathList } from './PathList';
import { PieceLine } from './PieceLine';
import { smoothed } from './reshape';
import { ROLE_CHOICES, ROLE_MARKS } from './roles';
import { Stretch, useStretch } from './Stretch';
import { SnapLine, ToolLine } from './ToolLine';
import type { Growing } from './tools/context';
import type { DeviationState } from './useDeviation';
import type { Drawn, DrawnPath } from './useDrawn';
import { WhichEdge } from './WhichEdge';
import { WorthALook } from './WorthALook';

interface Props {
  job: JobDocument;
  drawn: Drawn;
  isTrue: boolean;
  /** What changes of what is chosen look at; null while nothing is true. */
  setting: Setting | null;
  deviation: DeviationState;
  growing: Growing | null;
  opacity: number;
  onDim(value: number): void;
  onDimmed(value: number): void;
}

export function TraceSlip({ job, drawn, isTrue, setting, deviation, growing, opacity, onDim, onDimmed }: Props) {
  const selection = useBench((s) => s.selection);
  const take = useBench((s) => s.take);
  const chosen = onePathOf(selection) ?? growing?.path ?? null;
  const paths = useMemo(() => drawn.paths.map((d) => d.path), [drawn.paths]);
  const read = useMemo(() => formulaOf(job.part), [job.part]);
  const readNumber = useMemo(() => numbersOf(job.part), [job.part]);
  const items = itemsOf(selection);
  const lines = useMemo(() => paths.filter((p) => !p.closed), [paths]);
  const straight = useMemo(() => drawn.paths.flatMap(straightOf), [drawn.paths]);
  const index = useMemo(() => new Map(paths.map((p, k) => [p.id, k])), [paths]);
  return (
    <>
      {!isTrue && (
        <p className="mb-3 rounded border-amber border-l-3 bg-amberpaper px-3 py-2">
          The picture is not true yet, so nothing here has a size. What you trace now is kept, and becomes true with it.
        </p>
      )}
      <ol>
        <ToolLine isGrowing={growing !== null} />
      </ol>
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
                    faults={drawn.faults}
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
      {isTrue && <WorthALook drawn={drawn.paths} unit={job.unit} setting={setting} />}
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

function PathLine({
  drawn: { sketch, path, form, made },
  job,
  chosen,
  growing,
  straight,
  smooth,
  deviation,
  against,
  making,
  which,
}: {
  drawn: DrawnPath;
  job: JobDocument;
  chosen: boolean;
  growing: boolean;
  straight: readonly { name: string; way: SmoothWay }[];
  smooth: ((point: string, way: SmoothWay) => void) | null;
  deviation: Deviation | null;
  against: ReactNode;
  making: ReactNode;
  which: ReactNode;
}) {
  const apply = useJob((s) => s.apply);
  const select = useBench((s) => s.select);
  const selection = useBench((s) => s.selection);
  const { worn } = job.part.sketches[sketch.id] ?? sketch;
  const pieces = walkOf(sketch, path)?.pieces ?? [];
  const round = pieces[0]?.curve.kind === 'circle';
  const pieceChosen = selection?.kind === 'piece' && chosen ? selection.curve : null;
  const at = pieces.findIndex(({ curve }) => curve.id === pieceChosen);
  const stretch = useStretch(round ? 0 : pieces.length, at < 0 ? null : at);
  // Of a path that is not chosen nothing is shown but a circle's diameter.
  const measured = form !== null && (round || chosen);
  const { data } = usePathMeasures(job, measured ? sketch : null, path, stretch);
  const { unit } = job;
  const open = !path.closed;
  const madeOf = made && sayMade(made);
  const first = observationIn(sketch, observedOf(sketch, path)[0] ?? '');
  const picture = job.pictures.find((p) => p.id === first?.picture);
  const decided = data?.decided ?? null;
  return (
    <SlipLine
      mark={ROLE_MARKS[path.role]}
      title={
        <button
          type="button"
          className={`cursor-pointer text-left font-medium ${chosen ? 'text-rust' : ''}`}
          aria-expanded={chosen}
          onClick={() => select(chosen ? null : { kind: 'path', path: path.id })}
        >
          {path.name}
        </button>
      }
      figure={
        madeOf ? (
          <span className="text-verdigris">{madeOf}</span>
        ) : open && (growing || path.role === 'cut') ? (
          <span className="text-amber">{growing ? 'being drawn' : 'open'}</span>
        ) : data?.diameter ? (
          <>
            Ø{' '}
            <LengthFigure mm={data.diameter.value} plusMinusMm={decided ? null : data.diameter.plusMinus} unit={unit} />
            {decided && <span className="ml-1.5">typed</span>}
          </>
        ) : (
          ''
        )
      }
    >
      {[
        round ? null : kindsOf(pieces.map((p) => p.curve.kind)),
        path.layer && `layer ${path.layer}`,
        viewOfPath(job, path.id)?.name,
      ]
        .filter(Boolean)
        .join('; ')}
      {chosen && (
        <div className="mt-2">
          <dl className="grid grid-cols-[1fr_auto] gap-y-1">
            {data && (
              <>
                <dt>{round ? 'Circumference' : open ? 'Length of the path' : 'Perimeter'}</dt>
                <dd>
                  <LengthFigure
                    mm={data.length.value}
                    plusMinusMm={decided ? null : data.length.plusMinus}
                    unit={unit}
                  />
                </dd>
              </>
            )}
            {data?.area && (
              <>
                <dt>Area, {unit}²</dt>
                <dd>
                  <AreaFigure figure={data.area} unit={unit} />
                </dd>
              </>
            )}
            {decided?.seen && (
              <>
                <dt>Measured across</dt>
                <dd>
                  <LengthFigure mm={decided.seen.value} plusMinusMm={decided.seen.plusMinus} unit={unit} />
                </dd>
              </>
            )}
          </dl>
          {decided?.seen && <Act onClick={() => apply(freeSize(path.id, decided.size))}>Measure it again</Act>}
          {round && data && !decided && <div className="text-ink2">Type a figure to say how wide it is.</div>}
          {which}
          {against}
          {data?.diameter && !decided && picture?.kind === 'photo' && (
            <LowerEdge job={job} picture={picture} sketch={sketch} path={path} diameter={data.diameter} unit={unit} />
          )}
          {picture && picture.kind !== 'drawing' && (
            <div className="mt-2">
              <PlaneChoice
                picture={picture}
                value={planeOfPath(sketch, path)}
                turned={!round}
                onChange={(plane) => apply(setPathPlane(path.id, plane))}
              />
            </div>
          )}
          {selection?.kind === 'point' && walkOf(sketch, path)?.points.includes(selection.point) && !round && (
            <PointActs path={path} point={selection.point} smooth={smooth} lines={straight} />
          )}
          {!round && (
            <>
              <Stretch stretch={stretch} of={pieces.length} />
              <ol className="mt-2 border-line border-l pl-2.5">
                {pieces.slice(stretch.from, stretch.to).map(({ curve }, j) => {
                  const k = stretch.from + j;
                  return (
                    <PieceLine
                      key={curve.id}
                      path={path}
                      curve={curve}
                      index={k}
                      unit={unit}
                      measures={data?.pieces[curve.id] ?? null}
                      deviation={deviation?.pieces[curve.id] ?? null}
                      worn={Object.hasOwn(worn, curve.id)}
                      corner={data?.corners[walkOf(sketch, path)?.points[k] ?? ''] ?? null}
                      chosen={pieceChosen === curve.id}
                    />
                  );
                })}
              </ol>
            </>
          )}
          {form && making}
          <div className="mt-2.5 flex flex-wrap items-center gap-x-4 gap-y-1.5">
            <PathName path={path} />
            <RoleChoice path={path} />
            {!round &&
              (open ? (
                <Act disabled={pieces.length < 2} onClick={() => apply(closePath(path.id, newId()))}>
                  Close it
                </Act>
              ) : (
                <Act onClick={() => apply(openPath(path.id))}>Open it</Act>
              ))}
            {!round && <Act onClick={() => apply(reversePath(path.id))}>Turn its way round</Act>}
            <Act onClick={() => apply(deletePath(path.id))}>Delete it</Act>
          </div>
        </div>
      )}
    </SlipLine>
  );
}

/** In what colour traces are drawn. */
function TraceColourLine() {
  const colour = useBench((s) => s.traceColour);
  const setColour = useBench((s) => s.setTraceColour);
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

const SMOOTH_WAYS = ['as it comes', 'level', 'plumb'] as const;

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
  useBench.getState().select(chosenOf(loose.items));
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

/** What a path is made into, in a word or two. */
function sayMade(made: readonly Form[]): string {
  const closed = made.filter((f) => f.kind === 'circle' || f.closed).length;
  if (made.length === 1) return closed ? 'made whole' : 'made, open';
  return closed === made.length ? `made into ${made.length}` : `made into ${made.length}, ${made.length - closed} open`;
}

/** The sketch that a path lies in, as the job has it: the drawn one holds that path alone. */
const wholeOf = (job: JobDocument, { sketch }: DrawnPath) => job.part.sketches[sketch.id] ?? sketch;

/** An open path that is one straight line, by its direction. */
function straightOf({ path, form }: DrawnPath): { name: string; way: SmoothWay }[] {
  const [only] = form?.kind === 'chain' && !form.closed && form.segments.length === 1 ? form.segments : [];
  if (only?.kind !== 'line') return [];
  return [{ name: path.name, way: { along: { x: only.to.x - only.from.x, y: only.to.y - only.from.y } } }];
}

/** What can be done at the point that is chosen. */
function PointActs({
  path,
  point,
  smooth,
  lines,
}: {
  path: Path;
  point: string;
  smooth: ((point: string, way: SmoothWay) => void) | null;
  /** Straight open paths, along which it can be held. */
  lines: readonly { name: string; way: SmoothWay }[];
}) {
  const apply = useJob((s) => s.apply);
  return (
    <div className="mt-2 flex flex-wrap gap-x-4 gap-y-1">
      <span className="text-rust">the point</span>
      <Act onClick={() => apply(deletePoint(path.id, point))}>Delete it</Act>
      <Act onClick={() => apply(breakPath(path.id, point, { rest: newId(), point: newId() }))}>Break the path here</Act>
      {smooth && (
        <span className="flex items-center gap-2">
          Smooth here
          <Select
            label="Smooth here"
            value=""
            options={['', ...SMOOTH_WAYS, ...lines.map((l) => `along ${l.name}`)]}
            onChange={(text) => {
              const way = SMOOTH_WAYS.find((w) => w === text) ?? lines.find((l) => `along ${l.name}` === text)?.way;
              if (way) smooth(point, way);
            }}
          />
        </span>
      )}
    </div>
  );
}

/** What is done along a path. */
function RoleChoice({ path }: { path: Path }) {
  const apply = useJob((s) => s.apply);
  const text = (role: Role) => ROLE_CHOICES.find((c) => c.value === role)?.text ?? '';
  return (
    <Select
      label="What it is for"
      value={text(path.role)}
      options={ROLE_CHOICES.map((c) => c.text)}
      onChange={(chosen) => {
        const role = ROLE_CHOICES.find((c) => c.text === chosen)?.value;
        if (role) apply(changePath(path.id, { role }));
      }}
    />
  );
}

function PathName({ path }: { path: Path }) {
  const apply = useJob((s) => s.apply);
  const [text, setText] = useState(path.name);
  useEffect(() => setText(path.name), [path.name]);
  return (
    <input
      aria-label="Name of the path"
      value={text}
      maxLength={200}
      onChange={(e) => setText(e.target.value)}
      onBlur={() =>
        text.trim() && text !== path.name ? apply(changePath(path.id, { name: text.trim() })) : setText(path.name)
      }
      onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      className="w-32 rounded border border-line bg-sheet px-1.5 py-0.5 text-ink"
    />
  );
}

function AreaFigure({ figure, unit }: { figure: { value: number; plusMinus: number }; unit: LengthUnit }) {
  const per = unit === 'in' ? 25.4 ** 2 : 1;
  const { value, plusMinus } = writeFigure(figure.value / per, figure.plusMinus / per, unit === 'in' ? 4 : 2);
  return (
    <span className="figure">
      {value} {figure.plusMinus > 0 && <span className="text-verdigris">± {plusMinus}</span>}
    </span>
  );
}

function kindsOf(kinds: readonly string[]): string {
  const say = (kind: string, one: string) => {
    const n = kinds.filter((k) => k === kind).length;
    return n === 0 ? null : n === 1 ? `1 ${one}` : `${n} ${one}s`;
  };
  return [say('line', 'line'), say('arc', 'arc'), say('cubic', 'curve')].filter(Boolean).join(', ');
}
