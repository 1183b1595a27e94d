import {
  addReference,
  type DiscRecord,
  type GridRecord,
  type Picture,
  type SheetRecord,
  setAxis,
  together,
} from '@steady-moth/core/job';
import type { LengthUnit } from '@steady-moth/core/units';
import { useFocusAfter } from '../../../board/focusBoard';
import { useJob } from '../../../session/jobStore';
import { useSession } from '../../../session/sessionStore';
import type { PendingFound } from '../trueStore';
import { DiscForm } from './DiscForm';
import { GridForm } from './GridForm';
import { SheetForm } from './SheetForm';

const TITLES: Record<PendingFound['kind'], string> = {
  disc: 'Which coin or disc is it?',
  sheet: 'Which sheet is it?',
  grid: 'How far apart are its lines?',
};

/** What was found by one click: its name and its size are confirmed, and it becomes a reference. */
export function FoundForm({ picture, pending, unit }: { picture: Picture; pending: PendingFound; unit: LengthUnit }) {
  const add = (record: DiscRecord | SheetRecord | GridRecord) => {
    const first = picture.calibration.references.length === 0 && !picture.calibration.axis && record.kind !== 'disc';
    useJob
      .getState()
      .apply(
        together(
          'add a yardstick',
          addReference(picture.id, record),
          ...(first ? [setAxis(picture.id, { along: 'x', reference: record.id })] : []),
        ),
      );
    useSession.getState().take(null);
  };
  useFocusAfter();
  return (
    <section aria-label="What was found" className="mb-4 rounded border border-rust bg-sheet p-3.5">
      <h3 className="font-semibold">{TITLES[pending.kind]}</h3>
      <div data-figures>
        {pending.kind === 'disc' && <DiscForm found={pending.found} unit={unit} add={add} />}
        {pending.kind === 'sheet' && <SheetForm found={pending.found} unit={unit} add={add} />}
        {pending.kind === 'grid' && <GridForm found={pending.found} unit={unit} add={add} />}
      </div>
    </section>
  );
}
