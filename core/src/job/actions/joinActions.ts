import type { PickRecord, PlaneName } from '../../sketch';
import type { JobDocument, JoinRecord } from '../document/document';
import type { JobAction } from '../document/history';

/** Says that two or more pictures show one place of the part, or one reference. Locked pictures stay as they are. */
export function addJoin(join: JoinRecord): JobAction {
  return {
    label: join.kind === 'point' ? 'add a common point' : 'say that a yardstick is the same one',
    recipe(job) {
      if (!isFree(job, join)) return;
      // One reference is one join, in however many pictures it is seen.
      const known =
        join.kind === 'reference' &&
        job.joins.find((j) => j.kind === 'reference' && j.seen.some((s) => join.seen.some((t) => isOne(s, t))));
      if (known && known.kind === 'reference')
        known.seen.push(...join.seen.filter((s) => !known.seen.some((t) => t.picture === s.picture)));
      else job.joins.push(join);
    },
  };
}

const isOne = (a: { picture: string; reference: string }, b: { picture: string; reference: string }): boolean =>
  a.picture === b.picture && a.reference === b.reference;

export function removeJoin(id: string): JobAction {
  return {
    label: 'take a join away',
    recipe(job) {
      const gone = job.joins.find((j) => j.id === id);
      if (gone && isFree(job, gone)) job.joins = job.joins.filter((j) => j !== gone);
    },
  };
}

/** Puts a common point elsewhere in one of its pictures, or on another plane of it. */
export function moveCommonPoint(
  id: string,
  pictureId: string,
  change: { pick?: PickRecord; plane?: PlaneName },
): JobAction {
  return {
    label: 'move a common point',
    recipe(job) {
      const join = job.joins.find((j) => j.id === id);
      if (join?.kind !== 'point' || !isFree(job, join)) return;
      Object.assign(join.seen.find((s) => s.picture === pictureId) ?? {}, change);
    },
  };
}

const isFree = ({ pictures }: JobDocument, { seen }: JoinRecord): boolean =>
  !seen.some((s) => pictures.find((p) => p.id === s.picture)?.locked);

/** Drops what no longer stands of all joins: those of a picture, or of one of its references. */
export function dropSeen(job: JobDocument, pictureId: string, reference: string | null): void {
  for (const join of job.joins) {
    const stays = (s: { picture: string; reference?: string }) =>
      s.picture !== pictureId || (reference !== null && s.reference !== reference);
    if (join.kind === 'point') join.seen = join.seen.filter(stays);
    else join.seen = join.seen.filter(stays);
  }
  job.joins = job.joins.filter((j) => j.seen.length > 1);
}
