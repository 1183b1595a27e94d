import type { Clearing, Picture, Rect, Tones } from '@steady-moth/core/job';
import { memo, useEffect, useRef } from 'react';
import { pixels } from '../compute';
import type { Comparison, DrawWish } from '../compute/pixels.worker';
import { type BoardFrame, boardMapper, clipOutline, rectOutline, wholeOf } from '../frames/boardMap';
import { fitView, toScreen, type View } from '../frames/view';
import { useIsHeld } from '../session/pixelsStore';
import { useSession } from '../session/sessionStore';

/** A picture on the board, and how it shall look. */
export interface Layer {
  picture: Picture;
  frame: BoardFrame;
  opacity: number;
  /** What of it is shown, null for all. */
  clip: Rect | null;
  tones: Tones;
  clear: Clearing | null;
  compare: Comparison | null;
}

/** A picture as its preparation says. */
export function plainLayer(picture: Picture, frame: BoardFrame, opacity = picture.opacity): Layer {
  const { crop, tones, clear } = picture.preparation;
  return { picture, frame, opacity, clip: crop, tones, clear, compare: null };
}

interface Drawn {
  bitmap: ImageBitmap;
  x: number;
  y: number;
  scale: number;
}

/** Side of the drawing of the whole picture that stands in until the visible part is redrawn, px. */
const OVERVIEW_PX = 900;
/** The whole is drawn once the visible part had its turn, and not while picks are being dragged. */
const OVERVIEW_DELAY_MS = 250;

/**
 * A picture under the traces. A changed view moves what was drawn at once, and asks the worker for the visible part
 * anew; one redrawing is under way at a time, and the latest wish wins.
 */
export const PictureLayer = memo(function PictureLayer({
  layer,
  view,
  settled,
}: {
  layer: Layer;
  view: View;
  settled: boolean;
}) {
  const { picture, frame, opacity, clip, tones, clear, compare } = layer;
  const { blob, facts } = picture;
  const held = useIsHeld(blob);
  const heldBefore = useIsHeld(compare?.blob ?? null);
  const ready = settled && held && (compare === null || heldBefore);
  const canvas = useRef<HTMLCanvasElement>(null);
  const state = useRef<{
    overview: Drawn | null;
    detail: Drawn | null;
    busy: boolean;
    wanted: DrawWish | null;
  }>({ overview: null, detail: null, busy: false, wanted: null });
  const latest = useRef({ view, clip, frame });
  latest.current = { view, clip, frame };

  const paint = () => {
    const surface = canvas.current;
    const context = surface?.getContext('2d');
    if (!surface || !context) return;
    const { view: now, clip: cut, frame: on } = latest.current;
    const dpr = window.devicePixelRatio || 1;
    const [w, h] = [Math.round(now.width * dpr), Math.round(now.height * dpr)];
    if (surface.width !== w || surface.height !== h) {
      surface.width = w;
      surface.height = h;
    }
    context.clearRect(0, 0, w, h);
    surface.dataset.shown = String(state.current.overview !== null || state.current.detail !== null);
    context.save();
    if (cut) {
      context.beginPath();
      for (const p of clipOutline(on, cut)) {
        const { x, y } = toScreen(now, p);
        context.lineTo(x * dpr, y * dpr);
      }
      context.clip();
    }
    for (const drawn of [state.current.overview, state.current.detail]) {
      if (!drawn) continue;
      const grow = (now.scale * dpr) / drawn.scale;
      context.imageSmoothingEnabled = grow < 4;
      const left = (drawn.x - now.x) * now.scale * dpr;
      const top = (drawn.y - now.y) * now.scale * dpr;
      // The finer drawing replaces the coarse one where both are; it never mixes with it.
      if (drawn === state.current.detail)
        context.clearRect(left, top, drawn.bitmap.width * grow, drawn.bitmap.height * grow);
      context.drawImage(drawn.bitmap, left, top, drawn.bitmap.width * grow, drawn.bitmap.height * grow);
    }
    context.restore();
  };

  const pump = async () => {
    const here = state.current;
    if (here.busy) return;
    here.busy = true;
    while (here.wanted) {
      const wish = here.wanted;
      here.wanted = null;
      const drawing = await pixels.call((w) => w.redraw(wish)).catch(() => null);
      if (!drawing) continue;
      here.detail?.bitmap.close();
      here.detail = { bitmap: drawing.bitmap, x: wish.view.x, y: wish.view.y, scale: wish.view.scale };
      if (wish.compare) useSession.getState().setDiffering(drawing.differing);
      paint();
    }
    here.busy = false;
  };

  // What was drawn of another frame or picture lies in other coordinates: it must not be shown in these.
  const kind = `${blob} ${frame.kind === 'picture' ? `picture ${frame.turns} ${frame.flip}` : 'true'}`;
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when the kind of frame changes
  useEffect(() => {
    state.current.detail?.bitmap.close();
    state.current.detail = null;
  }, [kind]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: paint and pump read the latest through refs
  useEffect(() => {
    paint();
    if (!ready) return;
    const dpr = window.devicePixelRatio || 1;
    const fine: View = { ...view, scale: view.scale * dpr, width: view.width * dpr, height: view.height * dpr };
    state.current.wanted = { blob, board: frame, view: fine, tones, clear, kind: 'visible', compare };
    void pump();
  }, [blob, frame, view, ready, tones, clear, clip, compare]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: once for a picture; later frames are drawn in detail first
  useEffect(() => {
    if (!ready) return;
    let dropped = false;
    const outline = rectOutline(boardMapper(frame), wholeOf(facts));
    const whole = fitView(outline, OVERVIEW_PX, OVERVIEW_PX, 0);
    const later = setTimeout(async () => {
      const drawing = await pixels
        .call((w) => w.redraw({ blob, board: frame, view: whole, tones, clear, kind: 'whole', compare }))
        .catch(() => null);
      if (!drawing || dropped) return;
      state.current.overview?.bitmap.close();
      state.current.overview = { bitmap: drawing.bitmap, x: whole.x, y: whole.y, scale: whole.scale };
      paint();
    }, OVERVIEW_DELAY_MS);
    return () => {
      dropped = true;
      clearTimeout(later);
      state.current.overview?.bitmap.close();
      state.current.overview = null;
    };
  }, [blob, frame, ready, facts, tones, clear, compare]);

  return (
    <canvas
      ref={canvas}
      aria-hidden
      data-picture={picture.id}
      className="absolute inset-0 h-full w-full"
      style={{ opacity }}
    />
  );
});
