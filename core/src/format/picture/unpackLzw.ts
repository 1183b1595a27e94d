/** Codes of a table of nine to twelve bits (TIFF 6.0, section 13). */
const CLEAR = 256;
const END = 257;
const MOST = 4096;

const prefix = new Uint16Array(MOST);
const last = new Uint8Array(MOST);
const first = new Uint8Array(MOST);
const length = new Uint16Array(MOST);
for (let k = 0; k < 256; k++) {
  last[k] = k;
  first[k] = k;
  length[k] = 1;
}

/**
 * Unpacks the LZW codes of a strip of a TIFF into `target` from `to` on; a damaged strip ends where it no longer makes
 * sense, or where the target ends, and never goes round in circles.
 * @returns where in the target it ended
 */
export function unpackLzw(data: Uint8Array, from: number, count: number, target: Uint8Array, to: number): number {
  const end = Math.min(data.length, from + count);
  let at = from;
  let held = 0;
  let bits = 0;
  let width = 9;
  let next = END + 1;
  let before = -1;
  let out = to;
  for (;;) {
    while (bits < width) {
      if (at >= end) return out;
      held = ((held << 8) | data[at++]!) & 0xffffff;
      bits += 8;
    }
    bits -= width;
    const code = (held >>> bits) & ((1 << width) - 1);
    if (code === END) return out;
    if (code === CLEAR) {
      width = 9;
      next = END + 1;
      before = -1;
      continue;
    }
    if (before < 0) {
      if (code > 255 || out >= target.length) return out;
      target[out++] = code;
      before = code;
      continue;
    }
    if (code > next || (code === next && next >= MOST)) return out;
    if (next < MOST) {
      // A code that is just being made begins and ends alike.
      prefix[next] = before;
      first[next] = first[before]!;
      last[next] = first[code === next ? before : code]!;
      length[next] = length[before]! + 1;
      next += 1;
    }
    const size = length[code]!;
    if (out + size > target.length) return out;
    for (let place = out + size - 1, walk = code; place >= out; place--) {
      target[place] = last[walk]!;
      walk = prefix[walk]!;
    }
    out += size;
    before = code;
    // The width grows one code early (TIFF 6.0).
    if (next + 1 >= 1 << width && width < 12) width += 1;
  }
}
