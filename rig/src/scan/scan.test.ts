import { describe, expect, it } from 'vitest';
import { Drawing, type Scanner, scannedAt, scanPage } from '.';

const scanner: Scanner = {
  seed: 3,
  widthPx: 400,
  heightPx: 300,
  perMmX: 11.9,
  perMmY: 11.7,
  turn: 0.02,
  origin: [20, 280],
  blurPx: 0.7,
  noise: 0.5,
};

describe('the simulated scanner', () => {
  const drawing = new Drawing(30, 20);
  drawing.line(5, 10, 25, 10, 0.5);
  const scan = scanPage(drawing.page, scanner);

  it('puts ink where the geometry says', () => {
    for (const x of [8, 15, 22]) {
      const [u, v] = scannedAt(scanner, x, 10);
      let [sum, weight] = [0, 0];
      for (let row = Math.floor(v) - 9; row <= Math.floor(v) + 9; row++) {
        // The line runs nearly along the rows, so that the darkest place of a column is its centre there.
        const dark = 255 - scan.pixels[(row * scan.width + Math.floor(u)) * 3]!;
        const ink = Math.max(0, dark - 40);
        sum += ink * (row + 0.5);
        weight += ink;
      }
      const slope = (scanner.perMmY / scanner.perMmX) * Math.tan(scanner.turn);
      expect(Math.abs(sum / weight - (v - slope * (Math.floor(u) + 0.5 - u)))).toBeLessThan(0.06);
    }
  });

  it('scans the same bytes from the same page', () => {
    expect(scanPage(drawing.page, scanner).pixels).toEqual(scan.pixels);
  });
});
