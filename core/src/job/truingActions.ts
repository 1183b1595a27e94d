import type { Hold } from '../truing';
import type { LengthUnit } from '../units';
import type {
  AxisRecord,
  HeightRecord,
  PickRecord,
  SpotCheckRecord,
  StrokesRecord,
  TruingRecord,
  YardstickRecord,
  ZeroRecord,
} from './document';
import type { JobAction } from './history';
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

export function addYardstick(pictureId: string, yardstick: YardstickRecord): JobAction {
  return onTruing(pictureId, 'add a known length', (t) => void t.yardsticks.push(yardstick));
}

export function changeYardstick(
  pictureId: string,
  id: string,
  change: Partial<Omit<YardstickRecord, 'id' | 'kind'>>,
): JobAction {
  return onTruing(pictureId, 'change a known length', (t) => {
    const found = t.yardsticks.find((y) => y.id === id);
    if (!found) return;
    // What was counted belongs to the length that it was counted for.
    if (change.lengthMm !== undefined && change.lengthMm !== found.lengthMm) found.strokes = null;
    Object.assign(found, change);
  });
}

/** Takes the strokes between a yardstick's readings as lines, or leaves them out. */
export function setStrokes(pictureId: string, id: string, strokes: StrokesRecord | null): JobAction {
  return onTruing(pictureId, strokes ? 'count the strokes' : 'leave out the strokes', (t) => {
    const found = t.yardsticks.find((y) => y.id === id);
    if (found) found.strokes = strokes;
  });
}

/** Takes a yardstick away; an axis or a zero that leaned on it stays where its picks were. */
export function removeYardstick(pictureId: string, id: string): JobAction {
  return onTruing(pictureId, 'remove a known length', (t) => {
    const gone = t.yardsticks.find((y) => y.id === id);
    if (!gone) return;
    const { from, to, plane } = gone;
    if (t.axis && 'yardstick' in t.axis && t.axis.yardstick === id) t.axis = { along: t.axis.along, from, to, plane };
    if (t.zero && 'yardstick' in t.zero && t.zero.yardstick === id) t.zero = { pick: gone[t.zero.end], plane };
    t.yardsticks = t.yardsticks.filter((y) => y.id !== id);
  });
}

/** Moves one end of a yardstick or of a spot check. */
export function movePick(pictureId: string, id: string, end: 'from' | 'to', pick: PickRecord): JobAction {
  return onTruing(pictureId, 'move a reading', (t) => {
    const yardstick = t.yardsticks.find((y) => y.id === id);
    if (yardstick) yardstick.strokes = null;
    const found = yardstick ?? t.spotChecks.find((s) => s.id === id);
    if (found) found[end] = pick;
  });
}

export function setAxis(pictureId: string, axis: AxisRecord | null): JobAction {
  return onTruing(pictureId, 'set the direction of X', (t) => {
    t.axis = axis;
  });
}

export function setZero(pictureId: string, zero: ZeroRecord | null): JobAction {
  return onTruing(pictureId, 'set zero', (t) => {
    t.zero = zero;
  });
}

export function setHold(pictureId: string, hold: Hold): JobAction {
  return onTruing(pictureId, 'say how the camera was held', (t) => {
    t.hold = hold;
  });
}

/** Takes the resolution that the file states as a yardstick, or leaves it out. */
export function believeResolution(pictureId: string, believe: boolean): JobAction {
  return onTruing(pictureId, believe ? "take the file's resolution" : "leave out the file's resolution", (t) => {
    t.believeResolution = believe;
  });
}

export function setHeight(pictureId: string, plane: 'yardstick' | 'face', height: HeightRecord): JobAction {
  return onTruing(pictureId, 'set a height', (t) => {
    t.heights[plane] = height;
  });
}

export function addSpotCheck(pictureId: string, spot: SpotCheckRecord): JobAction {
  return onTruing(pictureId, 'add a spot check', (t) => void t.spotChecks.push(spot));
}

export function changeSpotCheck(
  pictureId: string,
  id: string,
  change: Partial<Omit<SpotCheckRecord, 'id'>>,
): JobAction {
  return onTruing(pictureId, 'change a spot check', (t) => {
    const found = t.spotChecks.find((s) => s.id === id);
    if (found) Object.assign(found, change);
  });
}

export function removeSpotCheck(pictureId: string, id: string): JobAction {
  return onTruing(pictureId, 'remove a spot check', (t) => {
    t.spotChecks = t.spotChecks.filter((s) => s.id !== id);
  });
}

function onTruing(pictureId: string, label: string, change: (truing: TruingRecord) => void): JobAction {
  return onPicture(pictureId, label, (picture) => change(picture.truing));
}
