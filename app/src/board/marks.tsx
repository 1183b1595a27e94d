import type { ReactNode } from 'react';
import type { ScreenPlace } from '../frames/place';

/** A dark stroke with a light casing, which reads on any picture. */
export function Cased({
  d,
  colour = 'var(--trace)',
  width = 2,
  dash,
  transform,
  casing = 'var(--trace-casing)',
}: {
  d: string;
  colour?: string;
  width?: number;
  dash?: string;
  transform?: string;
  casing?: string;
}) {
  return (
    <g fill="none" strokeLinejoin="round" transform={transform} pointerEvents="none">
      <path d={d} stroke={casing} strokeWidth={width + 2.6} vectorEffect="non-scaling-stroke" />
      <path d={d} stroke={colour} strokeWidth={width} strokeDasharray={dash} vectorEffect="non-scaling-stroke" />
    </g>
  );
}

/** A pick: a ring with a cross. */
export function PickMark({
  at,
  colour,
  label,
  focused = false,
  onFocus,
}: {
  at: ScreenPlace;
  colour: string;
  label: string;
  focused?: boolean;
  onFocus?: () => void;
}) {
  return (
    <g tabIndex={0} role="img" aria-label={label} onFocus={onFocus} className="outline-none" fill="none">
      {focused && <circle cx={at.x} cy={at.y} r={14} stroke="var(--rust)" strokeWidth={2} strokeDasharray="3 3" />}
      <circle cx={at.x} cy={at.y} r={8} stroke="white" strokeWidth={4.6} />
      <circle cx={at.x} cy={at.y} r={8} stroke={colour} strokeWidth={2} />
      <path d={`M ${at.x - 4} ${at.y} h 8 M ${at.x} ${at.y - 4} v 8`} stroke={colour} strokeWidth={1.4} />
    </g>
  );
}

/** A small card of figures on the board. */
export function Tag({
  at,
  children,
  tone = 'plain',
}: {
  at: ScreenPlace;
  children: ReactNode;
  tone?: 'plain' | 'doubt';
}) {
  return (
    <foreignObject x={at.x - 120} y={at.y - 15} width={240} height={30} pointerEvents="none">
      <div className="flex justify-center">
        <span
          className={`figure rounded border px-2 py-1 text-[12.5px] leading-none ${tone === 'doubt' ? 'border-amber bg-amberpaper text-ink' : 'border-line bg-paper text-ink'}`}
        >
          {children}
        </span>
      </div>
    </foreignObject>
  );
}
