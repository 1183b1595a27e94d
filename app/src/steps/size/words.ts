import {
  type Constraint,
  type Curve,
  type Dimension,
  isSigned,
  pathsIn,
  type Sketch,
  walkOf,
} from '@steady-moth/core/sketch';

/** What a relation is called where it is offered: "make it level". */
export const OFFER: Record<Constraint['kind'], string> = {
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

/** The small sign on the board: of ISO 1101 where it has one, else a word. */
export const SIGN: Record<Constraint['kind'], string> = {
  level: 'level',
  plumb: 'plumb',
  parallel: '∥',
  square: '⊥',
  tangent: 'tan',
  smooth: 'smooth',
  equal: '=',
  concentric: '◎',
  on: 'on',
  middle: 'mid',
  symmetric: '⌯',
  even: 'even',
  around: 'round',
  fixed: 'held',
};

/** Relations that hold several things alike, and share a letter. */
export const SHARED: ReadonlySet<Constraint['kind']> = new Set(['parallel', 'equal', 'concentric', 'even', 'around']);

const KIND: Record<Curve['kind'], string> = { line: 'line', arc: 'arc', cubic: 'curve', circle: 'circle' };

/** What something is called: by its path, and where it stands along it. */
export function nameOf(sketch: Sketch, id: string): string {
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
  const all = refs.map((r) => nameOf(sketch, r.id));
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
      return `${OFFER[kind]}: ${many}`;
  }
}

/** What a size is of. */
export function sizeWord(sketch: Sketch, { kind, refs, along }: Pick<Dimension, 'kind' | 'refs' | 'along'>): string {
  const [first, second] = refs.map((r) => r.id);
  const lengthOf = (id: string | undefined) => (id === undefined ? '' : nameOf(sketch, id));
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
      const of = line ? `length of ${nameOf(sketch, line.id)}` : `${lengthOf(first)} to ${lengthOf(second)}`;
      return along === 'straight' ? of : `${of}, along ${along.toUpperCase()}`;
    }
  }
}

const PREFIX: Partial<Record<Dimension['kind'], string>> = { diameter: 'Ø ', radius: 'R ', 'arc-length': '⌒ ' };

/** The sign before a figure (ISO 129-1); of a place from zero its axis. */
export const prefixOf = (dimension: Dimension): string =>
  dimension.kind === 'distance' && isSigned(dimension)
    ? `${dimension.along.toUpperCase()} `
    : (PREFIX[dimension.kind] ?? '');
