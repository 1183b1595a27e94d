import { describe, expect, it } from 'vitest';
import { COINS, GRIDS, onlySheetLike, SHEETS, sheetsLike, spacingOf } from './presets';

describe('things of known size', () => {
  it('have no name twice, and sizes that such things have', () => {
    for (const list of [SHEETS, COINS, GRIDS]) expect(new Set(list.map((p) => p.name)).size).toBe(list.length);
    for (const { diameterMm, thicknessMm } of COINS) {
      expect(diameterMm).toBeGreaterThan(16);
      expect(diameterMm).toBeLessThan(32);
      expect(thicknessMm / diameterMm).toBeGreaterThan(0.05);
      expect(thicknessMm / diameterMm).toBeLessThan(0.12);
    }
    for (const { widthMm, heightMm } of SHEETS) expect(widthMm).toBeGreaterThan(heightMm);
    // ISO 216: each is the half of the one before, its sides as 1 to √2.
    for (const { widthMm, heightMm } of SHEETS.slice(0, 4)) expect(widthMm / heightMm).toBeCloseTo(Math.SQRT2, 1);
  });

  it('are offered by their shape', () => {
    expect(sheetsLike(1.42)[0]!.name).toMatch(/^A/);
    expect(sheetsLike(1.3)[0]!.name).toBe('Letter');
    expect(sheetsLike(1.6)[0]!.name).toBe('Card (ID-1)');
    // What only looks as large as its shape lets it is asked, never guessed.
    expect(onlySheetLike(1.42)).toBeNull();
    expect(onlySheetLike(1.6)?.name).toBe('Card (ID-1)');
  });

  it('tell the spacing of a ruler by its length', () => {
    expect(spacingOf(150, 150)).toEqual({ spacingMm: 1, unit: 'mm' });
    expect(spacingOf(150, 300)).toEqual({ spacingMm: 0.5, unit: 'mm' });
    expect(spacingOf(6 * 25.4, 96)).toEqual({ spacingMm: 25.4 / 16, unit: 'in' });
    expect(spacingOf(152.4, 150)).toBeNull();
  });
});
