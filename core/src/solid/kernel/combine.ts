import type { Does, Id } from '../../sketch';
import { type Arena, type Shape, ShapeMap } from './arena';
import { type BodyState, type Tags, type Tool, tagsAfter } from './body';
import { KernelFault } from './fault';
import { volumeOf } from './tell';

/** Several tools as one shape. */
export function joined(arena: Arena, parts: readonly { shape: Shape; tags: Tags }[]): { shape: Shape; tags: Tags } {
  const [first, ...rest] = parts;
  if (!first) throw new KernelFault('no-form');
  return rest.length === 0 ? first : operate(arena, 'add', [first], rest);
}

/** Adds, cuts or keeps: what comes out, and what its faces are called. */
export function operate(
  arena: Arena,
  does: Does,
  upon: readonly { shape: Shape; tags: Tags }[],
  tools: readonly { shape: Shape; tags: Tags }[],
): { shape: Shape; tags: Tags } {
  const { oc } = arena;
  const maker = arena.keep(
    does === 'add'
      ? new oc.BRepAlgoAPI_Fuse()
      : does === 'cut'
        ? new oc.BRepAlgoAPI_Cut()
        : new oc.BRepAlgoAPI_Common(),
  );
  maker.SetArguments(arena.list(upon.map((p) => p.shape)));
  maker.SetTools(arena.list(tools.map((p) => p.shape)));
  maker.Build(arena.keep(new oc.Message_ProgressRange()));
  if (!maker.IsDone()) throw new KernelFault('failed');
  // Faces that lie in one plane side by side become one, where they are turned by less than a billionth.
  if (does !== 'cut') maker.SimplifyResult(true, true, 1e-9);
  const shape = arena.keep(maker.Shape());
  if (arena.parts(shape, 'SOLID').length === 0) throw new KernelFault('nothing-left');
  // What changes nothing does not meet the body, or the kernel did not see that it does: neither goes by in silence.
  if (does === 'cut' && sameVolume(oc, shape, upon)) throw new KernelFault('nothing-left');
  return { shape, tags: tagsAfter(arena, shape, [...upon, ...tools], maker) };
}

const UNCHANGED = 1e-9;

function sameVolume(oc: Arena['oc'], shape: Shape, upon: readonly { shape: Shape }[]): boolean {
  const before = upon.reduce((sum, p) => sum + volumeOf(oc, p.shape), 0);
  return Math.abs(volumeOf(oc, shape) - before) <= UNCHANGED * before;
}

/** Works a tool upon the body there is; of the first one it makes the body. */
export function work(arena: Arena, body: BodyState, id: Id, tool: Tool): BodyState {
  const tools = new Map(body.tools).set(id, tool);
  if (!body.shape) {
    if (tool.does === 'cut') throw new KernelFault('no-body');
    return { shape: tool.shape, tags: tool.tags, tools };
  }
  const { shape, tags } = operate(arena, tool.does, [{ shape: body.shape, tags: body.tags }], [tool]);
  return { shape, tags, tools };
}

/** A shape moved, and its faces' names with it; `nth` tells the copies apart. */
export function moved(
  arena: Arena,
  tool: Tool,
  trsf: InstanceType<Arena['oc']['gp_Trsf']>,
  feature: Id,
  nth: number,
): Tool {
  const { oc } = arena;
  const maker = arena.keep(new oc.BRepBuilderAPI_Transform(tool.shape, trsf, true, false));
  const tags: Tags = new ShapeMap(oc);
  for (const face of arena.faces(tool.shape)) {
    const tag = tool.tags.get(face);
    if (tag) tags.set(arena.keep(maker.ModifiedShape(face)), { ...tag, name: { ...tag.name, feature, nth } });
  }
  return { shape: arena.keep(maker.Shape()), tags, does: tool.does };
}
