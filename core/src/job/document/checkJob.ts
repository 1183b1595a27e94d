import {
  type Curve,
  countOf,
  endOf,
  MAIN_SKETCH,
  type OpenCurve,
  type Path,
  type PlaneName,
  pathsOf,
  picksOfCurve,
  type Sketch,
  sketchesOf,
  startOf,
  TURNED,
} from '../../sketch';
import { type JobDocument, MOST, type Picture, type PictureFile, type ReferenceRecord } from './document';
import { upgradeDocument } from './upgrade';
import { validateJob } from './validateJob.generated.js';

export type JobFault = { reason: 'not-a-job' | 'from-the-future' } | { reason: 'bad-field'; place: string };
export type CheckResult = { ok: true; job: JobDocument } | ({ ok: false } & JobFault);

/**
 * Upgrades and checks a document from outside: a file, or storage.
 * A fault names the place, as `/pictures/0/calibration`. What passes holds together: every point, picture and reference
 * that is named is there, no two go by one name, and no picture is larger than any that is taken.
 */
export function checkJob(document: unknown): CheckResult {
  const formed = checkForm(document);
  return formed.ok ? checkTies(formed.job) : formed;
}

/** As `checkJob`, with room for others between its two halves: a job at its bounds takes a quarter of a second each. */
export async function checkJobInTurn(document: unknown, rest: () => Promise<void>): Promise<CheckResult> {
  const formed = checkForm(document);
  if (!formed.ok) return formed;
  await rest();
  return checkTies(formed.job);
}

/** The form of a job, in its present version. */
function checkForm(document: unknown): CheckResult {
  const upgraded = upgradeDocument(document);
  if (!upgraded.ok) return upgraded;
  if (validateJob(upgraded.document)) return { ok: true, job: upgraded.document as JobDocument };
  return { ok: false, reason: 'bad-field', place: validateJob.errors?.[0]?.instancePath || '/' };
}

