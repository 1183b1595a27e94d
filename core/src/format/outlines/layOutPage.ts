import { type Form, formsBounds, pathData, type Vec2 } from '../../geometry';
import { newSketch, type Observation, putForm, type Role, type Sketch } from '../../sketch';
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
  /** Where the file's own zero lies on the page, px; it may lie beside it. */
  zero: { uPx: number; vPx: number };
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
  let names = 0;
  const newId = () => `o${names++}`;
  for (const [k, { form, layer, role }] of forms.entries())
    putForm(sketch, form, { id: newId(), name: nameOf(form, layer, k), role, layer }, seen, newId);
  return {
    widthPx: Math.max(8, Math.ceil((wide + 2 * margin) * pxPerMm)),
    heightPx: Math.max(8, Math.ceil((high + 2 * margin) * pxPerMm)),
    pxPerMm,
    paths: forms.map(({ form, role }) => ({ d: pathData(form, onSheet), role })),
    sketch,
    zero: zeroOn(onSheet({ x: 0, y: 0 }), pxPerMm),
  };
}

const zeroOn = (at: Vec2, pxPerMm: number) => ({ uPx: pxPerMm * at.x, vPx: pxPerMm * at.y });

const nameOf = (form: Form, layer: string | null, k: number): string =>
  `${layer ? `${layer}, ` : ''}${form.kind === 'circle' ? 'circle' : 'path'} ${k + 1}`.slice(0, 200);
