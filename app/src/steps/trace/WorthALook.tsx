import { type Finding, MOST_FINDINGS } from '@steady-moth/core/proof';
import type { LengthUnit } from '@steady-moth/core/units';
import { fixed } from '@steady-moth/core/units';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { figures } from '../../compute';
import { fitView } from '../../frames/view';
import { Act } from '../../kit';
import { Fold } from '../../kit/Fold';
import { useBench } from '../../session/benchStore';
import { findingSentence } from '../../session/sentences';
import type { DrawnPath } from './useDrawn';

/** What is shown round a finding, mm to each side. */
const ROUND_MM = 4;
/** So many are listed; of more the first ones, and how many there are. */
const LISTED = 30;
let asked = 0;

/** What a cutter would stumble over in the paths that are cut, each with the way there. */
export function WorthALook({ drawn, unit }: { drawn: readonly DrawnPath[]; unit: LengthUnit }) {
  const cut = useMemo(() => {
    const paths = drawn
      .filter((d) => d.path.role === 'cut' && d.form)
      .map(({ path, form, made }) => ({ id: path.id, forms: made ?? (form ? [form] : []) }));
    asked += 1;
    return { paths, key: asked };
  }, [drawn]);
  const { data } = useQuery({
    queryKey: ['worth a look', cut.key],
    queryFn: ({ signal }) => figures.call((w) => w.checkForms(cut.paths), signal),
    enabled: cut.paths.length > 0,
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 1000,
  });
  if (cut.paths.length === 0 || !data) return null;
  const nameOf = (id: string) => drawn.find((d) => d.path.id === id)?.path.name ?? 'a path';
  const show = ({ at, path }: Finding) => {
    const { view, setView, select } = useBench.getState();
    select({ kind: 'path', path });
    const corners = [-ROUND_MM, ROUND_MM].map((d) => ({ x: at.x + d, y: -at.y + d }));
    if (view) setView(fitView(corners, view.width, view.height, 0));
  };
  const count = data.length >= MOST_FINDINGS ? `${MOST_FINDINGS} or more` : String(data.length);
  return (
    <Fold
      name="worth a look"
      title="Worth a look"
      state={data.length ? <span className="text-amber">{count}</span> : 'nothing'}
      isUsed={false}
    >
      {data.length === 0 ? (
        <p className="pb-2 pl-9 text-[12.5px] text-ink2">
          No open ends, no crossings, nothing drawn twice, no stray bits and no kinks in what is cut.
        </p>
      ) : (
        <ol aria-label="Worth a look" className="flex flex-col gap-1 pb-2 pl-9 text-[12.5px]">
          {data.slice(0, LISTED).map((finding, k) => (
            <li
              key={`${finding.kind} ${finding.path} ${finding.at.x} ${finding.at.y}`}
              className="flex items-baseline justify-between gap-3"
            >
              <span>
                <b className="font-medium">{nameOf(finding.path)}</b>{' '}
                {findingSentence(finding, finding.other && nameOf(finding.other), (mm) =>
                  unit === 'in' ? `${fixed(mm / 25.4, 3)} in` : `${fixed(mm, 2)} mm`,
                )}
              </span>
              <Act className="whitespace-nowrap" aria-label={`Show finding ${k + 1}`} onClick={() => show(finding)}>
                Show me
              </Act>
            </li>
          ))}
          {data.length > LISTED && <li className="text-ink2">and {data.length - LISTED} more.</li>}
        </ol>
      )}
    </Fold>
  );
}
