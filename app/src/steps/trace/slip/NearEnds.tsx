import { joinEnds, together } from '@steady-moth/core/job';
import { type NearEnd, nearEnds } from '@steady-moth/core/tracing';
import { fixed, type LengthUnit } from '@steady-moth/core/units';
import { useMemo, useState } from 'react';
import { fitView } from '../../../frames/view';
import { Act, LengthField } from '../../../kit';
import { Fold } from '../../../kit/Fold';
import type { Drawn } from '../../../part/useDrawn';
import { useJob } from '../../../session/jobStore';
import { useSession } from '../../../session/sessionStore';

/** Ends farther apart are not asked about unless somebody types more, mm. */
const WITHIN_MM = 1;
/** How much is shown round a gap: a multiple of its width, and at least this many mm. */
const ROUND = { gaps: 4, mm: 2 } as const;
const LISTED = 20;

const joined = (pairs: readonly NearEnd[]) =>
  together('join ends', ...pairs.map(({ keep, gone, path }) => joinEnds(keep, gone, path)));

/** Open ends that nearly meet, with the gap: joined one by one or all, each in the middle between both. */
export function NearEnds({ drawn, unit }: { drawn: Drawn; unit: LengthUnit }) {
  const apply = useJob((s) => s.apply);
  const [within, setWithin] = useState({ mm: WITHIN_MM, text: unit === 'in' ? '0.04' : '1' });
  const pairs = useMemo(() => nearEnds(drawn, within.mm), [drawn, within.mm]);
  if (pairs.length === 0 && within.mm === WITHIN_MM) return null;
  const nameOf = (id: string) => drawn.paths.find((d) => d.path.id === id)?.path.name ?? 'a path';
  const write = (mm: number) => (unit === 'in' ? `${fixed(mm / 25.4, 4)} in` : `${fixed(mm, 3)} mm`);
  const show = ({ at, gapMm }: NearEnd) => {
    const { view, setView } = useSession.getState();
    const round = Math.max(ROUND.mm, ROUND.gaps * gapMm);
    const corners = [-round, round].map((d) => ({ x: at.x + d, y: at.y + d }));
    if (view) setView(fitView(corners, view.width, view.height, 0));
  };
  return (
    <Fold
      name="near ends"
      title="Ends that nearly meet"
      state={<span className="text-amber">{pairs.length}</span>}
      isUsed={pairs.length > 0}
    >
      <div className="flex flex-col gap-1 pb-2 pl-9 text-[12.5px]">
        <div className="flex items-center justify-between gap-2">
          <span className="flex items-center gap-2">
            within
            <LengthField
              label="Ends within this distance"
              narrow
              value={within.text}
              unit={unit}
              onAccept={(mm, _pm, text) => setWithin({ mm, text })}
            />
          </span>
          {pairs.length > 1 && <Act onClick={() => apply(joined(pairs))}>Join all of them</Act>}
        </div>
        <ol aria-label="Ends that nearly meet" className="flex flex-col gap-1">
          {pairs.slice(0, LISTED).map((pair, k) => (
            <li key={pair.keep + pair.gone} className="flex items-baseline justify-between gap-3">
              <span>
                <b className="font-medium">{nameOf(pair.path)}</b>
                {pair.other !== pair.path && (
                  <>
                    {' '}
                    and <b className="font-medium">{nameOf(pair.other)}</b>
                  </>
                )}
                : gap of {write(pair.gapMm)}
              </span>
              <span className="flex gap-3 whitespace-nowrap">
                <Act aria-label={`Join gap ${k + 1}`} onClick={() => apply(joined([pair]))}>
                  Join
                </Act>
                <Act aria-label={`Show gap ${k + 1}`} onClick={() => show(pair)}>
                  Show me
                </Act>
              </span>
            </li>
          ))}
          {pairs.length > LISTED && <li className="text-ink2">and {pairs.length - LISTED} more.</li>}
          {pairs.length === 0 && <li className="text-ink2">No two open ends lie so near each other.</li>}
        </ol>
      </div>
    </Fold>
  );
}
