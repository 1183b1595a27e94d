import type { Tones } from '@steady-moth/core/job';
import { useEffect, useRef } from 'react';
import { pixels } from '../workers';
import { type BoardFace, boardMapper, pictureOutline } from './boardMap';
import { fitView, type View } from './view';

interface Drawn {
  bitmap: ImageBitmap;
  x: number;
  y: number;
  scale: number;
}

/** Side of the drawing of the whole picture that stands in until the visible part is redrawn, px. */
const OVERVIEW_PX = 900;

/**
 * The picture under the traces. A changed view moves what was drawn at once, and asks the worker for the visible part
 * anew; one redrawing is under way at a time, and the latest wish wins.
 */
export function PictureLayer({
  face,
  view,
  widthPx,
  heightPx,
  opacity,
  ready,
  tones,
}: {
  face: BoardFace;
  view: View;
  widthPx: number;
  heightPx: number;
  opacity: number;
  ready: boolean;
  tones: Tones;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const state = useRef<{
    overview: Drawn | null;
    detail: Drawn | null;
    busy: boolean;
    wanted: { face: BoardFace; view: View; tones: Tones } | null;
  }>({
    overview: null,
    detail: null,
    busy: false,
    wanted: null,
  });
  const latest = useRef(view);
  latest.current = view;

  const paint = () => {
    const surface = canvas.current;
    const context = surface?.getContext('2d');
    if (!surface || !context) return;
    const now = latest.current;
    const dpr = window.devicePixelRatio || 1;
    const [w, h] = [Math.round(now.width * dpr), Math.round(now.height * dpr)];
    if (surface.width !== w || surface.height !== h) {
      surface.width = w;
      surface.height = h;
    }
    context.clearRect(0, 0, w, h);
    surface.dataset.shown = String(state.current.overview !== null || state.current.detail !== null);
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
  };

  const pump = async () => {
    const here = state.current;
    if (here.busy) return;
    here.busy = true;
    while (here.wanted) {
      const { face: wantedFace, view: wantedView, tones: wantedTones } = here.wanted;
      here.wanted = null;
      const dpr = window.devicePixelRatio || 1;
      const fine: View = {
        ...wantedView,
        scale: wantedView.scale * dpr,
        width: wantedView.width * dpr,
        height: wantedView.height * dpr,
      };
      const bitmap = await pixels.call((w) => w.redraw(wantedFace, fine, wantedTones, 'visible')).catch(() => null);
      if (!bitmap) continue;
      here.detail?.bitmap.close();
      here.detail = { bitmap, x: fine.x, y: fine.y, scale: fine.scale };
      paint();
    }
    here.busy = false;
  };

  // What was drawn of another face lies in other coordinates: it must not be shown in these.
  const kind = face.kind === 'picture' ? `picture ${face.turns}` : 'true';
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when the kind of face changes
  useEffect(() => {
    state.current.detail?.bitmap.close();
    state.current.detail = null;
  }, [kind]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: paint and pump read the latest through refs
  useEffect(() => {
    paint();
    if (!ready) return;
    state.current.wanted = { face, view, tones };
    void pump();
  }, [face, view, ready, tones]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: once for a picture; later faces are drawn in detail first
  useEffect(() => {
    if (!ready) return;
    let dropped = false;
    const outline = pictureOutline(boardMapper(face), widthPx, heightPx);
    const whole = fitView(outline, OVERVIEW_PX, OVERVIEW_PX, 0);
    const later = setTimeout(async () => {
      const bitmap = await pixels.call((w) => w.redraw(face, whole, tones, 'whole')).catch(() => null);
      if (!bitmap || dropped) return;
      state.current.overview?.bitmap.close();
      state.current.overview = { bitmap, x: whole.x, y: whole.y, scale: whole.scale };
      paint();
    }, OVERVIEW_DELAY_MS);
    return () => {
      dropped = true;
      clearTimeout(later);
      state.current.overview?.bitmap.close();
      state.current.overview = null;
    };
  }, [face, ready, widthPx, heightPx, tones]);

  return <canvas ref={canvas} aria-hidden className="absolute inset-0 h-full w-full" style={{ opacity }} />;
}

/** The whole is drawn once the visible part had its turn, and not while picks are being dragged. */
const OVERVIEW_DELAY_MS = 250;
