/** Things in order of what they cost, the cheapest first. */
export class Heap<T extends { cost: number }> {
  private readonly all: T[] = [];

  push(one: T): void {
    const { all } = this;
    let at = all.length;
    all.push(one);
    while (at > 0) {
      const above = (at - 1) >> 1;
      if (all[above]!.cost <= one.cost) break;
      all[at] = all[above]!;
      at = above;
    }
    all[at] = one;
  }

  pop(): T | undefined {
    const { all } = this;
    const first = all[0];
    const last = all.pop();
    if (first === undefined || last === undefined || all.length === 0) return first;
    let at = 0;
    for (;;) {
      let below = 2 * at + 1;
      if (below >= all.length) break;
      if (below + 1 < all.length && all[below + 1]!.cost < all[below]!.cost) below++;
      if (all[below]!.cost >= last.cost) break;
      all[at] = all[below]!;
      at = below;
    }
    all[at] = last;
    return first;
  }
}
