import { seededRandom } from '../../core/src/numeric';
import {
  type Constraint,
  clustersOf,
  contradictionIn,
  type Dimension,
  freedomOf,
  type Id,
  newSketch,
  type Observation,
  type SettledCluster,
  type Sketch,
  settleCluster,
  solve,
  systemOf,
} from '../../core/src/sketch';

type Random = () => number;

/** A sketch whose pixels are millimetres. */
const seenIn = (sketch: Sketch) => (id: Id) => {
  const at = sketch.picks[id] ?? sketch.points[id]?.at;
  return at && 'uPx' in at ? { x: at.uPx, y: at.vPx } : null;
};

const at = (x: number, y: number): Observation => ({
  picture: 'pic',
  uPx: x,
  vPx: y,
  sigmaPx: 0.05,
  plane: 'face',
  snappedTo: 'edge',
  neighbouringEdge: null,
});

/**
 * Rounded rectangles with a hole each, linked to their neighbours: a sketch of about so many pieces whose conditions all
 * hold before it is disturbed. One and a half conditions a piece, some of them said twice over.
 */
function drawSketch(pieces: number, random: Random, disturbed = 0.05): Sketch {
  const sketch = newSketch('sketch', 'Sketch', null);
  const ref = (id: Id) => ({ sketch: 'sketch', id });
  const put = (id: Id, x: number, y: number, size: number): Id => {
    const off = () => (random() - 0.5) * 2 * disturbed * size;
    sketch.points[id] = { at: { kind: 'observed', ...at(x + off(), y + off()) } };
    return id;
  };
  const wishes: (() => void)[] = [];
  const relate = (kind: Constraint['kind'], ...ids: Id[]) =>
    wishes.push(() => {
      const id = `c${Object.keys(sketch.constraints).length}`;
      sketch.constraints[id] = { id, kind, refs: ids.map(ref), count: null };
    });
  const decide = (kind: Dimension['kind'], value: number, ids: Id[], along: Dimension['along'] = 'straight') =>
    wishes.push(() => {
      const id = `d${Object.keys(sketch.dimensions).length}`;
      const origin = { kind: 'decided', value: { text: value.toFixed(12), unit: 'mm' }, why: '' } as const;
      sketch.dimensions[id] = { id, kind, refs: ids.map(ref), along, label: null, origin };
    });
  const count = Math.max(1, Math.round(pieces / 9));
  const across = Math.ceil(Math.sqrt(count));
  const links: (() => void)[] = [];
  for (let n = 0; n < count; n++) {
    const [col, row] = [n % across, Math.floor(n / across)];
    const [w, h, r] = [14 + 8 * random(), 10 + 6 * random(), 1.5 + 2 * random()];
    const [x, y] = [col * 30 + 2 * random(), row * 24 + 2 * random()];
    const p = (k: number) => `r${n}p${k}`;
    const places = [
      [r, 0],
      [w - r, 0],
      [w, r],
      [w, h - r],
      [w - r, h],
      [r, h],
      [0, h - r],
      [0, r],
    ] as const;
    places.forEach(([dx, dy], k) => {
      put(p(k), x + dx, y + dy, Math.min(w, h) - 2 * r);
    });
    const bent = r * (1 - Math.SQRT1_2);
    const corner = [
      [w - bent, bent],
      [w - bent, h - bent],
      [bent, h - bent],
      [bent, bent],
    ] as const;
    for (let k = 0; k < 8; k++) {
      const id = `r${n}c${k}`;
      const ends = { id, from: p(k), to: p((k + 1) % 8) };
      if (k % 2 === 0) {
        sketch.curves[id] = { ...ends, kind: 'line', evidence: [] };
        continue;
      }
      const [dx, dy] = corner[(k - 1) / 2]!;
      const off = () => (random() - 0.5) * 2 * disturbed * r;
      sketch.picks[`${id}v`] = at(x + dx + off(), y + dy + off());
      sketch.curves[id] = { ...ends, kind: 'arc', evidence: [{ edge: 'pick', picks: [`${id}v`] }] };
    }
    const c = (k: number) => `r${n}c${k}`;
    const [cx, cy, hole] = [x + w / 2, y + h / 2, 2 + random()];
    sketch.points[`r${n}o`] = { at: { kind: 'fitted' } };
    const rim = [0.2, 2.3, 4.4].map((t, k) => {
      const off = () => (random() - 0.5) * 2 * disturbed * hole;
      sketch.picks[`r${n}h${k}`] = at(cx + hole * Math.cos(t) + off(), cy + hole * Math.sin(t) + off());
      return `r${n}h${k}`;
    });
    sketch.curves[`r${n}h`] = {
      id: `r${n}h`,
      kind: 'circle',
      centre: `r${n}o`,
      evidence: [{ edge: 'pick', picks: rim }],
    };
    relate('level', c(0), c(4));
    relate('plumb', c(2), c(6));
    for (let k = 0; k < 8; k++) relate('tangent', c(k), c((k + 1) % 8));
    relate('equal', c(1), c(3), c(5), c(7));
    decide('radius', r, [c(1)]);
    decide('distance', w, [c(2), c(6)]);
    decide('diameter', 2 * hole, [`r${n}h`]);
    decide('distance', h / 2, [`r${n}h`, c(0)]);
    const before = n > 0 ? `r${n - 1}o` : null;
    if (before) {
      const [own, other] = [{ cx, cy }, last!];
      links.push(
        () => decide('distance', Math.abs(own.cx - other.cx), [before, `r${n}o`], 'x'),
        () => decide('distance', Math.abs(own.cy - other.cy), [before, `r${n}o`], 'y'),
      );
    }
    last = { cx, cy };
  }
  for (const link of links) link();
  for (const wish of wishes) wish();
  last = null;
  return sketch;
}

