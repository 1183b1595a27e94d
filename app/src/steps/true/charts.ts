import type { Deviation, PlusMinusMap } from '@steady-moth/core/calibration';
import type { Picture } from '@steady-moth/core/job';
import { REFERENCE_WORDS } from '@steady-moth/core/say';
import type { LengthUnit } from '@steady-moth/core/units';
import type { Trace } from '../../kit/Chart';

/** The map as squares, the larger the ± the darker; the figure stands in every third one. */
export function mapTraces(map: PlusMinusMap, unit: LengthUnit): Trace[] {
  const per = unit === 'in' ? 4 / (100 / 25.4) / 25.4 : 1;
  const cells = map.mm.flatMap((row, j) =>
    row.flatMap((mm, i) => (mm === null ? [] : [{ x: map.uPx[i]!, y: map.vPx[j]!, mm: mm * per, i, j }])),
  );
  return [
    {
      x: cells.map((c) => c.x),
      y: cells.map((c) => c.y),
      mode: 'markers+text',
      text: cells.map((c) => (c.i % 3 === 1 && c.j % 3 === 1 ? c.mm.toPrecision(2) : '')),
      shade: cells.map((c) => c.mm),
      hover: cells.map((c) => `± ${c.mm.toPrecision(2)}`),
      name: '±',
    },
  ];
}

/** Each reference's places one after the other, in their own σ. */
export function deviationTraces(
  deviations: readonly Deviation[],
  { calibration }: Pick<Picture, 'calibration'>,
): Trace[] {
  let at = 0;
  return calibration.references.flatMap((y, k): Trace[] => {
    const own = deviations.filter((d) => d.reference === y.id);
    if (own.length === 0) return [];
    const first = at;
    at += own.length + 6;
    return [
      {
        x: own.map((_, n) => first + n),
        y: own.map((d) => d.offSigmas),
        mode: 'markers',
        hover: own.map((d) => `${d.offMm.toFixed(3)} mm`),
        name: `${k + 1} ${REFERENCE_WORDS[y.kind]}`,
      },
    ];
  });
}
