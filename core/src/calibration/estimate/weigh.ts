import { medianOf } from '../../numeric';
import type { CameraPrior } from '../model/priors';
import { kindOf } from '../reference/kinds';
import type { PixelPick, ReferenceId } from '../reference/reference';
import type { CalibrationInput } from './calibrationInput';
import type { Unknowns } from './layOutUnknowns';
import { posedProblem, type Telling, UNHEARD } from './posedProblem';

/**
 * The many places of a graduation, rim, edge or grid, each taken to scatter as they do among themselves, and those that
 * lie far out less believed (Huber 1981). Priors and lone lengths are left as they were said.
 */
export function weigh(
  input: CalibrationInput,
  prior: CameraPrior,
  unknowns: Unknowns,
  parameters: Float64Array,
): CalibrationInput {
  if (!input.references.some((y) => kindOf(y).spread)) return input;
  const off = new Map<ReferenceId, Map<PixelPick, number>>();
  const order = new Map<ReferenceId, number[]>();
  const hear: Telling = (id, pick, _, sigmas) => {
    const own = off.get(id) ?? new Map<PixelPick, number>();
    off.set(id, own.set(pick, Math.max(own.get(pick) ?? 0, Math.abs(sigmas))));
    const list = order.get(id);
    if (list) list.push(sigmas);
    else order.set(id, [sigmas]);
  };
  posedProblem(input, prior, unknowns, null, hear).residuals(parameters, UNHEARD);
  const references = input.references.map((y) => {
    const { spread } = kindOf(y);
    const own = off.get(y.id);
    if (!spread || !own) return y;
    const alike = Math.sqrt(sharedScatter(order.get(y.id) ?? []));
    const factor = alike * Math.max(1, medianOf([...own.values()]) / MEDIAN_SIGMAS);
    return spread(y, (pick) => factor * Math.sqrt(Math.max(1, (own.get(pick) ?? 0) / factor / HUBER_SIGMAS)));
  });
  return { ...input, references };
}

/**
 * Neighbours along one rim or edge err alike, in a shadow or over a bend: how many of them count as one, from how far
 * off each is and the next one with it, (1 + ρ) / (1 − ρ). At least one.
 */
function sharedScatter(offs: readonly number[]): number {
  const most = 3 * Math.max(1, medianOf(offs.map(Math.abs)) / MEDIAN_SIGMAS);
  const held = offs.map((v) => Math.max(-most, Math.min(most, v)));
  let [both, square] = [0, 0];
  for (let k = 0; k + 1 < held.length; k++) {
    both += held[k]! * held[k + 1]!;
    square += held[k]! ** 2;
  }
  const alike = square > 0 ? Math.min(MOST_ALIKE, Math.max(0, both / square)) : 0;
  return (1 + alike) / (1 - alike);
}

const MOST_ALIKE = 0.85;

/** Half of a normal scatter lies within so many σ. */
const MEDIAN_SIGMAS = 0.6745;
/** Beyond so many σ a place counts as far out. */
const HUBER_SIGMAS = 2;
