import { NO_TURN_RAD } from '../../geometry';
import type { FaceName } from '../../sketch';
import type { ExtrudeStep, RevolveStep } from '../plan';
import type { Region } from '../region';
import { type Frame, inSpace, normalOf, plus3, type Vec3 } from '../space';
import { type Arena, type Shape, ShapeMap } from './arena';
import type { BodyState, Tags, Tool } from './body';
import { joined, operate } from './combine';
import { faceOf, type MadeFace } from './faceOf';
import { KernelFault } from './fault';
import { boxOfShape } from './tell';

/** How far over the body a cut all through begins and ends, mm. */
const BEYOND_MM = 1;

/** A profile drawn out square to its plane. */
export function extrude(arena: Arena, step: ExtrudeStep, body: BodyState): Tool {
  const heights = step.heights ?? throughOf(arena, step.frame, body);
  const parts = prisms(arena, step, step.regions, heights);
  const own = step.draftRad === 0 ? parts : parts.map((p) => leaned(arena, p, step, heights.fromMm));
  const all = joined(arena, own);
  if (!step.inside) return { ...all, does: step.does };
  const around = joined(arena, prisms(arena, step, step.inside, heights));
  return { ...operate(arena, 'keep', [all], [around]), does: step.does };
}

/** From below the body there is to above it, as a plane sees it. */
function throughOf(arena: Arena, frame: Frame, { shape }: BodyState) {
  if (!shape) throw new KernelFault('no-body');
  const { min, max } = boxOfShape(arena, shape);
  const n = normalOf(frame);
  const over = (p: Vec3) => n.x * (p.x - frame.origin.x) + n.y * (p.y - frame.origin.y) + n.z * (p.z - frame.origin.z);
  const [a, b] = [over(min), over(max)];
  return { fromMm: Math.min(a, b) - BEYOND_MM, toMm: Math.max(a, b) + BEYOND_MM };
}

function prisms(
  arena: Arena,
  { id, frame }: ExtrudeStep,
  regions: readonly Region[],
  { fromMm, toMm }: { fromMm: number; toMm: number },
): { shape: Shape; tags: Tags }[] {
  const { oc } = arena;
  return regions.map((region) => {
    const made = faceOf(arena, region, frame, fromMm);
    const n = normalOf(frame);
    const way = arena.way({ x: n.x * (toMm - fromMm), y: n.y * (toMm - fromMm), z: n.z * (toMm - fromMm) });
    const maker = arena.keep(new oc.BRepPrimAPI_MakePrism(made.face, way, false, true));
    return swept(arena, id, region, made, maker);
  });
}

/**
 * A profile turned about its axis; `cavity`: less what these regions enclose, whose faces are called after `feature`. They are taken
 * out of the flat profile: cutting one turned body out of another fails silently where they do not touch.
 */
export function revolve(
  arena: Arena,
  step: RevolveStep,
  cavity: { feature: string; regions: readonly Region[] } | null = null,
): Tool {
  const { oc } = arena;
  const { frame, axis, angleRad } = step;
  const at = inSpace(frame, axis.at);
  const along = plus3(plus3({ x: 0, y: 0, z: 0 }, frame.x, axis.along.x), frame.y, axis.along.y);
  const parts = step.regions.map((region) => {
    const made = cavity
      ? hollowed(arena, faceOf(arena, region, frame, 0), cavity, frame)
      : faceOf(arena, region, frame, 0);
    const line = arena.axis(at, along);
    const isWhole = angleRad > 2 * Math.PI - NO_TURN_RAD;
    const maker = arena.keep(
      isWhole
        ? new oc.BRepPrimAPI_MakeRevol(made.face, line, true)
        : new oc.BRepPrimAPI_MakeRevol(made.face, line, angleRad, true),
    );
    return swept(arena, step.id, region, made, maker, !isWhole);
  });
  return { ...joined(arena, parts), does: step.does };
}

