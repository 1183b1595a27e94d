import { type LengthUnit, writeLength } from '@steady-moth/core/units';
import { Button, LengthField, Select } from '../../../kit';
import type { OwnReference } from '../../../session/storage/ownReferences';
import { ForgetOwn, KeepOwn, type Unnamed } from '../KeepOwn';

/** Chosen where none on file fits. */
export const OTHER = 'another size';

interface Size {
  /** What the row says, and what the field is called where that says more. */
  text: string;
  label?: string;
  /** mm; 0 while nobody said. */
  mm: number;
  onAccept(mm: number, plusMinusMm: number | null): void;
  /** What is taken without it all the same. */
  optional?: boolean;
}

/** Which one it is, of those on file and of the person's own, and the sizes that this gives it. */
export function FoundSizes({
  ask,
  label,
  name,
  names,
  onChoose,
  sizes,
  unit,
}: {
  ask: string;
  label: string;
  name: string;
  names: readonly string[];
  onChoose(name: string): void;
  sizes: readonly Size[];
  unit: LengthUnit;
}) {
  return (
    <dl className="mt-3 grid grid-cols-[1fr_auto] items-center gap-y-2 text-[12.5px] text-ink2">
      <dt>{ask}</dt>
      <dd>
        <Select label={label} value={name} onChange={onChoose} options={names} />
      </dd>
      {sizes.map((size) => (
        <Row key={size.text} {...size} unit={unit} />
      ))}
    </dl>
  );
}

const Row = ({ text, label = text, mm, onAccept, optional = false, unit }: Size & { unit: LengthUnit }) => (
  <>
    <dt>{text}</dt>
    <dd>
      <LengthField label={label} value={shown(mm, unit)} unit={unit} onAccept={onAccept} optional={optional} />
    </dd>
  </>
);

const shown = (mm: number, unit: LengthUnit): string =>
  mm > 0 ? writeLength(mm, null, unit).value.replace(/\.?0+$/, '') : '';

/** Takes it, keeps it for next time, or forgets one that was kept. */
export function FoundActs({
  kind,
  name,
  own,
  entry,
  onTake,
  children,
}: {
  kind: OwnReference['kind'];
  name: string;
  own: readonly { name: string }[];
  /** What would be kept; null while its size is not known, and then it cannot be taken. */
  entry: Unnamed | null;
  onTake(): void;
  children?: React.ReactNode;
}) {
  return (
    <div className="mt-3 flex flex-wrap items-center gap-3">
      <Button data-takes strong disabled={!entry} onClick={onTake}>
        Take it
      </Button>
      {children}
      <ForgetOwn kind={kind} name={name} own={own} />
      <KeepOwn entry={entry} />
    </div>
  );
}
