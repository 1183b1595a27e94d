const median = (times: number[]): number => times.sort((a, b) => a - b)[times.length >> 1]!;

/** As it goes on in a page that stays: the first rounds, in which the engine learns the code, are left out. */
export function timed(rounds: number, work: () => unknown): number {
  for (let k = 0; k < rounds; k++) work();
  return median(
    Array.from({ length: rounds }, () => {
      const started = performance.now();
      work();
      return performance.now() - started;
    }),
  );
}
