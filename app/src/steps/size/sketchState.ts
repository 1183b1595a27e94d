import type { JobDocument, SizeMeasures } from '@steady-moth/core/job';
import {
  observationIn,
  type Placer,
  pathsIn,
  type Sketch,
  type SketchTold,
  sketchesOf,
  sketchWith,
  workedOut,
} from '@steady-moth/core/sketch';
import { useMemo } from 'react';
import type { SeenPlace } from '../../compute/figures.worker';
import { itemsOf } from '../../part/chosen';
import type { Drawn } from '../../part/useDrawn';
import { type Selection, useSession } from '../../session/sessionStore';
import { useSizeMeasures, useSketchTold } from '../../session/useFigures';

/** The sketch that is worked on in Size, formulas worked out, and what is known of it. */
export interface SketchState {
  sketch: Sketch;
  /** Where everything was seen, and where things lie settled: mm, y up. */
  places: ReadonlyMap<string, SeenPlace>;
  place: Placer;
  told: SketchTold | null;
  measures: Readonly<Record<string, SizeMeasures>>;
  /** Points and curves that are chosen, by their names in the sketch. */
  chosen: readonly string[];
}

const NO_MEASURES = {};

/** Points and curves of a sketch that are chosen, by their names; a circle by its curve, another path by its own. */
export function chosenIn(sketch: Sketch, selection: Selection): string[] {
  return itemsOf(selection).flatMap((item): string[] => {
    const path = Object.hasOwn(sketch.paths, item.path) ? sketch.paths[item.path] : undefined;
    if (!path) return [];
    if (item.kind === 'point') return [item.point];
    if (item.kind === 'piece') return [item.curve];
    const only = path.uses.length === 1 ? sketch.curves[path.uses[0]!.curve] : undefined;
    return [only?.kind === 'circle' ? only.id : path.id];
  });
}

/** The sketch of what is chosen, or the first with something in it. */
export function useSketchState(job: JobDocument, drawn: Drawn, isTrue: boolean): SketchState | null {
  const selection = useSession((s) => s.selection);
  const condition = useSession((s) => s.condition);
  const part = useMemo(() => workedOut(job.part), [job.part]);
  const items = itemsOf(selection);
  const byCondition =
    condition === null ? undefined : sketchesOf(part).find((s) => s.constraints[condition] ?? s.dimensions[condition]);
  const ofChosen = items[0] ? sketchWith(part, items[0].path) : undefined;
  const sketch = byCondition ?? ofChosen ?? sketchesOf(part).find((s) => pathsIn(s).length > 0) ?? null;
  const { placeSeen, placeOf } = drawn;
  const places = useMemo(() => {
    if (!sketch || !isTrue) return null;
    const all = new Map<string, SeenPlace>();
    for (const id of [...Object.keys(sketch.points), ...Object.keys(sketch.picks)]) {
      const at = observationIn(sketch, id);
      const p = at && placeSeen(at);
      const beside = at && placeSeen({ ...at, uPx: at.uPx + 1 });
      const perPx = p && beside ? Math.hypot(beside.x - p.x, beside.y - p.y) : 0;
      if (p) all.set(id, { x: p.x, y: p.y, sigmaMm: at.sigmaPx * perPx });
    }
    return all;
  }, [sketch, placeSeen, isTrue]);
  const { data: told } = useSketchTold(sketch, places);
  const { data: measures } = useSizeMeasures(job, isTrue ? sketch : null);
  const chosen = useMemo(() => (sketch ? chosenIn(sketch, selection) : []), [sketch, selection]);
  return useMemo(() => {
    if (!sketch || !places) return null;
    const own: SketchState = {
      sketch,
      places,
      place: placeOf,
      told: told ?? null,
      measures: measures ?? NO_MEASURES,
      chosen,
    };
    return own;
  }, [sketch, places, placeOf, told, measures, chosen]);
}
