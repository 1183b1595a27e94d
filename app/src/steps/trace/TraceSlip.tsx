import {
  changeRun,
  closeRun,
  deleteRun,
  type JobDocument,
  openRun,
  type Role,
  type Run,
  setRunPlane,
  viewOfRun,
} from '@steady-moth/core/job';
import { fixed, type LengthUnit, writeFigure } from '@steady-moth/core/units';
import { type ReactNode, useEffect, useMemo, useState } from 'react';
import { Act, Choice, LengthFigure, SlipLine } from '../../kit';
import { Range } from '../../kit/Range';
import { useBench } from '../../session/benchStore';
import { useJob } from '../../session/jobStore';
import { useRunMeasures } from '../../session/useFigures';
import { PlaneChoice } from '../true/PlaneChoice';
import { RunList } from './RunList';
import { SegmentLine } from './SegmentLine';
import { Stretch, useStretch } from './Stretch';
import type { DrawnRun, PlacePoint } from './useForms';
import type { Growing } from './useTraceTool';
import { WhichEdge } from './WhichEdge';

interface Props {
  job: JobDocument;
  drawn: readonly DrawnRun[];
  isTrue: boolean;
  growing: Growing | null;
  placePoint: PlacePoint;
  opacity: number;
  onDim(value: number): void;
  onDimmed(value: number): void;
}

