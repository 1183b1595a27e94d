import {
  addPath,
  dropPath,
  pathsIn,
  picturesOfPath,
  type Sketch,
  sketchesOf,
  sketchFor,
  sortIntoViews,
} from '../../sketch';
import type {
  Clearing,
  JobDocument,
  Picture,
  PictureFile,
  PictureKind,
  Preparation,
  Rect,
  Tones,
  View,
} from '../document/document';
import type { JobAction } from '../document/history';
import { viewAt } from '../document/viewOfPath';
import { dropSeen } from './joinActions';
import { reprojectedResolution, reprojectPicture } from './reprojectPicture';

/** Adds a picture, with outlines that its file brought along; they get names that no other thing of the job has. */
export function addPicture(picture: Picture, outlines: Sketch | null = null): JobAction {
  return {
    label: 'bring in a picture',
    recipe(job) {
      job.pictures.push(picture);
      if (outlines) bringIn(sketchFor(job.part, null), outlines, picture.id);
    },
  };
}

/** Puts all of another sketch into one, seen in this picture. */
function bringIn(into: Sketch, outlines: Sketch, picture: string): void {
  const own = (id: string) => `${picture}-${id}`;
  for (const [id, { at }] of Object.entries(outlines.points))
    into.points[own(id)] = { at: at.kind === 'observed' ? { ...at, picture } : at };
  for (const [id, pick] of Object.entries(outlines.picks)) into.picks[own(id)] = { ...pick, picture };
  for (const [id, curve] of Object.entries(outlines.curves)) {
    const evidence = curve.evidence.map(({ edge, picks }) => ({ edge, picks: picks.map(own) }));
    into.curves[own(id)] =
      curve.kind === 'circle'
        ? { ...curve, id: own(id), evidence, centre: own(curve.centre) }
        : { ...curve, id: own(id), evidence, from: own(curve.from), to: own(curve.to) };
  }
  for (const path of pathsIn(outlines)) {
    const uses = path.uses.map(({ curve, reversed }) => ({ curve: own(curve), reversed }));
    addPath(into, { ...path, id: own(path.id), uses });
  }
}

/** Takes a picture off the job with everything that was traced on it. */
export function removePicture(pictureId: string): JobAction {
  return {
    label: 'take a picture away',
    recipe(job) {
      const gone = job.pictures.find((p) => p.id === pictureId);
      if (!gone || gone.locked) return;
      job.pictures = job.pictures.filter((p) => p.id !== pictureId);
      dropSeen(job, pictureId, null);
      for (const sketch of sketchesOf(job.part))
        for (const path of pathsIn(sketch))
          if (picturesOfPath(sketch, path).includes(pictureId)) dropPath(sketch, path);
      sortPaths(job);
    },
  };
}

/** Moves a picture up (over the next one) or down on the board. */
export function orderPicture(pictureId: string, by: 1 | -1): JobAction {
  return {
    label: by > 0 ? 'move a picture up' : 'move a picture down',
    recipe({ pictures }) {
      const at = pictures.findIndex((p) => p.id === pictureId);
      const to = at + by;
      const moved = pictures[at];
      if (!moved || to < 0 || to >= pictures.length || moved.locked) return;
      pictures.splice(at, 1);
      pictures.splice(to, 0, moved);
    },
  };
}

export function lockPicture(pictureId: string, locked: boolean): JobAction {
  return onAnyPicture(pictureId, locked ? 'lock the picture' : 'unlock the picture', (picture) => {
    picture.locked = locked;
  });
}

/** Shown on the board or not: how one looks at the job, so it is free also of a locked picture. */
export function showPicture(pictureId: string, shown: boolean): JobAction {
  return onAnyPicture(pictureId, shown ? 'show a picture' : 'hide a picture', (picture) => {
    picture.shown = shown;
  });
}

/** As `showPicture`: free also of a locked picture. */
export function setOpacity(pictureId: string, opacity: number): JobAction {
  return onAnyPicture(pictureId, 'dim the picture', (picture) => {
    picture.opacity = opacity;
  });
}

export function setKind(pictureId: string, kind: PictureKind): JobAction {
  return onPicture(pictureId, 'say what the picture is', (picture) => {
    picture.kind = kind;
  });
}

/**
 * Turns the picture by quarter turns, clockwise. What ran along X as it was shown runs along Y then, so that the true
 * board turns with it, by a quarter as well.
 */
