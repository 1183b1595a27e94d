import { type Constraint, type Curve, type Dimension, pathsIn, type Sketch, walkOf } from '../sketch';

/** What a relation is called where it is offered: "make it level". */
export const RELATION_WORDS: Record<Constraint['kind'], string> = {
  level: 'Level',
  plumb: 'Plumb',
  parallel: 'Parallel',
  square: 'At right angles',
  tangent: 'Tangent',
  smooth: 'Without a kink',
  equal: 'Equal',
  concentric: 'Concentric',
  on: 'On it',
  middle: 'In the middle',
  symmetric: 'Symmetric',
  even: 'Evenly spaced',
  around: 'Evenly around the first',
  fixed: 'Hold as measured',
};

const KIND: Record<Curve['kind'], string> = { line: 'line', arc: 'arc', cubic: 'curve', circle: 'circle' };

/** What something is called: by its path, and where it stands along it. */
export function nameIn(sketch: Sketch, id: string): string {
  for (const path of pathsIn(sketch)) {
    if (path.id === id) return path.name;
    const walk = walkOf(sketch, path);
    if (!walk) continue;
    const k = walk.pieces.findIndex((p) => p.curve.id === id);
    const curve = walk.pieces[k]?.curve;
    if (curve) return curve.kind === 'circle' ? path.name : `${KIND[curve.kind]} ${k + 1} of ${path.name}`;
    const n = walk.points.indexOf(id);
    if (n >= 0)
      return sketch.curves[path.uses[0]!.curve]?.kind === 'circle'
        ? `middle of ${path.name}`
        : `point ${n + 1} of ${path.name}`;
  }
  return 'something';
}

/** A sentence for a relation: what it holds. */
export function relationSentence(sketch: Sketch, { kind, refs, count }: Constraint): string {
  const all = refs.map((r) => nameIn(sketch, r.id));
  const listed = (names: readonly string[]) =>
    names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${names[names.length - 1]}` : (names[0] ?? '');
  const many = all.length > 3 ? `${all.length} together: ${listed(all)}` : listed(all);
  switch (kind) {
    case 'on':
      return `On ${all[all.length - 1]}: ${listed(all.slice(0, -1))}`;
    case 'middle':
      return `${all[0]} in the middle of ${listed(all.slice(1))}`;
    case 'symmetric':
      return `${listed(all.slice(0, 2))} symmetric about ${all[2]}`;
    case 'around':
      return `Evenly around ${all[0]}${count === null ? '' : `, ${count} to a turn`}: ${listed(all.slice(1))}`;
    case 'fixed':
      return `Held as measured: ${many}`;
    default:
      return `${RELATION_WORDS[kind]}: ${many}`;
  }
}

/** What a size is of. */
export function sizeWord(sketch: Sketch, { kind, refs, along }: Pick<Dimension, 'kind' | 'refs' | 'along'>): string {
  const [first, second] = refs.map((r) => r.id);
  const lengthOf = (id: string | undefined) => (id === undefined ? '' : nameIn(sketch, id));
  switch (kind) {
    case 'diameter':
      return `Ø of ${lengthOf(first)}`;
    case 'radius':
      return `R of ${lengthOf(first)}`;
    case 'arc-length':
      return `length of ${lengthOf(first)}`;
    case 'path-length':
      return `length of ${lengthOf(first)}`;
    case 'width':
      return `width of ${lengthOf(first)}`;
    case 'height':
      return `height of ${lengthOf(first)}`;
    case 'angle':
      if (second === undefined)
        return sketch.curves[first!]?.kind === 'arc' ? `turn of ${lengthOf(first)}` : `direction of ${lengthOf(first)}`;
      return `angle, ${lengthOf(first)} to ${lengthOf(second)}`;
    case 'distance': {
      if (second === undefined) return `${along.toUpperCase()} of ${lengthOf(first)}`;
      const line = Object.values(sketch.curves).find(
        (c) => c.kind === 'line' && [c.from, c.to].includes(first!) && [c.from, c.to].includes(second!),
      );
      const of = line ? `length of ${nameIn(sketch, line.id)}` : `${lengthOf(first)} to ${lengthOf(second)}`;
      return along === 'straight' ? of : `${of}, along ${along.toUpperCase()}`;
    }
  }
}