/** Everything that is named is there. */
function checkTies(job: JobDocument): CheckResult {
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
function findTwin({ pictures, joins }: JobDocument): string | null {
  const twins = (list: readonly { id: string }[]) => new Set(list.map((one) => one.id)).size < list.length;
  if (twins(pictures)) return '/pictures';
  if (twins(joins)) return '/joins';
  for (const [k, { views, calibration }] of pictures.entries()) {
    if (twins(views)) return `/pictures/${k}/views`;
    if (twins(calibration.references)) return `/pictures/${k}/calibration/references`;
    if (twins(calibration.spotChecks)) return `/pictures/${k}/calibration/spotChecks`;
    const planes = calibration.planes.map((p) => p.id);
    if (twins(calibration.planes) || planes.some((id) => RESERVED_PLANES.includes(id)))
      return `/pictures/${k}/calibration/planes`;
  }
  return null;
}

/** Planes that every picture has. */
const PLAIN_PLANES = ['table', 'reference', 'face'];
/** Names that no plane of a person's own may have. */
const RESERVED_PLANES = [...PLAIN_PLANES, TURNED];

const planesOf = (pictures: readonly Picture[], id: string): Set<PlaneName> =>
  new Set([...PLAIN_PLANES, ...(pictures.find((p) => p.id === id)?.calibration.planes.map((p) => p.id) ?? [])]);

/** The first name that leads nowhere, null when all do. */
function findDangling(job: JobDocument): string | null {
  const { pictures, joins } = job;
  const pictureIds = new Set(pictures.map((p) => p.id));
  for (const [k, join] of joins.entries()) {
    const at = join.seen.map((s) => s.picture);
    if (new Set(at).size < at.length || at.some((p) => !pictureIds.has(p))) return `/joins/${k}/seen`;
    if (join.kind === 'point' && join.seen.some((s) => !planesOf(pictures, s.picture).has(s.plane)))
      return `/joins/${k}/seen`;
    const stands = (s: { picture: string; reference: string }) =>
      pictures.some((p) => p.id === s.picture && p.calibration.references.some((y) => y.id === s.reference));
    if (join.kind === 'reference' && !join.seen.every(stands)) return `/joins/${k}/seen`;
  }
  for (const [k, { calibration }] of pictures.entries()) {
    const planes = new Set([...PLAIN_PLANES, ...calibration.planes.map((p) => p.id)]);
    const on = calibration.turned ? new Set([...planes, TURNED]) : planes;
    // A plain length may have been measured on a turned part.
    const isLength = (y: ReferenceRecord) => y.kind === 'known-length' && !y.graduations;
    const stray =
      calibration.references.some((y) => !(isLength(y) ? on : planes).has(y.plane)) ||
      calibration.spotChecks.some((s) => !on.has(s.plane)) ||
      (calibration.turned && !planes.has(calibration.turned.plane));
    if (stray) return `/pictures/${k}/calibration/planes`;
    for (const what of ['axis', 'zero', 'wanted'] as const) {
      const said = calibration[what];
      if (said && 'plane' in said && !planes.has(said.plane)) return `/pictures/${k}/calibration/${what}`;
    }
    const known = new Set(calibration.references.map((y) => y.id));
    if (calibration.axis && 'reference' in calibration.axis && !known.has(calibration.axis.reference))
      return `/pictures/${k}/calibration/axis`;
    if (calibration.zero && 'reference' in calibration.zero && !known.has(calibration.zero.reference))
      return `/pictures/${k}/calibration/zero`;
  }
  return findLooseEnd(job, pictureIds);
}

/** The first thing of the part that does not hold together. */
function findLooseEnd({ pictures, part }: JobDocument, pictureIds: ReadonlySet<string>): string | null {
  const views = new Set(pictures.flatMap((p) => p.views.map((v) => v.id)));
  const taken = new Set<string>();
  const listed = (order: readonly string[], all: Record<string, { id: string }>) =>
    new Set(order).size === order.length &&
    order.length === Object.keys(all).length &&
    order.every((id) => Object.hasOwn(all, id) && all[id]?.id === id);
  if (!listed(part.order, part.sketches) || !Object.hasOwn(part.sketches, MAIN_SKETCH)) return '/part/order';
  const parameters = part.parameters.map((p) => p.id);
  if (
    new Set(parameters).size < parameters.length ||
    new Set(part.parameters.map((p) => p.name)).size < parameters.length
  )
    return '/part/parameters';
  const variants = part.variants.map((v) => v.id);
  const isVariant = part.variant === null || variants.includes(part.variant);
  if (new Set(variants).size < variants.length || !isVariant) return '/part/variants';
  if (countOf(part) > MOST.points || pathsOf(part).length > MOST.paths) return '/part/sketches';
  for (const sketch of sketchesOf(part)) {
    const here = `/part/sketches/${sketch.id}`;
    if (sketch.frame.view !== null && !views.has(sketch.frame.view)) return `${here}/frame`;
    const { constraints, curves, dimensions, makers, paths, picks, points } = sketch;
    for (const all of [points, picks, curves, paths, dimensions, constraints, makers])
      for (const id in all) {
        const known = taken.size;
        if (taken.add(id).size === known) return `${here}/order`;
      }
    if (!listed(sketch.order, sketch.paths)) return `${here}/order`;
    const fault = findLooseIn(sketch, pictureIds) ?? findOffPlane(sketch, pictures);
    if (fault) return `${here}/${fault}`;
  }
  // What a feature goes by may be gone: it then says so.
  for (const what of ['features', 'bodyChecks'] as const)
    for (const { id } of part[what]) {
      const known = taken.size;
      if (taken.add(id).size === known) return `/part/${what}`;
    }
  return null;
}

const PICKS = { line: [0], arc: [1], cubic: [2], circle: [0, 3] } as const;

function findLooseIn(sketch: Sketch, pictureIds: ReadonlySet<string>): string | null {
  const { points, picks, curves, paths, dimensions, constraints } = sketch;
  for (const { at } of Object.values(points))
    if (at.kind === 'observed' && !pictureIds.has(at.picture)) return 'points';
  for (const { picture } of Object.values(picks)) if (!pictureIds.has(picture)) return 'picks';
  const picked = new Set<string>();
  for (const [id, curve] of Object.entries(curves)) {
    const own = picksOfCurve(curve);
    if (curve.id !== id || !isTied(sketch, curve, own, picked)) return `curves/${id}`;
  }
  const used = new Set<string>();
  for (const path of Object.values(paths)) {
    for (const { curve } of path.uses) {
      if (!Object.hasOwn(curves, curve) || used.has(curve)) return `paths/${path.id}`;
      used.add(curve);
    }
    if (!isUnbroken(sketch, path)) return `paths/${path.id}`;
  }
  // What a condition says of a kind that it says nothing of is told where it is shown.
  const isThere = (ref: { sketch: string; id: string }) =>
    ref.sketch === sketch.id && [points, curves, paths].some((all) => Object.hasOwn(all, ref.id));
  for (const [id, { id: own, kind, refs, along }] of Object.entries(dimensions)) {
    const most = kind === 'distance' || kind === 'angle' ? 2 : 1;
    // How far one place lies from zero is told along X or along Y.
    const least = kind === 'distance' && along === 'straight' ? 2 : 1;
    if (own !== id || refs.length > most || refs.length < least || !refs.every(isThere)) return `dimensions/${id}`;
  }
  for (const [id, { id: own, refs }] of Object.entries(constraints))
    if (own !== id || !refs.every(isThere)) return `constraints/${id}`;
  // What a maker goes by may be gone: it then says so.
  for (const [id, maker] of Object.entries(sketch.makers))
    if (maker.id !== id || !Object.hasOwn(paths, maker.path)) return `makers/${id}`;
  return null;
}

/** The first place that was traced on a height that its picture does not have. */
function findOffPlane({ points, picks }: Sketch, pictures: readonly Picture[]): string | null {
  const known = new Map(pictures.map(({ id }) => [id, planesOf(pictures, id).add(TURNED)]));
  const isOff = (at: { picture: string; plane: string }) => !known.get(at.picture)?.has(at.plane);
  if (Object.values(points).some(({ at }) => at.kind === 'observed' && isOff(at))) return 'points';
  return Object.values(picks).some(isOff) ? 'picks' : null;
}

/** A curve hangs on points that are there, and is bent by picks that are there and its own. */
function isTied({ points, picks }: Sketch, curve: Curve, own: readonly string[], picked: Set<string>): boolean {
  if (!(PICKS[curve.kind] as readonly number[]).includes(own.length)) return false;
  for (const p of own) {
    if (!Object.hasOwn(picks, p) || picked.has(p)) return false;
    picked.add(p);
  }
  if (curve.kind === 'circle') return Object.hasOwn(points, curve.centre);
  const isSeen = (p: string) => Object.hasOwn(points, p) && points[p]?.at.kind === 'observed';
  return curve.from !== curve.to && isSeen(curve.from) && isSeen(curve.to);
}

/** Each curve of a path begins where the one before it ends; a circle is a path of its own. */
function isUnbroken({ curves }: Sketch, { uses, closed }: Path): boolean {
  const all = uses.map(({ curve, reversed }) => ({ curve: curves[curve], reversed }));
  if (all.some(({ curve }) => curve?.kind === 'circle')) return all.length === 1 && closed;
  const open = all as { curve: OpenCurve; reversed: boolean }[];
  const meets = open.every((u, k) => k === 0 || endOf(open[k - 1]!.curve, open[k - 1]!) === startOf(u.curve, u));
  const last = open[open.length - 1]!;
  return meets && (!closed || (all.length > 1 && endOf(last.curve, last) === startOf(open[0]!.curve, open[0]!)));
}
