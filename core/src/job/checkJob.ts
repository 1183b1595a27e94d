import { type JobDocument, MOST, type Picture, type PictureFile, type PlaneName, TURNED } from './document';
import { upgradeDocument } from './upgrade';
import { validateJob } from './validateJob.generated.js';

export type JobFault = { reason: 'not-a-job' | 'from-the-future' } | { reason: 'bad-field'; place: string };
export type CheckResult = { ok: true; job: JobDocument } | ({ ok: false } & JobFault);

/**
 * Upgrades and checks a document from outside: a file, or storage.
 * A fault names the place, as `/pictures/0/truing`. What passes holds together: every point, picture and yardstick
 * that is named is there, no two go by one name, and no picture is larger than any that is taken.
 */
export function checkJob(document: unknown): CheckResult {
  const upgraded = upgradeDocument(document);
  if (!upgraded.ok) return upgraded;
  if (!validateJob(upgraded.document)) {
    const place = validateJob.errors?.[0]?.instancePath || '/';
    return { ok: false, reason: 'bad-field', place };
  }
  const job = upgraded.document as JobDocument;
  const dangling = findOversized(job) ?? findTwin(job) ?? findDangling(job);
  return dangling ? { ok: false, reason: 'bad-field', place: dangling } : { ok: true, job };
}

/** The first picture that no reader would have taken: each side may be within its bound and their product beyond. */
function findOversized({ pictures }: JobDocument): string | null {
  const tooLarge = ({ facts }: PictureFile) => facts.widthPx * facts.heightPx > MOST.pixels;
  for (const [k, picture] of pictures.entries()) {
    if (tooLarge(picture)) return `/pictures/${k}/facts`;
    if (picture.before && tooLarge(picture.before)) return `/pictures/${k}/before/facts`;
  }
  return null;
}

/** The first list in which two things go by one name: a change to one of them would change, or take away, both. */
function findTwin({ pictures, joins, part }: JobDocument): string | null {
  const twins = (list: readonly { id: string }[]) => new Set(list.map((one) => one.id)).size < list.length;
  if (twins(pictures)) return '/pictures';
  if (twins(joins)) return '/joins';
  if (twins(part.runs)) return '/part/runs';
  for (const [k, { views, truing }] of pictures.entries()) {
    if (twins(views)) return `/pictures/${k}/views`;
    if (twins(truing.yardsticks)) return `/pictures/${k}/truing/yardsticks`;
    if (twins(truing.spotChecks)) return `/pictures/${k}/truing/spotChecks`;
    const planes = truing.planes.map((p) => p.id);
    if (twins(truing.planes) || planes.some((id) => RESERVED_PLANES.includes(id)))
      return `/pictures/${k}/truing/planes`;
  }
  return null;
}

/** Planes that every picture has. */
const PLAIN_PLANES = ['table', 'yardstick', 'face'];
/** Names that no plane of a person's own may have. */
const RESERVED_PLANES = [...PLAIN_PLANES, TURNED];

const planesOf = (pictures: readonly Picture[], id: string): Set<PlaneName> =>
  new Set([...PLAIN_PLANES, ...(pictures.find((p) => p.id === id)?.truing.planes.map((p) => p.id) ?? [])]);

/** The first name that leads nowhere, null when all do. */
function findDangling({ pictures, joins, part }: JobDocument): string | null {
  const pictureIds = new Set(pictures.map((p) => p.id));
  for (const [k, join] of joins.entries()) {
    const at = join.seen.map((s) => s.picture);
    if (new Set(at).size < at.length || at.some((p) => !pictureIds.has(p))) return `/joins/${k}/seen`;
    if (join.kind === 'point' && join.seen.some((s) => !planesOf(pictures, s.picture).has(s.plane)))
      return `/joins/${k}/seen`;
    const stands = (s: { picture: string; yardstick: string }) =>
      pictures.some((p) => p.id === s.picture && p.truing.yardsticks.some((y) => y.id === s.yardstick));
    if (join.kind === 'yardstick' && !join.seen.every(stands)) return `/joins/${k}/seen`;
  }
  for (const [k, { truing }] of pictures.entries()) {
    const planes = new Set([...PLAIN_PLANES, ...truing.planes.map((p) => p.id)]);
    const on = truing.turned ? new Set([...planes, TURNED]) : planes;
    const stray =
      truing.yardsticks.some((y) => !planes.has(y.plane)) ||
      truing.spotChecks.some((s) => !on.has(s.plane)) ||
      (truing.turned && !planes.has(truing.turned.plane));
    if (stray) return `/pictures/${k}/truing/planes`;
    for (const part of ['axis', 'zero', 'wanted'] as const) {
      const said = truing[part];
      if (said && 'plane' in said && !planes.has(said.plane)) return `/pictures/${k}/truing/${part}`;
    }
    const known = new Set(truing.yardsticks.map((y) => y.id));
    if (truing.axis && 'yardstick' in truing.axis && !known.has(truing.axis.yardstick))
      return `/pictures/${k}/truing/axis`;
    if (truing.zero && 'yardstick' in truing.zero && !known.has(truing.zero.yardstick))
      return `/pictures/${k}/truing/zero`;
  }
  for (const [id, point] of Object.entries(part.points))
    if (!pictureIds.has(point.picture)) return `/part/points/${id}`;
  for (const [k, run] of part.runs.entries()) {
    const named = [...run.points];
    if (run.kind === 'chain') {
      const wanted = run.closed ? run.points.length : Math.max(0, run.points.length - 1);
      if (run.segments.length !== wanted || (run.closed && run.points.length < 2)) return `/part/runs/${k}/segments`;
      for (const s of run.segments) {
        if (s.kind === 'arc') named.push(s.via);
        if (s.kind === 'curve') named.push(s.handleFrom, s.handleTo);
      }
    }
    if (named.some((id) => !Object.hasOwn(part.points, id))) return `/part/runs/${k}/points`;
  }
  return null;
}
