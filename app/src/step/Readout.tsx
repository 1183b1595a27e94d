import { fixed, type LengthUnit, writeLength } from '@steady-moth/core/units';
import { type ReactNode, useLayoutEffect, useRef, useState } from 'react';
import { focusBoard } from '../board/focusBoard';
import { degrees } from '../kit';
import { useReadout } from '../session/readoutStore';
import { ARROW_STEPS, useSession } from '../session/sessionStore';
import { useTypedAhead } from './useTypedAhead';

/** The strip of large figures along the bottom. Digits typed anywhere land here. */
export function Readout({ unit, isTrue, cells }: { unit: LengthUnit; isTrue: boolean; cells?: ReactNode }) {
  const reading = useReadout((s) => s.reading);
  const asks = useReadout((s) => s.asks);
  const length = reading.lengthMm === null ? null : writeLength(reading.lengthMm, reading.lengthPlusMinusMm, unit);
  return (
    <section
      aria-label="Readout"
      className="flex h-[86px] shrink-0 items-center gap-5 overflow-hidden bg-soot px-5 text-[var(--on-soot)]"
    >
      <Entry />
      {cells ?? (
        <>
          <Cell label="X">{isTrue && reading.xMm !== null ? signed(reading.xMm, unit) : '—'}</Cell>
          <Cell label="Y">{isTrue && reading.yMm !== null ? signed(reading.yMm, unit) : '—'}</Cell>
          <Cell label={`Length, ${unit}`}>
            {length ? length.value : '—'}
            {length?.plusMinus && (
              <span className="text-[16px] text-[var(--soot-verdigris)]"> ± {length.plusMinus}</span>
            )}
          </Cell>
          <Cell label="Direction">{reading.angle === null ? '—' : degrees(reading.angle)}</Cell>
          <div className="min-w-24 grow">
            <div className="text-[11.5px] text-[var(--soot-label)]">Snaps to</div>
            <div className="truncate text-[14px]">{reading.snaps ?? '—'}</div>
          </div>
        </>
      )}
      {!asks && !cells && <StepPicker />}
    </section>
  );
}

export function Cell({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="shrink-0">
      <div className="text-[11.5px] text-[var(--soot-label)]">{label}</div>
      <div className="figure min-w-[4.4ch] text-[24px] leading-tight">{children}</div>
    </div>
  );
}

function signed(mm: number, unit: LengthUnit): string {
  const value = unit === 'in' ? mm / 25.4 : mm;
  const text = fixed(Math.abs(value), unit === 'in' ? 4 : 3);
  return `${value < 0 ? '−' : '+'} ${text}`;
}

function StepPicker() {
  const step = useSession((s) => s.step);
  const setStep = useSession((s) => s.setStep);
  const text = (s: (typeof ARROW_STEPS)[number]) => `${s.size} ${s.unit}`;
  return (
    <label className="shrink-0">
      <span className="block text-[11.5px] text-[var(--soot-label)]">Step of the arrow keys</span>
      <select
        value={ARROW_STEPS.indexOf(step)}
        onChange={(e) => setStep(ARROW_STEPS[Number(e.target.value)]!)}
        className="figure rounded bg-transparent text-[14px]"
      >
        {ARROW_STEPS.map((s, k) => (
          <option key={text(s)} value={k} className="bg-paper text-ink">
            {text(s)}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Present only while something waits for a figure; the first digit typed anywhere goes into it. */
function Entry() {
  const asks = useReadout((s) => s.asks);
  const ref = useRef<HTMLInputElement>(null);
  const [text, setText] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const label = asks?.label;
  // These run before the question is seen: a key pressed as soon as it is would go nowhere otherwise.
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is asked for changed, so what was typed for it is over
  useLayoutEffect(() => {
    setText('');
    setFault(null);
  }, [label]);
  const enter = (typed: string) => {
    const wrong = asks?.accept(typed) ?? null;
    setFault(wrong);
    if (wrong) return;
    setText('');
    ref.current?.blur();
    focusBoard();
  };
  useTypedAhead(asks !== null, (ahead, isEntered) => {
    ref.current?.focus();
    setText(ahead);
    if (isEntered) enter(ahead);
  });
  useLayoutEffect(() => {
    if (!asks) return;
    const onKey = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName);
      if (typing || event.ctrlKey || event.metaKey || event.altKey || !/^[\d.,Øø]$/.test(event.key)) return;
      event.preventDefault();
      ref.current?.focus();
      setText((t) => t + event.key);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [asks]);
  if (!asks) return null;
  return (
    <div className="shrink-0">
      <label htmlFor="readout-entry" className="block text-[11.5px] text-[var(--soot-label)]">
        {asks.label}
      </label>
      <input
        id="readout-entry"
        ref={ref}
        value={text}
        autoComplete="off"
        placeholder="type it"
        aria-invalid={fault !== null}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Escape') {
            setText('');
            setFault(null);
            ref.current?.blur();
          }
          if (e.key === 'Enter') enter(text);
        }}
        className="figure w-36 rounded border border-[var(--soot-label)] bg-transparent px-2 text-[22px] aria-invalid:border-[var(--soot-verdigris)]"
      />
      {fault && (
        <div
          role="alert"
          className="absolute bottom-[88px] left-28 z-20 max-w-96 rounded border border-brick bg-paper px-3 py-2 text-brick"
        >
          {fault}
        </div>
      )}
    </div>
  );
}
