import type { JobDocument, Run, View } from './document';

/** The view that a run was traced in: the smallest that its first point lies in; null outside all views. */
export function viewOfRun({ pictures, part }: JobDocument, run: Run): View | null {
  const point = part.points[run.points[0]];
  const picture = point && pictures.find((p) => p.id === point.picture);
  const around = picture?.views.filter(({ crop }) => {
    const [u, v] = [point.uPx - crop.leftPx, point.vPx - crop.topPx];
    return u >= 0 && v >= 0 && u <= crop.widthPx && v <= crop.heightPx;
  });
  const size = ({ crop }: View) => crop.widthPx * crop.heightPx;
  return around?.reduce<View | null>((best, view) => (best && size(best) <= size(view) ? best : view), null) ?? null;
}
