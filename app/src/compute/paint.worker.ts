import * as Comlink from 'comlink';
import { drawCommands } from '../frames/outlineCommands';
import type { View } from '../frames/view';
import { serve } from './serve';

/** One path to be painted, in board units. */
export interface Outline {
  id: string;
  commands: Float64Array;
  box: { left: number; top: number; right: number; bottom: number } | null;
  /** Line and gap, px of the screen; empty for a whole line. */
  dash: readonly number[];
  /** Its inside is shaded, with the others' as islands. */
  isRegion: boolean;
}

/** Colours as the page's style has them now. */
export interface Paints {
  casing: string;
  stroke: string;
  region: string;
}

/** Widths on screen, px, as the drawn elements of the board have them. */
const STROKE_PX = 2;
const CASING_PX = 4.6;
const REGION_ALPHA = 0.28;

const outlines = new Map<string, Omit<Outline, 'commands'> & { path: Path2D }>();

const calls = {
  /** Takes changed outlines in, and others off. */
  async change(changed: readonly Outline[], gone: readonly string[]): Promise<void> {
    for (const id of gone) outlines.delete(id);
    for (const { commands, ...rest } of changed) {
      const path = new Path2D();
      drawCommands(commands, path);
      outlines.set(rest.id, { ...rest, path });
    }
  },

  /** Paints what a view shows of them. */
  async paint(view: View, dpr: number, paints: Paints): Promise<ImageBitmap> {
    const canvas = new OffscreenCanvas(
      Math.max(1, Math.round(view.width * dpr)),
      Math.max(1, Math.round(view.height * dpr)),
    );
    const context = canvas.getContext('2d');
    if (!context) throw new Error('This browser cannot draw here.');
    const seen = [...outlines.values()].filter(({ box }) => box && inSight(box, view));
    const grow = view.scale * dpr;
    context.setTransform(grow, 0, 0, grow, -view.x * grow, -view.y * grow);
    context.lineJoin = 'round';
    const region = new Path2D();
    for (const { path, isRegion } of seen) if (isRegion) region.addPath(path);
    context.fillStyle = paints.region;
    context.globalAlpha = REGION_ALPHA;
    context.fill(region, 'evenodd');
    context.globalAlpha = 1;
    stroke(context, seen, paints.casing, CASING_PX / view.scale, () => []);
    stroke(context, seen, paints.stroke, STROKE_PX / view.scale, (dash) => dash.map((d) => d / view.scale));
    const bitmap = canvas.transferToImageBitmap();
    return Comlink.transfer(bitmap, [bitmap]);
  },
};

export type PaintCalls = typeof calls;

function stroke(
  context: OffscreenCanvasRenderingContext2D,
  all: readonly { path: Path2D; dash: readonly number[] }[],
  colour: string,
  width: number,
  dashed: (dash: readonly number[]) => number[],
): void {
  context.strokeStyle = colour;
  context.lineWidth = width;
  for (const { path, dash } of all) {
    context.setLineDash(dashed(dash));
    context.stroke(path);
  }
}

function inSight(box: NonNullable<Outline['box']>, view: View): boolean {
  const [right, bottom] = [view.x + view.width / view.scale, view.y + view.height / view.scale];
  const edge = CASING_PX / view.scale;
  return (
    box.left <= right + edge && box.right >= view.x - edge && box.top <= bottom + edge && box.bottom >= view.y - edge
  );
}

serve(calls);
