import type { PlaneName } from '@steady-moth/core/job';
import { Choice } from '../kit';

const PLANES: readonly { value: PlaneName; text: string }[] = [
  { value: 'table', text: 'table' },
  { value: 'yardstick', text: 'ruler' },
  { value: 'face', text: 'face' },
];

export function PlaneChoice({ value, onChange }: { value: PlaneName; onChange(plane: PlaneName): void }) {
  return (
    <span className="inline-flex items-center gap-1.5">
      on the <Choice label="Plane it lies on" value={value} options={PLANES} onChange={onChange} />
    </span>
  );
}
