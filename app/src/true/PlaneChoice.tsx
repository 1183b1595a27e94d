import type { Picture, PlaneName } from '@steady-moth/core/job';
import { Choice } from '../kit';

/** On which of the picture's planes something lies. */
export function PlaneChoice({
  picture,
  value,
  onChange,
}: {
  picture: Picture;
  value: PlaneName;
  onChange(plane: PlaneName): void;
}) {
  const planes = [
    { value: 'table', text: picture.kind === 'photo' ? 'table' : 'glass' },
    { value: 'yardstick', text: 'ruler' },
    { value: 'face', text: 'face' },
    ...picture.truing.planes.map(({ id, name }) => ({ value: id, text: name })),
  ];
  return (
    <span className="inline-flex flex-wrap items-center gap-1.5">
      on the <Choice label="Plane it lies on" value={value} options={planes} onChange={onChange} />
    </span>
  );
}
