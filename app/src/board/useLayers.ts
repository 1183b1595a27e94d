import { invertMap } from '@steady-moth/core/geometry';
import type { JobDocument, Picture, Rect } from '@steady-moth/core/job';
import { useMemo } from 'react';
import type { Comparison } from '../compute/pixels.worker';
import type { BoardFace } from '../frames/boardMap';
import { type CompareMode, useBench } from '../session/benchStore';
import { shownTogether } from '../session/pixelsStore';
import { type Layer, plainLayer } from './PictureLayer';

/**
 * The pictures under the traces, in the job's order: those that are shown and have a face on this board, and always the
 * one that is worked on, cut to the view that is chosen. `opacityOf` may dim them.
 */
export function useLayers(
  job: JobDocument,
  picture: Picture,
  faces: ReadonlyMap<string, BoardFace>,
  opacityOf: (picture: Picture) => number,
): Layer[] {
  const viewId = useBench((s) => s.pictureView);
  const compare = useBench((s) => s.compare);
  return useMemo(() => {
    const together = new Set(shownTogether(boardPictures(job, picture)).map((p) => p.id));
    return job.pictures.flatMap((p): Layer[] => {
      const face = faces.get(p.id);
      if (!face || !together.has(p.id)) return [];
      const layer = plainLayer(p, face, opacityOf(p));
      if (p.id !== picture.id) return [layer];
      return [{ ...layer, clip: clipOf(p, viewId), compare: comparisonOf(p, compare) }];
    });
  }, [job.pictures, picture, faces, opacityOf, viewId, compare, job]);
}

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
