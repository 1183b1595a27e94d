import type { Id } from '../part';
import type { Equation } from './equations';
import { nearestWay, newSystem, restore, type System } from './solve';

/** Damping is not lowered below this share. */
const LEAST_DAMPING = 1e-12;
/** Conditions that pull with less than this share of the strongest are no part of the contradiction. */
const PULLS_SHARE = 1e-4;

/** Left apart by more than this, mm, conditions cannot be together. */
const APART_MM = 1e-6;
/** So many conditions are looked at one by one. */
const MOST_LOOKED_AT = 400;

/**
 * A smallest set of conditions that cannot be together: without any one of them the others can. Empty where all can, and
 * where nobody can be sure: a set that is named is one.
 *
 * Source: the deletion filter of Chinneck & Dravnieks, Locating minimal infeasible constraint sets, ORSA J. Comput. 3
 * (1991), begun with those that pull where the misfit is least.
 */
export function contradictionIn(system: System): Id[] {
  const canBe = (equations: readonly Equation[]): { ok: boolean; pulling: Id[] } => {
    const own = newSystem(system.unknowns, equations);
    for (const steps of [1, 4]) {
      const x = Float64Array.from(system.unknowns.start);
      let missed = 0;
      for (let k = 1; k <= steps; k++) missed = restore(own, x, k / steps, APART_MM / 10, LEAST_DAMPING);
      if (missed < APART_MM) return { ok: true, pulling: [] };
      if (steps === 4) {
        const worst = own.residuals.reduce((most, r) => Math.max(most, Math.abs(r)), 0);
        const pulling = new Set<Id>();
        own.residuals.forEach((r, k) => {
          if (Math.abs(r) > worst * PULLS_SHARE) pulling.add(equations[k]!.condition);
        });
        if (nearestWay(own).missedMm < APART_MM) return { ok: true, pulling: [] };
        return { ok: false, pulling: [...pulling] };
      }
    }
    return { ok: false, pulling: [] };
  };
  const of = (ids: ReadonlySet<Id>) => system.equations.filter((e) => ids.has(e.condition));
  const whole = canBe(system.equations);
  if (whole.ok) return [];
  let left = new Set(whole.pulling);
  if (left.size === 0 || canBe(of(left)).ok) left = new Set(system.equations.map((e) => e.condition));
  if (left.size > MOST_LOOKED_AT) return [...left];
  for (const id of [...left]) {
    const without = new Set(left);
    without.delete(id);
    const found = canBe(of(without));
    // Those that do not pull any more are not of the contradiction that is left.
    if (!found.ok) left = without;
  }
  return nearestWay(newSystem(system.unknowns, of(left))).isSure ? [...left] : [];
}