let last: { cx: number; cy: number } | null = null;

const quantile = (all: number[], share: number) =>
  [...all].sort((a, b) => a - b)[Math.min(all.length - 1, Math.floor(share * all.length))]!;

interface SettlingTimes {
  pieces: number;
  conditions: number;
  solve: [number, number];
  drag: [number, number];
}

/** What settling costs, ms: median and 95 %, over sketches that differ. */
export function timeSettling(pieces: number, sketches: number): SettlingTimes {
  const [whole, frames]: [number[], number[]] = [[], []];
  let conditions = 0;
  for (let n = -2; n < sketches; n++) {
    const sketch = drawSketch(pieces, seededRandom(1000 + n));
    const cluster = clustersOf(sketch).all.reduce((a, b) => (b.points.length > a.points.length ? b : a));
    conditions = cluster.conditions.length;
    const seen = seenIn(sketch);
    const started = performance.now();
    const settled = settleCluster(sketch, cluster, seen);
    if (!settled.ok) continue;
    freedomOf(sketch, cluster, settled, true);
    if (n >= 0) whole.push(performance.now() - started);
    // One corner of the last rectangle is led along.
    const grabbed = cluster.points[cluster.points.length - 3]!;
    let from: SettledCluster = settled;
    for (let k = 1; k <= 20; k++) {
      const moved = (id: Id) => {
        const p = seen(id);
        return p && id === grabbed ? { x: p.x + 0.3 * k, y: p.y + 0.2 * k } : p;
      };
      const begun = performance.now();
      const frame = settleCluster(sketch, cluster, moved, new Set([grabbed]), from);
      if (n >= 0) frames.push(performance.now() - begun);
      if (frame.ok) from = frame;
    }
  }
  const both = (all: number[]): [number, number] => [quantile(all, 0.5), quantile(all, 0.95)];
  return { pieces, conditions, solve: both(whole), drag: both(frames) };
}

interface SettlingRight {
  sketches: number;
  solved: number;
  /** Largest miss of those that were solved, mm. */
  worstMm: number;
  ranked: number;
  rankRight: number;
  onlyJust: number;
}

