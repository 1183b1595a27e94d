import { describe, expect, it } from 'vitest';
import { normalRandom, seededRandom } from '../../numeric';
import { withoutWild } from './wildCrossings';

/** A grid in perspective through a bent lens, places known to 0.08 px, some covered, some wild by 1 to 6 px. */
function grid(seed: number) {
  const random = seededRandom(seed);
  const normal = normalRandom(random);
  const [tiltX, tiltY, bend] = [2e-4 * (random() - 0.5), 2e-4 * (random() - 0.5), 4e-9 * (random() - 0.5)];
  const all = [];
  for (let i = 0; i < 24; i++)
    for (let j = 0; j < 18; j++) {
      if (random() < 0.12 || (i > 9 && i < 14 && j > 6 && j < 11)) continue;
      const [x, y] = [90 * (i - 12), 90 * (j - 9)];
      const w = 1 + tiltX * x + tiltY * y;
      const grown = 1 + bend * (x * x + y * y);
      const isWild = random() < 0.06;
      const [reach, way] = [isWild ? 1 + 5 * random() : 0, 2 * Math.PI * random()];
      const at = {
        x: (x / w) * grown + 0.08 * normal() + reach * Math.cos(way),
        y: (y / w) * grown + 0.08 * normal() + reach * Math.sin(way),
      };
      all.push({ i, j, at, isWild });
    }
  return all;
}

describe('wild crossings of a grid', () => {
  it('are left out, and hardly any of the others', () => {
    let [wild, stayed, good, lost] = [0, 0, 0, 0];
    for (let seed = 1; seed <= 30; seed++) {
      const all = grid(seed);
      const kept = new Set(withoutWild(all));
      for (const f of all) {
        if (f.isWild) {
          wild += 1;
          if (kept.has(f)) stayed += 1;
        } else {
          good += 1;
          if (!kept.has(f)) lost += 1;
        }
      }
    }
    expect(wild).toBeGreaterThan(500);
    expect(stayed / wild).toBeLessThan(0.03);
    expect(lost / good).toBeLessThan(0.005);
  });

  it('are none where too few are seen to tell', () => {
    const few = grid(3).slice(0, 6);
    expect(withoutWild(few)).toEqual(few);
  });
});
