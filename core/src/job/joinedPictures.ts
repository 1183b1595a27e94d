import { type JoinedInput, numberedRuler, type Reference } from '../calibration';
import { type LengthUnit, parseReadings } from '../units';
import { calibrationInput, isScaleKnown, onPlane, planeUnder } from './calibrationInput';
import type { JobDocument, JoinRecord, Picture, ReferenceRecord } from './document/document';
import { recordKindOf } from './reference';

/** What the calibration of a picture goes by. */
export type SaidOfPicture = Pick<Picture, 'id' | 'facts' | 'calibration' | 'preparation' | 'kind'>;

/** Pictures that joins hold together, in the job's order: the first one gives zero and the direction of X. */
export interface PictureGroup {
  unit: LengthUnit;
  pictures: SaidOfPicture[];
  joins: JoinRecord[];
}

/**
 * The pictures that are joined with one, and by what; null for one that stands alone, or where nothing in any of them
 * tells how large it is. `instead` is taken for the picture of the same name, as while a pick is dragged.
 */
export function groupOf(
  { pictures, joins, unit }: Pick<JobDocument, 'pictures' | 'joins' | 'unit'>,
  pictureId: string,
  instead?: Picture,
): PictureGroup | null {
  const ids = new Set([pictureId]);
  for (let size = 0; size !== ids.size; ) {
    size = ids.size;
    for (const { seen } of joins) if (seen.some((s) => ids.has(s.picture))) for (const s of seen) ids.add(s.picture);
  }
  if (ids.size < 2) return null;
  const members = pictures.filter((p) => ids.has(p.id)).map((p) => (p.id === instead?.id ? instead : p));
  if (!members.some(isScaleKnown)) return null;
  return { unit, pictures: members, joins: joins.filter((j) => j.seen.some((s) => ids.has(s.picture))) };
}

/** What the estimate over several pictures takes. */
export function joinedInput({ pictures, joins, unit }: PictureGroup): JoinedInput {
  const shared = joins.filter((j) => j.kind === 'reference');
  const inputs = pictures.map((p) => {
    const input = calibrationInput(p);
    const references = input.references.map((y): Reference => {
      const isShared = shared.some((j) => j.seen.some((s) => s.picture === p.id && s.reference === y.id));
      const record = p.calibration.references.find((r) => r.id === y.id);
      return (isShared && record && numbered(record, unit)) || y;
    });
    return { id: p.id, input: { ...input, references } };
  });
  const calibrationOf = (id: string) => pictures.find((p) => p.id === id)?.calibration;
  return {
    pictures: inputs,
    points: joins.flatMap((j) =>
      j.kind === 'point'
        ? [
            {
              id: j.id,
              seen: j.seen.flatMap((s) => {
                const calibration = calibrationOf(s.picture);
                return calibration
                  ? [{ ...onPlane(s.pick, planeUnder(s.plane, calibration)), picture: s.picture }]
                  : [];
              }),
            },
          ]
        : [],
    ),
    references: shared.filter((j) => j.seen.every((s) => canBeShared(recordOf(pictures, s), unit))),
  };
}

const recordOf = (
  pictures: readonly SaidOfPicture[],
  { picture, reference }: { picture: string; reference: string },
): ReferenceRecord | undefined =>
  pictures.find((p) => p.id === picture)?.calibration.references.find((y) => y.id === reference);

/**
 * A reference that several pictures can show in places that are told again: a coin, a grid, a sheet, or a ruler whose
 * strokes were counted and whose readings were said (`20 to 250`).
 */
export function canBeShared(y: ReferenceRecord | undefined, unit: LengthUnit): boolean {
  return y !== undefined && (recordKindOf(y).isNumbered || numbered(y, unit) !== null);
}

/** A ruler with its graduations numbered from its own zero; null where its readings were not said, or lie between any. */
function numbered(record: ReferenceRecord, unit: LengthUnit): Reference | null {
  if (record.kind !== 'known-length' || !record.graduations) return null;
  const { typed, graduations, ...ruler } = record;
  const readings = parseReadings(typed, unit);
  return readings && numberedRuler({ ...ruler, graduations }, readings);
}
