import { formsBounds, pathData } from '@steady-moth/core/geometry';
import type { ViewSide } from '@steady-moth/core/solid';
import { useQuery } from '@tanstack/react-query';
import { solids } from '../../../compute';
import { onBoard } from '../../../frames/place';
import type { Planned } from '../../../part/useBody';
import { WORKED_OUT } from '../../../session/group';
import type { Side } from './sides';

/** Kept free round the drawing, as a share of it. */
const RIM = 0.12;

/** The body as its lines from a side: for browsers that cannot draw in space. */
export function FlatView({ planned, side, enabled }: { planned: Planned; side: Side; enabled: boolean }) {
  const from: ViewSide = side === 'corner' ? 'top' : side;
  const { data } = useQuery({
    queryKey: ['body-lines', planned.key, from],
    queryFn: ({ signal }) =>
      solids.call((w) => w.draw(planned.plan.steps, { side: from }, { title: '', date: '', unit: 'mm' }), signal),
    enabled,
    retry: false,
    ...WORKED_OUT,
  });
  const forms = (data?.forms ?? []).map((f) => f.form);
  const bounds = formsBounds(forms);
  return (
    <div className="absolute inset-0 flex flex-col bg-board p-6 text-ink2">
      <p className="text-[13px]">
        This browser cannot draw in space (it has no WebGL): this is the body seen from the {from}. The silhouettes at
        the right show it from elsewhere; everything else works as ever, but for picking on the body.
      </p>
      {bounds && (
        <svg
          role="img"
          aria-label={`The body, seen from the ${from}`}
          className="min-h-0 grow"
          viewBox={boxOf(bounds)}
          fill="none"
          stroke="var(--ink)"
          strokeLinecap="round"
        >
          {forms.map((form) => {
            const d = pathData(form, onBoard);
            return <path key={d} d={d} vectorEffect="non-scaling-stroke" strokeWidth={1.3} />;
          })}
        </svg>
      )}
    </div>
  );
}

function boxOf({ min, max }: { min: { x: number; y: number }; max: { x: number; y: number } }): string {
  const [w, h] = [max.x - min.x, max.y - min.y];
  const rim = RIM * Math.max(w, h);
  const { x, y } = onBoard({ x: min.x - rim, y: max.y + rim });
  return `${x} ${y} ${w + 2 * rim} ${h + 2 * rim}`;
}
