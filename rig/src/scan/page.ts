/* A drawing on paper, as strokes of ink, mm; own origin at the lower left corner, y up. */

export interface Stroke {
  from: [number, number];
  to: [number, number];
  widthMm: number;
  /** Drawn and empty lengths along it, mm; null for a whole line. */
  dash: [number, number] | null;
}

interface Lettering {
  text: string;
  at: [number, number];
  heightMm: number;
  turn: number;
}

export interface Page {
  widthMm: number;
  heightMm: number;
  strokes: Stroke[];
  letters: Lettering[];
}

/** Line widths of a technical drawing, mm (ISO 128: the wide line is twice the narrow one). */
const WIDE_MM = 0.5;
const NARROW_MM = 0.25;

export class Drawing {
  readonly page: Page;

  constructor(widthMm: number, heightMm: number) {
    this.page = { widthMm, heightMm, strokes: [], letters: [] };
  }

  line(x0: number, y0: number, x1: number, y1: number, widthMm = WIDE_MM, dash: [number, number] | null = null): void {
    this.page.strokes.push({ from: [x0, y0], to: [x1, y1], widthMm, dash });
  }

  path(places: readonly (readonly [number, number])[], closed: boolean, widthMm = WIDE_MM): void {
    const count = closed ? places.length : places.length - 1;
    for (let k = 0; k < count; k++) this.line(...places[k]!, ...places[(k + 1) % places.length]!, widthMm);
  }

  /** A circle or an arc, in chords that stray less than a micrometre; angles in rad. */
  arc(x: number, y: number, r: number, from: number, to: number, widthMm = WIDE_MM): void {
    const count = Math.ceil(Math.abs(to - from) / (2 * Math.acos(1 - 1e-3 / r)));
    const places = Array.from({ length: count + 1 }, (_, k): [number, number] => {
      const a = from + ((to - from) * k) / count;
      return [x + r * Math.cos(a), y + r * Math.sin(a)];
    });
    this.path(places, false, widthMm);
  }

  circle(x: number, y: number, diameter: number): void {
    this.arc(x, y, diameter / 2, 0, 2 * Math.PI);
    const reach = diameter / 2 + 3;
    this.line(x - reach, y, x + reach, y, NARROW_MM, [4, 1.2]);
    this.line(x, y - reach, x, y + reach, NARROW_MM, [4, 1.2]);
  }

  /** A dimension between two places, its line so far to the left of the way from one to the other. */
  dimension(x0: number, y0: number, x1: number, y1: number, away: number, text: string): void {
    const length = Math.hypot(x1 - x0, y1 - y0);
    const [ux, uy] = [(x1 - x0) / length, (y1 - y0) / length];
    const [nx, ny] = [-uy, ux];
    const way = Math.sign(away);
    for (const [x, y] of [
      [x0, y0],
      [x1, y1],
    ] as const)
      this.line(x + way * nx, y + way * ny, x + (away + 1.5 * way) * nx, y + (away + 1.5 * way) * ny, NARROW_MM);
    const [ax, ay, bx, by] = [x0 + away * nx, y0 + away * ny, x1 + away * nx, y1 + away * ny];
    this.line(ax, ay, bx, by, NARROW_MM);
    this.arrow(ax, ay, ux, uy);
    this.arrow(bx, by, -ux, -uy);
    const turn = Math.atan2(uy, ux);
    const [mx, my] = [(ax + bx) / 2 + 2.6 * nx, (ay + by) / 2 + 2.6 * ny];
    this.page.letters.push({ text, at: [mx, my], heightMm: 3.5, turn });
  }

  arrow(x: number, y: number, ux: number, uy: number): void {
    for (const side of [-1, 0, 1])
      this.line(x, y, x + 3 * ux - side * 0.5 * uy, y + 3 * uy + side * 0.5 * ux, NARROW_MM);
  }

  /** A leader from a rim to a figure beside it. */
  leader(x: number, y: number, toX: number, toY: number, text: string): void {
    const length = Math.hypot(toX - x, toY - y);
    this.line(x, y, toX, toY, NARROW_MM);
    this.arrow(x, y, (toX - x) / length, (toY - y) / length);
    const shelf = 2.8 * text.length * Math.sign(toX - x);
    this.line(toX, toY, toX + shelf, toY, NARROW_MM);
    this.page.letters.push({ text, at: [toX + shelf / 2, toY + 2.6], heightMm: 3.5, turn: 0 });
  }
}
