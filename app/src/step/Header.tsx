import type { LengthUnit } from '@steady-moth/core/units';
import { Redo2, Undo2 } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { Choice } from '../kit';
import { Mark } from './Mark';

export function Header({
  children,
  unit,
  onUnit,
}: {
  children?: ReactNode;
  unit: LengthUnit;
  onUnit(unit: LengthUnit): void;
}) {
  return (
    <header className="flex h-[46px] shrink-0 items-center gap-3 border-line border-b bg-paper px-6">
      <Link to="/" aria-label="Steady Moth: to the rack" className="text-ink">
        <Mark />
      </Link>
      {children}
      <Choice label="Unit" value={unit} options={UNITS} onChange={onUnit} />
    </header>
  );
}

const UNITS = [
  { value: 'mm', text: 'mm' },
  { value: 'in', text: 'in' },
] as const;

export function UndoButtons({
  undo,
  redo,
  onUndo,
  onRedo,
}: {
  undo: string | null;
  redo: string | null;
  onUndo(): void;
  onRedo(): void;
}) {
  const look = 'cursor-pointer rounded p-1.5 text-rust hover:bg-deeper disabled:cursor-default disabled:text-ink3';
  return (
    <span className="flex gap-1">
      <button
        type="button"
        className={look}
        disabled={!undo}
        onClick={onUndo}
        aria-label={undo ? `Undo: ${undo}` : 'Nothing to undo'}
        title={undo ? `Undo: ${undo}` : ''}
      >
        <Undo2 size={18} />
      </button>
      <button
        type="button"
        className={look}
        disabled={!redo}
        onClick={onRedo}
        aria-label={redo ? `Redo: ${redo}` : 'Nothing to redo'}
        title={redo ? `Redo: ${redo}` : ''}
      >
        <Redo2 size={18} />
      </button>
    </span>
  );
}
