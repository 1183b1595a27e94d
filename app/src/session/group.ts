import {
  groupOf,
  isScaleKnown,
  type JobDocument,
  type Picture,
  type PictureGroup,
  type SaidOfPicture,
} from '@steady-moth/core/job';
import { useMemo } from 'react';

/** Keys by the objects that they were made of: a ruler's strokes are many, and a key is asked for at every render. */
const keys = new WeakMap<object, string>();

/** What decides a picture's own map, as a short text. */
export function ownKey(said: SaidOfPicture): string {
  const known = keys.get(said);
  if (known !== undefined) return known;
  const key = digest(JSON.stringify(whatDecides(said)));
  keys.set(said, key);
  return key;
}

/** 64 bits of a text (FNV-1a, twice with other seeds): as good as the text to tell whether anything changed. */
export function digest(text: string): string {
  let [a, b] = [0x811c9dc5, 0x9747b28c];
  for (let k = 0; k < text.length; k++) {
    const code = text.charCodeAt(k);
    a = Math.imul(a ^ code, 0x01000193);
    b = Math.imul(b ^ code, 0x85ebca6b);
  }
  return `${(a >>> 0).toString(36)}-${(b >>> 0).toString(36)}`;
}

/** What of a picture decides its map: spot checks and what was typed do not. */
function whatDecides({ facts, calibration: t, preparation, kind }: SaidOfPicture): unknown {
  return {
    turns: preparation.turns,
    flip: preparation.flip,
    facts,
    kind,
    believe: t.believeResolution,
    hold: t.hold,
    heights: t.heights,
    planes: t.planes,
    camera: t.camera,
    freeRatio: t.freeRatio,
    turned: t.turned,
    wanted: t.wanted,
    factor: t.factor,
    axis: t.axis,
    zero: t.zero,
    laid: t.laid,
    references: t.references.map(({ typed: _, ...y }) => y),
  };
}

/** What decides a picture's map: its own, or that of all that it is joined with. */
export const mapKey = (said: SaidOfPicture, group: PictureGroup | null): unknown =>
  group
    ? { of: said.id, joins: group.joins, pictures: group.pictures.map((p) => [ownKey(p), ...asTyped(p)]) }
    : ownKey(said);

/** Which graduations of a shared ruler are seen stands in the readings as they were typed. */
const asTyped = ({ calibration }: SaidOfPicture): string[] =>
  calibration.references.flatMap((y) => (y.kind === 'known-length' && y.graduations ? [y.typed] : []));

/** Something in it, or in one that it is joined with, tells how large it is. */
export const isKnown = (picture: Picture, group: PictureGroup | null): boolean =>
  group !== null || isScaleKnown(picture);

/** The pictures that one is joined with, made anew only when something is said of one of them. */
export function useGroup(job: JobDocument, picture: Picture | null): PictureGroup | null {
  const { pictures, joins, unit } = job;
  return useMemo(
    () => (picture && joins.length ? groupOf({ pictures, joins, unit }, picture.id, picture) : null),
    [pictures, joins, unit, picture],
  );
}

/** Worked out once for each key: what decides it stands in the key. What nobody looks at goes soon, as it can be large. */
export const WORKED_OUT = { gcTime: 10_000, staleTime: Number.POSITIVE_INFINITY } as const;
