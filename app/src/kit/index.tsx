import { fixed, type LengthUnit, parseLength, parsePlace, writeLength } from '@steady-moth/core/units';
import { ToggleGroup } from 'radix-ui';
import { type ButtonHTMLAttributes, type ReactNode, useEffect, useId, useRef, useState } from 'react';
import { lengthSentence } from './lengthSentence';
import { useTyped } from './useTyped';

/** Words that do something. */
export function Act({ className = '', ...rest }: ButtonHTMLAttributes<HTMLButtonElement>) {
  return (
    <button
      type="button"
      {...rest}
      className={`cursor-pointer rounded text-left font-medium text-rust hover:underline disabled:cursor-default disabled:text-ink2 disabled:no-underline ${className}`}
    />
  );
}

/** A framed button for what ends a step or cannot be missed. */
export function Button({
  className = '',
  strong = false,
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { strong?: boolean }) {
  const look = strong ? 'bg-rust border-rust text-[var(--on-rust)]' : 'border-line bg-sheet text-ink hover:border-ink3';
  return (
    <button
      type="button"
      {...rest}
      className={`cursor-pointer rounded border px-3 py-1.5 font-medium disabled:cursor-default disabled:opacity-50 ${look} ${className}`}
    />
  );
}

/** A length with its ±, which never break across lines. */
export function LengthFigure({
  mm,
  plusMinusMm,
  unit,
  className = '',
}: {
  mm: number;
  plusMinusMm: number | null;
  unit: LengthUnit;
  className?: string;
}) {
  const { value, plusMinus } = writeLength(mm, plusMinusMm, unit);
  return (
    <span className={`figure ${className}`}>
      {value}
      {plusMinus !== null && <span className="text-verdigris"> ± {plusMinus}</span>}
    </span>
  );
}

export const degrees = (rad: number, decimals = 2): string => `${fixed((rad * 180) / Math.PI, decimals)}°`;

/** One of a few. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  disabled = false,
}: {
  label: string;
  value: T;
  options: readonly { value: T; text: string }[];
  onChange(value: T): void;
  disabled?: boolean;
}) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      disabled={disabled}
      onValueChange={(v) => v && onChange(v as T)}
      className="inline-flex overflow-hidden rounded border border-line"
    >
      {options.map((o) => (
        <ToggleGroup.Item
          key={o.value}
          value={o.value}
          className="cursor-pointer bg-sheet px-2 py-0.5 text-[12.5px] hover:bg-deeper data-[state=on]:bg-soot data-[state=on]:text-[var(--on-soot)]"
        >
          {o.text}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}

/** A field for a length as people write it; says at once what is wrong, and gives out only what is right. */
export function LengthField({
  label,
  value,
  unit,
  onAccept,
  autoFocus = false,
  hidden = true,
  disabled = false,
  narrow = false,
  place = false,
  optional = false,
}: {
  label: string;
  value: string;
  unit: LengthUnit;
  onAccept(mm: number, plusMinusMm: number | null, typed: string): void;
  autoFocus?: boolean;
  hidden?: boolean;
  disabled?: boolean;
  narrow?: boolean;
  /** A place on an axis: zero and less are allowed. */
  place?: boolean;
  /** Of a form that does without it. */
  optional?: boolean;
}) {
  const id = useId();
  const [text, setText, showNext] = useTyped(value);
  const [fault, setFault] = useState<string | null>(null);
  useEffect(() => {
    if (text === value) setFault(null);
  }, [text, value]);
  // What was given out last: leaving the field after Enter must not give it out twice.
  const given = useRef(value);
  given.current = text === given.current ? given.current : value;
  const accept = (): boolean => {
    if (text === given.current && text !== '') return true;
    const at = place ? parsePlace(text, unit) : null;
    const found = at === null ? parseLength(text, unit) : { ok: true as const, mm: at, plusMinusMm: null };
    if (!found.ok) {
      setFault(lengthSentence(found.reason));
      return false;
    }
    setFault(null);
    given.current = text;
    showNext(text);
    onAccept(found.mm, found.plusMinusMm, text.trim());
    return true;
  };
  return (
    <span className="inline-flex flex-col items-end">
      <label htmlFor={id} className={hidden ? 'sr-only' : 'text-[12.5px] text-ink2'}>
        {label}
      </label>
      <input
        id={id}
        // biome-ignore lint/a11y/noAutofocus: the field appears because its figure is what is asked for now
        autoFocus={autoFocus}
        disabled={disabled}
        value={text}
        inputMode="text"
        autoComplete="off"
        data-optional={optional || undefined}
        aria-invalid={fault !== null}
        aria-describedby={fault ? `${id}-fault` : undefined}
        onChange={(e) => setText(e.target.value)}
        onBlur={() => text !== value && accept()}
        onKeyDown={(e) => {
          // Leaving the field gives the keys back to the tools.
          if (e.key === 'Enter' && accept()) onwards(e.currentTarget);
          if (e.key === 'Escape') setText(value);
        }}
        className={`figure ${narrow ? 'w-20' : 'w-32'} rounded border border-line bg-sheet px-1.5 py-0.5 text-right text-[14px] aria-invalid:border-brick`}
      />
      {fault && (
        <span id={`${id}-fault`} role="alert" className="mt-1 max-w-60 text-right text-[12.5px] text-brick">
          {fault}
        </span>
      )}
    </span>
  );
}

/**
 * After Enter: of figures that are taken together on to the next one that is not said yet, and with all of them said what their
 * button does; else the keys go back to the tools.
 */
function onwards(field: HTMLInputElement): void {
  const group = field.closest('[data-figures]');
  const all = group ? [...group.querySelectorAll<HTMLInputElement>('input.figure:not([data-optional])')] : [];
  const open = all.find((f) => f !== field && !f.value);
  if (open) {
    open.focus();
    return;
  }
  field.blur();
  // What was just accepted has to have come to where the button is first.
  if (group) setTimeout(() => group.querySelector<HTMLButtonElement>('button[data-takes]')?.click());
}

/** One line of the slip: what it is, its figure at the right, a sentence under it. */
export function SlipLine({
  id,
  mark,
  title,
  figure,
  children,
}: {
  id?: string;
  mark?: ReactNode;
  title: ReactNode;
  figure?: ReactNode;
  children?: ReactNode;
}) {
  return (
    <li id={id} className="flex gap-3 border-line border-t py-2.5">
      <span className="w-6 shrink-0 text-[12.5px] text-ink2">{mark}</span>
      <div className="min-w-0 grow">
        <div className="flex items-baseline justify-between gap-3">
          <span className="min-w-0 font-medium">{title}</span>
          {figure !== undefined && <span className="shrink-0 text-right text-[14px]">{figure}</span>}
        </div>
        {children && <div className="mt-0.5 text-[12.5px] text-ink2">{children}</div>}
      </div>
    </li>
  );
}

/** Something to know: a doubt, or a fault. */
export function Notice({ tone, children }: { tone: 'doubt' | 'wrong' | 'good'; children: ReactNode }) {
  const look = {
    doubt: 'border-amber bg-amberpaper',
    wrong: 'border-brick bg-sheet',
    good: 'border-verdigris bg-sheet',
  }[tone];
  return (
    <div role={tone === 'wrong' ? 'alert' : 'status'} className={`my-3 border-l-3 px-3 py-2.5 ${look}`}>
      {children}
    </div>
  );
}

/** One of many, by its name. */
export function Select({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly string[];
  onChange(value: string): void;
}) {
  return (
    <select
      aria-label={label}
      value={value}
      onChange={(e) => onChange(e.target.value)}
      className="max-w-44 rounded border border-line bg-sheet px-1.5 py-0.5 text-[13px]"
    >
      {options.map((o) => (
        <option key={o} value={o}>
          {o || 'choose …'}
        </option>
      ))}
    </select>
  );
}
