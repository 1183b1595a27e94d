import { describe, expect, it } from 'vitest';
import { descend, seededRandom } from '../numeric';
import { EACH, edgeModel, freeOf, OWN, type Samples, START } from './edgeModel';

/** erf by its series: nothing of the model's own. */
function exactErf(z: number): number {
  if (Math.abs(z) > 4) return Math.sign(z);
  let [sum, term] = [z, z];
  for (let n = 1; n < 80; n++) {
    term *= (-z * z) / n;
    sum += term / (2 * n + 1);
  }
  return (2 / Math.sqrt(Math.PI)) * sum;
}

/** Light of one or two steps that run along a parabola. */
function lightOf(p: Float64Array, x: number, t: number): number {
  const d = x - t * (p[START.slope]! + t * p[START.bend]!);
  const step = (offset: number, logBlur: number, height: number) =>
    height * exactErf((d - offset) / Math.exp(logBlur) / Math.SQRT2);
  let light = p[START.level]! + step(p[START.offset]!, p[START.logBlur]!, p[START.height]!);
  for (let n = OWN; n < p.length; n += EACH) light += step(p[n]!, p[n + 2]!, p[n + 1]!);
  return light;
}

function bandOf(p: Float64Array, noise: number): Samples {
  const random = seededRandom(5);
  const [across, along, light, rowStarts]: number[][] = [[], [], [], []];
  for (let t = -9; t <= 9; t++) {
    rowStarts!.push(light!.length);
    // Rows of different lengths, as at the rim of a picture.
    for (let x = t < 0 ? -3.5 : -4; x <= 4; x += 0.5) {
      across!.push(x);
      along!.push(t);
      light!.push(lightOf(p, x, t) + noise * (random() - 0.5));
    }
  }
  return {
    across: Float64Array.from(across!),
    along: Float64Array.from(along!),
    light: Float64Array.from(light!),
    rowStarts: rowStarts!,
  };
}

const ONE = Float64Array.of(0.3, 0.02, 0.004, Math.log(0.9), 0.4, 0.12, 0);
const TWO = Float64Array.of(-1.1, 0.02, 0.003, Math.log(0.7), 0.4, 0.1, 0, 1.2, -0.07, Math.log(0.8));

describe('the model of an edge through many rows', () => {
  it.each([
    ['one step', ONE, true],
    ['one straight step', ONE, false],
    ['two steps', TWO, true],
  ] as const)('sums what differences of its light sum: %s', (_, truth, bent) => {
    const samples = bandOf(truth, 0);
    const free = freeOf('edge', truth.length, bent);
    const model = edgeModel(samples, truth.length, free);
    const size = free.length;
    const into = { matrix: new Float64Array(size * size), gradient: new Float64Array(size), cost: 0 };
    const here = Float64Array.from(free, (k, n) => truth[k]! + 0.001 * (n + 1));
    expect(model.sum(here, into)).toBe(true);
    const full = (values: Float64Array): Float64Array => {
      const p = new Float64Array(truth.length);
      free.forEach((k, n) => {
        p[k] = values[n]!;
      });
      return p;
    };
    const count = samples.light.length;
    const residual = (values: Float64Array, k: number) =>
      lightOf(full(values), samples.across[k]!, samples.along[k]!) - samples.light[k]!;
    const rows = Array.from({ length: count }, (_, k) =>
      free.map((_, n) => {
        const [more, less] = [here.slice(), here.slice()];
        more[n]! += 1e-5;
        less[n]! -= 1e-5;
        return (residual(more, k) - residual(less, k)) / 2e-5;
      }),
    );
    let cost = 0;
    for (let k = 0; k < count; k++) cost += 0.5 * residual(here, k) ** 2;
    // Two steps are in the same focus, which counts as one residual more.
    const alike = truth.length > OWN ? (here[size - 1]! - here[free.indexOf(START.logBlur)]!) / 30 : 0;
    expect(into.cost).toBeCloseTo(cost + 0.5 * alike ** 2, 5);
    for (let i = 0; i < size; i++)
      for (let j = 0; j <= i; j++) {
        const sum = rows.reduce((all, row) => all + row[i]! * row[j]!, 0);
        const scale = Math.sqrt(into.matrix[i * size + i]! * into.matrix[j * size + j]!);
        expect(Math.abs(into.matrix[i * size + j]! - sum)).toBeLessThan(2e-3 * scale + 2e-3);
      }
  });

  it('finds the steps again, and their σ is what noise makes of them', () => {
    const noise = 0.01;
    const samples = bandOf(TWO, noise);
    const free = freeOf('edge', TWO.length, true);
    const start = Float64Array.from(free, (k) => TWO[k]! + (k === START.offset ? 0.3 : k === OWN ? -0.3 : 0));
    const found = descend(edgeModel(samples, TWO.length, free), start, { maxSteps: 30, smallestStep: 1e-6 });
    expect(found.ok).toBe(true);
    if (!found.ok) return;
    const sigma = noise / Math.sqrt(12);
    free.forEach((k, n) => {
      const away = Math.abs(found.parameters[n]! - TWO[k]!);
      expect(away).toBeLessThan(4 * sigma * Math.sqrt(found.covariance[n * free.length + n]!) + 1e-6);
    });
  });

  it('is given up where no pace would reach what is wanted, and only there', () => {
    const samples = bandOf(TWO, 0.05);
    const free = freeOf('edge', ONE.length, true);
    const model = edgeModel(samples, ONE.length, free);
    const start = Float64Array.from(free, (k) => ONE[k]!);
    const options = { maxSteps: 30, smallestStep: 1e-6 };
    const found = descend(model, start, options);
    expect(found.ok).toBe(true);
    if (!found.ok) return;
    expect(descend(model, start, { ...options, wanted: 1.01 * found.cost }).ok).toBe(true);
    expect(descend(model, start, { ...options, wanted: 0.5 * found.cost })).toEqual({
      ok: false,
      reason: 'out-of-reach',
    });
  });
});
