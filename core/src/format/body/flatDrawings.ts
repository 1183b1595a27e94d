import type { Form, Segment } from '../../geometry';
import { type ViewSide, viewLines } from '../../solid';
import { type BodyState, figuresOf, type Kernel, meshOf, type SectionAt, sectionOf } from '../../solid/kernel';
import { joinForms } from '../outlines/joinForms';
import { type FlatProfile, writeSize } from '../profile';

interface Sheet {
  title: string;
  date: string;
  unit: 'mm' | 'in';
}

/** What is drawn of a body: where it is cut, or what is seen of it from a side. */
export type BodyDrawing = SectionAt | { side: ViewSide };

/** A body as a flat drawing at true size; null of a section that meets nothing. */
export const bodyDrawing = (oc: Kernel, state: BodyState, what: BodyDrawing, sheet: Sheet): FlatProfile | null =>
  'side' in what ? viewDrawing(oc, state, what.side, sheet) : sectionDrawing(oc, state, what, sheet);

function sectionDrawing(oc: Kernel, state: BodyState, what: SectionAt, sheet: Sheet): FlatProfile | null {
  const name = `section across ${ACROSS[what.across]} at ${writeSize(what.atMm, sheet.unit)}`;
  return drawingOf(sectionOf(oc, state, what), name, 'section', sheet);
}

const ACROSS = { x: 'X', y: 'Y', z: 'the height' } as const;

/** Chords of lines that are neither straight nor circles stray no farther, as a share of the body's size; but mm at least. */
const FINE = { share: 1e-4, leastMm: 0.005 };

/** Its visible edges and contours. */
function viewDrawing(oc: Kernel, state: BodyState, side: ViewSide, sheet: Sheet): FlatProfile | null {
  const { min, max } = figuresOf(oc, state.shape!).box;
  const size = Math.hypot(max.x - min.x, max.y - min.y, max.z - min.z);
  const linearMm = Math.max(FINE.share * size, FINE.leastMm);
  const mesh = meshOf(oc, state, { linearMm, angularRad: 0.15 });
  return drawingOf(viewLines(mesh, side, linearMm), `seen from ${SEEN_FROM[side]}`, 'view', sheet);
}

const SEEN_FROM: Record<ViewSide, string> = {
  top: 'above',
  bottom: 'below',
  front: 'the front',
  back: 'the back',
  left: 'the left',
  right: 'the right',
};

/** Loose lines joined and told by as few as they need. */
function drawingOf(lines: readonly Form[], name: string, called: string, { title, date, unit }: Sheet) {
  const loose = lines.map((form) => ({ form, role: 'cut' as const, layer: null }));
  const forms = joinForms(loose).map((f) => ({ ...f, form: straightened(f.form), name: called }));
  return forms.length === 0 ? null : { title: `${title}, ${name}`, date, unit, notes: true, forms };
}

/** Lines that go on straight from each other are one, rad. */
const STRAIGHT_RAD = 1e-6;

function straightened(form: Form): Form {
  if (form.kind === 'circle') return form;
  const segments: Segment[] = [];
  for (const next of form.segments) {
    const last = segments[segments.length - 1];
    if (last?.kind === 'line' && next.kind === 'line' && goesOn(last, next))
      segments[segments.length - 1] = { ...last, to: next.to };
    else segments.push(next);
  }
  return { ...form, segments };
}

function goesOn(a: Segment, b: Segment): boolean {
  const [p, q] = [
    { x: a.to.x - a.from.x, y: a.to.y - a.from.y },
    { x: b.to.x - b.from.x, y: b.to.y - b.from.y },
  ];
  const turn = Math.atan2(p.x * q.y - p.y * q.x, p.x * q.x + p.y * q.y);
  return Math.abs(turn) < STRAIGHT_RAD;
}
