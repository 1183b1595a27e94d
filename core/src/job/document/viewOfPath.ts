import { findPath, type Id, type Observation } from '../../sketch';
import type { JobDocument, Picture, View } from './document';

/** The view of a picture that a place lies in: the smallest; null outside all views. */
export function viewAt(
  pictures: readonly Picture[],
  { picture: on, uPx, vPx }: Pick<Observation, 'picture' | 'uPx' | 'vPx'>,
): View | null {
  const around = pictures
    .find((p) => p.id === on)
    ?.views.filter(({ crop }) => {
      const [u, v] = [uPx - crop.leftPx, vPx - crop.topPx];
      return u >= 0 && v >= 0 && u <= crop.widthPx && v <= crop.heightPx;
    });
  const size = ({ crop }: View) => crop.widthPx * crop.heightPx;
  return around?.reduce<View | null>((best, view) => (best && size(best) <= size(view) ? best : view), null) ?? null;
}

/** The view that a path was traced in; null outside all views. */
export function viewOfPath({ pictures, part }: JobDocument, path: Id): View | null {
  const id = findPath(part, path)?.sketch.frame.view ?? null;
  return id === null ? null : (pictures.flatMap((p) => p.views).find((v) => v.id === id) ?? null);
}
