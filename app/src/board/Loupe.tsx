import { useEffect, useRef } from 'react';
import type { Look } from '../compute/pixels.worker';
import type { View } from '../frames/view';

/** Original pixels across the loupe, and how large each is shown. */
export const LOUPE = { acrossPx: 19, zoom: 8 } as const;
const SIZE = LOUPE.acrossPx * LOUPE.zoom;
const AWAY = 96;

/** A round magnifier of the original pixels beside the point, never over it, with the edges found, the one meant in colour, and the light across it. */
export function Loupe({
  look,
  edge,
  at,
  view,
  caption,
  lies,
}: {
  look: Look;
  /** Which of the edges found is meant. */
  edge: number;
  at: { x: number; y: number };
  view: View;
  caption: string;
  /** How the picture lies on the board: quarter turns clockwise, after left and right changed places. */
  lies: { turns: number; flip: boolean };
}) {
  const ref = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const canvas = ref.current;
    const context = canvas?.getContext('2d');
    if (!canvas || !context) return;
    const style = getComputedStyle(canvas);
    context.imageSmoothingEnabled = false;
    context.fillStyle = style.getPropertyValue('--board');
    context.fillRect(0, 0, SIZE, SIZE);
    context.drawImage(look.crop, 0, 0, SIZE, SIZE);
    const stroke = (colour: string, width: number, path: () => void) => {
      context.strokeStyle = colour;
      context.lineWidth = width;
      context.beginPath();
      path();
      context.stroke();
    };
    const placed = look.located.map(({ uPx, vPx, normal }) => ({
      x: (uPx - look.leftPx) * LOUPE.zoom,
      y: (vPx - look.topPx) * LOUPE.zoom,
      tx: -Math.sin(normal) * SIZE,
      ty: Math.cos(normal) * SIZE,
    }));
    const along = ({ x, y, tx, ty }: (typeof placed)[number]) => {
      context.moveTo(x - tx, y - ty);
      context.lineTo(x + tx, y + ty);
    };
    context.setLineDash([5, 4]);
    for (const other of placed.filter((_, k) => k !== edge)) {
      stroke(style.getPropertyValue('--ink'), 4, () => along(other));
      stroke('#ffffff', 2, () => along(other));
    }
    context.setLineDash([]);
    const meant = placed[edge];
    if (!meant) return;
    const cross = () => {
      context.arc(meant.x, meant.y, 6, 0, 2 * Math.PI);
    };
    stroke('#ffffffb0', 3, () => along(meant));
    stroke(style.getPropertyValue('--rust'), 1.2, () => along(meant));
    stroke('#ffffff', 3.5, cross);
    stroke(style.getPropertyValue('--rust'), 1.6, cross);
    drawAcross(context, look.across[edge]!);
  }, [look, edge]);
  const left = at.x + AWAY + SIZE > view.width ? at.x - AWAY - SIZE + 40 : at.x + AWAY - 40;
  const top = at.y - AWAY - SIZE / 2 < 0 ? at.y + AWAY - 40 : at.y - AWAY - SIZE / 2;
  return (
    <div aria-hidden className="pointer-events-none absolute z-10" style={{ left, top, width: SIZE }}>
      <canvas
        ref={ref}
        width={SIZE}
        height={SIZE}
        data-turns={lies.turns}
        style={{ transform: `rotate(${90 * lies.turns}deg) scaleX(${lies.flip ? -1 : 1})` }}
        className="rounded-full border-2 border-soot bg-board shadow-md"
      />
      <div className="figure mt-1 rounded bg-paper/90 px-1 text-center text-[11.5px]">{caption}</div>
    </div>
  );
}

/** Brightness across the edge, drawn along the bottom. */
function drawAcross(context: CanvasRenderingContext2D, across: readonly number[]): void {
  if (across.length === 0) return;
  const low = Math.min(...across);
  const high = Math.max(...across);
  const path = () =>
    across.forEach((value, k) => {
      const x = SIZE * 0.22 + (k / (across.length - 1)) * SIZE * 0.56;
      const y = SIZE * 0.92 - ((value - low) / (high - low || 1)) * SIZE * 0.18;
      if (k) context.lineTo(x, y);
      else context.moveTo(x, y);
    });
  for (const [colour, width] of [
    ['#25211cd0', 3.5],
    ['#f6f1e6', 1.5],
  ] as const) {
    context.strokeStyle = colour;
    context.lineWidth = width;
    context.beginPath();
    path();
    context.stroke();
  }
}
