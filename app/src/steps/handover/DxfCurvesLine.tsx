import { DXF_CURVES, DXF_TOLERANCE, type DxfOptions } from '@steady-moth/core/format/profile';
import { type LengthUnit, writeLength } from '@steady-moth/core/units';
import { Choice, LengthField, SlipLine } from '../../kit';

const WORDS: Record<DxfOptions['curves'], { text: string; what: string }> = {
  kept: { text: 'splines', what: 'lines and arcs stay what they are, with each curve as a spline between them' },
  arcs: { text: 'arcs', what: 'one polyline of lines and arcs, for controllers that know no splines' },
  one: { text: 'one spline', what: 'the whole path as one spline; its arcs are splines too' },
};

/** How a DXF has the paths with curves in them. */
export function DxfCurvesLine({
  options,
  unit,
  onChange,
}: {
  options: DxfOptions;
  unit: LengthUnit;
  onChange(options: DxfOptions): void;
}) {
  return (
    <SlipLine
      title="Curves in the DXF"
      figure={
        <Choice
          label="Curves in the DXF"
          value={options.curves}
          options={DXF_CURVES.map((value) => ({ value, text: WORDS[value].text }))}
          onChange={(curves) => onChange({ ...options, curves })}
        />
      }
    >
      {WORDS[options.curves].what}
      {options.curves === 'arcs' && (
        <span className="mt-1 flex items-center justify-between gap-3">
          <span>At most this far from the curve</span>
          <LengthField
            label="At most this far from the curve"
            hidden
            narrow
            value={writeLength(options.toleranceMm, null, unit).value}
            unit={unit}
            onAccept={(mm) =>
              onChange({ ...options, toleranceMm: Math.min(DXF_TOLERANCE.most, Math.max(DXF_TOLERANCE.least, mm)) })
            }
          />
        </span>
      )}
    </SlipLine>
  );
}
