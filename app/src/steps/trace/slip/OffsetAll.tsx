import { addMaker, together } from '@steady-moth/core/job';
import type { EvaluatedPath, Expression } from '@steady-moth/core/sketch';
import { isClosed, islandsOf, type Setting } from '@steady-moth/core/tracing';
import type { LengthUnit } from '@steady-moth/core/units';
import { useState } from 'react';
import { Act } from '../../../kit';
import { FormulaField } from '../../../kit/FormulaField';
import { formulaOf } from '../../../session/formulaOf';
import { useJob } from '../../../session/jobStore';
import { newId } from '../../../session/newId';

/** Several closed paths made larger or smaller at once, as one piece of material: holes go the other way. */
export function OffsetAll({
  own,
  unit,
  setting,
}: {
  own: readonly EvaluatedPath[];
  unit: LengthUnit;
  setting: Pick<Setting, 'job'>;
}) {
  const apply = useJob((s) => s.apply);
  const [by, setBy] = useState<Expression>({ text: unit === 'in' ? '1/32' : '1', unit });
  const closed = own.filter(isClosed);
  if (closed.length < 2) return null;
  const offset = (isLarger: boolean) => {
    const islands = islandsOf(closed);
    const makers = closed.flatMap(({ path }) => {
      const isIsland = islands.get(path.id);
      if (isIsland === undefined) return [];
      const side = isIsland === isLarger ? 'in' : 'out';
      return addMaker({ id: newId(), path: path.id, kind: 'offset', by, side, corners: 'round', except: {} });
    });
    apply(together(isLarger ? 'make all larger' : 'make all smaller', ...makers));
  };
  return (
    <div className="mt-1.5 flex flex-wrap items-center gap-x-3 gap-y-1">
      The material
      <Act onClick={() => offset(true)}>larger</Act>
      <Act onClick={() => offset(false)}>smaller</Act>
      by
      <FormulaField
        label="By how much, all round"
        narrow
        value={by.text}
        unit={by.unit}
        read={formulaOf(setting.job.part)}
        onAccept={(text) => setBy({ text, unit: by.unit })}
      />
      <span className="text-ink2">holes go the other way</span>
    </div>
  );
}
