import type { EdgeName, FaceName } from '../../sketch';
import { isEdgeBetween, isSameFace } from '../names';
import type { EdgesStep, HollowStep, RepeatStep } from '../plan';
import { type Axis, norm3, plus3, unitOf, type Vec3 } from '../space';
import { type Arena, type Edge, type Face, isOfKernel, type Shape, ShapeMap } from './arena';
import { type BodyState, type FaceTag, type Tags, type Tool, tagsAfter } from './body';
import { moved, operate } from './combine';
import { KernelFault } from './fault';
import { bentEdges } from './mesh';
import { extrude, revolve } from './sweep';
import { isSound, vec3 } from './tell';

/** Gaps between offset faces up to this are closed by the kernel, mm. */
const JOINED_MM = 1e-4;

/** An edge of a body with the two faces that it lies between. */
export interface BodyEdge {
  edge: Edge;
  tags: readonly [FaceTag, FaceTag];
}

/** All edges between two named faces; seams, and edges that nothing is known of, are left out. */
export function edgesOfBody(arena: Arena, { shape, tags }: BodyState): BodyEdge[] {
  const beside = new ShapeMap<FaceTag[]>(arena.oc);
  for (const face of arena.faces(shape!)) {
    const tag = tags.get(face);
    if (tag)
      for (const edge of arena.edges(face)) {
        const own = beside.get(edge);
        if (own) own.push(tag);
        else beside.set(edge, [tag]);
      }
  }
  return beside
    .entries()
    .flatMap(([edge, [a, b]]) =>
      a && b && !arena.oc.BRep_Tool.Degenerated(edge as Edge) ? [{ edge: edge as Edge, tags: [a, b] as const }] : [],
    );
}

/** The edges that a name means: all between its faces, or of these the one that is nearest to a place. */
export function edgesNamed(arena: Arena, all: readonly BodyEdge[], name: EdgeName): BodyEdge[] {
  const between = all.filter(({ tags: [a, b] }) => isEdgeBetween(name, a.name, b.name));
  const { near } = name;
  if (!near || between.length < 2) return between;
  const away = between.map(({ edge }) => norm3(plus3(middleOfEdge(arena, edge), near, -1)));
  return [between[away.indexOf(Math.min(...away))]!];
}

function middleOfEdge(arena: Arena, edge: Edge): Vec3 {
  const curve = arena.keep(new arena.oc.BRepAdaptor_Curve(edge));
  return vec3(arena.keep(curve.EvalD0((curve.FirstParameter() + curve.LastParameter()) / 2)));
}

/** Edges rounded or cut. */
export function breakEdges(arena: Arena, step: EdgesStep, body: BodyState): BodyState {
  if (!body.shape) throw new KernelFault('no-body');
  const { oc } = arena;
  const chosen = chosenEdges(arena, step, body);
  if (chosen.length === 0) throw new KernelFault('edge-gone');
  const maker = arena.keep(
    step.how === 'round' ? new oc.BRepFilletAPI_MakeFillet(body.shape) : new oc.BRepFilletAPI_MakeChamfer(body.shape),
  );
  // Those that run on smoothly from one that was named are worked on with it.
  for (const { edge } of chosen) if (maker.Contour(edge) === 0) maker.Add(step.sizeMm, edge);
  try {
    maker.Build(arena.keep(new oc.Message_ProgressRange()));
  } catch (error) {
    if (isOfKernel(error)) throw new KernelFault('too-large');
    throw error;
  }
  if (!maker.IsDone()) throw new KernelFault('too-large');
  const shape = arena.keep(maker.Shape());
  if (!isSound(oc, shape)) throw new KernelFault('too-large');
  const tags = tagsAfter(arena, shape, [{ shape: body.shape, tags: body.tags }], maker);
  chosen.forEach(({ edge, tags: [a, b] }, nth) => {
    const name: FaceName = { feature: step.id, of: 'edge', path: a.name.path ?? b.name.path, curve: null, nth };
    for (const face of arena.listed(maker.Generated(edge)))
      if (!tags.get(face)) tags.set(face, { name, isHole: a.isHole || b.isHole });
  });
  // Where rounded edges meet in a corner a face lies that none of them made alone.
  arena
    .faces(shape)
    .filter((face) => !tags.get(face))
    .forEach((face, k) => {
      const name: FaceName = { feature: step.id, of: 'edge', path: null, curve: null, nth: chosen.length + k };
      tags.set(face, { name, isHole: false });
    });
  return { shape, tags, tools: body.tools };
}

