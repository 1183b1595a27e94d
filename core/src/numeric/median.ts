/**
 * The median, of an even number of values the upper one of the two in the middle.
 * In: values in any order, left as they are; what counts where there are none.
 */
export function medianOf(values: readonly number[], none = Number.NaN): number {
  return [...values].sort((a, b) => a - b)[values.length >> 1] ?? none;
}
