import type { Patch } from 'immer';

/**
 * The patches that make one plain value of another; what both share by identity is not looked into. An array that grew
 * or shrank is replaced as a whole.
 */
export function diff(from: unknown, to: unknown): Patch[] {
  const patches: Patch[] = [];
  walk(from, to, [], patches);
  return patches;
}

function walk(from: unknown, to: unknown, path: (string | number)[], patches: Patch[]): void {
  if (Object.is(from, to)) return;
  if (isList(from) && isList(to) && from.length === to.length) {
    from.forEach((one, k) => void walk(one, to[k], [...path, k], patches));
    return;
  }
  if (!isRecord(from) || !isRecord(to)) {
    patches.push({ op: 'replace', path, value: to });
    return;
  }
  for (const key of Object.keys(from))
    if (!Object.hasOwn(to, key)) patches.push({ op: 'remove', path: [...path, key] });
  for (const key of Object.keys(to))
    if (Object.hasOwn(from, key)) walk(from[key], to[key], [...path, key], patches);
    else patches.push({ op: 'add', path: [...path, key], value: to[key] });
}

const isList = (value: unknown): value is unknown[] => Array.isArray(value);
const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
