import type { CameraHold } from '../../calibration';
import { allObservations, type PickRecord, type PlaneName, TURNED } from '../../sketch';
import type { LengthUnit } from '../../units';
import { planeUnder } from '../calibrationInput';
import type {
  AxisRecord,
  CalibrationRecord,
  CameraRecord,
  FactorRecord,
  GraduationsRecord,
  HeightRecord,
  LaidRecord,
  PlaneRecord,
  ReferenceRecord,
  SpotCheckRecord,
  TurnedRecord,
  WantedRecord,
  WidthRecord,
  ZeroRecord,
} from '../document/document';
import type { JobAction } from '../document/history';
import { recordKindOf } from '../reference';
import { dropSeen } from './joinActions';
import { onPicture } from './pictureActions';

export function renameJob(name: string): JobAction {
  return {
    label: 'name the job',
    recipe: (job) => {
      job.name = name;
    },
  };
}

export function setUnit(unit: LengthUnit): JobAction {
  return {
    label: 'change the unit',
    recipe: (job) => {
      job.unit = unit;
    },
  };
}

export function addReference(pictureId: string, reference: ReferenceRecord): JobAction {
  return onCalibration(pictureId, `add ${recordKindOf(reference).word}`, (t) => void t.references.push(reference));
}

/** What can be said anew of a reference. */
type ReferenceChange = ReferenceRecord extends infer Y
  ? Y extends ReferenceRecord
    ? Partial<Omit<Y, 'id' | 'kind'>>
    : never
  : never;

/** Changes what is known of a reference, or on which plane it stands. */
export function changeReference(pictureId: string, id: string, change: ReferenceChange): JobAction {
  return onCalibration(pictureId, 'change a known length', (t) => {
    const found = t.references.find((y) => y.id === id);
    if (!found) return;
    // What was counted belongs to the length that it was counted for.
    if (found.kind === 'known-length' && 'lengthMm' in change && change.lengthMm !== found.lengthMm)
      found.graduations = null;
    Object.assign(found, change);
  });
}

/** Takes the strokes between a reference's readings as lines, or leaves them out. */
export function setGraduations(pictureId: string, id: string, graduations: GraduationsRecord | null): JobAction {
  return onCalibration(pictureId, graduations ? 'count the strokes' : 'leave out the strokes', (t) => {
    const found = t.references.find((y) => y.id === id);
    if (found?.kind === 'known-length') found.graduations = graduations;
  });
}

/** Says how wide a ruler is from one long edge to the other, or leaves that out. */
export function setRulerWidth(pictureId: string, id: string, width: WidthRecord | null): JobAction {
  return onCalibration(pictureId, width ? 'say how wide the ruler is' : 'leave out the width', (t) => {
    const found = t.references.find((y) => y.id === id);
    if (found?.kind === 'known-length') found.width = width;
  });
}

/** Leaves out a ruler's other long edge, where something else was taken for it. */
export function leaveOutFarEdge(pictureId: string, id: string): JobAction {
  return onCalibration(pictureId, 'leave out the other edge', (t) => {
    const found = t.references.find((y) => y.id === id);
    if (found?.kind === 'known-length' && found.graduations) found.graduations.far = [];
  });
}

/** Takes one place away that was found wrongly: of a rim, an edge, a grid or a row of strokes. */
export function leaveOutPlace(pictureId: string, id: string, uPx: number, vPx: number): JobAction {
  return onCalibration(pictureId, 'leave out a place', (t) => {
    const y = t.references.find((other) => other.id === id);
    const stays = (p: PickRecord) => p.uPx !== uPx || p.vPx !== vPx;
    if (y) recordKindOf(y).keepPlaces(y, stays);
  });
}

