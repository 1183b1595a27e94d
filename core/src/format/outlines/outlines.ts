import { type Form, formsBounds, NO_TURN_RAD, type Vec2 } from '../../geometry';
import type { Role } from '../../sketch';

/** Known outlines out of a drawing file: forms at true size, mm, y up. */
export interface Outlines {
  forms: OutlineForm[];
  /** Kinds of things in the file that are no outlines and were left out, each once. */
  leftOut: LeftOut[];
  /** The file does not say what unit it is in; millimetres were taken. */
  unitless: boolean;
}

export interface OutlineForm {
  form: Form;
  layer: string | null;
  role: Role;
}

export type LeftOut = 'script' | 'reference' | 'text' | 'picture' | 'other';

export type OutlineFault =
  | 'not-text'
  | 'not-readable'
  | 'too-deep'
  | 'too-many'
  | 'endless-inserts'
  | 'nothing-in-it'
  | 'too-large';

export type OutlineResult = { ok: true; outlines: Outlines } | { ok: false; reason: OutlineFault };

/** Bounds on what is read out of a file from anywhere. */
export const OUTLINES = {
  mostBytes: 60e6,
  mostForms: 2000,
  mostPoints: 50_000,
  mostElements: 400_000,
  mostDepth: 200,
  /** Wider than this is no part, mm. */
  widestMm: 20_000,
} as const;

/** A file that exceeds its bounds, thrown and caught within the readers. */
export class OutlineError extends Error {
  constructor(readonly reason: OutlineFault) {
    super(reason);
  }
}

/** Gathers forms as a reader finds them, within the bounds. */
export class OutlineCollector {
  readonly forms: OutlineForm[] = [];
  readonly leftOut = new Set<LeftOut>();
  private points = 0;

  add(form: Form, layer: string | null, role: Role): void {
    if (form.kind === 'chain' && form.segments.length === 0) return;
    if (!isWhole(form)) return void this.leftOut.add('other');
    if (form.kind === 'circle' && !(form.radius > 0)) return;
    this.points += form.kind === 'circle' ? 3 : 1 + form.segments.reduce((sum, s) => sum + COST[s.kind], 0);
    if (this.forms.length >= OUTLINES.mostForms || this.points > OUTLINES.mostPoints)
      throw new OutlineError('too-many');
    this.forms.push({ form, layer, role });
  }

  result(unitless: boolean): OutlineResult {
    const bounds = formsBounds(this.forms.map((f) => f.form));
    if (!bounds) return { ok: false, reason: 'nothing-in-it' };
    const size = Math.max(bounds.max.x - bounds.min.x, bounds.max.y - bounds.min.y);
    if (!(size > 0)) return { ok: false, reason: 'nothing-in-it' };
    if (!(size <= OUTLINES.widestMm)) return { ok: false, reason: 'too-large' };
    return { ok: true, outlines: { forms: this.forms, leftOut: [...this.leftOut], unitless } };
  }
}

/** All its numbers are some: files state what no number can hold. */
function isWhole(form: Form): boolean {
  const places =
    form.kind === 'circle'
      ? [form.centre, { x: form.radius, y: 0 }]
      : form.segments.flatMap((s) => [
          s.from,
          s.to,
          ...(s.kind === 'arc' ? [s.via] : s.kind === 'curve' ? [s.handleFrom, s.handleTo] : []),
        ]);
  return places.every((p) => Number.isFinite(p.x) && Number.isFinite(p.y));
}

/** Points that a segment adds to a document. */
const COST = { line: 1, arc: 2, curve: 3 } as const;

const SAYS: readonly [RegExp, Role][] = [
  [/\b(mark|engrave|note)/i, 'mark'],
  [/\b(fold|bend)/i, 'fold'],
  [/\bdrill/i, 'drill'],
  [/\b(centre|center)[ _-]?line/i, 'centre-line'],
  [/\b(reference|construction)/i, 'reference'],
];

/** What a layer's name says is done along its lines; cut where it says nothing. */
export const roleOfLayer = (layer: string | null): Role =>
  SAYS.find(([says]) => layer !== null && says.test(layer))?.[1] ?? 'cut';

// biome-ignore lint/suspicious/noControlCharactersInRegex: they are what is taken out
const CONTROL = /[\u0000-\u001f]/g;

/** A layer's name within the document's bounds, null for none. */
export function tidyLayer(name: string | null | undefined): string | null {
  const tidy = (name ?? '').replace(CONTROL, ' ').trim().slice(0, 200);
  return tidy || null;
}

/** Handles of a cubic that follows an arc of a circle or an ellipse between two of its angles closely. */
export function ellipseCurves(
  centre: Vec2,
  major: Vec2,
  minor: Vec2,
  start: number,
  sweep: number,
): { from: Vec2; handleFrom: Vec2; handleTo: Vec2; to: Vec2 }[] {
  // Each piece spans 45 degrees at most: it strays from the ellipse by less than 5e-6 of its radius.
  const count = Math.max(1, Math.ceil(Math.abs(sweep) / (Math.PI / 4) - NO_TURN_RAD));
  const step = sweep / count;
  const reach = (4 / 3) * Math.tan(step / 4);
  const at = (c: number, s: number): Vec2 => ({
    x: centre.x + c * major.x + s * minor.x,
    y: centre.y + c * major.y + s * minor.y,
  });
  return Array.from({ length: count }, (_, k) => {
    const [a, b] = [start + k * step, start + (k + 1) * step];
    const [ca, sa, cb, sb] = [Math.cos(a), Math.sin(a), Math.cos(b), Math.sin(b)];
    return {
      from: at(ca, sa),
      handleFrom: at(ca - reach * sa, sa + reach * ca),
      handleTo: at(cb + reach * sb, sb - reach * cb),
      to: at(cb, sb),
    };
  });
}
