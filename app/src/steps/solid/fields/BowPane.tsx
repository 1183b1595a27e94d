import { pathData, smoothOver, type Vec2 } from '@steady-moth/core/geometry';
import type { LengthUnit } from '@steady-moth/core/units';
import { type PointerEvent, useRef, useState } from 'react';
import { Act } from '../../../kit';
import { useTyped } from '../../../kit/useTyped';
import { bowFrom, bowText } from './bowText';

/** Shares of the body's length: room round it, how near a press takes hold of a place, and clings to middle, ends and top. */
const ROOM = 0.06;
const HOLD = 0.03;
const CLING = 0.015;
/** The pane is at least so high, as a share of its length. */
const LEAST_HIGH = 0.3;

/**
 * A side view of the body in which a line is drawn there and then: a press sets a place, which can be dragged; the line runs
 * smoothly through all of them. The same can be typed below it.
 */
export function BowPane({
  label,
  unit,
  runMm,
  riseMm,
  end,
  places,
  onChange,
}: {
  label: string;
  unit: LengthUnit;
  /** How long the body is along the line, and how high over it, mm. */
  runMm: number;
  riseMm: number;
  /** What y counts outwards from; the pane shows that end above. */
  end: 'top' | 'bottom';
  places: readonly Vec2[] | null;
  onChange(places: readonly Vec2[] | null): void;
}) {
  const pane = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<{ others: readonly Vec2[]; at: Vec2 } | null>(null);
  const [fault, setFault] = useState(false);
  // The first place alone is no line yet: it waits here for the second.
  const [first, setFirst] = useState<readonly Vec2[]>([]);
  const own = places ?? first;
  const shown = held ? inOrder([...held.others, held.at]) : own;
  const [text, setText, given] = useTyped(bowText(places ?? [], unit));
  const half = runMm / 2;
  const room = ROOM * runMm;
  const high = Math.max(riseMm, LEAST_HIGH * runMm) + room;
  const box = { x: -half - room, y: -2 * room, width: runMm + 2 * room, height: high + 2 * room };
  const line = smoothOver(shown);

  const placeOf = (event: PointerEvent): Vec2 => {
    const { left, top, width, height } = pane.current!.getBoundingClientRect();
    const x = box.x + ((event.clientX - left) / width) * box.width;
    const y = -(box.y + ((event.clientY - top) / height) * box.height);
    const cling = (v: number, to: readonly number[]) => to.find((t) => Math.abs(v - t) < CLING * runMm) ?? v;
    const within = Math.max(-half, Math.min(half, x));
    return { x: hundredth(cling(within, [-half, 0, half])), y: hundredth(cling(y, [0])) };
  };
  const commit = (next: readonly Vec2[]) => {
    setFault(false);
    setFirst(next.length > 1 ? [] : next);
    if (next.length > 1) onChange(next);
    else if (places) onChange(null);
  };
  return (
    <div>
      <div className="flex justify-between text-[12.5px] text-ink2">
        <span>{label}</span>
        {own.length > 0 && <Act onClick={() => commit([])}>Make it straight</Act>}
      </div>
      <svg
        ref={pane}
        role="img"
        aria-label={`${label}, drawn over the body`}
        viewBox={`${box.x} ${box.y} ${box.width} ${box.height}`}
        className="mt-1 w-full cursor-crosshair touch-none rounded border border-line bg-paper"
        onPointerDown={(event) => {
          const at = placeOf(event);
          const near = own.find((p) => Math.hypot(p.x - at.x, p.y - at.y) < HOLD * runMm);
          pane.current!.setPointerCapture(event.pointerId);
          setHeld({ others: own.filter((p) => p !== near), at: near ?? at });
        }}
        onPointerMove={(event) => held && setHeld({ ...held, at: placeOf(event) })}
        onPointerUp={() => {
          if (!held) return;
          // One over the other is the same place, set anew.
          commit(inOrder([...held.others.filter((p) => Math.abs(p.x - held.at.x) > CLING * runMm), held.at]));
          setHeld(null);
        }}
        onPointerCancel={() => setHeld(null)}
      >
        <rect x={-half} y={0} width={runMm} height={riseMm} className="fill-sheet stroke-ink2" {...THIN} />
        <path d={`M 0 ${box.y} V ${high}`} className="stroke-line" strokeDasharray="4 3" {...THIN} />
        {line && (
          <path
            d={pathData({ kind: 'chain', closed: false, segments: line }, ({ x, y }) => ({ x, y: -y }))}
            className="fill-none stroke-rust"
            vectorEffect="non-scaling-stroke"
            strokeWidth={2}
          />
        )}
        {shown.map((p) => (
          <circle key={p.x} cx={p.x} cy={-p.y} r={0.012 * box.width} className="fill-rust" />
        ))}
      </svg>
      <input
        aria-label={`${label}: places from the middle and outwards from the ${end}`}
        aria-invalid={fault}
        value={text}
        autoComplete="off"
        placeholder="straight; or x y; x y"
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return;
          const typed = text.trim() === '' ? [] : bowFrom(text, unit);
          setFault(typed === null);
          if (typed === null) return;
          given(text);
          commit(typed);
        }}
        className="figure mt-1 w-full rounded border border-line bg-paper px-2 py-1 text-[13px] aria-invalid:border-brick"
      />
      {fault && (
        <p role="alert" className="text-[12.5px] text-brick">
          Write each place as two figures, with a semicolon between places: -40 -3; 0 0; 40 -3.
        </p>
      )}
    </div>
  );
}

const THIN = { vectorEffect: 'non-scaling-stroke', strokeWidth: 1 } as const;
const hundredth = (mm: number): number => Math.round(mm * 100) / 100;
const inOrder = (places: readonly Vec2[]): Vec2[] => [...places].sort((a, b) => a.x - b.x);
