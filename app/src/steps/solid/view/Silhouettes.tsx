import type { BodyMesh, Box } from '@steady-moth/core/solid';
import { useEffect, useRef } from 'react';
import { SIDES, type Side, WAYS } from './sides';

const SIZE = 34;

/** The body's own silhouettes from its six sides: each shows it from there. */
export function Silhouettes({ mesh, box, onSide }: { mesh: BodyMesh; box: Box; onSide(side: Side): void }) {
  return (
    <div role="group" aria-label="Seen from" className="mt-1.5 grid grid-cols-6 gap-1">
      {SIDES.map((side) => (
        <button
          key={side}
          type="button"
          aria-label={`Seen from the ${side}`}
          title={`Seen from the ${side}`}
          onClick={() => onSide(side)}
          className="flex cursor-pointer flex-col items-center rounded border border-transparent py-1 text-[11.5px] text-ink2 hover:border-line hover:text-ink"
        >
          <Silhouette mesh={mesh} box={box} side={side} />
          {side}
        </button>
      ))}
    </div>
  );
}

function Silhouette({ mesh, box, side }: { mesh: BodyMesh; box: Box; side: Side }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    // Small pictures wait until the browser has nothing better to do.
    const later = setTimeout(() => draw(canvas.current, mesh, box, side), 60);
    return () => clearTimeout(later);
  }, [mesh, box, side]);
  return <canvas ref={canvas} aria-hidden width={2 * SIZE} height={2 * SIZE} style={{ width: SIZE, height: SIZE }} />;
}

function draw(canvas: HTMLCanvasElement | null, mesh: BodyMesh, { min, max }: Box, side: Side): void {
  const context = canvas?.getContext('2d');
  if (!canvas || !context) return;
  const { right, up } = WAYS[side];
  const centre = [(min.x + max.x) / 2, (min.y + max.y) / 2, (min.z + max.z) / 2] as const;
  const reach = Math.max(max.x - min.x, max.y - min.y, max.z - min.z) || 1;
  const grow = (0.92 * canvas.width) / reach;
  const { positions, triangles } = mesh;
  const place = (k: number, way: readonly number[]) =>
    way.reduce((sum, w, n) => sum + w * (positions[3 * k + n]! - centre[n]!), 0);
  context.clearRect(0, 0, canvas.width, canvas.height);
  context.fillStyle = getComputedStyle(document.documentElement).getPropertyValue('--ink2');
  context.beginPath();
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((n) => {
      const k = triangles[t + n]!;
      return [canvas.width / 2 + grow * place(k, right), canvas.height / 2 - grow * place(k, up)] as const;
    }) as [Spot, Spot, Spot];
    // Those that face away would take out again what those in front fill.
    if ((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]) >= 0) continue;
    context.moveTo(...a);
    context.lineTo(...b);
    context.lineTo(...c);
    context.closePath();
  }
  context.fill();
}

type Spot = readonly [number, number];
