import { Colors, DxfWriter, LWPolylineFlags, point2d, point3d, SplineFlags, Units } from '@tarikjabiri/dxf';
import { arcShape, arcsOf, type Form, type Segment, type Vec2 } from '../../geometry';
import { ROLES, type Role } from '../../sketch';
import { ellipseCurves } from '../outlines/outlines';
import { DXF_USUAL, type DxfOptions } from '../profile/dxfOptions';
import { type FlatProfile, layOutProfile, NOTE_MM } from '../profile/flatProfile';

/** Layers by what is done with the lines on them. */
const LAYERS: Record<Role | 'notes', string> = {
  cut: 'CUT',
  mark: 'MARK',
  fold: 'FOLD',
  drill: 'DRILL',
  reference: 'REFERENCE',
  'centre-line': 'CENTRE-LINE',
  notes: 'NOTES',
};
const COLOURS: Record<Role, number> = {
  cut: Colors.Red,
  mark: Colors.Blue,
  fold: Colors.Cyan,
  drill: Colors.Yellow,
  reference: Colors.Green,
  'centre-line': Colors.Magenta,
};

/**
 * Writes a profile as DXF in millimetres, zero being the part's own. Runs of lines and arcs become one polyline with
 * bulges, circles stay circles; curves are splines of degree 3 or arcs, as is asked (`DxfOptions`). Null when there is
 * nothing to write.
 */
export function writeDxf(profile: FlatProfile, options: DxfOptions = DXF_USUAL): string | null {
  const layout = layOutProfile(profile);
  if (!layout) return null;
  const dxf = new DxfWriter();
  dxf.setUnits(Units.Millimeters);
  dxf.addLayer(LAYERS.cut, COLOURS.cut, 'CONTINUOUS');
  dxf.addLayer(LAYERS.mark, COLOURS.mark, 'CONTINUOUS');
  for (const role of ROLES)
    if (role !== 'cut' && role !== 'mark' && profile.forms.some((f) => f.role === role))
      dxf.addLayer(LAYERS[role], COLOURS[role], 'CONTINUOUS');
  if (layout.bar) dxf.addLayer(LAYERS.notes, Colors.Green, 'CONTINUOUS');
  // A layer that came in with a drawing goes out with it; what was traced here lies on the layers of its role.
  const own = new Map(
    profile.forms.flatMap(({ role, layer }) => {
      const name = layerName(role, layer);
      return name === LAYERS[role] ? [] : [[name, role] as const];
    }),
  );
  for (const [name, role] of own) dxf.addLayer(name, COLOURS[role], 'CONTINUOUS');
  for (const { form, role, layer } of profile.forms) {
    dxf.setCurrentLayerName(layerName(role, layer));
    addForm(dxf, form, options);
  }
  if (layout.bar) {
    dxf.setCurrentLayerName(LAYERS.notes);
    const { from, to } = layout.bar;
    dxf.addLine(solid(from), solid(to));
    for (const end of [from, to]) dxf.addLine(solid({ x: end.x, y: end.y - 1.5 }), solid({ x: end.x, y: end.y + 1.5 }));
    for (const { at, text } of layout.notes) dxf.addText(solid(at), NOTE_MM, plain(text));
  }
  return HEAD + dxf.stringify();
}

/** Group 999 is a comment (DXF reference, "Group codes"). */
const HEAD = '999\nWritten by Steady Moth at true size, in millimetres\n';

/**
 * The layer that a form goes onto: its role's, and with a layer of its own that one's name behind it as DXF allows it, so that
 * what is done with it can still be read.
 */
