/** A place where two drawings of one view differ: its box in px of the drawing, and what of it came or went. */
export interface DifferencePlace {
  left: number;
  top: number;
  width: number;
  height: number;
  /** Pixels that differ. */
  pixels: number;
  /** Darker now, darker before, or some of both. */
  kind: 'come' | 'gone' | 'changed';
}

/** Difference of brightness, of 255, from which two pictures are told to differ: above noise and a soft edge's wander. */
export const LEAST_DIFFERENCE = 48;
/** Places are gathered by squares of so many pixels each way: what lies nearer together is one place. */
const CELL_PX = 8;
/** A square of which fewer pixels differ than this is an edge that wandered by one. */
const LEAST_IN_CELL = 10;
/** A place of fewer pixels is none. */
const LEAST_PIXELS = 24;
/** Of one kind where the other makes up no more than this share. */
const MIXED_SHARE = 0.15;

/**
 * The places where an earlier drawing of a view differs from the present one, the largest first.
 *
 * In: both as RGBA of the same size; what is transparent in either is not compared. Out: at most `most` places.
 */
export function findDifferences(
  now: Uint8ClampedArray,
  before: Uint8ClampedArray,
  width: number,
  height: number,
  most: number,
): DifferencePlace[] {
  const columns = Math.ceil(width / CELL_PX);
  const rows = Math.ceil(height / CELL_PX);
  const come = new Int32Array(columns * rows);
  const gone = new Int32Array(columns * rows);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const k = 4 * (y * width + x);
      if (now[k + 3] === 0 || before[k + 3] === 0) continue;
      const change = brightnessAt(now, k) - brightnessAt(before, k);
      if (Math.abs(change) < LEAST_DIFFERENCE) continue;
      const cell = Math.floor(y / CELL_PX) * columns + Math.floor(x / CELL_PX);
      if (change < 0) come[cell]! += 1;
      else gone[cell]! += 1;
    }
  const seen = new Uint8Array(columns * rows);
  const places: DifferencePlace[] = [];
  for (let cell = 0; cell < seen.length; cell++)
    if (!seen[cell] && come[cell]! + gone[cell]! >= LEAST_IN_CELL) {
      const place = gather(cell, columns, rows, come, gone, seen);
      if (place.pixels >= LEAST_PIXELS) places.push(place);
    }
  return places.sort((a, b) => b.pixels - a.pixels).slice(0, most);
}

/** All squares that hang together with one. */
function gather(
  first: number,
  columns: number,
  rows: number,
  come: Int32Array,
  gone: Int32Array,
  seen: Uint8Array,
): DifferencePlace {
  const waiting = [first];
  seen[first] = 1;
  let [left, right, top, bottom, came, went] = [columns, 0, rows, 0, 0, 0];
  for (let cell = waiting.pop(); cell !== undefined; cell = waiting.pop()) {
    const [i, j] = [cell % columns, Math.floor(cell / columns)];
    left = Math.min(left, i);
    right = Math.max(right, i);
    top = Math.min(top, j);
    bottom = Math.max(bottom, j);
    came += come[cell]!;
    went += gone[cell]!;
    for (let dj = -1; dj <= 1; dj++)
      for (let di = -1; di <= 1; di++) {
        const [x, y] = [i + di, j + dj];
        if (x < 0 || y < 0 || x >= columns || y >= rows) continue;
        const next = y * columns + x;
        if (seen[next] || come[next]! + gone[next]! < LEAST_IN_CELL) continue;
        seen[next] = 1;
        waiting.push(next);
      }
  }
  const pixels = came + went;
  const kind = Math.min(came, went) > MIXED_SHARE * pixels ? 'changed' : came > went ? 'come' : 'gone';
  const [x, y] = [left * CELL_PX, top * CELL_PX];
  return { left: x, top: y, width: (right - left + 1) * CELL_PX, height: (bottom - top + 1) * CELL_PX, pixels, kind };
}

/** Brightness of an RGBA pixel, 0 to 255. */
export const brightnessAt = (data: Uint8ClampedArray, k: number): number =>
  (data[k]! * 54 + data[k + 1]! * 183 + data[k + 2]! * 19) >> 8;
