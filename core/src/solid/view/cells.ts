/** Things by the squares of the sheet that they reach into, so that those near a place are found without asking all. */
export class Cells<T> {
  private readonly cells = new Map<number, T[]>();

  constructor(private readonly sizeMm: number) {}

  private keys(minU: number, minV: number, maxU: number, maxV: number): number[] {
    const keys: number[] = [];
    const at = (v: number) => Math.floor(v / this.sizeMm);
    for (let i = at(minU); i <= at(maxU); i++) for (let j = at(minV); j <= at(maxV); j++) keys.push(i * 1e6 + j);
    return keys;
  }

  add(one: T, minU: number, minV: number, maxU: number, maxV: number): void {
    for (const key of this.keys(minU, minV, maxU, maxV)) {
      const own = this.cells.get(key);
      if (own) own.push(one);
      else this.cells.set(key, [one]);
    }
  }

  /** What may reach into a box; some of it more than once. */
  near(minU: number, minV: number, maxU: number, maxV: number): T[] {
    return this.keys(minU, minV, maxU, maxV).flatMap((key) => this.cells.get(key) ?? []);
  }
}
