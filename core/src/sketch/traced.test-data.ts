import { newSketch, type Observation, type Path, type Sketch } from '.';

/** How a piece of a traced path is bent: by the names of what bends it. */
export type Bent = 'line' | { arc: string } | { cubic: [string, string] };

/** Something seen in a picture, in as few words as a test needs. */
export const seen = (uPx: number, vPx: number, more: Partial<Observation> = {}): Observation => ({
  picture: 'pic',
  uPx,
  vPx,
  sigmaPx: 0.1,
  plane: 'face',
  snappedTo: 'edge',
  neighbouringEdge: null,
  ...more,
});

/** Puts a path into a sketch: its points by name, and how each piece from the first on is bent; lines where left out. */
export function putPath(
  sketch: Sketch,
  all: Readonly<Record<string, Observation>>,
  { id = 'path', name = 'Outer edge', points, bent = [], closed = true, role = 'cut' as const }: PutPath,
): Path {
  for (const p of points) sketch.points[p] ??= { at: { kind: 'observed', ...all[p]! } };
  const count = closed ? points.length : points.length - 1;
  const uses = Array.from({ length: count }, (_, k) => {
    const how = bent[k] ?? 'line';
    const picks = how === 'line' ? [] : 'arc' in how ? [how.arc] : how.cubic;
    for (const p of picks) sketch.picks[p] = { ...all[p]! };
    const curve = `${id}-c${k}`;
    const evidence = picks.length ? [{ edge: 'pick' as const, picks }] : [];
    const kind = how === 'line' ? ('line' as const) : 'arc' in how ? ('arc' as const) : ('cubic' as const);
    sketch.curves[curve] = { id: curve, kind, from: points[k]!, to: points[(k + 1) % points.length]!, evidence };
    return { curve, reversed: false };
  });
  const path: Path = { id, name, role, layer: null, uses, closed };
  sketch.paths[id] = path;
  sketch.order.push(id);
  return path;
}

interface PutPath {
  id?: string;
  name?: string;
  points: readonly string[];
  bent?: readonly Bent[];
  closed?: boolean;
  role?: Path['role'];
}

/** Puts a circle through three places on its rim into a sketch. */
export function putCircle(sketch: Sketch, id: string, rim: readonly [Observation, Observation, Observation]): Path {
  const picks = rim.map((at, k) => {
    sketch.picks[`${id}-r${k}`] = { ...at };
    return `${id}-r${k}`;
  });
  sketch.points[`${id}-o`] = { at: { kind: 'fitted' } };
  sketch.curves[`${id}-c`] = { id: `${id}-c`, kind: 'circle', centre: `${id}-o`, evidence: [{ edge: 'pick', picks }] };
  const uses = [{ curve: `${id}-c`, reversed: false }];
  const path: Path = { id, name: 'Hole 1', role: 'cut', layer: null, uses, closed: true };
  sketch.paths[id] = path;
  sketch.order.push(id);
  return path;
}

/** A sketch of one path. */
export function sketchOf(all: Readonly<Record<string, Observation>>, put: PutPath): { sketch: Sketch; path: Path } {
  const sketch = newSketch('sketch', 'Sketch', null);
  return { sketch, path: putPath(sketch, all, put) };
}
