import { addDimensions, decideSize, type JobDocument } from '@steady-moth/core/job';
import { formulaSentence, sizeWord } from '@steady-moth/core/say';
import { type Dimension, dimensionsFor, isSigned } from '@steady-moth/core/sketch';
import { fixed } from '@steady-moth/core/units';
import { useId, useState } from 'react';
import { Button, Choice } from '../../kit';
import { formulaOf } from '../../session/formulaOf';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { type Fit, fitFormula } from './fitFormula';
import type { SketchState } from './sketchState';
import { DRAFT } from './tools';

const START: Fit = { by: 'clearance', mate: '', side: 'hole', clearance: '0.1', grade: 'H7' };

/** Decides a size by what goes with it: by a clearance on the safe side, or a tolerance class of ISO 286. */
export function FitForm({ job, state }: { job: JobDocument; state: SketchState }) {
  const apply = useJob((s) => s.apply);
  const [fit, setFit] = useState(START);
  const { sketch, chosen, place } = state;
  const size = dimensionsFor(sketch, chosen, place, DRAFT).find((d) => d.kind !== 'angle' && !isSigned(d));
  if (!size) return chosen.length > 0 ? <p className="mt-1">What is chosen has no one size.</p> : null;
  // A caliper measures across a round, also where its radius is what stands on the board.
  const isRadius = size.kind === 'radius';
  const text = fitFormula(fit, isRadius ? 'radius' : 'across');
  const read = formulaOf(job.part)(text ?? '', job.unit);
  const say = (mm: number) => `${fixed(job.unit === 'in' ? mm / 25.4 : mm, job.unit === 'in' ? 4 : 3)} ${job.unit}`;
  const isSaid = fit.mate.trim() !== '';
  const fault =
    isSaid && (text === null ? 'Type a size and a clearance.' : read.ok ? null : formulaSentence(read.fault));
  const isTooSmall = read.ok && !(read.mm > 0);
  const take = () => {
    if (text === null) return;
    const value = { text, unit: job.unit };
    const why = fit.by === 'class' ? `fit ${fit.grade}` : `clears ${fit.mate.trim()} by ${fit.clearance.trim()}`;
    const before = sameSize(state, size);
    apply(
      before
        ? decideSize(sketch.id, before.id, value, why)
        : addDimensions(sketch.id, [{ ...size, id: newId(), origin: { kind: 'decided', value, why } }]),
    );
  };
  return (
    <form
      className="mt-2 flex flex-col gap-1.5"
      onSubmit={(e) => {
        e.preventDefault();
        if (read.ok && !isTooSmall) take();
      }}
    >
      <p className="font-medium">{sizeWord(sketch, size)}</p>
      <div>
        <Choice
          label="Fit by"
          value={fit.by}
          options={[
            { value: 'clearance', text: 'By clearance' },
            { value: 'class', text: 'By ISO 286' },
          ]}
          onChange={(by) => setFit({ ...fit, by })}
        />
      </div>
      {fit.by === 'clearance' && (
        <div>
          <Choice
            label="Which way it fits"
            value={fit.side}
            options={[
              { value: 'hole', text: 'It goes in here' },
              { value: 'peg', text: 'It goes round this' },
            ]}
            onChange={(side) => setFit({ ...fit, side })}
          />
        </div>
      )}
      <Line
        label={
          fit.by === 'clearance'
            ? `It measures${isRadius ? ' across (Ø)' : ''}, with its ±`
            : isRadius
              ? 'Size across (Ø)'
              : 'Size'
        }
        value={fit.mate}
        placeholder={fit.by === 'clearance' ? '11.98 ± 0.02' : '12'}
        onChange={(mate) => setFit({ ...fit, mate })}
      />
      {fit.by === 'clearance' ? (
        <Line
          label="Clearance in all"
          value={fit.clearance}
          placeholder="0.1"
          onChange={(clearance) => setFit({ ...fit, clearance })}
        />
      ) : (
        <Line label="Class" value={fit.grade} placeholder="H7" onChange={(grade) => setFit({ ...fit, grade })} />
      )}
      {fault && (
        <p role="alert" className="text-brick">
          {fault}
        </p>
      )}
      {isTooSmall && (
        <p role="alert" className="text-brick">
          Nothing is left of it.
        </p>
      )}
      {isSaid && read.ok && !isTooSmall && (
        <p className="text-ink2">
          Made{' '}
          <span className="figure text-ink">
            {isRadius && 'R '}
            {say(read.mm)}
          </span>
          {isRadius && <span className="figure">, Ø {say(2 * read.mm)}</span>}
          {read.plusMinusMm > 0 && <span className="figure"> ± {say(read.plusMinusMm)}</span>}
        </p>
      )}
      <Button type="submit" disabled={!isSaid || !read.ok || isTooSmall}>
        Decide it
      </Button>
    </form>
  );
}

/** The same size where it stands on the board already. */
const sameSize = ({ sketch }: SketchState, size: Dimension): Dimension | undefined =>
  Object.values(sketch.dimensions).find(
    (d) => d.kind === size.kind && d.along === size.along && d.refs.every((r, k) => r.id === size.refs[k]?.id),
  );

function Line({
  label,
  value,
  placeholder,
  onChange,
}: {
  label: string;
  value: string;
  placeholder: string;
  onChange(value: string): void;
}) {
  const id = useId();
  return (
    <div className="flex items-center justify-between gap-2">
      <label htmlFor={id}>{label}</label>
      <input
        id={id}
        value={value}
        placeholder={placeholder}
        maxLength={40}
        autoComplete="off"
        onChange={(e) => onChange(e.target.value)}
        className="figure w-32 rounded border border-line bg-sheet px-2 py-1 text-right"
      />
    </div>
  );
}
