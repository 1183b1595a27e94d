/** A profile without its slow changes: less the mean of so many samples to both sides, looked at every so-manieth. */
export function detrended(raw: Float64Array, reach: number, every = 1): Float64Array {
  return raw.map((v, k) => {
    let sum = 0;
    let n = 0;
    for (let j = Math.max(0, k - reach); j <= Math.min(raw.length - 1, k + reach); j += every, n++) sum += raw[j]!;
    return v - sum / n;
  });
}

/** How well a profile repeats itself after each lag, −1 to 1; 1 below the least lag that counts. */
export function repeats(profile: Float64Array, least: number, most: number): number[] {
  return Array.from({ length: most + 2 }, (_, lag) => {
    if (lag < least) return 1;
    let [both, first, second] = [0, 0, 0];
    for (let k = 0; k + lag < profile.length; k++) {
      both += profile[k]! * profile[k + lag]!;
      first += profile[k]! ** 2;
      second += profile[k + lag]! ** 2;
    }
    return both / Math.sqrt(first * second || 1);
  });
}