/** Takes a reference away; an axis or a zero that leaned on it stays where its picks were. */
export function removeReference(pictureId: string, id: string): JobAction {
  const taken = onCalibration(pictureId, 'remove a yardstick', (t) => {
    const gone = t.references.find((y) => y.id === id);
    if (!gone) return;
    const plane = planeUnder(gone.plane, t);
    const line = recordKindOf(gone).datumLine(gone);
    if (t.axis && 'reference' in t.axis && t.axis.reference === id)
      t.axis = line && { along: t.axis.along, from: line.from, to: line.to, plane };
    if (t.zero && 'reference' in t.zero && t.zero.reference === id) t.zero = line && { pick: line[t.zero.end], plane };
    t.references = t.references.filter((y) => y.id !== id);
  });
  return {
    ...taken,
    recipe(job) {
      taken.recipe(job);
      if (!job.pictures.some((p) => p.id === pictureId && p.calibration.references.some((y) => y.id === id)))
        dropSeen(job, pictureId, id);
    },
  };
}

/** Says on which plane a turned part's axis lies. */
export function changeTurnedPlane(pictureId: string, plane: PlaneName): JobAction {
  return onCalibration(pictureId, 'say where the axis lies', (t) => {
    if (t.turned) t.turned.plane = plane;
  });
}

/** Says that a turned part lies in the picture; without one, what was measured on it lies on the plane of its axis. */
export function setTurned(pictureId: string, turned: TurnedRecord | null): JobAction {
  return {
    label: turned ? 'say where a turned part lies' : 'leave out the turned part',
    recipe(job) {
      const picture = job.pictures.find((p) => p.id === pictureId);
      if (!picture || picture.locked) return;
      const { calibration } = picture;
      const plane = calibration.turned?.plane ?? 'face';
      calibration.turned = turned;
      if (turned) return;
      calibration.references = calibration.references.filter((y) => y.kind !== 'turned-diameter');
      for (const spot of [...calibration.spotChecks, ...calibration.references])
        if (spot.plane === TURNED) spot.plane = plane;
      for (const seen of allObservations(job.part))
        if (seen.picture === pictureId && seen.plane === TURNED) seen.plane = plane;
    },
  };
}

/** Moves one end of a known length, of a spot check or of a line. */
export function movePick(pictureId: string, id: string, end: 'from' | 'to', pick: PickRecord, span = 0): JobAction {
  return onCalibration(pictureId, 'move a reading', (t) => {
    const y = t.references.find((other) => other.id === id);
    if (y) recordKindOf(y).movePick(y, span, end, pick);
    const spot = t.spotChecks.find((s) => s.id === id);
    if (spot) spot[end] = pick;
    if (id === 'wanted' && t.wanted) t.wanted[end] = pick;
  });
}

export function setWanted(pictureId: string, wanted: WantedRecord | null): JobAction {
  return onCalibration(pictureId, wanted ? 'say what a length shall become' : 'leave out the wanted length', (t) => {
    t.wanted = wanted;
  });
}

/** Puts one factor on all lengths, or takes it off: the last resort, kept on record as what it is. */
export function setFactor(pictureId: string, factor: FactorRecord | null): JobAction {
  return onCalibration(pictureId, factor ? 'put a factor on all lengths' : 'take the factor off', (t) => {
    t.factor = factor;
  });
}

export function setCamera(pictureId: string, camera: CameraRecord | null): JobAction {
  return onCalibration(pictureId, camera ? 'choose a checked camera' : 'leave out the checked camera', (t) => {
    t.camera = camera;
  });
}

export function setFreeRatio(pictureId: string, free: boolean): JobAction {
  return onCalibration(pictureId, free ? 'free both scales' : 'hold both scales together', (t) => {
    t.freeRatio = free;
  });
}

/** Explains lengths that contradict each other by a page whose scales along X and Y differ. */
export function letScalesDiffer(pictureId: string): JobAction {
  return onCalibration(pictureId, 'let the scales differ', (t) => {
    t.freeRatio = true;
    t.believeResolution = false;
  });
}

export function addPlane(pictureId: string, plane: PlaneRecord): JobAction {
  return onCalibration(pictureId, 'add a height', (t) => void t.planes.push(plane));
}

