type Loose = Record<string, unknown>;

/** What fields are called since version 10, by what they were called before. */
const FIELDS: Readonly<Record<string, string>> = {
  truing: 'calibration',
  yardsticks: 'references',
  yardstick: 'reference',
  strokes: 'graduations',
  limbs: 'silhouettes',
};

const kept = new WeakMap<object, unknown>();

/**
 * Version 10 names what is said of a picture by the terms of the trade, and so the plane that references stand on and
 * the kind of a join. The same object for the same object: states of a history share what did not change between them.
 */
export function renameFields(old: Loose): Loose {
  return { ...old, pictures: renamed(old.pictures ?? []), joins: renamed(old.joins ?? []) };
}

/** The plane of references, as a value of these fields. */
const NAMES_PLANE = new Set(['plane', 'kind']);

function renamed(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value;
  const before = kept.get(value);
  if (before !== undefined) return before;
  const made = Array.isArray(value)
    ? value.map(renamed)
    : Object.fromEntries(
        Object.entries(value).map(([key, own]) => [
          Object.hasOwn(FIELDS, key) ? FIELDS[key] : key,
          NAMES_PLANE.has(key) && own === 'yardstick' ? 'reference' : renamed(own),
        ]),
      );
  kept.set(value, made);
  return made;
}
