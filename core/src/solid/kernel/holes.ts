import type { FaceName } from '../../sketch';
import type { Hole, HolesStep } from '../plan';
import { type Frame, inSpace, normalOf, plus3, type Vec3 } from '../space';
import { type Arena, type Shape, ShapeMap } from './arena';
import type { BodyState, Tags, Tool } from './body';
import { joined, operate } from './combine';
import { KernelFault } from './fault';
import { boxOfShape, vec3 } from './tell';

/** A drill comes from as far over the face, mm. */
const OVER_MM = 1;
/** A probe this thin tells where a drill meets material, mm. */
const PROBE_MM = 0.05;

/** Drilled, from where the drill meets the body: through or to a depth, with a head. */
export function drill(arena: Arena, step: HolesStep, body: BodyState): Tool {
  if (!body.shape) throw new KernelFault('no-body');
  const parts = step.holes.map((hole) => drillOne(arena, step, hole, body));
  return { ...joined(arena, parts), does: 'cut' };
}

function drillOne(arena: Arena, step: HolesStep, hole: Hole, body: BodyState): { shape: Shape; tags: Tags } {
  const { frame, head, depthMm, from } = step;
  const span = spanAt(arena, frame, hole, body);
  if (!span) throw new KernelFault('nothing-left');
  const down = from === 'end' ? -1 : 1;
  const top = from === 'end' ? span.high : span.low;
  const through = span.high - span.low + OVER_MM;
  const r = hole.diameterMm / 2;
  const profile = profileOf(r, depthMm ?? through, head);
  return turnedPart(
    arena,
    step.id,
    hole,
    frame,
    profile.map(([radius, deep, of]) => ({ radius, up: top + down * deep, of })),
  );
}

/** What turns round the drill's axis, from over the face to its tip: radius, depth, and what the next face is called. */
function profileOf(r: number, depth: number, head: HolesStep['head']): [number, number, FaceName['of']][] {
  if (head.kind === 'none')
    return [
      [r, -OVER_MM, 'side'],
      [r, depth, 'start'],
    ];
  const wide = head.diameterMm / 2;
  if (head.kind === 'counterbore')
    return [
      [wide, -OVER_MM, 'inner'],
      [wide, head.depthMm, 'inner'],
      [r, head.depthMm, 'side'],
      [r, Math.max(depth, head.depthMm), 'start'],
    ];
  const deep = (wide - r) / Math.tan(head.angleRad / 2);
  return [
    [wide, -OVER_MM, 'inner'],
    [wide, 0, 'inner'],
    [r, deep, 'side'],
    // A head that goes down to the end of the hole leaves a wall of a micrometre: the profile stays one.
    [r, Math.max(depth, deep + 1e-3), 'start'],
  ];
}

/** Where material lies along a drill's axis, over the plane; by a hole that is there already, along its rim. */
function spanAt(
  arena: Arena,
  frame: Frame,
  hole: Hole,
  { shape, tags }: BodyState,
): { low: number; high: number } | null {
  const { oc } = arena;
  const n = normalOf(frame);
  const box = boxOfShape(arena, shape!);
  const over = (p: Vec3) => n.x * (p.x - frame.origin.x) + n.y * (p.y - frame.origin.y) + n.z * (p.z - frame.origin.z);
  const ends = [over(box.min), over(box.max)];
  const base = inSpace(frame, hole.centre, Math.min(...ends) - OVER_MM);
  const long = Math.abs(ends[1]! - ends[0]!) + 2 * OVER_MM;
  const walls = arena
    .faces(shape!)
    .filter((f) => tags.get(f)?.isHole && tags.get(f)?.name.path === hole.path)
    .flatMap((f) => arena.parts(f, 'VERTEX'));
  if (walls.length === 0) {
    const system = arena.keep(new oc.gp_Ax2(arena.point(base), arena.direction(n)));
    const probe = arena.keep(new oc.BRepPrimAPI_MakeCylinder(system, PROBE_MM, long));
    const made = { shape: arena.keep(probe.Shape()), tags: new ShapeMap<never>(oc) };
    try {
      const met = operate(arena, 'keep', [{ shape: shape!, tags: new ShapeMap(oc) }], [made]);
      walls.push(...arena.parts(met.shape, 'VERTEX'));
    } catch (error) {
      if (!(error instanceof KernelFault)) throw error;
      return null;
    }
  }
  const heights = walls.map((v) => over(vec3(arena.keep(oc.BRep_Tool.Pnt(arena.keep(oc.TopoDS.Vertex(v)))))));
  return { low: Math.min(...heights), high: Math.max(...heights) };
}

interface Turn {
  radius: number;
  up: number;
  of: FaceName['of'];
}

/** A solid turned about a drill's axis. */
function turnedPart(
  arena: Arena,
  feature: string,
  hole: Hole,
  frame: Frame,
  profile: Turn[],
): { shape: Shape; tags: Tags } {
  const { oc } = arena;
  const n = normalOf(frame);
  const centre = inSpace(frame, hole.centre);
  const at = (radius: number, up: number) => plus3(plus3(centre, frame.x, radius), n, up);
  const first = profile[0]!;
  const last = profile[profile.length - 1]!;
  const corners: { p: Vec3; of: FaceName['of'] | null }[] = [
    { p: at(0, first.up), of: 'end' },
    ...profile.map(({ radius, up, of }) => ({ p: at(radius, up), of })),
    { p: at(0, last.up), of: null },
  ];
  const vertices = corners.map(({ p }) =>
    arena.keep(arena.keep(new oc.BRepBuilderAPI_MakeVertex(arena.point(p))).Vertex()),
  );
  const edges = corners.map((_, k) =>
    arena.keep(arena.keep(new oc.BRepBuilderAPI_MakeEdge(vertices[k]!, vertices[(k + 1) % vertices.length]!)).Edge()),
  );
  const wire = arena.keep(new oc.BRepBuilderAPI_MakeWire());
  for (const edge of edges) wire.Add(edge);
  const face = arena.keep(new oc.BRepBuilderAPI_MakeFace(arena.keep(wire.Wire()), true));
  const maker = arena.keep(new oc.BRepPrimAPI_MakeRevol(arena.keep(face.Face()), arena.axis(centre, n), true));
  const tags: Tags = new ShapeMap(oc);
  edges.forEach((edge, k) => {
    const of = corners[k]!.of;
    if (!of) return;
    const name: FaceName = { feature, of, path: hole.path, curve: null, nth: k };
    for (const own of arena.listed(maker.Generated(edge))) tags.set(own, { name, isHole: true });
  });
  return { shape: arena.keep(maker.Shape()), tags };
}
