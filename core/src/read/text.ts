/** A picture of printed figures, made ready: one byte a pixel, dark on light, upright or turned by quarters. */
export interface TextImage {
  width: number;
  height: number;
  light: Uint8Array;
}

/** One word that a reader of letters saw. */
interface Word {
  text: string;
  /** 0 to 100, by the reader's own reckoning. */
  confidence: number;
  /** Its bounds in the picture that was read, px from the upper left corner. */
  box: { x0: number; y0: number; x1: number; y1: number };
}

/** Reads the words of a picture, wherever they stand in it. Whoever calls brings the reader: core has none of its own. */
export type ReadText = (image: TextImage) => Promise<Word[]>;

/** The same picture turned by quarters to the right. */
export function turnedBy(image: TextImage, quarters: number): TextImage {
  let now = image;
  for (let k = 0; k < ((quarters % 4) + 4) % 4; k++) now = turnedRight(now);
  return now;
}

function turnedRight({ width, height, light }: TextImage): TextImage {
  const out = new Uint8Array(light.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) out[x * height + (height - 1 - y)] = light[y * width + x]!;
  return { width: height, height: width, light: out };
}

/** A place of the turned picture in the one that was not. */
export function turnedBack(
  { width, height }: { width: number; height: number },
  quarters: number,
  x: number,
  y: number,
): [number, number] {
  switch (((quarters % 4) + 4) % 4) {
    case 1:
      return [y, height - x];
    case 2:
      return [width - x, height - y];
    case 3:
      return [width - y, x];
    default:
      return [x, y];
  }
}

/** The picture as a portable gray map (PGM, P5), which readers of letters take. */
export function writeGrayMap({ width, height, light }: TextImage): Uint8Array<ArrayBuffer> {
  const head = new TextEncoder().encode(`P5\n${width} ${height}\n255\n`);
  const file = new Uint8Array(head.length + light.length);
  file.set(head);
  file.set(light, head.length);
  return file;
}
