import type { Axis, Box } from '@steady-moth/core/solid';
import { type LengthUnit, writeLength } from '@steady-moth/core/units';
import { Choice, SlipLine } from '../../kit';
import type { Section } from './view/scene';

export const middleOf = ({ min, max }: Box, axis: Axis): number => (min[axis] + max[axis]) / 2;

const OPTIONS = [
  { value: 'none', text: 'whole' },
  { value: 'x', text: 'X' },
  { value: 'y', text: 'Y' },
  { value: 'z', text: 'height' },
] as const;

/** Where the body is cut open to look inside. */
export function SectionLine({
  section,
  box,
  unit,
  onChange,
}: {
  section: Section | null;
  box: Box;
  unit: LengthUnit;
  onChange(section: Section | null): void;
}) {
  const axis = section?.axis;
  return (
    <SlipLine
      title="Cut open"
      figure={
        <Choice
          label="Cut open across"
          value={axis ?? 'none'}
          options={OPTIONS}
          onChange={(v) => onChange(v === 'none' ? null : { axis: v, at: middleOf(box, v) })}
        />
      }
    >
      {section && (
        <label className="flex items-center gap-2">
          at
          <input
            type="range"
            aria-label="Place of the section"
            min={box.min[section.axis]}
            max={box.max[section.axis]}
            step={(box.max[section.axis] - box.min[section.axis]) / 200}
            value={section.at}
            onChange={(e) => onChange({ ...section, at: e.target.valueAsNumber })}
            className="min-w-0 grow accent-rust"
          />
          <span className="figure">{writeLength(section.at, null, unit).value}</span>
        </label>
      )}
    </SlipLine>
  );
}
