import type { Path } from '@steady-moth/core/sketch';

/** Names of paths to choose from; where two have the same, with their place in the list. */
export const namesApart = (paths: readonly Path[]): string[] =>
  paths.map(({ name }, k) => (paths.some((p, j) => j !== k && p.name === name) ? `${name} (${k + 1})` : name));
