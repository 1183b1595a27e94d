/** A profile without its slow changes: less the mean of so many samples to both sides. */
export function detrended(raw: Float64Array, reach: number): Float64Array {
  const upTo = new Float64Array(raw.length + 1);
  for (let k = 0; k < raw.length; k++) upTo[k + 1] = upTo[k]! + raw[k]!;
  return raw.map((v, k) => {
    const [from, to] = [Math.max(0, k - reach), Math.min(raw.length, k + reach + 1)];
    return v - (upTo[to]! - upTo[from]!) / (to - from);
  });
}

/** How well a profile repeats itself after each lag, −1 to 1; 1 below the least lag that counts. */
export function repeats(profile: Float64Array, least: number, most: number): number[] {
  const n = profile.length;
  const squares = new Float64Array(n + 1);
  for (let k = 0; k < n; k++) squares[k + 1] = squares[k]! + profile[k]! ** 2;
  return Array.from({ length: most + 2 }, (_, lag) => {
    if (lag < least) return 1;
    let both = 0;
    for (let k = 0; k + lag < n; k++) both += profile[k]! * profile[k + lag]!;
    const [first, second] = [squares[Math.max(0, n - lag)]!, squares[n]! - squares[Math.min(n, lag)]!];
    return both / Math.sqrt(first * second || 1);
  });
}
