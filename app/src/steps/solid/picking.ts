import type { EdgeName, FaceName, Feature } from '@steady-moth/core/sketch';
import { type BodyMesh, edgeNamed, edgesMeant, isSameFace } from '@steady-moth/core/solid';
import type { SizeAsked } from '@steady-moth/core/solid/kernel';
import type { Met } from './view/scene';

/** Names of what was met. */
export interface Named {
  face: FaceName | null;
  edge: EdgeName | null;
  met: Met;
}

export function named(mesh: BodyMesh, met: Met): Named {
  return {
    face: met.face === null ? null : (mesh.faces[met.face]?.name ?? null),
    edge: met.edge === null ? null : edgeNamed(mesh, met.edge),
    met,
  };
}

/** A new feature with what was pressed put in, or taken out where it was in; the same where it takes none. */
export function pickedInto(draft: Feature, mesh: BodyMesh, { face, edge, met }: Named): Feature {
  if (draft.kind === 'edges' && draft.which.kind === 'picked' && edge) {
    const { edges } = draft.which;
    const rest = edges.filter((e) => met.edge === null || !edgesMeant(mesh, e).includes(met.edge));
    return { ...draft, which: { kind: 'picked', edges: rest.length < edges.length ? rest : [...edges, edge] } };
  }
  if (draft.kind === 'hollow' && face) {
    const rest = draft.open.filter((f) => !isSameFace(f, face));
    return { ...draft, open: rest.length < draft.open.length ? rest : [...draft.open, face] };
  }
  return draft;
}

/** What is measured once something more was pressed: a second face goes with the first, a third begins anew. */
export function askedNext(asked: SizeAsked | null, { face, edge }: Named): SizeAsked | null {
  if (edge) return { of: 'edge', edge };
  if (!face) return asked;
  const first = asked?.of === 'faces' && asked.faces.length === 1 ? asked.faces[0]! : null;
  return { of: 'faces', faces: first && !isSameFace(first, face) ? [first, face] : [face] };
}

/** Where what is named shows on a mesh. */
export function chosenOn(mesh: BodyMesh | null, draft: Feature | null, asked: SizeAsked | null) {
  if (!mesh) return { faces: [], edges: [] };
  const facesOf = (names: readonly FaceName[]) =>
    mesh.faces.flatMap((f, k) => (f.name && names.some((n) => isSameFace(n, f.name!)) ? [k] : []));
  const edgesOf = (names: readonly EdgeName[]) => names.flatMap((name) => edgesMeant(mesh, name));
  if (draft?.kind === 'edges' && draft.which.kind === 'picked') return { faces: [], edges: edgesOf(draft.which.edges) };
  if (draft?.kind === 'hollow') return { faces: facesOf(draft.open), edges: [] };
  if (asked?.of === 'faces') return { faces: facesOf(asked.faces), edges: [] };
  if (asked?.of === 'edge') return { faces: [], edges: edgesOf([asked.edge]) };
  return { faces: [], edges: [] };
}

/** Whether a new feature still lacks what it goes by. */
export const isEmpty = (draft: Feature): boolean =>
  draft.kind === 'edges' && draft.which.kind === 'picked' && draft.which.edges.length === 0;
