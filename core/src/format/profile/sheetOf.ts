import { type JobDocument, viewOfPath } from '../../job';
import type { EvaluatedPath, Id, SettledSketch } from '../../sketch';
import type { FlatProfile } from './flatProfile';
import { profileOf } from './profileOf';
import { sizesOf } from './sizesOf';

/** A drawing with all views of a part on one sheet. */
export interface Sheet {
  /** Each with its name; a part without views is one view without a name. */
  views: { name: string; profile: FlatProfile }[];
  title: string;
  date: string;
  unit: 'mm' | 'in';
  /** What it is made of, as far as that was said. */
  material: string | null;
  remark?: string;
}

/** All views of a job that something is traced in, with their sizes, for one sheet. */
export function sheetOf(
  job: JobDocument,
  paths: readonly EvaluatedPath[],
  settled: ReadonlyMap<Id, SettledSketch>,
  { title, date }: { title: string; date: string },
): Sheet {
  const used = new Set(paths.map(({ path }) => viewOfPath(job, path.id)?.id ?? null));
  const views = job.pictures.flatMap((p) => p.views).filter((v) => used.has(v.id));
  const all: { id: Id | null; name: string }[] =
    views.length > 0 && !used.has(null) ? views.map(({ id, name }) => ({ id, name })) : [{ id: null, name: '' }];
  return {
    title,
    date,
    unit: job.unit,
    material: job.part.material?.name ?? null,
    views: all.flatMap(({ id, name }) => {
      const sizes = sizesOf(job.part, settled, job.unit, id);
      const profile = profileOf(job, paths, { date, notes: false, view: id, sizes });
      return profile.forms.length > 0 ? [{ name, profile }] : [];
    }),
  };
}
