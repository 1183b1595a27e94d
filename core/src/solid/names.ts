import type { EdgeName, FaceName } from '../sketch';

export const isSameFace = (a: FaceName, b: FaceName): boolean =>
  a.feature === b.feature && a.of === b.of && a.path === b.path && a.curve === b.curve && a.nth === b.nth;

/** Whichever of its faces is named first. */
export const isEdgeBetween = ({ faces: [p, q] }: EdgeName, a: FaceName, b: FaceName): boolean =>
  (isSameFace(a, p!) && isSameFace(b, q!)) || (isSameFace(a, q!) && isSameFace(b, p!));
