import { type Form, offsetForm } from '../../../geometry';
import { type BodyStep, type ExtrudeStep, type Loop, normalOf, type Region, withoutSlivers } from '../../../solid';
import { CHECK_BAR_MM, type Machine } from '../../profile';

/** One minus the cosine of the angle by which a plane that counts as level may lean: 0.003°. */
const LEANS = 1e-9;

/**
 * What a body is made of, so changed that it comes out of a machine as it is meant: profiles that are seen from above half a cut larger
 * where they are material, and smaller where they are openings; upright round holes wider by their allowance. Heights, and what is
 * made from other sides or turned, stay as they are: nothing was measured of them.
 *
 * Out: the steps, and whether something of a profile was lost.
 */
export function stepsFor(
  steps: readonly BodyStep[],
  { kerfMm, holesMm }: Machine,
): { steps: BodyStep[]; lost: boolean } {
  const state = { lost: false };
  const loop = (own: Loop, isMaterial: boolean): Loop | null => {
    const wider = !isMaterial && own.form.kind === 'circle' ? holesMm / 2 : 0;
    const by = ((isMaterial ? 1 : -1) * kerfMm) / 2 + wider;
    // Corners stay sharp: where pieces meet with a slight kink a round between them would be too small for any edge to be broken.
    const [form, ...others] = by === 0 ? [own.form] : offsetForm(own.form, by, 'sharp');
    if (!form || others.length > 0) state.lost = true;
    if (!form) return null;
    const made = withoutSlivers({ ...own, form, curves: null });
    return piecesOf(made.form) === piecesOf(own.form) ? { ...made, curves: own.curves } : made;
  };
  const region = ({ outer, holes }: Region, isMaterial: boolean): Region[] => {
    const own = loop(outer, isMaterial);
    return own ? [{ outer: own, holes: holes.flatMap((h) => loop(h, !isMaterial) ?? []) }] : [];
  };
  const extruded = (step: ExtrudeStep, isMaterial: boolean): ExtrudeStep => ({
    ...step,
    regions: step.regions.flatMap((r) => region(r, isMaterial)),
    inside: step.inside?.flatMap((r) => region(r, true)) ?? null,
  });
  const changed = steps.map((step): BodyStep => {
    if (step.kind === 'hollow' && step.cavity?.kind === 'extrude' && isUpright(step.cavity.frame))
      return { ...step, cavity: extruded(step.cavity, false) };
    if (!('frame' in step) || !isUpright(step.frame)) return step;
    if (step.kind === 'extrude') return extruded(step, step.does !== 'cut');
    if (step.kind !== 'holes') return step;
    const wide = (mm: number) => Math.max(mm - kerfMm + holesMm, LEAST_MM);
    const { head } = step;
    return {
      ...step,
      holes: step.holes.map((h) => ({ ...h, diameterMm: wide(h.diameterMm) })),
      head: head.kind === 'none' ? head : { ...head, diameterMm: wide(head.diameterMm) },
    };
  });
  return { steps: changed, lost: state.lost };
}

/** No hole is narrower. */
const LEAST_MM = 0.01;

const isUpright = (frame: ExtrudeStep['frame']): boolean => Math.abs(normalOf(frame).z) > 1 - LEANS;
const piecesOf = (form: Form): number => (form.kind === 'circle' ? 1 : form.segments.length);

/** By how much a body's triangles are stretched along X and Y for a machine. */
export const stretchFor = ({ barXMm, barYMm }: Machine): { x: number; y: number } => ({
  x: CHECK_BAR_MM / barXMm,
  y: CHECK_BAR_MM / barYMm,
});
