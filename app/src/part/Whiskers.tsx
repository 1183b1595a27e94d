import type { Deviation } from '@steady-moth/core/proof';
import { fixed } from '@steady-moth/core/units';
import { Cased } from '../board/marks';
import { toScreen, type View } from '../frames/view';

/** How long the longest whisker is on screen, px, about; they are made longer by round factors. */
const LONGEST_PX = 40;
const FACTORS = [1, 2, 5, 10, 20, 50, 100, 200, 500];

/** How far the picture's edges lie from a path, standing on it, longer by a factor that is stated. */
export function Whiskers({ deviation, view }: { deviation: Deviation; view: View }) {
  const { whiskers, whole } = deviation;
  if (whiskers.length === 0) return null;
  const most = LONGEST_PX / (view.scale * Math.max(whole.largestMm, 1e-6));
  const factor = FACTORS.filter((f) => f <= most).at(-1) ?? 1;
  const d = whiskers
    .map(({ at, normal, mm }) => {
      const from = toScreen(view, at);
      const to = toScreen(view, { x: at.x + factor * mm * normal.x, y: at.y + factor * mm * normal.y });
      return `M ${from.x} ${from.y} L ${to.x} ${to.y}`;
    })
    .join(' ');
  return (
    <g data-testid="whiskers">
      <Cased d={d} colour="var(--verdigris)" width={1.4} />
      <text
        x={view.width - 12}
        y={22}
        textAnchor="end"
        className="figure"
        fontSize={13}
        stroke="white"
        strokeWidth={3}
        paintOrder="stroke"
        fill="var(--ink)"
      >
        {factor === 1 ? 'deviations at true size' : `deviations ${fixed(factor, 0)} times as long`}
      </text>
    </g>
  );
}
