import { execFile } from 'node:child_process';
import { cpus } from 'node:os';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import type { AddRow } from './addRow';
import type { Coverage, KnownWay } from './rows/coverage';
import { measureEdges } from './rows/edges';
import { measureGraduations } from './rows/graduations';
import { WAYS } from './rows/ways';

/** 95 % interval of a share, by Wilson (1927), in percent. */
function interval(held: number, n: number): string {
  const z = 1.96;
  const p = held / n;
  const middle = (p + (z * z) / (2 * n)) / (1 + (z * z) / n);
  const half = (z * Math.sqrt((p * (1 - p)) / n + (z * z) / (4 * n * n))) / (1 + (z * z) / n);
  return `${(100 * p).toFixed(1)} % (${(100 * (middle - half)).toFixed(1)} to ${(100 * (middle + half)).toFixed(1)})`;
}

const said = (c: Coverage, per: string) =>
  `median ${c.medianMm.toFixed(3)}, 95 % ${c.q95Mm.toFixed(3)} mm${per}; ± told ${c.toldMm.toFixed(3)}; held ${interval(c.held, c.scenes)}`;

const errorsOnly = (c: Coverage) =>
  `median ${c.medianMm.toFixed(3)}, 95 % ${c.q95Mm.toFixed(3)} mm per 100 mm; ± told ${c.toldMm.toFixed(3)}`;

/** Edges, strokes, and how well each way of saying what is known does: half of the scenes fixed, half drawn afresh. */
export async function measureAccuracy(row: AddRow, scenes: number, slowScenes: number): Promise<void> {
  const fresh = 1_000_000 + Math.floor(Math.random() * 1e9);
  const seeds = [
    ['fixed', 1],
    ['fresh', fresh],
  ] as const;
  for (const [name, blur, radius] of [
    ['straight, blur 0.7', 0.7, null],
    ['straight, blur 1.2', 1.2, null],
    ['straight, blur 2', 2, null],
    ['radius 40 px, blur 1.2', 1.2, 40],
    ['radius 12 px, blur 1.2', 1.2, 12],
  ] as const)
    for (const [of, first] of seeds) {
      const e = measureEdges(blur, radius, first, 300);
      row(
        `edge centre, ${name} px`,
        of,
        String(e.found),
        `bias ${e.biasPx.toFixed(3)}, RMS ${e.rmsPx.toFixed(3)} px; within ± ${(100 * e.held).toFixed(0)} %`,
        radius ? 'bias ≤ 0.05' : 'bias ≤ 0.02, RMS ≤ 0.06',
      );
    }
  for (const [distance, tilt, noise] of [
    [310, 5, 2.2],
    [400, 8, 2.2],
    [480, 15, 3],
  ] as const) {
    const s = measureGraduations(distance, tilt, noise);
    row(
      `half a stroke of a rendered rule, ${distance} mm off`,
      'fixed',
      `${s.places} places`,
      `bias ${s.biasPx.toFixed(3)}, RMS ${s.rmsPx.toFixed(3)} px; σ told ${s.toldPx.toFixed(3)}`,
      '',
    );
  }
  const n = Math.ceil(scenes / 2);
  const HELD = 'held 94 to 97 %';
  const scenesOf = (way: KnownWay): number => (way.slow ? Math.ceil(slowScenes / 2) : n);
  const tasks: Task[] = WAYS.flatMap((way, k) =>
    seeds.flatMap(([seed, first]): Task[] => {
      const task = { what: String(k), of: seed, first, n: scenesOf(way) };
      const { errors } = way;
      return [
        ...(errors
          ? [
              {
                ...task,
                n: Math.ceil(task.n / 2),
                name: `${way.name}, tilt to ${errors.tilt}°`,
                wanted: errors.wanted,
                from: 'bounds' as const,
              },
            ]
          : []),
        { ...task, name: way.name, wanted: HELD, from: 'priors' as const },
      ];
    }),
  );
  for (const [seed, first] of seeds)
    tasks.push({
      name: '406 mm over two joined pictures: one rule, three common points, tilt to 15°',
      of: seed,
      what: 'joined',
      from: 'priors',
      first,
      n,
      wanted: HELD,
    });
  const rendered = 'rendered: rule by readings and three caliper lengths';
  tasks.push({ name: rendered, of: 'fixed', what: 'rendered', first: 1, n: 60, wanted: HELD, from: 'priors' });
  const found = await inTurn(tasks);
  for (const [k, task] of tasks.entries()) {
    const c = found[k]!;
    const several = c.several ? `; several poses shown in ${c.several}` : '';
    const picks = c.q95PickPx === undefined ? '' : `; picks 95 % within ${c.q95PickPx.toFixed(3)} px`;
    const per = task.what === 'joined' ? '' : ' per 100 mm';
    const figures = task.from === 'bounds' ? errorsOnly(c) : said(c, per);
    row(task.name, task.of, String(task.n), `${figures}${several}${picks}`, task.wanted);
  }
}

interface Task {
  name: string;
  of: string;
  /** What `drawn.ts` measures: the number of a way, `joined` or `rendered`. */
  what: string;
  first: number;
  n: number;
  wanted: string;
  from: 'priors' | 'bounds';
}

/** As many at once as the machine has cores, each in a process of its own. */
async function inTurn(tasks: readonly Task[]): Promise<(Coverage & { q95PickPx?: number })[]> {
  const found: (Coverage & { q95PickPx?: number })[] = [];
  let next = 0;
  const run = async (): Promise<void> => {
    while (next < tasks.length) {
      const k = next++;
      const { what, first, n, name, of, from } = tasks[k]!;
      const args = ['--import', 'tsx', DRAWN, what, String(first), String(n), from];
      const { stdout } = await promisify(execFile)(process.execPath, args);
      found[k] = JSON.parse(stdout);
      console.log(`${name}, ${of}: held ${found[k]!.held} of ${n}`);
    }
  };
  await Promise.all(cpus().map(run));
  return found;
}

const DRAWN = fileURLToPath(new URL('./drawn.ts', import.meta.url));