/** A flat face less what a cavity's regions enclose, with the edges that both left. */
function hollowed(
  arena: Arena,
  outer: MadeFace,
  cavity: { feature: string; regions: readonly Region[] },
  frame: Frame,
): MadeFace {
  const { oc } = arena;
  const inner = cavity.regions.map((region) => faceOf(arena, region, frame, 0));
  const cut = arena.keep(new oc.BRepAlgoAPI_Cut());
  cut.SetArguments(arena.list([outer.face]));
  cut.SetTools(arena.list(inner.map((m) => m.face)));
  cut.Build(arena.keep(new oc.Message_ProgressRange()));
  const left = cut.IsDone() ? arena.faces(arena.keep(cut.Shape())) : [];
  // A wall in several pieces is no wall.
  if (left.length !== 1) throw new KernelFault('too-large');
  const became = ({ edges }: MadeFace, inside: string | null): MadeFace['edges'] =>
    edges.flatMap((own) => {
      const now = arena.listed(cut.Modified(own.edge));
      const all = now.length > 0 ? now : cut.IsDeleted(own.edge) ? [] : [own.edge];
      return all.map((edge) => ({ ...own, edge: arena.keep(oc.TopoDS.Edge(edge)), inside }));
    });
  return {
    face: left[0]!,
    edges: [...became(outer, null), ...inner.flatMap((m) => became(m, cavity.feature))],
  };
}

interface Sweep {
  Shape(): Shape;
  Generated(shape: Shape): Parameters<Arena['listed']>[0];
  FirstShape(): Shape;
  LastShape(): Shape;
}

/** What a sweep made, its faces called by what they came from. */
function swept(arena: Arena, feature: string, { outer }: Region, made: MadeFace, maker: Sweep, hasEnds = true) {
  const tags: Tags = new ShapeMap(arena.oc);
  const flat = (of: 'start' | 'end'): FaceName => ({ feature, of, path: outer.path, curve: null, nth: 0 });
  if (hasEnds) {
    tags.set(arena.keep(maker.FirstShape()), { name: flat('start'), isHole: false });
    tags.set(arena.keep(maker.LastShape()), { name: flat('end'), isHole: false });
  }
  for (const { edge, loop, nth, isHole, inside } of made.edges) {
    const curve = loop.curves?.[nth] ?? null;
    const name: FaceName = inside
      ? { feature: inside, of: 'inner', path: loop.path, curve: null, nth }
      : { feature, of: 'side', path: loop.path, curve, nth: curve === null ? nth : 0 };
    for (const face of arena.listed(maker.Generated(edge))) tags.set(face, { name, isHole: isHole || inside !== null });
  }
  return { shape: arena.keep(maker.Shape()), tags };
}

/** Sides leaned inwards by an angle, about the plane where the body begins. */
function leaned(arena: Arena, part: { shape: Shape; tags: Tags }, { frame, draftRad }: ExtrudeStep, fromMm: number) {
  const { oc } = arena;
  const n = normalOf(frame);
  const origin = arena.point(plus3(frame.origin, n, fromMm));
  const neutral = arena.keep(new oc.gp_Pln(origin, arena.direction(n)));
  const maker = arena.keep(new oc.BRepOffsetAPI_DraftAngle(part.shape));
  for (const face of arena.faces(part.shape)) {
    if (part.tags.get(face)?.name.of !== 'side') continue;
    maker.Add(face, arena.direction(n), draftRad, neutral, true);
    if (!maker.AddDone()) throw new KernelFault('sides-cannot-lean');
  }
  maker.Build(arena.keep(new oc.Message_ProgressRange()));
  if (!maker.IsDone()) throw new KernelFault('sides-cannot-lean');
  const tags: Tags = new ShapeMap(oc);
  for (const face of arena.faces(part.shape)) {
    const tag = part.tags.get(face);
    if (tag) tags.set(arena.keep(maker.ModifiedShape(face)), tag);
  }
  return { shape: arena.keep(maker.Shape()), tags };
}
