import type { Lens, PicturePoint } from '../../calibration';
import { DOCUMENT_VERSION } from '../../schema/bounds';
import type { CalibrationRecord, HeightRecord } from '../../schema/calibration';
import type { JobDocument, Picture, PictureFile, PictureKind, Preparation, Tones } from '../../schema/job';
import { newPart } from '../../sketch';
import type { LengthUnit } from '../../units';

export { DOCUMENT_VERSION, MOST } from '../../schema/bounds';
export type {
  AxisRecord,
  CalibrationRecord,
  CameraRecord,
  DiscRecord,
  EqualLengthsRecord,
  FactorRecord,
  GraduationsRecord,
  GridRecord,
  HeightRecord,
  KnownLengthRecord,
  LaidRecord,
  PlaneRecord,
  ReferenceRecord,
  SheetRecord,
  SpotCheckRecord,
  SquareLinesRecord,
  TurnedDiameterRecord,
  TurnedRecord,
  WantedRecord,
  WidthRecord,
  ZeroRecord,
} from '../../schema/calibration';
export type {
  Clearing,
  JobDocument,
  JoinRecord,
  Picture,
  PictureFile,
  PictureKind,
  Preparation,
  Rect,
  Side,
  Tones,
  View,
} from '../../schema/job';
export { type PickRecord, type PlaneName, TURNED } from '../../sketch';

/** A scan and a drawing lie flat; a photograph was taken through a lens over the table. */
export const lensOf = (kind: PictureKind): Lens => (kind === 'photo' ? 'photo' : 'page');

export const PLAIN_TONES: Tones = { dark: 0, light: 1, gamma: 1, gray: false };

export function newPreparation(): Preparation {
  return { turns: 0, flip: false, crop: null, clear: null, tones: { ...PLAIN_TONES } };
}

/** How heights stand before anybody said anything: all in the table's plane. */
const NEW_HEIGHT: HeightRecord = { heightMm: 0, plusMinusMm: 0 };

export function newJob(id: string, name: string, createdAt: string, unit: LengthUnit): JobDocument {
  return {
    version: DOCUMENT_VERSION,
    id,
    name,
    createdAt,
    unit,
    pictures: [],
    joins: [],
    part: newPart(),
  };
}

export function newCalibrationRecord(): CalibrationRecord {
  return {
    believeResolution: true,
    hold: 'free',
    freeRatio: false,
    heights: { reference: { ...NEW_HEIGHT }, face: { ...NEW_HEIGHT }, said: true },
    planes: [],
    camera: null,
    references: [],
    turned: null,
    axis: null,
    zero: null,
    wanted: null,
    factor: null,
    laid: null,
    spotChecks: [],
  };
}

/** A picture that comes in: how thick the things on a photograph are has to be asked. */
export function arrivedPicture(
  id: string,
  file: PictureFile,
  kind: PictureKind,
  zero: PicturePoint | null = null,
): Picture {
  const picture = newPicture(id, file, kind);
  // A drawing's own zero stays its zero, unless it lies further off than a pick may.
  if (zero && Math.max(Math.abs(zero.uPx), Math.abs(zero.vPx)) < FURTHEST_ZERO_PX)
    picture.calibration.zero = { pick: { ...zero, sigmaPx: ZERO_SIGMA_PX }, plane: 'face' };
  picture.calibration.heights.said = kind !== 'photo';
  return picture;
}

const FURTHEST_ZERO_PX = 1e5;
const ZERO_SIGMA_PX = 1e-3;

export function newPicture(id: string, file: PictureFile, kind: PictureKind): Picture {
  return {
    ...file,
    id,
    kind,
    shown: true,
    locked: false,
    opacity: 1,
    preparation: newPreparation(),
    views: [],
    calibration: newCalibrationRecord(),
    before: null,
  };
}
