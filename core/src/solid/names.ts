import type { EdgeName, FaceName } from '../sketch';
import type { BodyMesh, MeshEdge } from './bodyMesh';
import { norm3, plus3, type Vec3 } from './space';

export const isSameFace = (a: FaceName, b: FaceName): boolean =>
  a.feature === b.feature && a.of === b.of && a.path === b.path && a.curve === b.curve && a.nth === b.nth;

/** Whichever of its faces is named first. */
export const isEdgeBetween = ({ faces: [p, q] }: EdgeName, a: FaceName, b: FaceName): boolean =>
  (isSameFace(a, p!) && isSameFace(b, q!)) || (isSameFace(a, q!) && isSameFace(b, p!));

/** The edges of a mesh that a name means, by their number: all between its faces, or of these the one nearest to its place. */
export function edgesMeant(mesh: BodyMesh, name: EdgeName): number[] {
  const between = mesh.edges.flatMap((e, k) => (e.faces && isEdgeBetween(name, ...e.faces) ? [k] : []));
  const { near } = name;
  if (!near || between.length < 2) return between;
  const away = between.map((k) => norm3(plus3(middleOf(mesh.edges[k]!), near, -1)));
  return [between[away.indexOf(Math.min(...away))]!];
}

/** What an edge of a mesh is called; null where one of its faces has no name. */
export function edgeNamed(mesh: BodyMesh, edge: number): EdgeName | null {
  const own = mesh.edges[edge];
  if (!own?.faces) return null;
  const name: EdgeName = { faces: own.faces, near: null };
  return edgesMeant(mesh, name).length > 1 ? { ...name, near: middleOf(own) } : name;
}

function middleOf({ line }: MeshEdge): Vec3 {
  const at = 3 * Math.floor(line.length / 6);
  return { x: line[at]!, y: line[at + 1]!, z: line[at + 2]! };
}
