/**
 * An order of elimination that keeps a symmetric sparse matrix sparse: at each step the unknown that meets the fewest
 * others, by an upper bound of their count that is cheap to keep.
 *
 * In: for each unknown those that it stands in an entry with, both ways, itself left out. Out: unknowns in their order.
 * Source: Amestoy, Davis & Duff, An approximate minimum degree ordering algorithm, SIAM J. Matrix Anal. 17 (1996).
 */
export function minimumDegreeOrder(neighbours: readonly ReadonlySet<number>[]): Int32Array {
  const size = neighbours.length;
  const order = new Int32Array(size);
  const direct = neighbours.map((all) => new Set(all));
  // What an eliminated unknown leaves behind: the unknowns that it ties together.
  const elements = new Map<number, number[]>();
  const elementsOf: Set<number>[] = direct.map(() => new Set());
  const degree = Int32Array.from(direct, (all) => all.size);
  const buckets: Set<number>[] = [];
  const file = (i: number) => {
    const bucket = buckets[degree[i]!] ?? new Set();
    buckets[degree[i]!] = bucket;
    bucket.add(i);
  };
  for (let i = 0; i < size; i++) file(i);
  let least = 0;
  for (let k = 0; k < size; k++) {
    while (!buckets[least]?.size) least += 1;
    const bucket = buckets[least]!;
    const pivot = bucket.values().next().value as number;
    bucket.delete(pivot);
    order[k] = pivot;
    const tied = new Set(direct[pivot]);
    for (const e of elementsOf[pivot]!) {
      for (const i of elements.get(e)!) if (i !== pivot) tied.add(i);
      elements.delete(e);
    }
    const absorbed = elementsOf[pivot]!;
    const members = [...tied];
    elements.set(pivot, members);
    for (const i of members) {
      const own = direct[i]!;
      own.delete(pivot);
      // Whoever is tied by the new element needs no entry of their own.
      if (own.size < members.length) {
        for (const j of own) if (tied.has(j)) own.delete(j);
      } else for (const j of members) own.delete(j);
      const at = elementsOf[i]!;
      for (const e of absorbed) at.delete(e);
      at.add(pivot);
      let bound = own.size;
      for (const e of at) bound += elements.get(e)!.length - 1;
      buckets[degree[i]!]!.delete(i);
      degree[i] = Math.min(bound, size - k - 2);
      file(i);
      if (degree[i]! < least) least = degree[i]!;
    }
  }
  return order;
}
