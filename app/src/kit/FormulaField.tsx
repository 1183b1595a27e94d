import { formulaSentence } from '@steady-moth/core/say';
import type { FormulaResult, LengthUnit, NumberResult } from '@steady-moth/core/units';
import { fixed } from '@steady-moth/core/units';
import { useId } from 'react';
import { useTyped } from './useTyped';

/** What a formula comes to, or why it cannot be read. */
export type ReadFormula = (text: string, unit: LengthUnit) => FormulaResult;

/** A field for a length or a formula: says what it comes to where that is not what stands there, and what is wrong. */
export function FormulaField({
  label,
  value,
  unit,
  read,
  onAccept,
  isPositive = true,
  narrow = false,
  onEmpty,
}: {
  label: string;
  value: string;
  unit: LengthUnit;
  read: ReadFormula;
  onAccept(text: string): void;
  /** A size cannot be zero or less. */
  isPositive?: boolean;
  narrow?: boolean;
  /** The field may be left empty, which means this. */
  onEmpty?: () => void;
}) {
  const check = (plain: string): Checked => {
    const found = read(plain, unit);
    if (!found.ok) return { fault: formulaSentence(found.fault), comesTo: null };
    if (isPositive && !(found.mm > 0)) return { fault: 'A size is above 0.', comesTo: null };
    const isFormula = /[A-Za-z_*()+]/.test(plain.replace(/(mm|cm|inch|in|ft|m)\s*$/i, ''));
    const say = (mm: number) => (unit === 'in' ? fixed(mm / 25.4, 4) : fixed(mm, 3));
    const says = `${say(found.mm)}${found.plusMinusMm > 0 ? ` ± ${say(found.plusMinusMm)}` : ''} ${unit}`;
    return { fault: null, comesTo: isFormula ? says : null };
  };
  return (
    <TypedField
      label={label}
      value={value}
      check={check}
      width={narrow ? 'w-24' : 'w-32'}
      onAccept={onAccept}
      onEmpty={onEmpty}
    />
  );
}

/** What a formula for a bare number comes to, or why it cannot be read. */
export type ReadNumber = (text: string) => NumberResult;

/** A field for a bare number or a formula for one: how many, or how many degrees. */
export function NumberField({
  label,
  value,
  read,
  least,
  most,
  suffix,
  onAccept,
}: {
  label: string;
  value: string;
  read: ReadNumber;
  least: number;
  most: number;
  suffix?: string;
  onAccept(text: string): void;
}) {
  const check = (plain: string): Checked => {
    const found = read(plain);
    if (!found.ok) return { fault: formulaSentence(found.fault), comesTo: null };
    const isOut = found.value < least || found.value > most;
    if (isOut) return { fault: `It lies between ${least} and ${most}.`, comesTo: null };
    return { fault: null, comesTo: /[A-Za-z_*/()+]/.test(plain) ? fixed(found.value, 2) : null };
  };
  return <TypedField label={label} value={value} check={check} width="w-20" suffix={suffix} onAccept={onAccept} />;
}

interface Checked {
  fault: string | null;
  /** What a formula comes to, to be said below it. */
  comesTo: string | null;
}

function TypedField({
  label,
  value,
  check,
  width,
  suffix,
  onAccept,
  onEmpty,
}: {
  label: string;
  value: string;
  check(plain: string): Checked;
  width: string;
  suffix?: string;
  onAccept(text: string): void;
  onEmpty?: () => void;
}) {
  const id = useId();
  const [text, setText, given] = useTyped(value);
  const plain = text.trim();
  const { fault, comesTo } = plain === '' && onEmpty ? { fault: null, comesTo: null } : check(plain);
  const accept = () => {
    if (plain === value) return;
    if (fault) return;
    given(text);
    if (plain === '' && onEmpty) onEmpty();
    else onAccept(plain);
  };
  return (
    <span className="inline-flex flex-col items-end">
      <label htmlFor={id} className="sr-only">
        {label}
      </label>
      <span className="inline-flex items-baseline gap-1">
        <input
          id={id}
          value={text}
          autoComplete="off"
          aria-invalid={fault !== null}
          aria-describedby={fault ? `${id}-fault` : undefined}
          onChange={(e) => setText(e.target.value)}
          onBlur={accept}
          onKeyDown={(e) => {
            if (e.key === 'Enter' && !fault) e.currentTarget.blur();
            if (e.key === 'Escape') setText(value);
          }}
          className={`figure ${width} rounded border border-line bg-sheet px-1.5 py-0.5 text-right text-[14px] aria-invalid:border-brick`}
        />
        {suffix}
      </span>
      {comesTo && !fault && <span className="figure text-[12.5px] text-verdigris">= {comesTo}</span>}
      {fault && (
        <span id={`${id}-fault`} role="alert" className="mt-1 max-w-60 text-right text-[12.5px] text-brick">
          {fault}
        </span>
      )}
    </span>
  );
}
