import { invertMap, type Vec2 } from '@steady-moth/core/geometry';
import type { JobDocument, Picture, Rect } from '@steady-moth/core/job';
import { useMemo } from 'react';
import type { Comparison } from '../compute/pixels.worker';
import { type BoardFrame, boardMapper, clipOutline, rectOutline, wholeOf } from '../frames/boardMap';
import { shownTogether } from '../session/pixelsStore';
import { type CompareMode, useSession } from '../session/sessionStore';
import { type Layer, plainLayer } from './PictureLayer';

/**
 * The pictures under the traces, in the job's order: those that are shown and have a frame on this board, and always the
 * one that is worked on, cut to the view that is chosen; `onTop` puts that over all others. `opacityOf` may dim them.
 * What lies wholly under another, opaque one is not drawn: each picture costs a redrawing when the view changes.
 */
export function useLayers(
  job: JobDocument,
  picture: Picture,
  frames: ReadonlyMap<string, BoardFrame>,
  opacityOf: (picture: Picture) => number,
  onTop = false,
): Layer[] {
  const viewId = useSession((s) => s.pictureView);
  const compare = useSession((s) => s.compare);
  return useMemo(() => {
    const together = new Set(shownTogether(boardPictures(job, picture)).map((p) => p.id));
    const order = onTop ? [...job.pictures.filter((p) => p.id !== picture.id), picture] : job.pictures;
    const layers = order.flatMap((p): Layer[] => {
      const frame = frames.get(p.id);
      if (!frame || !together.has(p.id)) return [];
      const layer = plainLayer(p, frame, opacityOf(p));
      if (p.id !== picture.id) return [layer];
      return [{ ...layer, clip: clipOf(p, viewId), compare: comparisonOf(p, compare) }];
    });
    return layers.filter((layer, k) => !layers.slice(k + 1).some((over) => hides(over, layer)));
  }, [job.pictures, picture, frames, opacityOf, viewId, compare, job, onTop]);
}

/** An opaque picture, shown whole, over all of another one. */
function hides(over: Layer, under: Layer): boolean {
  if (over.opacity < 1 || over.clip || over.clear || over.compare) return false;
  const outline = rectOutline(boardMapper(over.frame), wholeOf(over.picture.facts));
  const below = under.clip
    ? clipOutline(under.frame, under.clip)
    : rectOutline(boardMapper(under.frame), wholeOf(under.picture.facts));
  const isIn = (p: Vec2) =>
    outline.every((a, k) => {
      const b = outline[(k + 1) % outline.length]!;
      return (
        (b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x) <= HIDDEN_SLACK * Math.hypot(b.x - a.x, b.y - a.y) ** 2
      );
    });
  return below.length > 0 && below.every(isIn);
}

/** Share of a side: the lens bends outlines a little, and a sliver of that size is nothing to look at. */
const HIDDEN_SLACK = 1e-3;

/** The pictures that may lie on the board, the one that is worked on first. */
export function boardPictures({ pictures }: JobDocument, picture: Picture): Picture[] {
  return [picture, ...pictures.filter((p) => p.shown && p.id !== picture.id)];
}

function clipOf({ views, preparation }: Picture, viewId: string | null): Rect | null {
  return views.find((v) => v.id === viewId)?.crop ?? preparation.crop;
}

export function comparisonOf({ before }: Picture, mode: CompareMode): Comparison | null {
  const back = mode && before && invertMap(before.onto);
  return back ? { blob: before.blob, back, mode } : null;
}
