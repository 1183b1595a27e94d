import { type Form, formsBounds, type Vec2 } from '../../geometry';
import type { Role } from '../../sketch';
import type { ProfileSize } from './sizesOf';

/** A form with what is done along it, its name, and the layer that it came from, if any. */
export interface ProfileForm {
  form: Form;
  role: Role;
  name: string;
  layer: string | null;
}

/** What is handed over: flat forms at true size, mm, y up, with what is written beside them. */
export interface FlatProfile {
  title: string;
  /** As it shall be read, for instance 2026-03-01. */
  date: string;
  forms: ProfileForm[];
  unit: 'mm' | 'in';
  /** The check bar and the words below the part; a machine that burns or cuts every line does better without. */
  notes: boolean;
  /** Sizes that a printed sheet shows; left out, none. */
  sizes?: readonly ProfileSize[];
  /** What is to be said of the drawing beside its title. */
  remark?: string;
  /** By how much it is drawn longer along X and Y, so that a machine brings it out as it is meant; left out, not at all. */
  stretch?: { x: number; y: number };
}

/** Length of the bar by which a printout is checked, mm. */
export const CHECK_BAR_MM = 100;
/** Height of the writing, and the space kept between the part and it, mm. */
export const NOTE_MM = 3.5;
export const GAP_MM = 8;
/** Kept free round all of it, mm. */
const RIM_MM = 2;

/** Where everything lies, mm: the part's box, the check bar below it, and the words, where they are wanted. */
export interface FlatLayout {
  min: Vec2;
  max: Vec2;
  widthMm: number;
  heightMm: number;
  bar: { from: Vec2; to: Vec2 } | null;
  notes: { at: Vec2; text: string }[];
  /** Box around all of it. */
  outer: { min: Vec2; max: Vec2 };
}

/**
 * Lays the check bar and the words below the part, and below its sizes where a sheet shows them. Null when there is
 * nothing to hand over.
 */
export function layOutProfile(
  { forms, title, date, unit, notes: wanted, remark, stretch }: FlatProfile,
  sizes: readonly ProfileSize[] = [],
): FlatLayout | null {
  const bounds = formsBounds(forms.map((f) => f.form));
  if (!bounds) return null;
  const widthMm = bounds.max.x - bounds.min.x;
  const heightMm = bounds.max.y - bounds.min.y;
  const { min, max } = withSizes(bounds, sizes);
  if (!wanted) {
    const outer = { min: { x: min.x - RIM_MM, y: min.y - RIM_MM }, max: { x: max.x + RIM_MM, y: max.y + RIM_MM } };
    return { min, max, widthMm, heightMm, bar: null, notes: [], outer };
  }
  const barY = min.y - GAP_MM;
  const bar = { from: { x: min.x, y: barY }, to: { x: min.x + CHECK_BAR_MM * (stretch?.x ?? 1), y: barY } };
  const line = (k: number): Vec2 => ({ x: min.x, y: barY - (k + 1) * 1.6 * NOTE_MM });
  const notes = [
    { at: line(0), text: `check bar ${writeSize(CHECK_BAR_MM, unit)}` },
    {
      at: line(1),
      text: `overall ${writeSize(widthMm, unit)} wide, ${writeSize(heightMm, unit)} high${stretch ? ', as drawn' : ''}`,
    },
    { at: line(2), text: [title, date].filter(Boolean).join(', ') },
    ...(sizes.length > 0
      ? [{ at: line(3), text: `sizes in ${unit === 'in' ? 'inches' : 'mm'}, measured ones in brackets` }]
      : []),
    ...(remark ? [{ at: line(sizes.length > 0 ? 4 : 3), text: remark }] : []),
  ];
  const outer = {
    min: { x: min.x - RIM_MM, y: notes[notes.length - 1]!.at.y - NOTE_MM },
    max: { x: Math.max(max.x, bar.to.x) + RIM_MM, y: max.y + RIM_MM },
  };
  return { min, max, widthMm, heightMm, bar, notes, outer };
}

/** A box round the part and all lines and figures of its sizes. */
function withSizes({ min, max }: { min: Vec2; max: Vec2 }, sizes: readonly ProfileSize[]): { min: Vec2; max: Vec2 } {
  const places = sizes.flatMap(({ drawing: { line, arc, thin, label }, text }) => {
    const half = { x: (text.length * NOTE_MM) / 3, y: NOTE_MM };
    return [
      ...(line ? [line.from, line.to] : []),
      ...(arc ? [-1, 1].map((k) => ({ x: arc.centre.x + k * arc.radius, y: arc.centre.y + k * arc.radius })) : []),
      ...thin.flat(),
      { x: label.x - half.x, y: label.y - half.y },
      { x: label.x + half.x, y: label.y + half.y },
    ];
  });
  const all = [min, max, ...places];
  const [xs, ys] = [all.map((p) => p.x), all.map((p) => p.y)];
  return { min: { x: Math.min(...xs), y: Math.min(...ys) }, max: { x: Math.max(...xs), y: Math.max(...ys) } };
}

/** A size as it is written on a drawing. */
export function writeSize(mm: number, unit: 'mm' | 'in'): string {
  return unit === 'in' ? `${(mm / 25.4).toFixed(3)} in` : `${mm.toFixed(2)} mm`;
}
