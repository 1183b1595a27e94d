import type { Box } from '@steady-moth/core/geometry';
import { isClosed } from '@steady-moth/core/tracing';
import { useEffect, useRef } from 'react';
import { paint } from '../compute';
import type { Outline, Paints } from '../compute/paint.worker';
import { allCommands, outlineCommands } from '../frames/outlineCommands';
import { onBoard } from '../frames/place';
import type { View } from '../frames/view';
import { usePart } from './partStore';
import { DASH_OF_ROLE } from './roles';
import type { DrawnPath } from './useDrawn';

/** Zooming and panning move what was painted at once; it is painted anew once the view has been still for this long, ms. */
const STILL_MS = 70;

interface Painted {
  bitmap: ImageBitmap;
  view: View;
}

/**
 * Paths that nobody has in hand, as one picture that is painted on a thread of its own: thousands of them cost a picture
 * to move about, not thousands of elements.
 */
export function PartCanvas({ drawn, view }: { drawn: readonly DrawnPath[]; view: View }) {
  const colour = usePart((s) => s.traceColour);
  const ref = useRef<HTMLCanvasElement>(null);
  const painted = useRef<Painted | null>(null);
  const sent = useRef(new Map<string, DrawnPath>());
  const state = useRef({ busy: false, wanted: false, over: false });
  const latest = useRef({ drawn, view });
  latest.current = { drawn, view };

  /** What was painted last, where the view now has it. */
  const show = () => {
    const canvas = ref.current;
    const context = canvas?.getContext('2d');
    if (!canvas || !context) return;
    const { view: now } = latest.current;
    const dpr = window.devicePixelRatio || 1;
    const [w, h] = [Math.round(now.width * dpr), Math.round(now.height * dpr)];
    if (canvas.width !== w || canvas.height !== h) {
      canvas.width = w;
      canvas.height = h;
    }
    context.clearRect(0, 0, w, h);
    const last = painted.current;
    if (!last) return;
    const grow = now.scale / last.view.scale;
    context.drawImage(
      last.bitmap,
      (last.view.x - now.x) * now.scale * dpr,
      (last.view.y - now.y) * now.scale * dpr,
      last.bitmap.width * grow,
      last.bitmap.height * grow,
    );
    canvas.dataset.painted = 'true';
  };

  /** One painting at a time, and the latest wish wins. */
  const pump = async () => {
    const here = state.current;
    here.wanted = true;
    if (here.busy) return;
    here.busy = true;
    while (here.wanted && !here.over && ref.current) {
      here.wanted = false;
      const { drawn: all, view: now } = latest.current;
      const { changed, gone } = changes(all, sent.current);
      const paints = paintsOf(ref.current);
      const bitmap = await paint
        .call(async (w) => {
          if (changed.length || gone.length) await w.change(changed, gone);
          return w.paint(now, window.devicePixelRatio || 1, paints);
        })
        .catch(() => null);
      if (!bitmap) continue;
      painted.current?.bitmap.close();
      painted.current = { bitmap, view: now };
      show();
    }
    here.busy = false;
  };

  // biome-ignore lint/correctness/useExhaustiveDependencies: show reads the latest view through a ref
  useEffect(show, [view]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: pump reads the latest through refs
  useEffect(() => {
    // What changed is shown at once, what only moved after it came to rest.
    const moved = painted.current !== null && painted.current.view !== view;
    const later = setTimeout(() => void pump(), moved ? STILL_MS : 0);
    return () => clearTimeout(later);
  }, [drawn, view, colour]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, for as long as it is there
  useEffect(() => {
    state.current.over = false;
    // A worker that died took what it was told with it.
    const forget = () => {
      sent.current.clear();
      if (!state.current.over) void pump();
    };
    const deaf = paint.onEnd(forget);
    return () => {
      state.current.over = true;
      deaf();
      painted.current?.bitmap.close();
      painted.current = null;
      const all = [...sent.current.keys()];
      sent.current.clear();
      void paint.call((w) => w.change([], all)).catch(() => {});
    };
  }, []);

  return <canvas ref={ref} aria-hidden data-trace className="pointer-events-none absolute inset-0 h-full w-full" />;
}

/** What the worker does not know yet of these paths; it is noted as told. */
function changes(all: readonly DrawnPath[], sent: Map<string, DrawnPath>): { changed: Outline[]; gone: string[] } {
  const changed: Outline[] = [];
  const left = new Set(sent.keys());
  for (const one of all) {
    const { path, form, made, bounds } = one;
    left.delete(path.id);
    if (sent.get(path.id) === one) continue;
    sent.set(path.id, one);
    changed.push({
      id: path.id,
      commands: made ? allCommands(made) : outlineCommands(form),
      box: bounds && paintedBox(bounds),
      dash: DASH_OF_ROLE[path.role],
      isRegion: path.role === 'cut' && isClosed(one),
    });
  }
  for (const id of left) sent.delete(id);
  return { changed, gone: [...left] };
}

/** A box as the board has it, y down. */
function paintedBox({ left, right, bottom, top }: Box): NonNullable<Outline['box']> {
  const [upper, lower] = [onBoard({ x: left, y: top }), onBoard({ x: right, y: bottom })];
  return { left: upper.x, top: upper.y, right: lower.x, bottom: lower.y };
}

function paintsOf(element: Element): Paints {
  const style = getComputedStyle(element);
  const colour = (name: string) => style.getPropertyValue(name).trim();
  return { casing: colour('--trace-casing'), stroke: colour('--trace'), region: colour('--verdigris') };
}
