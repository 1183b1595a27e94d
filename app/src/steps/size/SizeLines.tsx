import type { Figure } from '@steady-moth/core/calibration';
import type { Finding } from '@steady-moth/core/findings';
import {
  changeMaker,
  decideSize,
  dropConditions,
  type JobDocument,
  measureSize,
  type SizeMeasures,
} from '@steady-moth/core/job';
import { sizeWord } from '@steady-moth/core/say';
import {
  type Dimension,
  type Expression,
  isSigned,
  type Maker,
  type Sketch,
  sketchesOf,
} from '@steady-moth/core/sketch';
import { fixed } from '@steady-moth/core/units';
import { Act, degrees, LengthFigure } from '../../kit';
import { FormulaField } from '../../kit/FormulaField';
import { isPathChosen } from '../../part/chosen';
import type { DrawnPath } from '../../part/useDrawn';
import { formulaOf } from '../../session/formulaOf';
import { useJob } from '../../session/jobStore';
import { useSession } from '../../session/sessionStore';
import type { SketchState } from './sketchState';

interface Line {
  key: string;
  what: string;
  value: Expression;
  set(value: Expression): void;
  fault: string | null;
}

/** Sizes of the part: of its pieces, measured or decided, and of what is made of its paths. */
export function SizeLines({
  job,
  drawn,
  findings,
  state,
}: {
  job: JobDocument;
  drawn: readonly DrawnPath[];
  findings: readonly Finding[];
  /** Null while nothing is true: what was typed is shown all the same. */
  state: SketchState | null;
}) {
  const select = useSession((s) => s.select);
  const selection = useSession((s) => s.selection);
  const read = formulaOf(job.part);
  const groups = drawn.flatMap(({ path }) => {
    const sketch = sketchesOf(job.part).find((s) => s.paths[path.id]);
    const lines = sketch ? linesOf(sketch, path.id, findings) : [];
    return lines.length ? [{ path, lines }] : [];
  });
  const sketches = sketchesOf(job.part);
  const sized = sketches.filter((s) => Object.keys(s.dimensions).length > 0);
  return (
    <section aria-label="Sizes" className="border-line border-t py-2.5">
      <h2 className="font-medium">Sizes</h2>
      {groups.length === 0 && sized.length === 0 && (
        <p className="mt-1 text-[12.5px] text-ink2">
          Nothing is sized yet. Choose a line, an arc or a hole and type what it shall be, or have it shown as measured.
        </p>
      )}
      {sized.map((sketch) => (
        <ul key={sketch.id} className="mt-1 flex flex-col gap-2">
          {Object.values(sketch.dimensions).map((d) => (
            <DimensionLine key={d.id} job={job} sketch={sketch} dimension={d} state={state} />
          ))}
        </ul>
      ))}
      {groups.map(({ path, lines }) => (
        <div key={path.id} className="mt-1.5">
          <button
            type="button"
            className={`cursor-pointer text-left text-[13px] ${isPathChosen(selection, path.id) ? 'text-rust' : ''}`}
            aria-pressed={isPathChosen(selection, path.id)}
            onClick={() => select({ kind: 'path', path: path.id })}
          >
            {path.name}
          </button>
          <ul className="flex flex-col gap-1 border-line border-l pl-2.5">
            {lines.map((line) => (
              <li key={line.key} className="text-[12.5px]">
                <div className="flex items-start justify-between gap-2">
                  <span className="pt-1">{line.what}</span>
                  <FormulaField
                    label={`${line.what} of ${path.name}`}
                    value={line.value.text}
                    unit={line.value.unit}
                    read={read}
                    onAccept={(text) => line.set({ text, unit: line.value.unit })}
                  />
                </div>
                {line.fault && (
                  <p role="alert" className="text-right text-brick">
                    {line.fault}
                  </p>
                )}
              </li>
            ))}
          </ul>
        </div>
      ))}
    </section>
  );
}

