import type { JobDocument } from '../../../job';

/** A job's name, and that of the variant that is shown. */
export function titleOf({ name, part }: Pick<JobDocument, 'name' | 'part'>): string {
  const variant = part.variants.find((v) => v.id === part.variant)?.name;
  return variant ? `${name}, ${variant}` : name;
}

/** A job in each of its variants, or as it is where it has none: with a title, and a file name that no other has. */
export function variantJobs(job: JobDocument): { job: JobDocument; title: string; name: string }[] {
  const ids = job.part.variants.length > 0 ? job.part.variants.map((v) => v.id) : [null];
  const taken = new Set<string>();
  return ids.map((variant) => {
    const own: JobDocument = { ...job, part: { ...job.part, variant } };
    const title = titleOf(own);
    return { job: own, title, name: freeName(plainName(title), taken) };
  });
}

/** A file name of a title: letters, digits and hyphens of any script. */
const plainName = (title: string): string =>
  title
    .normalize('NFC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 80) || 'part';

function freeName(name: string, taken: Set<string>): string {
  let own = name;
  for (let k = 2; taken.has(own); k++) own = `${name}-${k}`;
  taken.add(own);
  return own;
}
