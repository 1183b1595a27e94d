import { type Form, flattenForm, formArea, isInside, mapForm, NO_SHARE, offsetForm } from '../../geometry';
import { curvesOnly } from '../pdf/curvesOnly';
import { CHECK_BAR_MM, type FlatProfile, type ProfileForm } from './flatProfile';

/** What came back from a machine, measured on a test piece or a printout. */
export interface Machine {
  name: string;
  /** What the check bars of 100 mm along X and along Y came out as, mm. */
  barXMm: number;
  barYMm: number;
  /** Width of what is cut away, mm; less than 0 where a line comes out wider than it was drawn. */
  kerfMm: number;
  /** By how much holes came out too small, mm of diameter. */
  holesMm: number;
  /** When it was measured, for instance 2026-03-01. */
  date: string;
}

export const MACHINE = {
  bar: { least: 90, most: 110 },
  kerf: { least: -2, most: 10 },
  holes: { least: -2, most: 2 },
} as const;

/** Flat enough to tell what lies in what, mm. */
const FLAT_MM = 0.01;

/**
 * A profile so drawn that it comes out of a machine as it is meant: scaled along X and Y against what the check bars came out as;
 * cut forms half a kerf larger, and smaller where they are holes; round holes wider by their allowance. The file says so.
 *
 * Out: the profile, and the names of forms that nothing is left of.
 */
export function compensated(profile: FlatProfile, machine: Machine): { profile: FlatProfile; leftOut: string[] } {
  const { kerfMm, holesMm } = machine;
  const leftOut: string[] = [];
  const closed = profile.forms
    .filter((f) => f.role === 'cut' && isClosed(f.form))
    .map((own) => ({ own, polygon: flattenForm(own.form, FLAT_MM), area: formArea(own.form) }));
  const isHole = (form: ProfileForm): boolean => {
    const self = closed.find((c) => c.own === form);
    if (!self) return form.role === 'drill';
    return closed.filter((c) => c.area > self.area && isInside(c.polygon, self.polygon[0]!)).length % 2 === 1;
  };
  const [sx, sy] = [CHECK_BAR_MM / machine.barXMm, CHECK_BAR_MM / machine.barYMm];
  const forms = profile.forms.flatMap((own): ProfileForm[] => {
    const hole = isHole(own);
    const grown = own.role === 'cut' && isClosed(own.form) ? (hole ? -kerfMm : kerfMm) / 2 : 0;
    const wider = hole && own.form.kind === 'circle' ? holesMm / 2 : 0;
    const made = grown + wider === 0 ? [own.form] : offsetForm(own.form, grown + wider);
    if (made.length === 0) leftOut.push(own.name);
    return made.map((form) => ({ ...own, form: stretched(form, sx, sy) }));
  });
  return { profile: { ...profile, forms, remark: remarkOf(machine), stretch: { x: sx, y: sy } }, leftOut };
}

const isClosed = (form: Form): boolean => form.kind === 'circle' || form.closed;

/** Arcs stay arcs as long as both directions are stretched alike. */
function stretched(form: Form, sx: number, sy: number): Form {
  if (sx === 1 && sy === 1) return form;
  if (Math.abs(sx / sy - 1) < NO_SHARE) return mapForm(form, (p) => ({ x: p.x * sx, y: p.y * sx }), sx);
  return mapForm(curvesOnly(form), (p) => ({ x: p.x * sx, y: p.y * sy }));
}

/** What a file that was drawn for a machine says of it. */
export function remarkOf({ name, barXMm, barYMm, kerfMm, holesMm, date }: Machine): string {
  const share = (bar: number) => (CHECK_BAR_MM / bar).toFixed(4);
  return `drawn for ${name} (${date}): X × ${share(barXMm)}, Y × ${share(barYMm)}, kerf ${kerfMm} mm, holes + ${holesMm} mm`;
}
