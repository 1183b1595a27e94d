import type { Form, Segment, Vec2 } from '../../geometry';
import { type Axis, dot3, type Frame, frameOf, plus3, type SideName, unitOf, type Vec3 } from '../space';
import { Arena, type Edge, type Kernel } from './arena';
import type { BodyState } from './body';
import { vec3 } from './tell';

/** An arc that lacks less of a turn is a circle, rad. */
const WHOLE_RAD = 1e-6;
/** No step along a curve is shorter: as a share of it, and mm (the kernel's own tolerance). */
const SHORTEST = { share: 1e-9, mm: 1e-7 } as const;

/** Where a body is cut: across an axis at a place, mm. */
export interface SectionAt {
  across: Axis;
  atMm: number;
}

/** Lines of no exact kind are told by chords that stray no farther, mm and rad. */
const CHORD_MM = 0.01;
const CHORD_RAD = 0.1;

/** From which side a section across an axis is looked at. */
const SIDE_OF: Record<Axis, SideName> = { x: 'side', y: 'front', z: 'top' };

/**
 * The outline of a section of a body on a sheet, mm, as a sketch of that side lies: lines and circles exact, others by chords. Each
 * edge is a form of its own; none where the section meets nothing.
 */
export function sectionOf(oc: Kernel, { shape }: BodyState, { across, atMm }: SectionAt): Form[] {
  const arena = new Arena(oc);
  try {
    const n = unitOf(across);
    const at = plus3({ x: 0, y: 0, z: 0 }, n, atMm);
    const plane = arena.keep(new oc.gp_Pln(arena.point(at), arena.direction(n)));
    const maker = arena.keep(new oc.BRepAlgoAPI_Section(shape!, plane, false));
    maker.Build(arena.keep(new oc.Message_ProgressRange()));
    if (!maker.IsDone()) return [];
    const flat = ontoSide(frameOf(SIDE_OF[across], 0));
    return arena.edges(arena.keep(maker.Shape())).flatMap((edge) => formsOf(arena, edge, flat));
  } finally {
    arena.free();
  }
}

const ontoSide =
  ({ x, y }: Frame) =>
  (p: Vec3): Vec2 => ({ x: dot3(p, x), y: dot3(p, y) });

function formsOf(arena: Arena, edge: Edge, flat: (p: Vec3) => Vec2): Form[] {
  const { oc } = arena;
  const curve = arena.keep(new oc.BRepAdaptor_Curve(edge));
  const [first, last] = [curve.FirstParameter(), curve.LastParameter()];
  const at = (t: number): Vec2 => flat(vec3(arena.keep(curve.EvalD0(t))));
  const chain = (segments: Segment[]): Form[] => (segments.length ? [{ kind: 'chain', closed: false, segments }] : []);
  const kind = curve.GetType();
  if (kind === oc.GeomAbs_CurveType.GeomAbs_Line) return chain([{ kind: 'line', from: at(first), to: at(last) }]);
  if (kind === oc.GeomAbs_CurveType.GeomAbs_Circle) {
    const circle = arena.keep(curve.Circle());
    const centre = flat(vec3(arena.keep(circle.Location())));
    if (last - first > 2 * Math.PI - WHOLE_RAD) return [{ kind: 'circle', centre, radius: circle.Radius() }];
    return chain([{ kind: 'arc', from: at(first), via: at((first + last) / 2), to: at(last) }]);
  }
  const places = arena.keep(
    new oc.GCPnts_TangentialDeflection(curve, CHORD_RAD, CHORD_MM, 2, SHORTEST.share, SHORTEST.mm),
  );
  const points = Array.from({ length: places.NbPoints() }, (_, k) => flat(vec3(arena.keep(places.Value(k + 1)))));
  return chain(points.slice(1).map((to, k) => ({ kind: 'line', from: points[k]!, to })));
}
