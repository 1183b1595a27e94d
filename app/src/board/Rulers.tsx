import { fixed, type LengthUnit } from '@steady-moth/core/units';
import { useEffect, useRef } from 'react';
import { boardPlace, offBoard } from '../frames/place';
import { rulerStep, type View } from '../frames/view';

export const RULER_PX = 22;

/** Rulers along the top and left edge of the board: hatched while the picture is not true, in the job's unit once it is. */
export function Rulers({
  view,
  isTrue,
  unit,
  pointer,
}: {
  view: View;
  isTrue: boolean;
  unit: LengthUnit;
  pointer: { x: number; y: number } | null;
}) {
  return (
    <>
      <Ruler view={view} along="x" isTrue={isTrue} unit={unit} at={pointer?.x ?? null} />
      <Ruler view={view} along="y" isTrue={isTrue} unit={unit} at={pointer?.y ?? null} />
    </>
  );
}

function Ruler({
  view,
  along,
  isTrue,
  unit,
  at,
}: {
  view: View;
  along: 'x' | 'y';
  isTrue: boolean;
  unit: LengthUnit;
  at: number | null;
}) {
  const ref = useRef<HTMLCanvasElement>(null);
  const length = along === 'x' ? view.width : view.height;
  useEffect(() => {
    const canvas = ref.current;
    const context = canvas?.getContext('2d');
    if (!canvas || !context) return;
    const dpr = window.devicePixelRatio || 1;
    const style = getComputedStyle(canvas);
    canvas.width = Math.round((along === 'x' ? length : RULER_PX) * dpr);
    canvas.height = Math.round((along === 'x' ? RULER_PX : length) * dpr);
    context.setTransform(dpr, 0, 0, dpr, 0, 0);
    if (along === 'y') context.setTransform(0, dpr, dpr, 0, 0, 0);
    context.strokeStyle = style.getPropertyValue('--ink3');
    context.fillStyle = style.getPropertyValue('--ink2');
    context.font = '10.5px "Spline Sans Mono Variable", monospace';
    if (isTrue) drawScale(context, view, along, unit, length);
    else drawHatch(context, length);
    if (at !== null) {
      context.strokeStyle = style.getPropertyValue('--rust');
      context.beginPath();
      context.moveTo(at, 0);
      context.lineTo(at, RULER_PX);
      context.stroke();
    }
  }, [view, along, isTrue, unit, at, length]);
  const place =
    along === 'x'
      ? { left: 0, top: -RULER_PX, width: view.width, height: RULER_PX }
      : { top: 0, left: -RULER_PX, height: view.height, width: RULER_PX };
  return <canvas ref={ref} aria-hidden className="absolute bg-deeper" style={place} />;
}

const LEAST_MARK_PX = 6;
const LEAST_FIGURE_PX = 62;

function drawScale(
  context: CanvasRenderingContext2D,
  view: View,
  along: 'x' | 'y',
  unit: LengthUnit,
  length: number,
): void {
  const per = unit === 'in' ? 25.4 : 1;
  const scale = view.scale * per;
  const origin = (along === 'x' ? view.x : view.y) / per;
  const figure = rulerStep(scale, LEAST_FIGURE_PX);
  const mark = Math.max(rulerStep(scale, LEAST_MARK_PX), figure / 10);
  const perFigure = Math.round(figure / mark);
  const decimals = Math.max(0, -Math.floor(Math.log10(figure) + 1e-9));
  context.beginPath();
  for (let n = Math.ceil(origin / mark); n * mark < origin + length / scale; n++) {
    const at = (n * mark - origin) * scale;
    const long = n % perFigure === 0;
    context.moveTo(at, RULER_PX);
    context.lineTo(at, RULER_PX - (long ? 18 : n % 5 === 0 ? 9 : 5));
    if (!long) continue;
    const text = fixed(offBoard(boardPlace(n * mark, n * mark))[along], decimals);
    if (along === 'x') context.fillText(text, at + 3, 9);
    else drawUpright(context, text, at + 2);
  }
  context.stroke();
}

/** The left ruler is drawn with its axes swapped; its figures must be swapped back. */
function drawUpright(context: CanvasRenderingContext2D, text: string, at: number): void {
  context.save();
  context.translate(at, 0);
  context.transform(0, 1, 1, 0, 0, 0);
  context.fillText(text.length > 4 ? text.slice(0, 4) : text, 1, 9);
  context.restore();
}

function drawHatch(context: CanvasRenderingContext2D, length: number): void {
  context.globalAlpha = 0.5;
  context.beginPath();
  for (let x = -RULER_PX; x < length; x += 8) {
    context.moveTo(x, RULER_PX);
    context.lineTo(x + RULER_PX, 0);
  }
  context.stroke();
  context.globalAlpha = 1;
}
