import type { FaceName } from '../sketch';
import type { Vec3 } from './space';

/** A body as triangles, and its edges as lines; mm. */
export interface BodyMesh {
  positions: Float32Array;
  normals: Float32Array;
  triangles: Uint32Array;
  /** Triangles of each face: the first one, and how many. */
  faces: { name: FaceName | null; isHole: boolean; from: number; count: number }[];
  edges: MeshEdge[];
}

export interface MeshEdge {
  /** The faces that it lies between; null where one is not known. */
  faces: [FaceName, FaceName] | null;
  /** x, y, z in turn along it. */
  line: Float32Array;
  /** Sticks out, lies in a corner, or runs on smoothly. */
  bend: Bend;
  curve: EdgeCurve;
}

/** What an edge is exactly; of other curves the line tells. */
export type EdgeCurve =
  | { kind: 'line' }
  | { kind: 'circle'; centre: Vec3; along: Vec3; radius: number }
  | { kind: 'other' };

export type Bend = 'out' | 'in' | 'smooth';
