import type { Box, Vec3 } from '../space';
import { Arena, type Kernel, type Shape } from './arena';
import { readAgain } from './writeStep';

/** Round a shape, mm, by its exact surfaces. */
export function boxOfShape(arena: Arena, shape: Shape): Box {
  const { oc } = arena;
  const box = arena.keep(new oc.Bnd_Box());
  oc.BRepBndLib.AddOptimal(shape, box, false, false);
  const [min, max] = [arena.keep(box.CornerMin()), arena.keep(box.CornerMax())];
  return { min: vec3(min), max: vec3(max) };
}

/** Round a body, mm. */
export function boxOfBody(oc: Kernel, shape: Shape): Box {
  const arena = new Arena(oc);
  try {
    return boxOfShape(arena, shape);
  } finally {
    arena.free();
  }
}

export const vec3 = (p: { X(): number; Y(): number; Z(): number }): Vec3 => ({ x: p.X(), y: p.Y(), z: p.Z() });

export interface BodyFigures {
  volumeMm3: number;
  areaMm2: number;
  centre: Vec3;
  box: Box;
  /** Separate bodies. */
  solids: number;
  faces: number;
}

/** mm³. */
export function volumeOf(oc: Kernel, shape: Shape): number {
  const volume = new oc.GProp_GProps();
  try {
    oc.BRepGProp.VolumeProperties(shape, volume, false, false, false);
    return volume.Mass();
  } finally {
    volume.delete();
  }
}

/** The largest gap that a shape's edges leave, mm: next to nothing, but where edges that meet with a slight kink were rounded. */
export const gapOf = (oc: Kernel, shape: Shape): number =>
  oc.BRep_Tool.MaxTolerance(shape, oc.TopAbs_ShapeEnum.TopAbs_EDGE);

/** Gaps from which on the kernel's own outlines of flat faces are not to be measured by, mm. */
export const EXACT_MM = 1e-4;

/** What a shape comes to, by its exact surfaces; with gaps, as any other program would read it. */
export function figuresOf(oc: Kernel, own: Shape): BodyFigures {
  const arena = new Arena(oc);
  try {
    const shape = gapOf(oc, own) > EXACT_MM ? (readAgain(arena, own) ?? own) : own;
    const volume = arena.keep(new oc.GProp_GProps());
    oc.BRepGProp.VolumeProperties(shape, volume, false, false, false);
    const area = arena.keep(new oc.GProp_GProps());
    oc.BRepGProp.SurfaceProperties(shape, area, false, false);
    return {
      volumeMm3: volume.Mass(),
      areaMm2: area.Mass(),
      centre: vec3(arena.keep(volume.CentreOfMass())),
      box: boxOfShape(arena, shape),
      solids: arena.parts(shape, 'SOLID').length,
      faces: arena.parts(shape, 'FACE').length,
    };
  } finally {
    arena.free();
  }
}

/** Whether a shape is sound: closed, nothing crosses itself. */
export function isSound(oc: Kernel, shape: Shape): boolean {
  const check = new oc.BRepCheck_Analyzer(shape, true, false, false);
  try {
    return check.IsValid();
  } finally {
    check.delete();
  }
}
