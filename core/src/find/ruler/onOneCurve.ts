/** Places that curves are drawn through, three at a time: enough that three of one curve are among them. */
const DRAWN = 16;

/**
 * Those of some places that lie on one curve, the one that holds most of them: what lies elsewhere in a heap of its own,
 * on grain or a shadow, does not bend it, as it would bend a curve through all.
 * In: how far along and how far off each is, and how near counts. Out: their numbers, in order. Fewer than three places
 * are all kept.
 */
export function onOneCurve(along: readonly number[], off: readonly number[], near: number): number[] {
  const all = along.map((_, k) => k);
  const every = Math.max(1, Math.ceil(all.length / DRAWN));
  const drawn = all.filter((k) => k % every === 0);
  if (all.length < 3) return all;
  let best: number[] = [];
  for (let i = 0; i < drawn.length; i++)
    for (let j = i + 1; j < drawn.length; j++)
      for (let k = j + 1; k < drawn.length; k++) {
        const three = [drawn[i]!, drawn[j]!, drawn[k]!] as const;
        const on = all.filter((n) => Math.abs(off[n]! - through(three, along, off, along[n]!)) < near);
        if (on.length > best.length) best = on;
      }
  return best;
}

/** The parabola through three places, at another one (Lagrange's form). */
function through(
  [a, b, c]: readonly [number, number, number],
  along: readonly number[],
  off: readonly number[],
  t: number,
): number {
  const [p, q, r] = [along[a]!, along[b]!, along[c]!];
  return (
    (off[a]! * (t - q) * (t - r)) / ((p - q) * (p - r)) +
    (off[b]! * (t - p) * (t - r)) / ((q - p) * (q - r)) +
    (off[c]! * (t - p) * (t - q)) / ((r - p) * (r - q))
  );
}