function chosenEdges(arena: Arena, { which }: EdgesStep, body: BodyState): BodyEdge[] {
  const all = edgesOfBody(arena, body);
  const isFlat = (of: 'start' | 'end') => (e: BodyEdge) =>
    e.tags.filter((t) => t.name.of === of).length === 1 && e.tags.every((t) => !t.isHole);
  switch (which.kind) {
    case 'outer':
      return sharp(
        arena,
        body,
        all.filter((e) => e.tags.every((t) => !t.isHole)),
      );
    case 'end':
    case 'start':
      return sharp(arena, body, all.filter(isFlat(which.kind)));
    case 'upright':
      return sharp(
        arena,
        body,
        all.filter((e) => e.tags.every((t) => t.name.of === 'side' && !t.isHole)),
      );
    case 'hole':
      return all.filter((e) => {
        const own = e.tags.filter((t) => t.isHole && t.name.path !== null && which.paths.includes(t.name.path));
        return own.length === 1 && own[0]!.name.of !== 'start';
      });
    case 'picked': {
      return which.edges.flatMap((edge) => edgesNamed(arena, all, edge));
    }
  }
}

/** Of edges those that stick out. */
function sharp(arena: Arena, body: BodyState, edges: readonly BodyEdge[]): BodyEdge[] {
  const bent = bentEdges(arena, body.shape!);
  return edges.filter(({ edge }) => bent.get(edge) === 'out');
}

/** Hollowed out to a wall; open at the faces named, which must be there. */
export function hollow(arena: Arena, step: HollowStep, body: BodyState): BodyState {
  if (!body.shape) throw new KernelFault('no-body');
  const { oc } = arena;
  const faces = arena.faces(body.shape);
  const open = faces.filter((f) => {
    const tag = body.tags.get(f);
    return tag && step.open.some((name) => isSameFace(name, tag.name));
  });
  if (step.open.length > 0 && open.length === 0) throw new KernelFault('edge-gone');
  const own = { shape: body.shape, tags: body.tags };
  const { cavity } = step;
  if (cavity && step.open.length === 0) {
    const tool = cavity.kind === 'revolve' ? revolve(arena, cavity) : extrude(arena, cavity, body);
    return { ...withVoid(arena, own, { shape: tool.shape, tags: asInner(arena, step, tool) }), tools: body.tools };
  }
  if (cavity?.kind === 'revolve' && step.base) {
    const tool = revolve(arena, step.base, { feature: step.id, regions: cavity.regions });
    return { shape: tool.shape, tags: tool.tags, tools: body.tools };
  }
  if (cavity?.kind === 'extrude') {
    const tool = extrude(arena, cavity, body);
    const cut = operate(arena, 'cut', [own], [{ shape: tool.shape, tags: asInner(arena, step, tool) }]);
    return { ...cut, tools: body.tools };
  }
  const progress = arena.keep(new oc.Message_ProgressRange());
  const join = oc.GeomAbs_JoinType.GeomAbs_Intersection;
  const skin = oc.BRepOffset_Mode.BRepOffset_Skin;
  try {
    if (open.length === 0) {
      // Closed all round: what is left when the shape at that distance within is cut out.
      const inside = arena.keep(new oc.BRepOffsetAPI_MakeOffsetShape());
      inside.PerformByJoin(body.shape, -step.wallMm, JOINED_MM, skin, false, false, join, false, progress);
      if (!inside.IsDone()) throw new KernelFault('too-large');
      const cavity = { shape: arena.keep(inside.Shape()), tags: innerTags(arena, step, faces, inside) };
      const cut = operate(arena, 'cut', [own], [cavity]);
      if (!isSound(oc, cut.shape)) throw new KernelFault('too-large');
      return { ...cut, tools: body.tools };
    }
    const maker = arena.keep(new oc.BRepOffsetAPI_MakeThickSolid());
    maker.MakeThickSolidByJoin(
      body.shape,
      arena.list(open),
      -step.wallMm,
      JOINED_MM,
      skin,
      false,
      false,
      join,
      false,
      progress,
    );
    if (!maker.IsDone()) throw new KernelFault('too-large');
    const shape = arena.keep(maker.Shape());
    if (!isSound(oc, shape)) throw new KernelFault('too-large');
    const tags = tagsAfter(arena, shape, [own], maker);
    for (const [face, tag] of innerTags(arena, step, faces, maker).entries()) if (!tags.get(face)) tags.set(face, tag);
    return { shape, tags, tools: body.tools };
  } catch (error) {
    if (isOfKernel(error)) throw new KernelFault('too-large');
    throw error;
  }
}

