import {
  addParameter,
  changeParameter,
  dropParameter,
  type JobDocument,
  nextParameterName,
  PARAMETER_NAME,
} from '@steady-moth/core/job';
import { formulaSentence } from '@steady-moth/core/say';
import { type Parameter, scopeOf } from '@steady-moth/core/sketch';
import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Act } from '../../kit';
import { FormulaField } from '../../kit/FormulaField';
import { formulaOf } from '../../session/formulaOf';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';

/** The parameters of a part: a name, and a length or a formula. */
export function ParameterLines({ job }: { job: JobDocument }) {
  const apply = useJob((s) => s.apply);
  const { part, unit } = job;
  const { faults } = scopeOf(part);
  const read = formulaOf(job.part);
  return (
    <section aria-label="Parameters" className="border-line border-t py-2.5">
      <div className="flex items-baseline justify-between">
        <h2 className="font-medium">Parameters</h2>
        <Act
          onClick={() =>
            apply(addParameter(newId(), nextParameterName(part), { text: unit === 'in' ? '1/2' : '10', unit }))
          }
        >
          Add a parameter
        </Act>
      </div>
      {part.parameters.length === 0 ? (
        <p className="mt-1 text-[12.5px] text-ink2">
          A parameter is a size with a name. It can stand in every figure of what is made of a path, in a typed length
          or diameter, and in other parameters: wall * 2 + 0.4. A size from a caliper may carry its ±: with shaft typed
          as 11.98 ± 0.02, most(shaft) + 0.1 is a hole that clears it for sure.
        </p>
      ) : (
        <ul className="mt-1.5 flex flex-col gap-1.5">
          {part.parameters.map((p) => {
            const fault = faults.get(p.id);
            return (
              <li key={p.id}>
                <div className="flex items-start gap-2">
                  <Name parameter={p} taken={part.parameters} />
                  <span className="grow" />
                  <FormulaField
                    label={`Value of ${p.name}`}
                    value={p.value.text}
                    unit={p.value.unit}
                    read={read}
                    isPositive={false}
                    onAccept={(text) => apply(changeParameter(p.id, { value: { text, unit: p.value.unit } }))}
                  />
                  <Act aria-label={`Take ${p.name} away`} onClick={() => apply(dropParameter(p.id))}>
                    <X size={15} />
                  </Act>
                </div>
                {fault && (
                  <p role="alert" className="text-right text-[12.5px] text-brick">
                    {formulaSentence(fault)}
                  </p>
                )}
              </li>
            );
          })}
        </ul>
      )}
    </section>
  );
}

function Name({ parameter, taken }: { parameter: Parameter; taken: readonly Parameter[] }) {
  const apply = useJob((s) => s.apply);
  const [text, setText] = useState(parameter.name);
  useEffect(() => setText(parameter.name), [parameter.name]);
  const name = text.trim();
  const fault = /^(most|least)$/.test(name)
    ? '“most” and “least” say something else in formulas.'
    : !PARAMETER_NAME.test(name)
      ? 'A name begins with a letter and holds letters, figures and _ only.'
      : taken.some((p) => p.id !== parameter.id && p.name === name)
        ? 'Another parameter is called so.'
        : null;
  return (
    <span className="flex flex-col">
      <input
        aria-label={`Name of ${parameter.name}`}
        value={text}
        maxLength={40}
        aria-invalid={fault !== null}
        onChange={(e) => setText(e.target.value)}
        onBlur={() => {
          if (fault) setText(parameter.name);
          else if (name !== parameter.name) apply(changeParameter(parameter.id, { name }));
        }}
        onKeyDown={(e) => {
          if (e.key === 'Enter' && !fault) e.currentTarget.blur();
          if (e.key === 'Escape') setText(parameter.name);
        }}
        className="figure w-28 rounded border border-line bg-sheet px-1.5 py-0.5 text-[14px] aria-invalid:border-brick"
      />
      {fault && (
        <span role="alert" className="max-w-40 text-[12.5px] text-brick">
          {fault}
        </span>
      )}
    </span>
  );
}
