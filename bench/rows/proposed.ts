import type { Proposal } from '../../core/src/job';
import { measureSizes } from '../../core/src/job/measures/sizes/measureSizes';
import { calibration, photographed, said } from '../../core/src/job/measures/sizes/photographed.test-data';
import { proposalsFor } from '../../core/src/job/measures/sizes/proposals';
import { normalRandom, type Random, seededRandom } from '../../core/src/numeric';
import { dimensionValue, type Id, newSketch, type Observation, type Sketch } from '../../core/src/sketch';
import { decide, relate } from '../../core/src/sketch/settle/rig.test-data';
import { putCircle, putPath, seen } from '../../core/src/sketch/traced.test-data';

/** How well a place is picked, mm: 2 px of a picture of a hundred millimetres. */
const SIGMA_MM = 0.02;

type Kind = Parameters<typeof relate>[1];

/** A part whose relations are known: those that it was made with, and those that were meant to tempt. */
interface Simulated {
  sketch: Sketch;
  truths: { kind: Kind; ids: Id[] }[];
  tempting: { kind: Kind; ids: Id[] }[];
}

/** A plate with holes, a ring of lugs about a bore, a slot and a pair beside a centre line; about every third relation of it is only nearly so. */
function simulated(random: Random): Simulated {
  const sketch = newSketch('sketch', 'Sketch', null);
  const truths: Simulated['truths'] = [];
  const tempting: Simulated['tempting'] = [];
  const isNearly = () => random() < 1 / 3;
  /** By how much what is only nearly so is off, mm: from eight times its scatter on. */
  const off = () => (random() < 0.5 ? -1 : 1) * (0.25 + 0.6 * random());
  const say = (isTrue: boolean, kind: Kind, ...ids: Id[]) => (isTrue ? truths : tempting).push({ kind, ids });
  const circle = (id: Id, x: number, y: number, r: number) => {
    const turn = 6 * random();
    const rim = [0, 2.1, 4.2].map((t) => seen(x + r * Math.cos(t + turn), y + r * Math.sin(t + turn)));
    putCircle(sketch, id, rim as [Observation, Observation, Observation]);
  };
  const path = (
    id: Id,
    places: readonly (readonly [number, number])[],
    more: Partial<Parameters<typeof putPath>[2]>,
  ) => {
    const all = Object.fromEntries(places.map(([x, y], k) => [`${id}p${k}`, seen(x, y)]));
    putPath(sketch, all, { id, points: Object.keys(all), ...more });
  };

  const [w, h] = [60 + 30 * random(), 40 + 15 * random()];
  const bent = isNearly();
  const [dx, dy] = bent ? [off(), off()] : [0, 0];
  path(
    'outer',
    [
      [0, 0],
      [w, 0],
      [w + dx, h + dy],
      [0, h],
    ],
    {},
  );
  say(true, 'level', 'outer-c0');
  say(true, 'plumb', 'outer-c3');
  say(!bent, 'plumb', 'outer-c1');
  say(!bent, 'level', 'outer-c2');

  const r = 2 + random();
  const odd = isNearly();
  [
    [6, 6],
    [w - 6, 6],
    [w - 6, h - 6],
    [6, h - 6],
  ].forEach(([x, y], k) => {
    circle(`h${k}`, x!, y!, odd && k === 3 ? r + off() : r);
  });
  say(true, 'equal', ...['h0-c', 'h1-c', 'h2-c', ...(odd ? [] : ['h3-c'])]);
  if (odd) for (const other of ['h0-c', 'h1-c', 'h2-c']) say(false, 'equal', other, 'h3-c');

  const [cx, cy] = [w / 2, h / 2];
  circle('bore', cx, cy, 5);
  const beside = isNearly();
  circle('boss', cx + (beside ? off() : 0), cy, 7.5);
  say(!beside, 'concentric', 'bore-c', 'boss-c');
  const shifted = isNearly();
  const lugs = Array.from({ length: 5 }, (_, k) => {
    const turn = 0.4 + (k * 2 * Math.PI) / 5 + (shifted && k === 2 ? off() / 12 : 0);
    circle(`lug${k}`, cx + 12 * Math.cos(turn), cy + 12 * Math.sin(turn), 1.2);
    return `lug${k}-c`;
  });
  say(true, 'equal', ...lugs);
  say(!shifted, 'around', 'bore-c', ...lugs);

  const kinked = isNearly();
  const end = 3 + (kinked ? Math.abs(off()) : 0);
  const [sx, sy] = [10, h + 12];
  path(
    'slot',
    [
      [sx, sy],
      [sx + 20, sy],
      [sx + 20, sy + 6],
      [sx, sy + 6],
    ],
    { bent: ['line', { arc: 'slot-v' }, 'line', { arc: 'slot-w' }] },
  );
  sketch.picks['slot-v'] = seen(sx + 20 + end, sy + 3);
  sketch.picks['slot-w'] = seen(sx - 3, sy + 3);
  say(!kinked, 'tangent', 'slot-c0', 'slot-c1');
  say(!kinked, 'tangent', 'slot-c1', 'slot-c2');
  say(true, 'tangent', 'slot-c2', 'slot-c3');
  say(true, 'tangent', 'slot-c0', 'slot-c3');

  const lean = 0.3 * (random() - 0.5);
  const [ax, ay] = [50, h + 20];
  path(
    'axis',
    [
      [ax, ay - 8],
      [ax + 16 * lean, ay + 8],
    ],
    { closed: false, role: 'centre-line' },
  );
  const aside = isNearly();
  const long = Math.hypot(16 * lean, 16);
  const [nx, ny] = [16 / long, (-16 * lean) / long];
  const middle = [ax + 8 * lean, ay] as const;
  circle('left', middle[0] - 8 * nx, middle[1] - 8 * ny, 1.7);
  circle('right', middle[0] + (8 + (aside ? off() : 0)) * nx, middle[1] + 8 * ny, 1.7);
  say(!aside, 'symmetric', 'left-c', 'right-c', 'axis-c0');
  return { sketch, truths, tempting };
}