function layerName(role: Role, layer: string | null): string {
  const own = layer
    ? plain(layer)
        .replace(/[<>/\\":;?*|=`,]/g, '_')
        .trim()
    : '';
  const upper = own.toUpperCase();
  if (own === '' || own === '0' || Object.values(LAYERS).includes(upper)) return LAYERS[role];
  return upper.startsWith(`${LAYERS[role]}_`) ? own : `${LAYERS[role]}_${own}`;
}

function addForm(dxf: DxfWriter, form: Form, { curves, toleranceMm }: DxfOptions): void {
  if (form.kind === 'circle') return void dxf.addCircle(solid(form.centre), round(form.radius));
  const { segments, closed } = form;
  if (segments.length === 0) return;
  if (!segments.some((s) => s.kind === 'curve')) addPolyline(dxf, segments, closed);
  else if (curves === 'one') addSpline(dxf, segments, closed);
  else if (curves === 'arcs')
    addPolyline(
      dxf,
      segments.flatMap((s) => (s.kind === 'curve' ? arcsOf(s, toleranceMm) : [s])),
      closed,
    );
  else
    for (const run of runsOf(segments, closed)) {
      const isWhole = closed && run.length === segments.length;
      if (run[0]!.kind === 'curve') addSpline(dxf, run, isWhole);
      else addPolyline(dxf, run, isWhole);
    }
}

/** Neighbours of one sort together: lines and arcs, or curves. Of a closed path the first run goes on past its start. */
function runsOf(segments: readonly Segment[], closed: boolean): Segment[][] {
  const isCurve = (s: Segment) => s.kind === 'curve';
  const starts = segments.findIndex((s, k) => k > 0 && isCurve(s) !== isCurve(segments[k - 1]!));
  const turned = closed && starts > 0 ? [...segments.slice(starts), ...segments.slice(0, starts)] : segments;
  const runs: Segment[][] = [];
  for (const s of turned) {
    const last = runs.at(-1);
    if (last && isCurve(last[0]!) === isCurve(s)) last.push(s);
    else runs.push([s]);
  }
  return runs;
}

function addPolyline(dxf: DxfWriter, segments: Segment[], closed: boolean): void {
  const vertices = segments.map((s) => ({ point: flat(s.from), bulge: round(bulgeOf(s), BULGE_DECIMALS) }));
  const last = segments[segments.length - 1]!.to;
  if (!closed) vertices.push({ point: flat(last), bulge: 0 });
  dxf.addLWPolyline(vertices, { flags: closed ? LWPolylineFlags.Closed : LWPolylineFlags.None });
}

/** Tangent of a quarter of the swept angle, positive counter-clockwise. */
function bulgeOf(segment: Segment): number {
  const arc = segment.kind === 'arc' ? arcShape(segment.from, segment.via, segment.to) : null;
  return arc ? Math.tan(arc.sweep / 4) : 0;
}

/** A chain with curves in it as one spline: a knot three times over lets pieces meet in a corner. */
function addSpline(dxf: DxfWriter, segments: Segment[], closed: boolean): void {
  const pieces = segments.flatMap(asCurves);
  const controlPoints = [pieces[0]!.from, ...pieces.flatMap((p) => [p.handleFrom, p.handleTo, p.to])].map(solid);
  const knots = [0, ...Array.from({ length: pieces.length + 1 }, (_, k) => [k, k, k]).flat(), pieces.length];
  dxf.addSpline({ degreeCurve: 3, controlPoints, knots, flags: closed ? SplineFlags.Closed : SplineFlags.Planar });
}

type Curve = Omit<Extract<Segment, { kind: 'curve' }>, 'kind'>;

function asCurves(segment: Segment): Curve[] {
  if (segment.kind === 'curve') return [segment];
  const { from, to } = segment;
  const arc = segment.kind === 'arc' ? arcShape(from, segment.via, to) : null;
  if (!arc) {
    const third = (a: Vec2, b: Vec2): Vec2 => ({ x: a.x + (b.x - a.x) / 3, y: a.y + (b.y - a.y) / 3 });
    return [{ from, handleFrom: third(from, to), handleTo: third(to, from), to }];
  }
  const { centre, radius, startAngle, sweep } = arc;
  const curves = ellipseCurves(centre, { x: radius, y: 0 }, { x: 0, y: radius }, startAngle, sweep);
  curves[0]!.from = from;
  curves[curves.length - 1]!.to = to;
  return curves;
}

/**
 * Decimals of a millimetre, and of a bulge: finer than any machine moves, and coarser than what two of them compute
 * differently, so that a script writes what the browser writes.
 */
const DECIMALS = 5;
const BULGE_DECIMALS = 9;
const round = (value: number, decimals = DECIMALS): number => Number(value.toFixed(decimals)) + 0;

const flat = (p: Vec2) => point2d(round(p.x), round(p.y));
const solid = (p: Vec2) => point3d(round(p.x), round(p.y), 0);

/** A line of text in DXF ends at a line break, and % begins a code. */
function plain(text: string): string {
  // biome-ignore lint/suspicious/noControlCharactersInRegex: they are what is taken out
  return text.replace(/[\u0000-\u001f]/g, ' ').replace(/%/g, ' ');
}
