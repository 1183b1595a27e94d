import { type BodyState, type Kernel, type SectionAt, sectionOf } from '../../solid/kernel';
import { joinForms } from '../outlines/joinForms';
import { type FlatProfile, writeSize } from '../profile';

/** A section of a body as a drawing at true size; null where it meets nothing. */
export function sectionDrawing(
  oc: Kernel,
  state: BodyState,
  what: SectionAt,
  { title, date, unit }: { title: string; date: string; unit: 'mm' | 'in' },
): FlatProfile | null {
  const loose = sectionOf(oc, state, what).map((form) => ({ form, role: 'cut' as const, layer: null }));
  const forms = joinForms(loose);
  if (forms.length === 0) return null;
  const name = `section across ${ACROSS[what.across]} at ${writeSize(what.atMm, unit)}`;
  return { title: `${title}, ${name}`, date, unit, notes: true, forms: forms.map((f) => ({ ...f, name: 'section' })) };
}

const ACROSS = { x: 'X', y: 'Y', z: 'the height' } as const;
