import { addVariant, changeVariant, dropVariant, type JobDocument, showVariant } from '@steady-moth/core/job';
import { scopeOf, type Variant } from '@steady-moth/core/sketch';
import { fixed } from '@steady-moth/core/units';
import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Act } from '../../kit';
import { FormulaField, formulaSentence } from '../../kit/FormulaField';
import { formulaOf } from '../../session/formulaOf';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';

/** Variants of a part: each a name, and what its parameters are instead. One is shown, and handed over. */
export function VariantLines({ job }: { job: JobDocument }) {
  const apply = useJob((s) => s.apply);
  const { part } = job;
  if (part.parameters.length === 0) return null;
  return (
    <section aria-label="Variants" className="border-line border-t py-2.5">
      <div className="flex items-baseline justify-between">
        <h2 className="font-medium">Variants</h2>
        <Act onClick={() => apply(addVariant(newId(), `Variant ${part.variants.length + 1}`))}>Add a variant</Act>
      </div>
      <ul className="mt-1.5 flex flex-col gap-2">
        <li className="flex items-center gap-2 text-[13px]">
          <input
            type="radio"
            name="variant"
            className="accent-rust"
            id="variant-none"
            checked={part.variant === null}
            onChange={() => apply(showVariant(null))}
          />
          <label htmlFor="variant-none">As it was drawn</label>
        </li>
        {part.variants.map((variant) => (
          <OneVariant key={variant.id} job={job} variant={variant} shown={part.variant === variant.id} />
        ))}
      </ul>
    </section>
  );
}

function OneVariant({ job, variant, shown }: { job: JobDocument; variant: Variant; shown: boolean }) {
  const apply = useJob((s) => s.apply);
  const { part } = job;
  const plain = scopeOf(part, {});
  const own = scopeOf(part, variant.overrides);
  const read = formulaOf(job.part);
  const set = (id: string, text: string | null, unit: 'mm' | 'in') => {
    const { [id]: _, ...rest } = variant.overrides;
    apply(changeVariant(variant.id, { overrides: text === null ? rest : { ...rest, [id]: { text, unit } } }));
  };
  return (
    <li>
      <div className="flex items-center gap-2 text-[13px]">
        <input
          type="radio"
          name="variant"
          className="accent-rust"
          aria-label={`Show ${variant.name}`}
          checked={shown}
          onChange={() => apply(showVariant(variant.id))}
        />
        <VariantName variant={variant} />
        <span className="grow" />
        <Act aria-label={`Take ${variant.name} away`} onClick={() => apply(dropVariant(variant.id))}>
          <X size={15} />
        </Act>
      </div>
      {shown && (
        <ul className="mt-1 flex flex-col gap-1 border-line border-l pl-2.5 text-[12.5px]">
          {part.parameters.map((p) => {
            const override = variant.overrides[p.id];
            const drawn = plain.values.get(p.name);
            const fault = own.faults.get(p.id);
            return (
              <li key={p.id}>
                <div className="flex items-start justify-between gap-2">
                  <span className="pt-1">
                    {p.name} {drawn !== undefined && <span className="text-ink2">as drawn {fixed(drawn, 3)} mm</span>}
                  </span>
                  <FormulaField
                    label={`${p.name} in ${variant.name}`}
                    value={override?.text ?? ''}
                    unit={override?.unit ?? p.value.unit}
                    read={read}
                    isPositive={false}
                    onEmpty={() => set(p.id, null, p.value.unit)}
                    onAccept={(text) => set(p.id, text, override?.unit ?? p.value.unit)}
                  />
                </div>
                {fault && (
                  <p role="alert" className="text-right text-brick">
                    {formulaSentence(fault)}
                  </p>
                )}
              </li>
            );
          })}
        </ul>
      )}
    </li>
  );
}

function VariantName({ variant }: { variant: Variant }) {
  const apply = useJob((s) => s.apply);
  const [text, setText] = useState(variant.name);
  useEffect(() => setText(variant.name), [variant.name]);
  return (
    <input
      aria-label={`Name of ${variant.name}`}
      value={text}
      maxLength={200}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => {
        const name = text.trim();
        if (name && name !== variant.name) apply(changeVariant(variant.id, { name }));
        else setText(variant.name);
      }}
      onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      className="w-40 rounded border border-line bg-sheet px-1.5 py-0.5"
    />
  );
}
