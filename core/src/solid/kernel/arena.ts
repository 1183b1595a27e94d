import type {
  gp_Dir,
  gp_Pnt,
  gp_Vec,
  OpenCascadeInstance,
  TopoDS_Edge,
  TopoDS_Face,
  TopoDS_Shape,
} from 'replicad-opencascadejs';
import type { Frame, Vec3 } from '../space';
import { normalOf } from '../space';

/** The modelling kernel, as whoever runs it has started it: core loads none. */
export type Kernel = OpenCascadeInstance;
export type Shape = TopoDS_Shape;
export type Face = TopoDS_Face;
export type Edge = TopoDS_Edge;

interface Owned {
  delete(): void;
}

/**
 * What the kernel is told, to a billionth of a millimetre, and of a direction of its length: a hundredth of its own tolerance.
 * Engines differ in the last figures of roots and angles, and by those the kernel would cut a face's triangles another way;
 * so that a script writes what the screen does.
 */
export const steady = (told: number): number => Math.round(told * 1e9) / 1e9 + 0;

/**
 * What the kernel lends lies in its own memory until it is given back. An arena gives back all that was kept in it at once.
 */
export class Arena {
  private readonly owned = new Set<Owned>();

  constructor(readonly oc: Kernel) {}

  keep<T extends Owned>(one: T): T {
    this.owned.add(one);
    return one;
  }

  free(): void {
    for (const one of this.owned) one.delete();
    this.owned.clear();
  }

  point({ x, y, z }: Vec3): gp_Pnt {
    return this.keep(new this.oc.gp_Pnt(steady(x), steady(y), steady(z)));
  }

  way({ x, y, z }: Vec3): gp_Vec {
    return this.keep(new this.oc.gp_Vec(steady(x), steady(y), steady(z)));
  }

  direction({ x, y, z }: Vec3): gp_Dir {
    return this.keep(new this.oc.gp_Dir(steady(x), steady(y), steady(z)));
  }

  axis(at: Vec3, along: Vec3) {
    return this.keep(new this.oc.gp_Ax1(this.point(at), this.direction(along)));
  }

  /** Right-handed, at a place of its own. */
  system(frame: Frame, at: Vec3 = frame.origin) {
    return this.keep(new this.oc.gp_Ax2(this.point(at), this.direction(normalOf(frame)), this.direction(frame.x)));
  }

  /** Sub-shapes of a kind, each time that they are met: an edge of two faces twice. */
  parts(shape: Shape, kind: 'FACE' | 'EDGE' | 'VERTEX' | 'SOLID' | 'SHELL'): Shape[] {
    const all: Shape[] = [];
    const explorer = new this.oc.TopExp_Explorer(shape, this.oc.TopAbs_ShapeEnum[`TopAbs_${kind}`]);
    for (; explorer.More(); explorer.Next()) all.push(this.keep(explorer.Current()));
    explorer.delete();
    return all;
  }

  faces(shape: Shape): Face[] {
    return this.parts(shape, 'FACE').map((s) => this.keep(this.oc.TopoDS.Face(s)));
  }

  /** Each edge once. */
  edges(shape: Shape): Edge[] {
    const once = new ShapeMap<true>(this.oc);
    for (const part of this.parts(shape, 'EDGE')) if (!once.get(part)) once.set(part, true);
    return once.entries().map(([s]) => this.keep(this.oc.TopoDS.Edge(s)));
  }

  /** What a list of the kernel holds. */
  listed(list: ReturnType<Kernel['BRepAlgoAPI_Cut']['prototype']['Modified']>): Shape[] {
    const rest = this.keep(new this.oc.NCollection_List_TopoDS_Shape(this.keep(list)));
    const all: Shape[] = [];
    while (rest.Size() > 0) {
      all.push(this.keep(rest.First()));
      rest.RemoveFirst();
    }
    return all;
  }

  list(shapes: readonly Shape[]) {
    const list = this.keep(new this.oc.NCollection_List_TopoDS_Shape());
    for (const shape of shapes) list.Append(shape);
    return list;
  }
}

const HASHES = 2 ** 31 - 1;

/** Things by the shape that they belong to, whichever way round it is. */
export class ShapeMap<T> {
  private readonly byHash = new Map<number, [Shape, T][]>();

  constructor(private readonly oc: Kernel) {}

  private slot(shape: Shape): [Shape, T][] {
    const hash = this.oc.ReplicadShapeHasher.HashCode(shape, HASHES);
    const slot = this.byHash.get(hash) ?? [];
    this.byHash.set(hash, slot);
    return slot;
  }

  get(shape: Shape): T | undefined {
    return this.slot(shape).find(([s]) => s.IsSame(shape))?.[1];
  }

  set(shape: Shape, value: T): void {
    const slot = this.slot(shape);
    const own = slot.find(([s]) => s.IsSame(shape));
    if (own) own[1] = value;
    else slot.push([shape, value]);
  }

  entries(): [Shape, T][] {
    return [...this.byHash.values()].flat();
  }
}

/** Kinds of WebAssembly exceptions, as far as this platform has them: the language itself knows none. */
const { Exception } = (globalThis as unknown as { WebAssembly: { Exception?: new (...given: never[]) => object } })
  .WebAssembly;

/** Whether the kernel threw it, and not our own code. */
export const isOfKernel = (error: unknown): boolean => Exception !== undefined && error instanceof Exception;

/** What the kernel says of an exception of its own; null where it is none. */
export function kernelWords(oc: Kernel, error: unknown): string | null {
  if (!isOfKernel(error)) return null;
  try {
    const [kind, words] = oc.getExceptionMessage(error as never);
    return [kind, words].filter(Boolean).join(': ');
  } catch {
    return 'unknown';
  }
}