const keyOf = ({ kind, ids }: { kind: string; ids: readonly Id[] }): string => `${kind} ${[...ids].sort().join(' ')}`;

export interface Proposed {
  truths: number;
  offered: number;
  tempting: number;
  fallenFor: number;
}

/** Of the relations that parts were made with those that are proposed, and of those that only tempt. */
export function checkProposals(parts: number): Proposed {
  const random = seededRandom(26);
  const normal = normalRandom(random);
  const count: Proposed = { truths: 0, offered: 0, tempting: 0, fallenFor: 0 };
  for (let n = 0; n < parts; n++) {
    const { sketch, truths, tempting } = simulated(random);
    let id = 0;
    const found = proposalsFor(
      photographed(sketch, SIGMA_MM, normal),
      calibration,
      said,
      'mm',
      null,
      () => `p${id++}`,
    ).filter((p: Proposal) => p.kind === 'relation');
    const keys = new Set(found.map((p) => p.key));
    count.truths += truths.length;
    count.offered += truths.filter((t) => keys.has(keyOf(t))).length;
    count.tempting += tempting.length;
    // What is said of several at once is wrong where it is wrong of two of them.
    const has = (f: { kind: Kind; ids: Id[] }) =>
      keys.has(keyOf(f)) ||
      (f.kind === 'equal' && found.some((p) => p.key.startsWith('equal') && f.ids.every((own) => p.ids.includes(own))));
    count.fallenFor += tempting.filter(has).length;
  }
  return count;
}

/** Sizes of parts whose relations were taken up, with their ±: how many of them hold the true size. */
export function checkSettledSizes(parts: number): { sizes: number; held: number } {
  const random = seededRandom(27);
  const normal = normalRandom(random);
  const count = { sizes: 0, held: 0 };
  const ids: [Parameters<typeof decide>[1], Id[]][] = [
    ['distance', ['outerp0', 'outerp1']],
    ['distance', ['h0-c', 'h2-c']],
    ['distance', ['outer-c0', 'h1-c']],
    ['diameter', ['h0-c']],
    ['diameter', ['lug1-c']],
    ['radius', ['slot-c1']],
    ['distance', ['left-c', 'right-c']],
  ];
  for (let n = 0; n < parts; n++) {
    const { sketch, truths } = simulated(random);
    for (const [kind, of] of ids) decide(sketch, kind, 1, of).origin = { kind: 'measured' };
    const flat = (id: Id) => {
      const at = sketch.picks[id] ?? sketch.points[id]?.at;
      return at && 'uPx' in at ? { x: at.uPx, y: at.vPx } : null;
    };
    const dimensions = Object.values(sketch.dimensions);
    const truth = dimensions.map((d) => dimensionValue(sketch, d, flat)!);
    for (const { kind, ids: of } of truths) relate(sketch, kind, ...of);
    const told = measureSizes(photographed(sketch, SIGMA_MM, normal), dimensions, calibration, said, null);
    dimensions.forEach((d, k) => {
      const own = told[d.id]?.settled;
      if (!own) return;
      count.sizes += 1;
      if (Math.abs(own.value - truth[k]!) <= own.plusMinus) count.held += 1;
    });
  }
  return count;
}