/** Random consistent sketches: solved, and the free ways counted against a dense computation. */
export function checkSettling(sketches: number): SettlingRight {
  const told: SettlingRight = { sketches, solved: 0, worstMm: 0, ranked: 0, rankRight: 0, onlyJust: 0 };
  for (let n = 0; n < sketches; n++) {
    const random = seededRandom(5000 + n);
    const whole = drawSketch(18 + 27 * random(), random);
    // Some of what was said is left out, so that something is free.
    const keep = <T>(all: Record<Id, T>) => Object.fromEntries(Object.entries(all).filter(() => random() < 0.8));
    const sketch = { ...whole, constraints: keep(whole.constraints), dimensions: keep(whole.dimensions) };
    let isSolved = true;
    for (const cluster of clustersOf(sketch).all) {
      const settled = settleCluster(sketch, cluster, seenIn(sketch));
      if (!settled.ok || settled.solved.missedMm > 1e-9) {
        isSolved = false;
        continue;
      }
      const { system, solved } = settled;
      told.worstMm = Math.max(told.worstMm, solved.missedMm);
      const found = freedomOf(sketch, cluster, settled, false);
      const rank = denseRank(system.unknowns.size, system.equations, solved.x);
      if (rank === null) {
        told.onlyJust += 1;
        continue;
      }
      told.ranked += 1;
      if (found.free + found.onlyJust === system.unknowns.size - rank) told.rankRight += 1;
    }
    if (isSolved) told.solved += 1;
  }
  return told;
}

/** By Gram-Schmidt, the longest row first; null where it is in doubt. */
function denseRank(
  size: number,
  equations: readonly { value(x: Float64Array, slopes: Float64Array | null, share: number): number }[],
  x: Float64Array,
): number | null {
  const left = equations.map(({ value }) => {
    const row = new Float64Array(size);
    value(x, row, 1);
    const length = Math.hypot(...row) || 1;
    return row.map((v) => v / length);
  });
  let rank = 0;
  while (left.length > 0) {
    const best = left.reduce((b, row, k) => (Math.hypot(...row) > Math.hypot(...left[b]!) ? k : b), 0);
    const [row] = left.splice(best, 1);
    const length = Math.hypot(...row!);
    if (length < 1e-8) return rank;
    if (length < 1e-4) return null;
    rank += 1;
    for (const other of left)
      for (let again = 0; again < 2; again++) {
        const along = other.reduce((sum, v, k) => sum + v * row![k]!, 0) / length ** 2;
        for (let k = 0; k < size; k++) other[k]! -= along * row![k]!;
      }
  }
  return rank;
}

/** Sketches with one size too many that contradicts the rest: how often the set that is named is a smallest one. */
export function checkContradictions(sketches: number): { told: number; irreducible: number; ms: [number, number] } {
  let [told, irreducible] = [0, 0];
  const times: number[] = [];
  for (let n = 0; n < sketches; n++) {
    const random = seededRandom(9000 + n);
    const sketch = drawSketch(27 + 36 * random(), random, 0.02);
    const lines = Object.values(sketch.curves).filter((c) => c.kind === 'line');
    const one = lines[Math.floor(random() * lines.length)]!;
    if (one.kind !== 'line') continue;
    const [p, q] = [seenIn(sketch)(one.from)!, seenIn(sketch)(one.to)!];
    const value = { text: (Math.hypot(q.x - p.x, q.y - p.y) * 1.3).toFixed(9), unit: 'mm' as const };
    for (const id of ['wrong', 'wrong-too'])
      sketch.dimensions[id] = {
        id,
        kind: 'distance',
        refs: [one.from, one.to].map((r) => ({ sketch: 'sketch', id: r })),
        along: 'straight',
        label: null,
        origin: {
          kind: 'decided',
          value: id === 'wrong' ? value : { ...value, text: `${Number(value.text) + 1}` },
          why: '',
        },
      };
    const cluster = clustersOf(sketch).all.find((c) => c.points.includes(one.from))!;
    const { system } = systemOf(sketch, cluster, seenIn(sketch))!;
    const started = performance.now();
    const named = contradictionIn(system);
    times.push(performance.now() - started);
    if (named.length === 0) continue;
    told += 1;
    const canBe = (ids: readonly Id[]): boolean => {
      const conditions = cluster.conditions.filter((c) => ids.includes(c.id));
      const made = systemOf(sketch, { ...cluster, conditions }, seenIn(sketch));
      return made !== null && solve(made.system) !== null;
    };
    if (!canBe(named) && named.every((id) => canBe(named.filter((k) => k !== id)))) irreducible += 1;
  }
  return { told, irreducible, ms: [quantile(times, 0.5), quantile(times, 0.95)] };
}
