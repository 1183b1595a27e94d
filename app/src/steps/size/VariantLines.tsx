import { readVariantTable, type VariantTable, writeVariantTable } from '@steady-moth/core/format/variants';
import { formsBounds, pathData } from '@steady-moth/core/geometry';
import {
  addVariant,
  changeVariant,
  dropVariant,
  type JobDocument,
  putVariants,
  showVariant,
} from '@steady-moth/core/job';
import { formulaSentence } from '@steady-moth/core/say';
import { scopeOf, type Variant } from '@steady-moth/core/sketch';
import { fixed } from '@steady-moth/core/units';
import { X } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { BoardFrame } from '../../frames/boardMap';
import { Act } from '../../kit';
import { FormulaField } from '../../kit/FormulaField';
import { download, fileNameFor } from '../../session/download';
import { formulaOf } from '../../session/formulaOf';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { useSize } from './sizeStore';
import { formsOf, inVariant } from './variantForms';

/** Variants of a part: each a name, and what its parameters are instead. One is shown, and handed over. */
export function VariantLines({ job, frames }: { job: JobDocument; frames: ReadonlyMap<string, BoardFrame> }) {
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
          <VariantPicture job={job} frames={frames} variant={null} />
          <label htmlFor="variant-none">As it was drawn</label>
          <span className="grow" />
          <LayOver variant={null} name="as it was drawn" />
        </li>
        {part.variants.map((variant) => (
          <OneVariant
            key={variant.id}
            job={job}
            frames={frames}
            variant={variant}
            shown={part.variant === variant.id}
          />
        ))}
      </ul>
      <VariantTableLine job={job} />
    </section>
  );
}

/** So many pieces are worked out for each variant's picture; a larger part shows none. */
const MOST_PIECES = 400;
const PICTURE_PX = 34;

/** The part as a variant has it, small. */
function VariantPicture({
  job: { part },
  frames,
  variant,
}: {
  job: JobDocument;
  frames: ReadonlyMap<string, BoardFrame>;
  variant: string | null;
}) {
  const drawn = useMemo(() => {
    const pieces = Object.values(part.sketches).reduce((sum, s) => sum + Object.keys(s.curves).length, 0);
    if (pieces > MOST_PIECES) return null;
    const forms = formsOf(inVariant(part, variant), frames);
    const box = formsBounds(forms);
    if (!box) return null;
    const data = forms.map((f) => pathData(f, (p) => ({ x: p.x - box.min.x, y: box.max.y - p.y }))).join(' ');
    return { data, width: box.max.x - box.min.x, height: box.max.y - box.min.y };
  }, [part, frames, variant]);
  if (!drawn) return null;
  return (
    <svg
      aria-hidden
      width={PICTURE_PX}
      height={PICTURE_PX}
      viewBox={`0 0 ${drawn.width} ${drawn.height}`}
      className="shrink-0"
    >
      <path d={drawn.data} fillRule="evenodd" fill="var(--ink2)" />
    </svg>
  );
}

/** Lays a variant over what is shown. */
function LayOver({ variant, name }: { variant: string | null; name: string }) {
  const laidOver = useSize((s) => s.laidOver);
  const layOver = useSize((s) => s.layOver);
  const isOn = laidOver !== null && laidOver !== 'seen' && laidOver.variant === variant;
  return (
    <Act
      aria-pressed={isOn}
      aria-label={`Lay ${name} over it`}
      className="text-[12.5px]"
      onClick={() => layOver(isOn ? null : { variant })}
    >
      {isOn ? 'Take off' : 'Lay over'}
    </Act>
  );
}

const TABLE_FAULTS = {
  'no-table': 'This is no table of variants: its first row names “variant” and the parameters.',
  'too-large': 'The table is too large: up to 200 rows.',
} as const;

function tableSentence(fault: Exclude<VariantTable, { ok: true }>): string {
  switch (fault.reason) {
    case 'no-such-parameter':
      return `The part has no parameter called ${fault.name}.`;
    case 'named-twice':
      return `Row ${fault.row}: ${fault.name} is there twice.`;
    case 'no-formula':
      return `Row ${fault.row}: what stands there for ${fault.name} comes to no length.`;
    default:
      return TABLE_FAULTS[fault.reason];
  }
}

/** Variants as a table in and out. */
function VariantTableLine({ job }: { job: JobDocument }) {
  const apply = useJob((s) => s.apply);
  const [fault, setFault] = useState<string | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const { part, unit } = job;
  const take = async (file: File) => {
    const read = file.size > 1e6 ? null : readVariantTable(await file.text(), part, unit, newId);
    if (!read) return setFault(TABLE_FAULTS['too-large']);
    setFault(read.ok ? null : tableSentence(read));
    if (read.ok) apply(putVariants(read.variants));
  };
  return (
    <p className="mt-2 text-[12.5px] text-ink2">
      As a table (CSV):{' '}
      <Act
        onClick={() =>
          download(
            new TextEncoder().encode(writeVariantTable(part, unit)),
            fileNameFor(`${job.name} variants`, 'csv'),
            'text/csv',
          )
        }
      >
        Download it
      </Act>{' '}
      · <Act onClick={() => input.current?.click()}>Read one in</Act>
      <input
        ref={input}
        type="file"
        accept=".csv,text/csv"
        aria-label="Table of variants"
        className="sr-only"
        tabIndex={-1}
        onChange={(e) => {
          const [file] = e.target.files ?? [];
          if (file) void take(file);
          e.target.value = '';
        }}
      />
      {fault && (
        <span role="alert" className="block text-brick">
          {fault}
        </span>
      )}
    </p>
  );
}

function OneVariant({
  job,
  frames,
  variant,
  shown,
}: {
  job: JobDocument;
  frames: ReadonlyMap<string, BoardFrame>;
  variant: Variant;
  shown: boolean;
}) {
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
        <VariantPicture job={job} frames={frames} variant={variant.id} />
        <VariantName variant={variant} />
        <span className="grow" />
        <LayOver variant={variant.id} name={variant.name} />
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
      className="w-28 rounded border border-line bg-sheet px-1.5 py-0.5"
    />
  );
}
