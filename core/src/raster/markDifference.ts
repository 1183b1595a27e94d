import { brightnessAt, LEAST_DIFFERENCE } from './findDifferences';

/** What is only in the earlier picture, what is only in the new one: of the project's colours, brick and verdigris. */
const GONE = [0x9c, 0x34, 0x26] as const;
const COME = [0x25, 0x6f, 0x62] as const;
/** How much of the new picture shows where nothing differs. */
const REST = 0.35;

/**
 * Marks where an earlier drawing of the same view differs from the present one, in place of the present one: darker
 * before is gone, darker now has come; the rest fades. Where either is missing nothing is marked.
 * @returns the share of compared pixels that differ
 */
export function markDifference(now: Uint8ClampedArray, before: Uint8ClampedArray): number {
  let compared = 0;
  let differing = 0;
  for (let k = 0; k < now.length; k += 4) {
    if (now[k + 3] === 0) continue;
    if (before[k + 3]! > 0) {
      compared += 1;
      const change = brightnessAt(now, k) - brightnessAt(before, k);
      if (Math.abs(change) >= LEAST_DIFFERENCE) {
        differing += 1;
        now.set(change > 0 ? GONE : COME, k);
        continue;
      }
    }
    const gray = 255 - REST * (255 - brightnessAt(now, k));
    now[k] = gray;
    now[k + 1] = gray;
    now[k + 2] = gray;
  }
  return compared ? differing / compared : 0;
}
