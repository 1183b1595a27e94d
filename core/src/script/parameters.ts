import type { JobDocument } from '../job';
import { scopeOf } from '../sketch';

/** A job in one of its variants, or with parameters said anew, as a script asks for it. */
export type WithParameters =
  | { ok: true; job: JobDocument }
  | { ok: false; reason: 'no-such-variant' | 'no-such-parameter' | 'no-formula'; name: string };

/**
 * In: a checked job; a variant by its name; parameters by name, each a length or a formula in the job's unit. Out: the job
 * with them. What is set comes after what the variant says.
 */
export function withParameters(
  job: JobDocument,
  { variant, set }: { variant: string | null; set: Readonly<Record<string, string>> },
): WithParameters {
  const { part, unit } = job;
  const shown = variant === null ? null : part.variants.find((v) => v.name === variant);
  if (shown === undefined) return { ok: false, reason: 'no-such-variant', name: variant ?? '' };
  const said = Object.entries(set).map(([name, text]) => ({
    own: part.parameters.find((p) => p.name === name),
    name,
    text,
  }));
  const overrides = { ...(shown?.overrides ?? part.variants.find((v) => v.id === part.variant)?.overrides) };
  for (const { own, name, text } of said) {
    if (!own) return { ok: false, reason: 'no-such-parameter', name };
    overrides[own.id] = { text, unit };
  }
  const asked = {
    id: 'asked-by-script',
    name: shown?.name ?? part.variants.find((v) => v.id === part.variant)?.name ?? '',
    overrides,
  };
  const made = { ...part, variants: [...part.variants, asked], variant: asked.id };
  const { faults } = scopeOf(made);
  for (const { own, name } of said) if (own && faults.has(own.id)) return { ok: false, reason: 'no-formula', name };
  return { ok: true, job: { ...job, part: made } };
}

/** A job's parameters and variants, as a script lists them: lengths in mm, null for what comes to nothing. */
export function listParameters({ part }: JobDocument) {
  const plain = scopeOf(part, {});
  return {
    parameters: part.parameters.map(({ name, value }) => ({
      name,
      formula: value.text,
      unit: value.unit,
      mm: plain.values.get(name) ?? null,
    })),
    variants: part.variants.map(({ name, overrides }) => {
      const own = scopeOf(part, overrides);
      return {
        name,
        values: Object.fromEntries(part.parameters.map((p) => [p.name, own.values.get(p.name) ?? null])),
      };
    }),
  };
}