export function turnPicture(pictureId: string, by: 1 | -1): JobAction {
  return onPicture(pictureId, 'turn the picture', ({ preparation, calibration: { axis } }) => {
    preparation.turns = ((preparation.turns + by + 4) % 4) as Preparation['turns'];
    if (axis) axis.along = axis.along === 'x' ? 'y' : 'x';
  });
}

/** Left and right change places as the picture is shown, whichever way it is turned. */
export function flipPicture(pictureId: string): JobAction {
  return onPreparation(pictureId, 'flip the picture', (preparation) => {
    preparation.flip = !preparation.flip;
    // The flip comes before the turn, so that an odd quarter is turned the other way about.
    if (preparation.turns % 2) preparation.turns = ((preparation.turns + 2) % 4) as Preparation['turns'];
  });
}

export function cropPicture(pictureId: string, crop: Rect | null): JobAction {
  return onPreparation(pictureId, crop ? 'crop the picture' : 'show all of the picture', (preparation) => {
    preparation.crop = crop;
  });
}

export function clearBackground(pictureId: string, clear: Clearing | null): JobAction {
  return onPreparation(pictureId, clear ? 'clear the background' : 'keep the background', (preparation) => {
    preparation.clear = clear;
  });
}

export function setTones(pictureId: string, tones: Tones): JobAction {
  return onPreparation(pictureId, 'change the tones', (preparation) => {
    preparation.tones = tones;
  });
}

export function addView(pictureId: string, view: View): JobAction {
  return onViews(pictureId, 'cut out a view', ({ views }) => void views.push(view));
}

export function changeView(pictureId: string, id: string, change: Partial<Omit<View, 'id'>>): JobAction {
  return onViews(pictureId, 'change a view', ({ views }) => {
    const found = views.find((v) => v.id === id);
    if (found) Object.assign(found, change);
  });
}

export function removeView(pictureId: string, id: string): JobAction {
  return onViews(pictureId, 'remove a view', (picture) => {
    picture.views = picture.views.filter((v) => v.id !== id);
  });
}

/** A change of a picture's views: each path then lies in the sketch of the view that it was traced in. */
function onViews(pictureId: string, label: string, change: (picture: Picture) => void): JobAction {
  const { recipe } = onPicture(pictureId, label, change);
  return {
    label,
    recipe(job) {
      recipe(job);
      sortPaths(job);
    },
  };
}

const sortPaths = ({ pictures, part }: JobDocument): void => sortIntoViews(part, (first) => viewAt(pictures, first));

/**
 * Puts another file in a picture's place. What was known and traced is carried along through `onto`, from the old
 * pixels to the new; the old file is remembered, to be compared with.
 */
export function swapPicture(pictureId: string, file: PictureFile, onto: readonly number[]): JobAction {
  return {
    label: 'swap the picture',
    recipe(job) {
      const picture = job.pictures.find((p) => p.id === pictureId);
      if (!picture || picture.locked) return;
      const { blob, fileName, mime, facts } = picture;
      reprojectPicture(job, picture, onto);
      // What the old file stated of its scale is part of its calibration, and lies over the new pixels as everything else.
      const resolution = reprojectedResolution(facts, onto) ?? file.facts.resolution;
      Object.assign(
        picture,
        { ...file, facts: { ...file.facts, resolution } },
        { before: { blob, fileName, mime, facts, onto: [...onto] } },
      );
    },
  };
}

/** Forgets the picture that was here before a swap. */
export function forgetBefore(pictureId: string): JobAction {
  return onPicture(pictureId, 'forget the earlier picture', (picture) => {
    picture.before = null;
  });
}

/** A change of one picture; a locked one stays as it is. */
export function onPicture(pictureId: string, label: string, change: (picture: Picture) => void): JobAction {
  return onAnyPicture(pictureId, label, (picture) => {
    if (!picture.locked) change(picture);
  });
}

function onPreparation(pictureId: string, label: string, change: (preparation: Preparation) => void): JobAction {
  return onPicture(pictureId, label, ({ preparation }) => change(preparation));
}

function onAnyPicture(pictureId: string, label: string, change: (picture: Picture) => void): JobAction {
  return {
    label,
    recipe(job: JobDocument) {
      const picture = job.pictures.find((p) => p.id === pictureId);
      if (picture) change(picture);
    },
  };
}
