import type { JobDocument } from '@steady-moth/core/job';
import type { Expression, Figure } from '@steady-moth/core/sketch';
import { Choice } from '../../../kit';
import { FormulaField, NumberField } from '../../../kit/FormulaField';
import { formulaOf, numbersOf } from '../../../session/formulaOf';
import type { Ground } from '../newFeature';

export function Row({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div className="flex items-start justify-between gap-2 text-[13px]">
      <span className="pt-0.5 text-ink2">{label}</span>
      <span className="text-right">{children}</span>
    </div>
  );
}

export function Length({
  job,
  label,
  value,
  onChange,
  isPlace = false,
}: {
  job: JobDocument;
  label: string;
  value: Expression;
  onChange(value: Expression): void;
  /** Zero and less are allowed. */
  isPlace?: boolean;
}) {
  return (
    <Row label={label}>
      <FormulaField
        narrow
        label={label}
        value={value.text}
        unit={value.unit}
        read={formulaOf(job.part)}
        isPositive={!isPlace}
        onAccept={(text) => onChange({ text, unit: value.unit })}
      />
    </Row>
  );
}

/** A length that may be left empty, which means something of its own. */
export function LengthOr({
  job,
  label,
  value,
  onChange,
}: {
  job: JobDocument;
  label: string;
  value: Expression | null;
  onChange(value: Expression | null): void;
}) {
  const unit = value?.unit ?? job.unit;
  return (
    <Row label={label}>
      <FormulaField
        narrow
        label={label}
        value={value?.text ?? ''}
        unit={unit}
        read={formulaOf(job.part)}
        onAccept={(text) => onChange({ text, unit })}
        onEmpty={() => onChange(null)}
      />
    </Row>
  );
}

export function Chooser<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: readonly { value: T; text: string }[];
  onChange(value: T): void;
}) {
  return (
    <Row label={label}>
      <select
        aria-label={label}
        value={value}
        onChange={(e) => onChange(e.target.value as T)}
        className="max-w-44 rounded border border-line bg-sheet px-1.5 py-0.5 text-[13px]"
      >
        {options.map((o) => (
          <option key={o.value} value={o.value}>
            {o.text}
          </option>
        ))}
      </select>
    </Row>
  );
}

/** Which view's paths it is made of, where there are several. */
export function SketchPick({
  label = 'View',
  grounds,
  value,
  onChange,
}: {
  label?: string;
  grounds: readonly Ground[];
  value: string;
  onChange(ground: Ground): void;
}) {
  if (grounds.length < 2) return null;
  return (
    <Chooser
      label={label}
      value={value}
      options={grounds.map((g) => ({ value: g.sketch.id, text: g.name }))}
      onChange={(id) => {
        const ground = grounds.find((g) => g.sketch.id === id);
        if (ground) onChange(ground);
      }}
    />
  );
}

export function PathPicks({
  label,
  ground,
  of,
  value,
  onChange,
}: {
  label: string;
  ground: Ground | undefined;
  /** Which paths come into question. */
  of(ground: Ground): Ground['paths'];
  value: readonly string[];
  onChange(value: string[]): void;
}) {
  const paths = ground ? of(ground) : [];
  return (
    <fieldset className="max-h-40 overflow-y-auto text-[13px]">
      <legend className="text-ink2">{label}</legend>
      {paths.map((path) => (
        <label key={path.id} className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={value.includes(path.id)}
            onChange={(e) => onChange(e.target.checked ? [...value, path.id] : value.filter((id) => id !== path.id))}
          />
          {path.name}
        </label>
      ))}
    </fieldset>
  );
}

export const DOES = [
  { value: 'add', text: 'add' },
  { value: 'cut', text: 'cut out' },
  { value: 'keep', text: 'keep inside' },
] as const;

/** A bare number: degrees, or how many. */
export function Amount({
  job,
  label,
  value,
  least,
  most,
  suffix,
  onChange,
}: {
  job: JobDocument;
  label: string;
  value: Figure;
  least: number;
  most: number;
  suffix?: string;
  onChange(value: Figure): void;
}) {
  return (
    <Row label={label}>
      <NumberField
        label={label}
        value={value.text}
        read={numbersOf(job.part)}
        least={least}
        most={most}
        suffix={suffix}
        onAccept={(text) => onChange({ text, unit: 'number' })}
      />
    </Row>
  );
}

/** From which end of the body something is worked. */
export function EndPick({
  label,
  value,
  onChange,
}: {
  label: string;
  value: 'end' | 'start';
  onChange(value: 'end' | 'start'): void;
}) {
  return (
    <Row label={label}>
      <Choice
        label={label}
        value={value}
        options={[
          { value: 'end', text: 'above' },
          { value: 'start', text: 'below' },
        ]}
        onChange={onChange}
      />
    </Row>
  );
}
