import type { gp_Pnt } from 'replicad-opencascadejs';
import type { Segment } from '../../geometry';
import { shapeOfArc } from '../../geometry';
import type { Loop, Region } from '../region';
import { type Frame, inSpace, normalOf } from '../space';
import { type Arena, type Edge, type Face, steady } from './arena';

/** A flat face of the kernel, and the edges that its loops' pieces became. */
export interface MadeFace {
  face: Face;
  edges: {
    edge: Edge;
    loop: Loop;
    nth: number;
    isHole: boolean;
    /** Of a cavity: the feature that hollowed it; null for the profile's own. */
    inside: string | null;
  }[];
}

/** A region as a face in its plane, `up` over it. Lines stay lines, arcs circles, curves Bézier curves. */
export function faceOf(arena: Arena, { outer, holes }: Region, frame: Frame, up: number): MadeFace {
  const { oc } = arena;
  const edges: MadeFace['edges'] = [];
  const wire = (loop: Loop, isHole: boolean) => {
    const own = edgesOf(arena, loop, frame, up);
    own.forEach((edge, nth) => {
      edges.push({ edge, loop, nth, isHole, inside: null });
    });
    const maker = arena.keep(new oc.BRepBuilderAPI_MakeWire());
    for (const edge of own) maker.Add(edge);
    return arena.keep(maker.Wire());
  };
  const at = arena.point(inSpace(frame, { x: 0, y: 0 }, up));
  const plane = arena.keep(
    new oc.gp_Pln(arena.keep(new oc.gp_Ax3(at, arena.direction(normalOf(frame)), arena.direction(frame.x)))),
  );
  const maker = arena.keep(new oc.BRepBuilderAPI_MakeFace(plane, wire(outer, false), true));
  for (const hole of holes) {
    const inner = wire(hole, true);
    maker.Add(arena.keep(oc.TopoDS.Wire(arena.keep(inner.Reversed()))));
  }
  return { face: arena.keep(maker.Face()), edges };
}

/** Pieces that meet share their vertex, so that the kernel copies none of them. */
function edgesOf(arena: Arena, { form }: Loop, frame: Frame, up: number): Edge[] {
  const { oc } = arena;
  if (form.kind === 'circle') {
    const circle = new oc.gp_Circ(arena.system(frame, inSpace(frame, form.centre, up)), steady(form.radius));
    return [arena.keep(arena.keep(new oc.BRepBuilderAPI_MakeEdge(arena.keep(circle))).Edge())];
  }
  const vertices = form.segments.map(({ from }) =>
    arena.keep(arena.keep(new oc.BRepBuilderAPI_MakeVertex(arena.point(inSpace(frame, from, up)))).Vertex()),
  );
  return form.segments.map((own, k) => {
    // Where one piece ends the next begins, to the last digit.
    const segment = { ...own, to: form.segments[(k + 1) % form.segments.length]!.from };
    const [a, b] = [vertices[k]!, vertices[(k + 1) % vertices.length]!];
    const curve = curveOf(arena, segment, frame, up);
    const maker = curve ? new oc.BRepBuilderAPI_MakeEdge(curve, a, b) : new oc.BRepBuilderAPI_MakeEdge(a, b);
    return arena.keep(arena.keep(maker).Edge());
  });
}

/** One piece of a line as an edge of its own. */
export function edgeOf(arena: Arena, segment: Segment, frame: Frame, up: number): Edge {
  const { oc } = arena;
  const curve = curveOf(arena, segment, frame, up);
  const ends = [segment.from, segment.to].map((p) => arena.point(inSpace(frame, p, up))) as [gp_Pnt, gp_Pnt];
  const maker = curve ? new oc.BRepBuilderAPI_MakeEdge(curve) : new oc.BRepBuilderAPI_MakeEdge(...ends);
  return arena.keep(arena.keep(maker).Edge());
}

/** The kernel's curve of an arc or a cubic; null for a line. */
function curveOf(arena: Arena, segment: Segment, frame: Frame, up: number) {
  const { oc } = arena;
  const point = (p: { x: number; y: number }) => arena.point(inSpace(frame, p, up));
  if (segment.kind === 'curve') {
    const poles = arena.keep(new oc.NCollection_Array1_gp_Pnt(1, 4));
    [segment.from, segment.handleFrom, segment.handleTo, segment.to].forEach((p, k) => {
      poles.SetValue(k + 1, point(p));
    });
    return arena.keep(new oc.Geom_BezierCurve(poles));
  }
  if (segment.kind === 'line' || !shapeOfArc(segment)) return null;
  const maker = arena.keep(new oc.GC_MakeArcOfCircle(point(segment.from), point(segment.via), point(segment.to)));
  return arena.keep(maker.Value());
}