/** One size: measured with its ±, or decided, with what was seen and why it is made otherwise. */
function DimensionLine({
  job,
  sketch,
  dimension,
  state,
}: {
  job: JobDocument;
  sketch: Sketch;
  dimension: Dimension;
  state: SketchState | null;
}) {
  const apply = useJob((s) => s.apply);
  const looked = useSession((s) => s.condition) === dimension.id;
  const lookAt = useSession((s) => s.lookAt);
  const { origin } = dimension;
  const told = state?.measures[dimension.id];
  const isGiven = state?.told?.given.includes(dimension.id) ?? false;
  const isAngle = dimension.kind === 'angle';
  const word = sizeWord(sketch, dimension);
  const curve = dimension.kind === 'diameter' ? sketch.curves[dimension.refs[0]!.id] : undefined;
  const isOnly = curve !== undefined && curve.evidence.length === 0;
  const figure = (f: Figure) =>
    isAngle ? (
      <span className="figure">
        {degrees(f.value)} <span className="text-verdigris">± {degrees(f.plusMinus)}</span>
      </span>
    ) : (
      <LengthFigure mm={f.value} plusMinusMm={f.plusMinus} unit={job.unit} />
    );
  const seenValue =
    told && (isAngle ? (told.seen.value * 180) / Math.PI : told.seen.value / (job.unit === 'in' ? 25.4 : 1));
  return (
    <li className="text-[12.5px]">
      <div className="flex items-start justify-between gap-2">
        <button
          type="button"
          aria-pressed={looked}
          onClick={() => lookAt(looked ? null : dimension.id)}
          className={`cursor-pointer pt-1 text-left ${looked ? 'text-rust' : ''}`}
        >
          {word}
        </button>
        {origin.kind === 'decided' ? (
          <FormulaField
            label={word}
            value={origin.value.text}
            unit={origin.value.unit}
            read={formulaOf(job.part)}
            narrow
            isPositive={!isSigned(dimension)}
            onAccept={(text) => apply(decideSize(sketch.id, dimension.id, { text, unit: origin.value.unit }))}
          />
        ) : (
          told && figure(told.settled)
        )}
      </div>
      <div className="flex flex-wrap items-baseline gap-x-2 text-ink2">
        {origin.kind === 'decided' && told && (
          <span>
            seen {figure(told.seen)}
            {farSentence(dimension, told)}
          </span>
        )}
        {isGiven && <span>(the rest already gives it)</span>}
        {origin.kind === 'decided' && !isOnly && (
          <Act onClick={() => apply(measureSize(sketch.id, dimension.id))}>Measure it</Act>
        )}
        {origin.kind === 'measured' && seenValue !== undefined && (
          <Act
            onClick={() =>
              apply(
                decideSize(sketch.id, dimension.id, {
                  text: fixed(seenValue, job.unit === 'in' ? 3 : 2).replace('−', '-'),
                  unit: isAngle ? 'mm' : job.unit,
                }),
              )
            }
          >
            Decide it
          </Act>
        )}
        {!isOnly && (
          <Act aria-label={`Take away: ${word}`} onClick={() => apply(dropConditions(sketch.id, [dimension.id]))}>
            Take away
          </Act>
        )}
      </div>
      {origin.kind === 'decided' && looked && (
        <label className="mt-1 flex items-baseline gap-2 text-ink2">
          why
          <input
            key={origin.why}
            defaultValue={origin.why}
            maxLength={200}
            placeholder="worn, as the drawing says …"
            onBlur={(e) => {
              if (e.target.value !== origin.why)
                apply(decideSize(sketch.id, dimension.id, origin.value, e.target.value));
            }}
            className="min-w-0 grow rounded border border-line bg-sheet px-1.5 py-0.5 text-[12.5px] text-ink"
          />
        </label>
      )}
      {origin.kind === 'decided' && !looked && origin.why !== '' && <p className="text-ink2">{origin.why}</p>}
    </li>
  );
}

/** How far a decision is from what was seen, where that is more than the measurement explains. */
function farSentence(dimension: Dimension, { seen, settled }: SizeMeasures): string {
  if (dimension.origin.kind !== 'decided') return '';
  const sigmas = Math.abs(settled.value - seen.value) / (seen.plusMinus / 2);
  return Number.isFinite(sigmas) && sigmas > 3 ? `, ${fixed(sigmas, 1)} σ from it` : '';
}

function linesOf(sketch: Sketch, path: string, findings: readonly Finding[]): Line[] {
  const { apply } = useJob.getState();
  return Object.values(sketch.makers)
    .filter((m) => m.path === path)
    .sort((a, b) => a.place - b.place)
    .flatMap((m) => {
      const found = findings.find((f) => f.where.kind === 'path' && f.where.maker === m.id);
      return fieldsOf(m).map(
        ({ what, value, put }, k): Line => ({
          key: `${m.id} ${k}`,
          what,
          value,
          set: (next) => apply(changeMaker(put(next))),
          fault: (k === 0 && found?.says) || null,
        }),
      );
    });
}

/** What was typed for a maker, and how it is said anew. */
function fieldsOf(maker: Maker): { what: string; value: Expression; put(value: Expression): Maker }[] {
  switch (maker.kind) {
    case 'fillet':
      return [{ what: 'radius of its corners', value: maker.size, put: (size) => ({ ...maker, size }) }];
    case 'chamfer':
      return [{ what: 'cut off its corners', value: maker.size, put: (size) => ({ ...maker, size }) }];
    case 'offset':
      return [
        { what: maker.side === 'out' ? 'larger by' : 'smaller by', value: maker.by, put: (by) => ({ ...maker, by }) },
      ];
    case 'row':
      return [
        {
          what: maker.span === 'each' ? 'from copy to copy' : 'first to last copy',
          value: maker.step,
          put: (step) => ({ ...maker, step }),
        },
      ];
    case 'grid':
      return [
        { what: 'from copy to copy', value: maker.step, put: (step) => ({ ...maker, step }) },
        { what: 'from row to row', value: maker.rowStep, put: (rowStep) => ({ ...maker, rowStep }) },
      ];
    default:
      return [];
  }
}