export function TraceSlip({ job, drawn, isTrue, growing, placePoint, opacity, onDim, onDimmed }: Props) {
  const selection = useBench((s) => s.selection);
  const take = useBench((s) => s.take);
  const chosen = selection && 'run' in selection ? selection.run : (growing?.run ?? null);
  const formless = useMemo(() => new Set(drawn.flatMap((d) => (d.form ? [] : [d.run.id]))), [drawn]);
  const formed = (run: Run) => !formless.has(run.id);
  return (
    <>
      {!isTrue && (
        <p className="mb-3 rounded border-amber border-l-3 bg-amberpaper px-3 py-2">
          The picture is not true yet, so nothing here has a size. What you trace now is kept, and becomes true with it.
        </p>
      )}
      <RunList
        runs={job.part.runs}
        chosen={chosen}
        line={(run) => (
          <RunLine
            run={run}
            job={job}
            chosen={run.id === chosen}
            growing={growing?.run === run.id}
            segmentChosen={selection?.kind === 'segment' && selection.run === run.id ? selection.segment : null}
            which={<WhichEdge run={run} job={job} isTrue={isTrue} placePoint={placePoint} />}
            formed={formed(run)}
          />
        )}
      />
      <ol>
        <SlipLine
          title={
            <Act onClick={() => take('line')}>{job.part.runs.length ? 'Draw another path' : 'Draw the outer edge'}</Act>
          }
        >
          {job.part.runs.length === 0 &&
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
          The picture stays put while you trace.
        </SlipLine>
        <SlipLine title="Snapping to" figure={<span className="font-normal">edges and points</span>}>
          Hold <b>F</b>: no snapping. Where edges lie close together, <b>G</b> takes the next one.
        </SlipLine>
      </ol>
    </>
  );
}

const ROLES: readonly { value: Role; text: string }[] = [
  { value: 'cut', text: 'cut' },
  { value: 'mark', text: 'mark' },
];

function RunLine({
  run,
  job,
  chosen,
  growing,
  segmentChosen,
  which,
  formed,
}: {
  run: Run;
  job: JobDocument;
  chosen: boolean;
  growing: boolean;
  segmentChosen: number | null;
  which: ReactNode;
  formed: boolean;
}) {
  const apply = useJob((s) => s.apply);
  const select = useBench((s) => s.select);
  const stretch = useStretch(run, segmentChosen);
  // Of a path that is not chosen nothing is shown but a circle's diameter.
  const measured = formed && (run.kind === 'circle' || (chosen && run.points.length > 1));
  const { data } = useRunMeasures(job, measured ? run : null, stretch);
  const { unit } = job;
  const open = run.kind === 'chain' && !run.closed;
  const pictureOfRun = job.pictures.find((p) => p.id === job.part.points[run.points[0]]?.picture);
  return (
    <SlipLine
      mark={run.role}
      title={
        <button
          type="button"
          className={`cursor-pointer text-left font-medium ${chosen ? 'text-rust' : ''}`}
          aria-expanded={chosen}
          onClick={() => select(chosen ? null : { kind: 'run', run: run.id })}
        >
          {run.name}
        </button>
      }
      figure={
        open ? (
          <span className="text-amber">{growing ? 'being drawn' : 'open'}</span>
        ) : data?.diameter ? (
          <>
            Ø <LengthFigure mm={data.diameter.value} plusMinusMm={data.diameter.plusMinus} unit={unit} />
          </>
        ) : (
          ''
        )
      }
    >
      {[run.kind === 'chain' ? kindsOf(run) : null, run.layer && `layer ${run.layer}`, viewOfRun(job, run)?.name]
        .filter(Boolean)
        .join('; ')}
      {chosen && (
        <div className="mt-2">
          <dl className="grid grid-cols-[1fr_auto] gap-y-1">
            {data && run.kind === 'chain' && (
              <>
                <dt>{open ? 'Length of the path' : 'Perimeter'}</dt>
                <dd>
                  <LengthFigure mm={data.length.value} plusMinusMm={data.length.plusMinus} unit={unit} />
                </dd>
              </>
            )}
            {data && run.kind === 'circle' && (
              <>
                <dt>Circumference</dt>
                <dd>
                  <LengthFigure mm={data.length.value} plusMinusMm={data.length.plusMinus} unit={unit} />
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
          </dl>
          {which}
          {pictureOfRun && pictureOfRun.kind !== 'drawing' && (
            <div className="mt-2">
              <PlaneChoice
                picture={pictureOfRun}
                value={run.plane}
                turned={run.kind === 'chain'}
                onChange={(plane) => apply(setRunPlane(run.id, plane))}
              />
            </div>
          )}
          {run.kind === 'chain' && (
            <>
              <Stretch stretch={stretch} of={run.segments.length} />
              <ol className="mt-2 border-line border-l pl-2.5">
                {run.segments.slice(stretch.from, stretch.to).map((_, j) => {
                  const k = stretch.from + j;
                  return (
                    <SegmentLine
                      key={k}
                      run={run}
                      index={k}
                      unit={unit}
                      measures={data?.segments[k] ?? null}
                      corner={data?.corners[run.points[k]] ?? null}
                      chosen={segmentChosen === k}
                    />
                  );
                })}
              </ol>
            </>
          )}
          <div className="mt-2.5 flex flex-wrap items-center gap-x-4 gap-y-1.5">
            <RunName run={run} />
            <Choice
              label="What is done along it"
              value={run.role}
              options={ROLES}
              onChange={(role) => apply(changeRun(run.id, { role }))}
            />
            {run.kind === 'chain' &&
              (open ? (
                <Act disabled={run.points.length < 3} onClick={() => apply(closeRun(run.id))}>
                  Close it
                </Act>
              ) : (
                <Act onClick={() => apply(openRun(run.id))}>Open it</Act>
              ))}
            <Act onClick={() => apply(deleteRun(run.id))}>Delete it</Act>
          </div>
        </div>
      )}
    </SlipLine>
  );
}

function RunName({ run }: { run: Run }) {
  const apply = useJob((s) => s.apply);
  const [text, setText] = useState(run.name);
  useEffect(() => setText(run.name), [run.name]);
  return (
    <input
      aria-label="Name of the path"
      value={text}
      maxLength={200}
      onChange={(e) => setText(e.target.value)}
      onBlur={() =>
        text.trim() && text !== run.name ? apply(changeRun(run.id, { name: text.trim() })) : setText(run.name)
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
      {value} <span className="text-verdigris">± {plusMinus}</span>
    </span>
  );
}

function kindsOf(run: Extract<Run, { kind: 'chain' }>): string {
  const count = (kind: string) => run.segments.filter((s) => s.kind === kind).length;
  const say = (n: number, one: string) => (n === 0 ? null : n === 1 ? `1 ${one}` : `${n} ${one}s`);
  return (
    [say(count('line'), 'line'), say(count('arc'), 'arc'), say(count('curve'), 'curve')].filter(Boolean).join(', ') ||
    'one point so far'
  );
}
