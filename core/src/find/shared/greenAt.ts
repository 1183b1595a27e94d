import type { Vec2 } from '../../geometry';
import type { Pixels } from '../../raster';

export const unit = ({ x, y }: Vec2): Vec2 => {
  const size = Math.hypot(x, y) || 1;
  return { x: x / size, y: y / size };
};

/** The green of a place, 0 to 255, bilinear, clamped to the picture: enough for looking round. */
export function greenAt({ width, height, data }: Pixels, x: number, y: number): number {
  const u = Math.min(Math.max(x - 0.5, 0), width - 1.001);
  const v = Math.min(Math.max(y - 0.5, 0), height - 1.001);
  const [i, j] = [Math.floor(u), Math.floor(v)];
  const [fx, fy] = [u - i, v - j];
  const at = (j * width + i) * 4 + 1;
  const row = width * 4;
  return (
    (data[at]! * (1 - fx) + data[at + 4]! * fx) * (1 - fy) +
    (data[at + row]! * (1 - fx) + data[at + row + 4]! * fx) * fy
  );
}