/** Takes a plane away; what stood on it stands on the face. */
export function removePlane(pictureId: string, id: string): JobAction {
  return {
    label: 'remove a height',
    recipe(job) {
      const t = job.pictures.find((p) => p.id === pictureId)?.calibration;
      if (!t) return;
      t.planes = t.planes.filter((p) => p.id !== id);
      const said = [
        ...t.references,
        ...t.spotChecks,
        ...[t.axis, t.zero, t.wanted, t.turned].filter((s) => s !== null),
      ];
      const common = job.joins.flatMap((j) =>
        j.kind === 'point' ? j.seen.filter((s) => s.picture === pictureId) : [],
      );
      const traced = allObservations(job.part).filter((seen) => seen.picture === pictureId);
      for (const s of [...said, ...common, ...traced]) if ('plane' in s && s.plane === id) s.plane = 'face';
    },
  };
}

export function setAxis(pictureId: string, axis: AxisRecord | null): JobAction {
  return onCalibration(pictureId, 'set the direction of X', (t) => {
    t.axis = axis;
  });
}

export function setZero(pictureId: string, zero: ZeroRecord | null): JobAction {
  return onCalibration(pictureId, 'set zero', (t) => {
    t.zero = zero;
  });
}

/** Lays a picture on the part: where its zero is there, and how its X is turned. */
export function layPicture(pictureId: string, laid: LaidRecord | null): JobAction {
  return onCalibration(pictureId, laid ? 'lay the picture on the part' : 'let its zero be that of the part', (t) => {
    t.laid = laid;
  });
}

export function setCameraHold(pictureId: string, hold: CameraHold): JobAction {
  return onCalibration(pictureId, 'say how the camera was held', (t) => {
    t.hold = hold;
  });
}

/** Takes the resolution that the file states as a reference, or leaves it out. */
export function believeResolution(pictureId: string, believe: boolean): JobAction {
  return onCalibration(pictureId, believe ? "take the file's resolution" : "leave out the file's resolution", (t) => {
    t.believeResolution = believe;
  });
}

/** How high a plane lies over the table. */
export function setHeight(pictureId: string, plane: PlaneName, height: HeightRecord): JobAction {
  return onCalibration(pictureId, 'set a height', (t) => {
    if (plane === 'face') t.heights.said = true;
    if (plane === 'reference' || plane === 'face') t.heights[plane] = height;
    else Object.assign(t.planes.find((p) => p.id === plane) ?? {}, height);
  });
}

/** What is thin is up to so thick, mm: paper, card, leather that is split, shim. The ± carries it. */
export const THIN_MM = 0.3;

/** Says that the part is thin: its face lies on the table, or up to that much over it. */
export function sayThin(pictureId: string): JobAction {
  return onCalibration(pictureId, 'say that it is thin', (t) => {
    const { face } = t.heights;
    t.heights.said = true;
    t.heights.face = { ...face, plusMinusMm: Math.max(face.plusMinusMm, THIN_MM) };
  });
}

export function addSpotCheck(pictureId: string, spot: SpotCheckRecord): JobAction {
  return onCalibration(pictureId, 'add a spot check', (t) => void t.spotChecks.push(spot));
}

export function changeSpotCheck(
  pictureId: string,
  id: string,
  change: Partial<Omit<SpotCheckRecord, 'id'>>,
): JobAction {
  return onCalibration(pictureId, 'change a spot check', (t) => {
    const found = t.spotChecks.find((s) => s.id === id);
    if (found) Object.assign(found, change);
  });
}

export function removeSpotCheck(pictureId: string, id: string): JobAction {
  return onCalibration(pictureId, 'remove a spot check', (t) => {
    t.spotChecks = t.spotChecks.filter((s) => s.id !== id);
  });
}

function onCalibration(pictureId: string, label: string, change: (calibration: CalibrationRecord) => void): JobAction {
  return onPicture(pictureId, label, (picture) => change(picture.calibration));
}
