import { numbers } from '../render/noise';

/** A dimension as it is drawn: what is printed, and the places of its two extension lines on the page, mm from above. */
interface DrawnDimension {
  text: string;
  value: number;
  from: [number, number];
  to: [number, number];
}

export interface DimensionedDrawing {
  widthMm: number;
  heightMm: number;
  /** The page as SVG, at so many pixels to the millimetre. */
  svg(perMm: number): string;
  dimensions: DrawnDimension[];
}

/** Letters that a machine that draws these pages is likely to have. */
export const DRAWING_FONTS = [
  'DejaVu Sans',
  'DejaVu Sans Condensed',
  'Liberation Sans',
  'Liberation Sans Narrow',
] as const;

type Ending = 'filled' | 'open' | 'stroke';

/**
 * A dimensioned plate with holes, with what stands on such a sheet beside it: centre lines, leaders, a hatched strip, a
 * table of words and figures. Drawn from a seed; letters, arrowheads, line widths, scale and places differ.
 */
export function drawDimensioned(seed: number): DimensionedDrawing {
  const random = numbers(seed * 7919 + 3);
  const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)]!;
  const [widthMm, heightMm] = [210, 160];
  const scale = pick([1, 1, 2, 0.5]);
  const decimals = pick([0, 1, 1, 2]);
  const tall = 2.5 + 2 * random();
  const font = pick(DRAWING_FONTS);
  const thin = 0.18 + 0.14 * random();
  const ending = pick<Ending>(['filled', 'filled', 'open', 'stroke']);
  const isBroken = random() < 0.25;
  const comma = random() < 0.25;
  const parts: string[] = [];
  const dimensions: DrawnDimension[] = [];
  const line = (x0: number, y0: number, x1: number, y1: number, width: number, dash = '') =>
    parts.push(
      `<line x1="${x0}" y1="${y0}" x2="${x1}" y2="${y1}" stroke="#111" stroke-width="${width}" ${dash && `stroke-dasharray="${dash}"`}/>`,
    );
  const words = (text: string, x: number, y: number, turn: number, size = tall) =>
    parts.push(
      `<text x="${x}" y="${y}" font-family="${font}" font-size="${size / 0.73}" text-anchor="middle" fill="#111" transform="rotate(${turn} ${x} ${y})">${text}</text>`,
    );
  /** Printed lengths are what the page shows: rounded first, drawn to that. */
  const rounded = (pageMm: number): number => Number((pageMm / scale).toFixed(decimals));
  const write = (value: number): string => {
    const text = value.toFixed(decimals);
    return comma ? text.replace('.', ',') : text;
  };
  const end = (x: number, y: number, ux: number, uy: number) => {
    const [l, h] = [0.85 * tall, 0.16 * tall];
    if (ending === 'stroke')
      return line(
        x - 0.35 * tall * (ux + uy),
        y - 0.35 * tall * (uy - ux),
        x + 0.35 * tall * (ux + uy),
        y + 0.35 * tall * (uy - ux),
        1.6 * thin,
      );
    const [bx, by] = [x + l * ux, y + l * uy];
    const points = `${bx - h * uy},${by + h * ux} ${x},${y} ${bx + h * uy},${by - h * ux}`;
    parts.push(
      ending === 'filled'
        ? `<polygon points="${points}" fill="#111"/>`
        : `<polyline points="${points}" fill="none" stroke="#111" stroke-width="${thin}"/>`,
    );
  };
  /** A dimension along x (`turn` 0) or along y (read from the right) at a distance from the outline. */
  const dimension = (from: [number, number], to: [number, number], away: number, value: number) => {
    const isFlat = from[1] === to[1];
    const [nx, ny] = isFlat ? [0, Math.sign(away)] : [Math.sign(away), 0];
    const d = Math.abs(away);
    for (const [x, y] of [from, to]) line(x + 0.8 * nx, y + 0.8 * ny, x + (d + 1.6) * nx, y + (d + 1.6) * ny, thin);
    const [a, b] = [from, to].map(([x, y]): [number, number] => [x + d * nx, y + d * ny]) as [
      [number, number],
      [number, number],
    ];
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
    const [ux, uy] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
    const text = write(value);
    const middle: [number, number] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
    const half = isBroken ? 0.5 * (0.66 * text.length + 0.7) * tall : 0;
    if (half > 0) {
      line(a[0], a[1], middle[0] - half * ux, middle[1] - half * uy, thin);
      line(middle[0] + half * ux, middle[1] + half * uy, b[0], b[1], thin);
    } else line(a[0], a[1], b[0], b[1], thin);
    end(a[0], a[1], ux, uy);
    end(b[0], b[1], -ux, -uy);
    const lift = isBroken ? -0.5 * tall : 0.35 * tall;
    if (isFlat) words(text, middle[0], middle[1] - lift, 0);
    else words(text, middle[0] - lift, middle[1], -90);
    dimensions.push({ text, value, from: a, to: b });
  };
  // The plate, its sizes printed as they are drawn.
  const [x0, y0] = [50 + 10 * random(), 42 + 8 * random()];
  const [w, h] = [rounded(70 + 35 * random()), rounded(40 + 22 * random())];
  const [x1, y1] = [x0 + w * scale, y0 + h * scale];
  parts.push(
    `<rect x="${x0}" y="${y0}" width="${x1 - x0}" height="${y1 - y0}" rx="${4 * random()}" fill="none" stroke="#111" stroke-width="${2.2 * thin}"/>`,
  );
  const [a, b] = [rounded((0.2 + 0.12 * random()) * (x1 - x0)), rounded((0.34 + 0.1 * random()) * (x1 - x0))];
  const holeY = rounded((0.35 + 0.3 * random()) * (y1 - y0));
  const hx = [x0 + a * scale, x0 + (a + b) * scale];
  const hy = y0 + holeY * scale;
  const bore = rounded(8 + 8 * random());
  for (const x of hx) {
    const r = (bore * scale) / 2;
    parts.push(`<circle cx="${x}" cy="${hy}" r="${r}" fill="none" stroke="#111" stroke-width="${2.2 * thin}"/>`);
    line(x - r - 3, hy, x + r + 3, hy, thin, '4 1 0.6 1');
    line(x, hy - r - 3, x, hy + r + 3, thin, '4 1 0.6 1');
  }
  const first = 4 + 3.2 * tall;
  dimension([x0, y1], [x1, y1], first, w);
  dimension([x0, y0], [hx[0]!, y0], -(3 + 2.4 * tall), a);
  dimension([hx[0]!, y0], [hx[1]!, y0], -(3 + 2.4 * tall), b);
  dimension([x0, y1], [x0, y0], -first, h);
  dimension([x1, hy], [x1, y0], 3 + 2.6 * tall, holeY);
  // A leader with a diameter, and one with a radius.
  const rim = (bore * scale * Math.SQRT1_2) / 2;
  const [lx, ly] = [hx[1]! + rim, hy + rim];
  line(lx, ly, lx + 10, ly + 10, thin);
  end(lx, ly, Math.SQRT1_2, Math.SQRT1_2);
  line(lx + 10, ly + 10, lx + 10 + 4 * tall, ly + 10, thin);
  words(`Ø${write(bore)}`, lx + 10 + 2 * tall, ly + 10 - 0.35 * tall, 0);
  // Frame and title block.
  parts.push('<rect x="8" y="8" width="194" height="144" fill="none" stroke="#111" stroke-width="0.5"/>');
  for (const y of [130, 137, 144]) line(120, y, 202, y, 0.35);
  for (const x of [120, 160, 182]) line(x, 130, x, 152, 0.35);
  words('BAFFLE PLATE', 140, 135.4, 0, 3);
  words(`${1 + Math.floor(8 * random())}-${100 + Math.floor(800 * random())}`, 171, 135.4, 0, 3);
  words(scale === 1 ? '1:1' : scale > 1 ? `${scale}:1` : `1:${1 / scale}`, 192, 135.4, 0, 3);
  words('2', 192, 142.4, 0, 3);
  words('mm', 171, 142.4, 0, 3);
  const svg = (perMm: number) =>
    `<svg xmlns="http://www.w3.org/2000/svg" width="${perMm * widthMm}" height="${perMm * heightMm}" viewBox="0 0 ${widthMm} ${heightMm}"><rect width="100%" height="100%" fill="#fbfaf5"/>${parts.join('')}</svg>`;
  return { widthMm, heightMm, svg, dimensions };
}
