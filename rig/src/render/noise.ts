/** A seeded source of numbers in [0, 1). The rig has its own, as it has its own mathematics. */
export function numbers(seed: number): () => number {
  let a = seed | 0 || 1;
  return () => {
    a ^= a << 13;
    a ^= a >>> 17;
    a ^= a << 5;
    return (a >>> 0) / 4294967296;
  };
}

const TILE = 512;

/** A surface of rough patches, −1 to 1, repeating every 512 steps, drawn from a seed. */
export interface Grain {
  at(x: number, y: number): number;
}

/** Sums octaves of smoothed lattice noise once, then answers by bilinear look-up. */
export function buildGrain(seed: number, octaves: number): Grain {
  const next = numbers(seed);
  const tile = new Float32Array(TILE * TILE);
  let weight = 1;
  let total = 0;
  for (let o = 0; o < octaves; o++) {
    const cells = 8 << o;
    const lattice = Float32Array.from({ length: cells * cells }, () => next() * 2 - 1);
    const step = cells / TILE;
    for (let j = 0; j < TILE; j++)
      for (let i = 0; i < TILE; i++) {
        const x = i * step;
        const y = j * step;
        const x0 = Math.floor(x);
        const y0 = Math.floor(y);
        const fx = smooth(x - x0);
        const fy = smooth(y - y0);
        const a = lattice[(y0 % cells) * cells + (x0 % cells)]!;
        const b = lattice[(y0 % cells) * cells + ((x0 + 1) % cells)]!;
        const c = lattice[((y0 + 1) % cells) * cells + (x0 % cells)]!;
        const d = lattice[((y0 + 1) % cells) * cells + ((x0 + 1) % cells)]!;
        tile[j * TILE + i]! += weight * ((a * (1 - fx) + b * fx) * (1 - fy) + (c * (1 - fx) + d * fx) * fy);
      }
    total += weight;
    weight *= 0.6;
  }
  for (let k = 0; k < tile.length; k++) tile[k]! /= total * 0.6;
  const mask = TILE - 1;
  return {
    at(x, y) {
      const x0 = Math.floor(x);
      const y0 = Math.floor(y);
      const fx = x - x0;
      const fy = y - y0;
      const i = x0 & mask;
      const j = (y0 & mask) * TILE;
      const i1 = (x0 + 1) & mask;
      const j1 = ((y0 + 1) & mask) * TILE;
      return (
        (tile[j + i]! * (1 - fx) + tile[j + i1]! * fx) * (1 - fy) +
        (tile[j1 + i]! * (1 - fx) + tile[j1 + i1]! * fx) * fy
      );
    },
  };
}

const smooth = (t: number): number => t * t * (3 - 2 * t);
