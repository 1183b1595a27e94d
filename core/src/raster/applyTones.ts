/** What shall be darkest and lightest, 0 to 1 of the file's scale, the gamma between, and whether in gray. */
export interface ToneSetting {
  dark: number;
  light: number;
  gamma: number;
  gray: boolean;
}

/** Narrowest span between darkest and lightest: below it only noise is left. */
const LEAST_SPAN = 1 / 64;

/** Whether a setting leaves every pixel as it is. */
const isPlain = ({ dark, light, gamma, gray }: ToneSetting): boolean =>
  dark === 0 && light === 1 && gamma === 1 && !gray;

/**
 * Shows pixels in other tones, in place: a table for the 256 steps, so that it costs one look-up a colour.
 * Only what is shown is changed, never the picture that is measured on.
 */
export function applyTones(data: Uint8ClampedArray, setting: ToneSetting): void {
  if (isPlain(setting)) return;
  const { dark, gamma, gray } = setting;
  const span = Math.max(LEAST_SPAN, setting.light - dark);
  const table = Uint8ClampedArray.from(
    { length: 256 },
    (_, k) => 255 * Math.min(1, Math.max(0, (k / 255 - dark) / span)) ** (1 / gamma),
  );
  for (let k = 0; k < data.length; k += 4) {
    if (gray) {
      const light = table[(data[k]! * 54 + data[k + 1]! * 183 + data[k + 2]! * 19) >> 8]!;
      data[k] = light;
      data[k + 1] = light;
      data[k + 2] = light;
    } else {
      data[k] = table[data[k]!]!;
      data[k + 1] = table[data[k + 1]!]!;
      data[k + 2] = table[data[k + 2]!]!;
    }
  }
}

/** How often each of 64 brightnesses occurs, of the largest 1. */
export function histogram({ data }: { data: Uint8ClampedArray | Uint8Array }): number[] {
  const counts = new Array<number>(64).fill(0);
  for (let k = 0; k < data.length; k += 4)
    counts[((data[k]! * 54 + data[k + 1]! * 183 + data[k + 2]! * 19) >> 8) >> 2]! += 1;
  const most = Math.max(1, ...counts);
  return counts.map((c) => c / most);
}
