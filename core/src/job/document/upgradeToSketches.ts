type Loose = Record<string, unknown>;
interface Point9 extends Loose {
  picture?: string;
  uPx: number;
  vPx: number;
}
interface Run9 extends Loose {
  id: string;
  kind: string;
  plane: string;
  points: string[];
  segments?: { kind: string; via?: string; handleFrom?: string; handleTo?: string }[];
  closed?: boolean;
}
interface View9 {
  id: string;
  name: string;
  crop: { leftPx: number; topPx: number; widthPx: number; heightPx: number };
}

/**
 * Version 10 has sketches of curves over shared points. A run's own points become its points; what bent its segments
 * and the rims of circles become picks, so that nothing needs to be worked out and every trace stays where it was. A
 * run of one point, which drew nothing, is left out.
 */
export function makeSketches(old: Loose): Loose {
  const { points = {}, runs = [] } = (old.part ?? {}) as { points?: Record<string, Point9>; runs?: Run9[] };
  const sketches: Record<string, SketchMade> = { sketch: emptySketch('sketch', 'Sketch', null) };
  const order = ['sketch'];
  const names = new Set<string>();
  for (const run of Array.isArray(runs) ? runs : []) {
    const view = viewOf(old, points[run.points?.[0] ?? '']);
    const id = view ? `sketch-${view.id}` : 'sketch';
    if (!sketches[id]) {
      sketches[id] = emptySketch(id, view?.name ?? 'Sketch', view?.id ?? null);
      order.push(id);
    }
    addRun(sketches[id], run, points, names);
  }
  return { ...old, version: 10, part: { sketches, order } };
}

type SketchMade = ReturnType<typeof emptySketch>;

const emptySketch = (id: string, name: string, view: string | null) => ({
  id,
  name,
  frame: { view },
  points: {} as Record<string, unknown>,
  curves: {} as Record<string, unknown>,
  picks: {} as Record<string, unknown>,
  paths: {} as Record<string, unknown>,
  order: [] as string[],
  dimensions: {},
  constraints: {},
  placements: {},
  makers: {},
});

function addRun(sketch: SketchMade, run: Run9, points: Record<string, Point9>, names: Set<string>): void {
  if (!Array.isArray(run.points) || run.points.length < 2) return;
  const { curves, path, own, picks, centre } = namesOf(run, names);
  const plane = run.plane === 'yardstick' ? 'reference' : run.plane;
  for (const [id, was] of own) sketch.points[id] = { at: observed(points[was], plane) };
  for (const [id, was] of picks) sketch.picks[id] = seen(points[was], plane);
  if (centre) sketch.points[centre] = FITTED;
  for (const curve of curves) sketch.curves[curve.id] = curve;
  sketch.paths[path.id] = path;
  sketch.order.push(path.id);
}

interface Named {
  curves: { id: string }[];
  path: { id: string };
  /** New name and old one. */
  own: [string, string][];
  picks: [string, string][];
  centre: string | null;
  taken: string[];
}

const FITTED = { at: { kind: 'fitted' } };
const kept = new WeakMap<Run9, Named>();

/** The same curves and path for the same run: states of a history share what did not change between them. */
function namesOf(run: Run9, names: Set<string>): Named {
  const before = kept.get(run);
  if (before?.taken.every((id) => !names.has(id))) {
    for (const id of before.taken) names.add(id);
    return before;
  }
  const made = nameAll(run, names);
  kept.set(run, made);
  return made;
}

function nameAll(run: Run9, names: Set<string>): Named {
  const taken: string[] = [];
  /** The name wished for, or one like it where something else has it. */
  const claim = (wish: string): string => {
    let id = wish;
    for (let k = 2; names.has(id); k++) id = `${wish}-${k}`;
    names.add(id);
    taken.push(id);
    return id;
  };
  const { id: was, kind, plane: _, points: ids, segments = [], closed, ...rest } = run;
  const id = claim(was);
  const own: [string, string][] = [];
  const picks: [string, string][] = [];
  const pick = (point: string): string => {
    const name = claim(point);
    picks.push([name, point]);
    return name;
  };
  const evidence = (...all: string[]) => [{ edge: 'pick', picks: all.map(pick) }];
  if (kind === 'circle') {
    const centre = claim(`${was}-o`);
    const curve = { id: claim(`${was}-c`), kind: 'circle', centre, evidence: evidence(...ids) };
    const path = { ...rest, id, uses: [{ curve: curve.id, reversed: false }], closed: true };
    return { curves: [curve], path, own, picks, centre, taken };
  }
  const at = ids.map((point) => {
    const name = claim(point);
    own.push([name, point]);
    return name;
  });
  const curves = segments.map((s, k) => {
    const ends = { id: claim(`${ids[k]}-c`), from: at[k], to: at[(k + 1) % at.length] };
    if (s.kind === 'arc') return { ...ends, kind: 'arc', evidence: evidence(s.via as string) };
    if (s.kind === 'curve')
      return { ...ends, kind: 'cubic', evidence: evidence(s.handleFrom as string, s.handleTo as string) };
    return { ...ends, kind: 'line', evidence: [] };
  });
  const path = { ...rest, id, uses: curves.map((c) => ({ curve: c.id, reversed: false })), closed: closed === true };
  return { curves, path, own, picks, centre: null, taken };
}

const observations = new WeakMap<Point9, Map<string, { seen: Loose; observed: { kind: 'observed' } & Loose }>>();

function bothOf(point: Point9, plane: string) {
  const planes = observations.get(point) ?? new Map();
  observations.set(point, planes);
  const { cling, beside, ...pick } = point;
  const made = planes.get(plane) ?? { seen: { ...pick, plane, snappedTo: cling, neighbouringEdge: beside } };
  made.observed ??= { kind: 'observed', ...made.seen };
  planes.set(plane, made);
  return made;
}

const seen = (point: Point9 | undefined, plane: string) => point && bothOf(point, plane).seen;
const observed = (point: Point9 | undefined, plane: string) => point && bothOf(point, plane).observed;

/** The smallest view that a point lies in. */
function viewOf({ pictures }: Loose, point: Point9 | undefined): View9 | null {
  const all = (Array.isArray(pictures) ? pictures : []) as { id: string; views?: View9[] }[];
  const around = all
    .find((p) => p.id === point?.picture)
    ?.views?.filter(({ crop }) => {
      const [u, v] = [(point?.uPx ?? 0) - crop.leftPx, (point?.vPx ?? 0) - crop.topPx];
      return u >= 0 && v >= 0 && u <= crop.widthPx && v <= crop.heightPx;
    });
  const size = ({ crop }: View9) => crop.widthPx * crop.heightPx;
  return around?.reduce<View9 | null>((best, view) => (best && size(best) <= size(view) ? best : view), null) ?? null;
}
