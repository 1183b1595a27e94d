import {
  type CalibrationInput,
  type Datum,
  type DatumPlace,
  knowsScale,
  type PlanePick,
  type Reference,
  type SpotCheck,
  type TurnedPart,
  type WantedLength,
} from '../calibration';
import { type PickRecord, type PlaneName, TURNED } from '../sketch';
import {
  type CalibrationRecord,
  type HeightRecord,
  lensOf,
  type Picture,
  type PictureKind,
  type SpotCheckRecord,
} from './document/document';
import { recordKindOf } from './reference';

/** What the estimate takes, from what the document keeps. */
export function calibrationInput({
  facts,
  calibration,
  kind,
}: Pick<Picture, 'facts' | 'calibration' | 'kind'>): CalibrationInput {
  return {
    facts,
    lens: lensOf(kind),
    believeResolution: calibration.believeResolution,
    freeRatio: calibration.freeRatio,
    hold: calibration.hold,
    saved: calibration.camera && { mean: calibration.camera.mean, covariance: calibration.camera.covariance },
    planes: [
      { id: 'reference', ...calibration.heights.reference },
      { id: 'face', ...faceHeight(kind, calibration) },
      ...calibration.planes.map(({ id, heightMm, plusMinusMm }) => ({ id, heightMm, plusMinusMm })),
    ],
    references: calibration.references.flatMap(({ typed: _, ...y }): Reference[] => {
      const { turned } = calibration;
      if (y.kind === 'turned-diameter')
        return turned ? [{ ...y, plane: turned.plane, silhouettes: turned.silhouettes }] : [];
      if (y.kind !== 'known-length' || y.plane !== TURNED) return [y];
      if (!turned) return [];
      const { id, from, to, lengthMm, plusMinusMm } = y;
      const { plane, silhouettes } = turned;
      return [{ id, kind: 'turned-span', plane, silhouettes, from, to, lengthMm, plusMinusMm }];
    }),
  };
}

/**
 * Nobody has said how thick the part is: most that is traced on a table is up to six millimetres. A page lies on its
 * own plane.
 */
const UNSAID_MM = 6;
const UNSAID_AXIS_MM = 25;

function faceHeight(kind: PictureKind, calibration: CalibrationRecord): HeightRecord {
  const { face } = calibration.heights;
  // A turned part lies on its rim: its axis is half its diameter up, and nobody has said how much that is.
  const unsaid = calibration.turned?.plane === 'face' ? UNSAID_AXIS_MM : UNSAID_MM;
  return isHeightOpen({ kind, calibration })
    ? { heightMm: face.heightMm, plusMinusMm: Math.max(face.plusMinusMm, unsaid) }
    : face;
}

/** How high the axis of a turned part that rests on the table lies, where it rests on its rim. */
export function restingAxisMm(seenDiameterMm: number, cameraHeightMm: number): number {
  // Measured as if its axis lay on the table it comes out larger by what the axis is nearer to the camera.
  return seenDiameterMm / 2 / (1 + seenDiameterMm / 2 / cameraHeightMm);
}

/**
 * Whether it still has to be said how thick the part is: not of a page, and not where all that is known of its size lies on
 * the traced face itself, which is as far away as what is measured.
 */
export function isHeightOpen({ kind, calibration }: Pick<Picture, 'kind' | 'calibration'>): boolean {
  const { heights, references } = calibration;
  const isOnFace = references.length > 0 && references.every((y) => 'plane' in y && y.plane === 'face');
  return !heights.said && kind === 'photo' && !isOnFace;
}

/** Anything is known of how large a picture is: it can be shown true. */
export function isScaleKnown(picture: Pick<Picture, 'facts' | 'calibration' | 'kind'>): boolean {
  return knowsScale(calibrationInput(picture));
}

/** Zero and the direction of X as picks, where they lean on a reference its picks. */
export function datumOf({ calibration, preparation }: Pick<Picture, 'calibration' | 'preparation'>): Datum {
  return {
    zero: zeroPlace(calibration),
    axis: axisPlaces(calibration),
    rows: ((preparation.flip ? -1 : 1) * preparation.turns * Math.PI) / 2,
    flip: preparation.flip,
    ...(calibration.laid && { laid: calibration.laid }),
  };
}

function zeroPlace(said: CalibrationRecord): DatumPlace | null {
  const { zero, references } = said;
  if (!zero) return null;
  if ('pick' in zero) return onPlane(zero.pick, zero.plane);
  if ('crossing' in zero) return { crossing: zero.crossing.map((p) => onPlane(p, zero.plane)) };
  if ('rim' in zero) return { rim: zero.rim.map((p) => onPlane(p, zero.plane)) };
  const y = references.find((other) => other.id === zero.reference);
  const line = y && recordKindOf(y).datumLine(y);
  return y && line ? onPlane(line[zero.end], planeUnder(y.plane, said)) : null;
}

function axisPlaces(said: CalibrationRecord): Datum['axis'] {
  const { axis, references } = said;
  if (!axis) return null;
  const { along } = axis;
  if ('from' in axis) return { from: onPlane(axis.from, axis.plane), to: onPlane(axis.to, axis.plane), along };
  if ('holes' in axis) {
    const place = (rim: readonly PickRecord[]) => ({ rim: rim.map((p) => onPlane(p, axis.plane)) });
    return { from: place(axis.holes[0]), to: place(axis.holes[1]), along };
  }
  if ('edges' in axis) {
    const edges = axis.edges.flat().map((p) => onPlane(p, axis.plane));
    return { from: { edges, end: 0 }, to: { edges, end: 1 }, along };
  }
  const y = references.find((other) => other.id === axis.reference);
  const line = y && recordKindOf(y).datumLine(y);
  const plane = y && planeUnder(y.plane, said);
  return line && plane !== undefined ? { from: onPlane(line.from, plane), to: onPlane(line.to, plane), along } : null;
}

export function wantedOf({ wanted }: CalibrationRecord): WantedLength | null {
  return (
    wanted && {
      from: onPlane(wanted.from, wanted.plane),
      to: onPlane(wanted.to, wanted.plane),
      lengthMm: wanted.lengthMm,
    }
  );
}

export function spotCheckOf(record: SpotCheckRecord, calibration: CalibrationRecord): SpotCheck {
  const { from, to, lengthMm, plusMinusMm } = record;
  const plane = planeUnder(record.plane, calibration);
  const turned = record.plane === TURNED ? turnedOf(calibration) : null;
  return { from: onPlane(from, plane), to: onPlane(to, plane), lengthMm, plusMinusMm, turned };
}

/** The turned part of a picture as picks, null without one. */
export function turnedOf({ turned }: CalibrationRecord): TurnedPart | null {
  if (!turned) return null;
  const [a, b] = turned.silhouettes;
  const on = (pick: PickRecord) => onPlane(pick, turned.plane);
  return {
    silhouettes: [
      [on(a[0]), on(a[1])],
      [on(b[0]), on(b[1])],
    ],
  };
}

/** The plane that picks are placed on: what lies on a turned part is placed on the plane of its axis. */
export const planeUnder = (plane: PlaneName, { turned }: CalibrationRecord): PlaneName =>
  plane === TURNED ? (turned?.plane ?? 'face') : plane;

export function onPlane({ uPx, vPx, sigmaPx }: PickRecord, plane: PlaneName): PlanePick {
  return { uPx, vPx, sigmaPx, plane };
}
