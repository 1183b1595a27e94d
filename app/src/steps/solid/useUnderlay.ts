import type { Picture } from '@steady-moth/core/job';
import type { Box } from '@steady-moth/core/solid';
import { useEffect, useState } from 'react';
import { pixels } from '../../compute';
import type { BoardFrame } from '../../frames/boardMap';
import { screenPlace } from '../../frames/place';
import { viewWith } from '../../frames/view';
import { useIsHeld } from '../../session/pixelsStore';
import type { Underlay } from './view/scene';

/** How far the picture reaches beyond the body, as a share of the body's size; and its longer side, px. */
const BEYOND = 0.35;
const SIDE_PX = 1400;

/** The true picture round a body, drawn once for each; null while it is not wanted or not there. */
export function useUnderlay(picture: Picture, frame: BoardFrame, box: Box | null, wanted: boolean): Underlay | null {
  const held = useIsHeld(picture.blob);
  const [drawn, setDrawn] = useState<Underlay | null>(null);
  const { tones, clear } = picture.preparation;
  const area = box && [box.min.x, box.max.x, box.min.y, box.max.y].map((v) => Math.round(v)).join(' ');
  // biome-ignore lint/correctness/useExhaustiveDependencies: a body of the same size to a millimetre lies on the same picture
  useEffect(() => {
    if (!wanted || !held || !box || frame.kind !== 'true') {
      setDrawn(null);
      return;
    }
    let dropped = false;
    const more = BEYOND * Math.max(box.max.x - box.min.x, box.max.y - box.min.y);
    const [left, right] = [box.min.x - more, box.max.x + more];
    const [bottom, top] = [box.min.y - more, box.max.y + more];
    const scale = SIDE_PX / Math.max(right - left, top - bottom);
    const size = { width: (right - left) * scale, height: (top - bottom) * scale };
    const view = viewWith({ x: 0, y: 0, scale, ...size }, { x: left, y: top }, screenPlace(0, 0), scale);
    void pixels
      .call((w) => w.redraw({ blob: picture.blob, board: frame, view, tones, clear, kind: 'whole', compare: null }))
      .then((drawing) => {
        if (dropped) drawing?.bitmap.close();
        else if (drawing) setDrawn({ bitmap: drawing.bitmap, left, right, bottom, top });
      })
      .catch(() => null);
    return () => {
      dropped = true;
    };
  }, [wanted, held, area, frame, picture.blob, tones, clear]);
  return drawn;
}
