import { type Form, formsBounds, pathData, threeOnCircle, type Vec2 } from '../../geometry';
import { type Curve, newSketch, type Observation, type Role, type Sketch } from '../../sketch';
import type { Outlines } from './outlines';

/** A page on which known outlines are drawn, and the same outlines as paths over its pixels. */
export interface OutlinePage {
  widthPx: number;
  heightPx: number;
  pxPerMm: number;
  /** SVG path data of each form, in mm from the page's left top corner, y down; and what is done along it. */
  paths: { d: string; role: Role }[];
  /** Points in the page's pixels; `picture` is left empty for whoever adds the page to a job. */
  sketch: Sketch;
}

/** Longest side of the page, px: fine enough to look at, and small to keep. */
const LONGEST_PX = 3000;
/** Not finer than this: a part of some millimetres needs no megapixels. */
const FINEST_PX_PER_MM = 40;
const MARGIN_SHARE = 0.05;
/** A point of an outline file is exact; the pixel that stands for it is a number in double precision. */
const SIGMA_PX = 1e-3;

export function layOutPage({ forms }: Outlines): OutlinePage | null {
  const bounds = formsBounds(forms.map((f) => f.form));
  if (!bounds) return null;
  const [wide, high] = [bounds.max.x - bounds.min.x, bounds.max.y - bounds.min.y];
  const margin = MARGIN_SHARE * Math.max(wide, high);
  const pxPerMm = Math.min(FINEST_PX_PER_MM, LONGEST_PX / (Math.max(wide, high) + 2 * margin));
  const onSheet = (p: Vec2): Vec2 => ({ x: p.x - bounds.min.x + margin, y: bounds.max.y - p.y + margin });
  const sketch = newSketch('outlines', 'Outlines', null);
  const seen = (p: Vec2): Observation => {
    const at = onSheet(p);
    return {
      picture: '',
      uPx: pxPerMm * at.x,
      vPx: pxPerMm * at.y,
      sigmaPx: SIGMA_PX,
      plane: 'face',
      snappedTo: 'free',
      neighbouringEdge: null,
    };
  };
  for (const [k, { form, layer, role }] of forms.entries()) {
    const uses = curvesOf(form, `r${k}`, sketch, seen).map(({ id }) => ({ curve: id, reversed: false }));
    const closed = form.kind === 'circle' || form.closed;
    sketch.paths[`r${k}`] = { id: `r${k}`, name: nameOf(form, layer, k), role, layer, uses, closed };
    sketch.order.push(`r${k}`);
  }
  return {
    widthPx: Math.max(8, Math.ceil((wide + 2 * margin) * pxPerMm)),
    heightPx: Math.max(8, Math.ceil((high + 2 * margin) * pxPerMm)),
    pxPerMm,
    paths: forms.map(({ form, role }) => ({ d: pathData(form, onSheet), role })),
    sketch,
  };
}

const nameOf = (form: Form, layer: string | null, k: number): string =>
  `${layer ? `${layer}, ` : ''}${form.kind === 'circle' ? 'circle' : 'path'} ${k + 1}`.slice(0, 200);

/** Puts a form's curves into a sketch. */
function curvesOf(form: Form, name: string, sketch: Sketch, seen: (p: Vec2) => Observation): Curve[] {
  const add = (curve: Curve, picks: readonly Vec2[]): Curve => {
    const ids = picks.map((p, k) => {
      sketch.picks[`${curve.id}p${k}`] = seen(p);
      return `${curve.id}p${k}`;
    });
    const whole = { ...curve, evidence: ids.length ? [{ edge: 'pick' as const, picks: ids }] : [] };
    sketch.curves[curve.id] = whole;
    return whole;
  };
  if (form.kind === 'circle') {
    sketch.points[`${name}o`] = { at: { kind: 'fitted' } };
    return [add({ id: `${name}c0`, kind: 'circle', centre: `${name}o`, evidence: [] }, threeOnCircle(form))];
  }
  const point = (p: Vec2, k: number): string => {
    sketch.points[`${name}v${k}`] = { at: { kind: 'observed', ...seen(p) } };
    return `${name}v${k}`;
  };
  const at = form.segments.map((s, k) => point(s.from, k));
  if (!form.closed) at.push(point((form.segments.at(-1) as { to: Vec2 }).to, at.length));
  return form.segments.map((s, k) => {
    const ends = { id: `${name}c${k}`, from: at[k]!, to: at[(k + 1) % at.length]!, evidence: [] };
    if (s.kind === 'arc') return add({ ...ends, kind: 'arc' }, [s.via]);
    if (s.kind === 'curve') return add({ ...ends, kind: 'cubic' }, [s.handleFrom, s.handleTo]);
    return add({ ...ends, kind: 'line' }, []);
  });
}
