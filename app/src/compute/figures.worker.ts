import { distance, type Figure, figureOf, type PlanePick } from '@steady-moth/core/calibration';
import {
  type CalibrationRecord,
  type JobDocument,
  type MeasuredSegments,
  measureRun,
  type Run,
  type RunMeasures,
} from '@steady-moth/core/job';
import type { Measurable } from '@steady-moth/core/job/calibrated';
import { serve } from './serve';

const face = {
  /**
   * Lengths and areas of a run through the pictures that it was traced on, and the figures of some of its segments.
   * `points` are its own, `said` what was said of its picture, or of the first of joined ones.
   */
  async measureRun(
    through: Measurable,
    said: CalibrationRecord,
    points: JobDocument['part']['points'],
    run: Run,
    asked: MeasuredSegments,
  ): Promise<RunMeasures | null> {
    const on = new Set(Object.values(points).map((p) => p.picture));
    if (on.size > 1 && !through.over.joined) return null;
    return measureRun(points, run, on.size === 1 ? through.truing : through.over, said, asked);
  },

  async distance(through: Measurable, from: PlanePick, to: PlanePick): Promise<Figure | null> {
    return figureOf(through.over, [from, to], distance);
  },
};

export type FiguresFace = typeof face;

serve(face);
