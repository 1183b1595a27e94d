import { between } from '../geometry';
import { deletePath, type JobAction, type JobDocument, removePiece } from '../job';
import type { Flaw } from '../proof';
import { flawSentence, sayLength } from '../say';
import { type EvaluatedPath, findPath, type Id, type Part, walkOf } from '../sketch';
import { markFaults } from '../solid';
import { hitSegment, type Setting, smoothed } from '../tracing';
import type { Finding, Repair } from './finding';

/** What Solid will refuse of the marks that features raise or sink, as flaws of their paths. */
export const markFlaws = (part: Part, paths: readonly EvaluatedPath[]): Flaw[] =>
  markFaults(part, { paths }).map(({ reason, where }) => ({
    kind: reason === 'touches' ? 'touches' : where!.other === null ? 'crosses-itself' : 'crosses',
    path: where!.path,
    other: where!.other,
    at: where!.at,
    size: null,
  }));

/** What a cutter would stumble over. With a setting each has the repairs that there are; without one it is only told. */
export function flawFindings(
  flaws: readonly Flaw[],
  { part, unit }: Pick<JobDocument, 'part' | 'unit'>,
  setting: Setting | null,
): Finding[] {
  const nameOf = (id: Id) => `“${findPath(part, id)?.path.name ?? 'a path'}”`;
  return flaws.map((flaw) => ({
    key: `${flaw.kind} ${flaw.path} ${flaw.other} ${flaw.at.x} ${flaw.at.y}`,
    subject: nameOf(flaw.path),
    says: flawSentence(flaw, flaw.other && nameOf(flaw.other), (mm) => sayLength(mm, unit)),
    where: { kind: 'place', path: flaw.path, other: flaw.other, at: flaw.at },
    gravity: 'doubtful',
    certainty: flaw.kind === 'stray' || flaw.kind === 'kink' ? 'likely' : 'sure',
    repairs: setting ? repairsOf(flaw, setting) : [],
  }));
}

function repairsOf(flaw: Flaw, setting: Setting): Repair[] {
  if (flaw.kind === 'drawn-twice' || flaw.kind === 'stray')
    return [{ says: null, press: { name: 'Take it out', act: () => takenOut(flaw, setting) } }];
  if (flaw.kind === 'kink')
    return [{ says: null, press: { name: 'Smooth it', act: () => smoothedOut(flaw, setting) } }];
  return [];
}

/** A piece that was found lies so near to where it was found, mm. */
const NEAR_MM = 0.05;

/** The piece goes that lies on another, or is a stray bit: of one drawn over another path the one drawn later. */
function takenOut({ path, other, at }: Flaw, { drawn, newId }: Setting): JobAction | string {
  const own = drawn.paths.filter((d) => d.path.id === (other ?? path));
  const found = hitSegment({ paths: own }, at, NEAR_MM);
  if (found?.kind === 'piece') return removePiece(found.path, found.curve, newId());
  return found?.kind === 'circle' ? deletePath(found.path) : 'That piece is not there any more.';
}

/** The path goes on smoothly where a kink was found. */
function smoothedOut({ path, at }: Flaw, setting: Setting): JobAction | string {
  const own = setting.drawn.paths.find((d) => d.path.id === path);
  const points = own ? (walkOf(own.sketch, own.path)?.points ?? []) : [];
  const away = (id: Id) => {
    const place = setting.drawn.placeOf(id);
    return place ? between(place, at) : Number.POSITIVE_INFINITY;
  };
  const point = points.reduce<Id | null>((best, id) => (best && away(best) <= away(id) ? best : id), null);
  const action = own && point && away(point) < NEAR_MM ? smoothed(own, point, 'as it comes', setting) : null;
  return action ?? 'Only curves can turn: make one of both pieces a curve first.';
}
