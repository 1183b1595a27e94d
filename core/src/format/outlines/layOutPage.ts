import { type Form, formsBounds, pathData, threeOnCircle, type Vec2 } from '../../geometry';
import type { Part, Run, SegmentRecord } from '../../job';
import type { Outlines } from './outlines';

/** A page on which known outlines are drawn, and the same outlines as runs over its pixels. */
export interface OutlinePage {
  widthPx: number;
  heightPx: number;
  pxPerMm: number;
  /** SVG path data of each form, in mm from the page's left top corner, y down; and what is done along it. */
  paths: { d: string; role: 'cut' | 'mark' }[];
  /** Points in the page's pixels; `picture` is left empty for whoever adds the page to a job. */
  part: Part;
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
  const part: Part = { points: {}, runs: [] };
  let count = 0;
  const point = (p: Vec2): string => {
    const at = onSheet(p);
    const id = `p${count++}`;
    part.points[id] = {
      picture: '',
      uPx: pxPerMm * at.x,
      vPx: pxPerMm * at.y,
      sigmaPx: SIGMA_PX,
      cling: 'free',
      beside: null,
    };
    return id;
  };
  for (const [k, { form, layer, role }] of forms.entries())
    part.runs.push({ ...runOf(form, point), id: `r${k}`, layer, plane: 'face', role, name: nameOf(form, layer, k) });
  return {
    widthPx: Math.max(8, Math.ceil((wide + 2 * margin) * pxPerMm)),
    heightPx: Math.max(8, Math.ceil((high + 2 * margin) * pxPerMm)),
    pxPerMm,
    paths: forms.map(({ form, role }) => ({ d: pathData(form, onSheet), role })),
    part,
  };
}

const nameOf = (form: Form, layer: string | null, k: number): string =>
  `${layer ? `${layer}, ` : ''}${form.kind === 'circle' ? 'circle' : 'path'} ${k + 1}`.slice(0, 200);

type BareRun = Run extends infer R
  ? R extends Run
    ? Omit<R, 'id' | 'layer' | 'plane' | 'role' | 'name'>
    : never
  : never;

function runOf(form: Form, point: (p: Vec2) => string): BareRun {
  if (form.kind === 'circle') {
    const [a, b, c] = threeOnCircle(form).map(point);
    return { kind: 'circle', points: [a, b, c] };
  }
  const points = form.segments.map((s) => point(s.from));
  if (!form.closed) points.push(point((form.segments.at(-1) as { to: Vec2 }).to));
  const segments = form.segments.map((s): SegmentRecord => {
    if (s.kind === 'arc') return { kind: 'arc', via: point(s.via) };
    if (s.kind === 'curve') return { kind: 'curve', handleFrom: point(s.handleFrom), handleTo: point(s.handleTo) };
    return { kind: 'line' };
  });
  return { kind: 'chain', points, segments, closed: form.closed };
}
