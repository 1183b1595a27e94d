import { type Picture, type PlaneName, TURNED } from '@steady-moth/core/job';
import { Choice } from '../kit';

/** On which of the picture's planes something lies. */
export function PlaneChoice({
  picture,
  value,
  turned = false,
  onChange,
}: {
  picture: Picture;
  /** It may lie on the turned part, where there is one. */
  turned?: boolean;
  value: PlaneName;
  onChange(plane: PlaneName): void;
}) {
  const planes = [
    { value: 'table', text: picture.kind === 'photo' ? 'table' : 'glass' },
    { value: 'reference', text: 'ruler' },
    { value: 'face', text: 'face' },
    ...picture.calibration.planes.map(({ id, name }) => ({ value: id, text: name })),
    ...(turned && picture.calibration.turned ? [{ value: TURNED, text: 'turned part' }] : []),
  ];
  return (
    <span className="inline-flex flex-wrap items-center gap-1.5">
      on the <Choice label="Plane it lies on" value={value} options={planes} onChange={onChange} />
    </span>
  );
}