/** A body with a void that touches its surface nowhere: a shell within its shell. */
function withVoid(arena: Arena, outer: { shape: Shape; tags: Tags }, inner: { shape: Shape; tags: Tags }) {
  const { oc } = arena;
  const [shell] = arena.parts(outer.shape, 'SHELL');
  if (!shell) throw new KernelFault('failed');
  const maker = arena.keep(new oc.BRepBuilderAPI_MakeSolid(arena.keep(oc.TopoDS.Shell(shell))));
  for (const own of arena.parts(inner.shape, 'SHELL'))
    maker.Add(arena.keep(oc.TopoDS.Shell(arena.keep(own.Reversed()))));
  const shape = arena.keep(maker.Solid());
  const tags: Tags = new ShapeMap(oc);
  for (const face of arena.faces(shape)) {
    const tag = outer.tags.get(face) ?? inner.tags.get(face);
    if (tag) tags.set(face, tag);
  }
  return { shape, tags };
}

/** Faces of a cavity by their number: its profile's pieces have no names of their own. */
function asInner(arena: Arena, { id }: HollowStep, { shape }: Tool): Tags {
  const tags: Tags = new ShapeMap(arena.oc);
  arena.faces(shape).forEach((face, nth) => {
    tags.set(face, { name: { feature: id, of: 'inner', path: null, curve: null, nth }, isHole: true });
  });
  return tags;
}

function innerTags(
  arena: Arena,
  { id }: HollowStep,
  faces: readonly Face[],
  maker: { Generated(face: Face): Parameters<Arena['listed']>[0] },
): Tags {
  const tags: Tags = new ShapeMap(arena.oc);
  faces.forEach((face, nth) => {
    for (const inner of arena.listed(maker.Generated(face)))
      tags.set(inner, { name: { feature: id, of: 'inner', path: null, curve: null, nth }, isHole: true });
  });
  return tags;
}

/** Earlier features once more, elsewhere. */
export function repeat(arena: Arena, step: RepeatStep, body: BodyState): BodyState {
  let state = body;
  for (const [n, trsf] of movesOf(arena, step.how).entries())
    for (const of of step.of) {
      const tool = body.tools.get(of);
      if (!tool) throw new KernelFault('nothing-to-go-by');
      const copy = moved(arena, tool, trsf, step.id, n + 1);
      const { shape, tags } = operate(arena, copy.does, [{ shape: state.shape!, tags: state.tags }], [copy]);
      state = { shape, tags, tools: state.tools };
    }
  return state;
}

function movesOf(arena: Arena, how: RepeatStep['how']) {
  const { oc } = arena;
  const made = (set: (t: InstanceType<typeof oc.gp_Trsf>) => void) => {
    const trsf = arena.keep(new oc.gp_Trsf());
    set(trsf);
    return trsf;
  };
  if (how.kind === 'mirror') {
    const n = unitOf(how.across);
    const at: Vec3 = { x: n.x * how.atMm, y: n.y * how.atMm, z: n.z * how.atMm };
    const plane = arena.keep(new oc.gp_Ax2(arena.point(at), arena.direction(n)));
    return [made((t) => t.SetMirror(plane))];
  }
  const copies = Array.from({ length: how.count - 1 }, (_, k) => k + 1);
  if (how.kind === 'row') {
    const along: Axis = how.along;
    return copies.map((k) => made((t) => t.SetTranslation(arena.way(times(unitOf(along), k * how.stepMm)))));
  }
  return copies.map((k) => made((t) => t.SetRotation(arena.axis(how.at, how.about), k * how.stepRad)));
}

const times = (v: Vec3, s: number): Vec3 => ({ x: v.x * s, y: v.y * s, z: v.z * s });
