import { distance, type Figure, figureOf, type PlanePick } from '@steady-moth/core/calibration';
import { type Form, findAxes, reduced, type Symmetry, type Vec2 } from '@steady-moth/core/geometry';
import {
  type CalibrationRecord,
  type MeasuredPieces,
  measureBodySize,
  measurePath,
  measureSizes,
  type PathMeasures,
  type Proposal,
  proposalsFor,
  type SizeMeasures,
  type SizeSource,
} from '@steady-moth/core/job';
import type { Measurable } from '@steady-moth/core/job/calibrated';
import { type CutPath, checkForms, type Flaw } from '@steady-moth/core/proof';
import {
  clustersOf,
  type Offer,
  offersFor,
  type Part,
  type Path,
  picturesOfPath,
  type SettledPlaces,
  type Sketch,
  type SketchTold,
  settleCluster,
  tellSketch,
} from '@steady-moth/core/sketch';
import { serve } from './serve';

const calls = {
  /**
   * Lengths and areas of a path through the pictures that it was traced on, and the figures of some of its pieces.
   * `sketch` is what it is made of, `said` what was said of its picture, or of the first of joined ones.
   */
  async measurePath(
    through: Measurable,
    said: CalibrationRecord,
    sketch: Sketch,
    path: Path,
    asked: MeasuredPieces,
  ): Promise<PathMeasures | null> {
    const on = picturesOfPath(sketch, path);
    if (on.length > 1 && !through.over.joined) return null;
    return on.length === 1
      ? measurePath(sketch, path, through.calibration, said, asked, through.frame)
      : measurePath(sketch, path, through.over, said, asked, through.overFrame);
  },

  /** The sizes of a sketch with their ±, settled and as they were seen, by their names. */
  async measureSizes(
    through: Measurable,
    said: CalibrationRecord,
    sketch: Sketch,
  ): Promise<Record<string, SizeMeasures>> {
    return measureSizes(sketch, Object.values(sketch.dimensions), through.over, said, through.overFrame);
  },

  /** A size of the body with its ±, by the pieces that it comes from. */
  async measureBodySize(
    through: Measurable,
    said: CalibrationRecord,
    part: Part,
    source: SizeSource,
  ): Promise<Figure | null> {
    return measureBodySize(part, source, through.over, said, through.overFrame);
  },

  /** What the form of a sketch seems to mean. */
  async propose(through: Measurable, said: CalibrationRecord, sketch: Sketch, unit: 'mm' | 'in'): Promise<Proposal[]> {
    // Whoever takes one gives it a name of its own.
    let count = 0;
    return proposalsFor(sketch, through.over, said, unit, through.overFrame, () => `proposal-${count++}`);
  },

  /** Settles clusters of a sketch, told by a point or a shape of each; `places`: where everything was seen, mm, y up. */
  async settle(
    sketch: Sketch,
    firsts: readonly string[],
    places: ReadonlyMap<string, Vec2>,
  ): Promise<(SettledPlaces | null)[]> {
    const { of } = clustersOf(sketch);
    return firsts.map((id) => {
      const cluster = of.get(id);
      if (!cluster) return null;
      const found = settleCluster(sketch, cluster, (p) => places.get(p) ?? null);
      // What it was worked out with stays here: it is large, and of no use elsewhere.
      const { lost } = found;
      return found.ok ? { ok: true, places: found.places, lost } : { ok: false, reason: found.reason, lost };
    });
  },

  /** What is free, said twice, or contradicts itself in a sketch; `places`: where everything was seen, mm, y up, and how well. */
  async tellSketch(sketch: Sketch, places: ReadonlyMap<string, SeenPlace>): Promise<SketchTold> {
    return tellSketch(
      sketch,
      (id) => places.get(id) ?? null,
      (id) => places.get(id)?.sigmaMm ?? null,
    );
  },

  /** Relations that fit what is chosen, each tried. */
  async offer(sketch: Sketch, chosen: readonly string[], places: ReadonlyMap<string, SeenPlace>): Promise<Offer[]> {
    return offersFor(sketch, chosen, (id) => places.get(id) ?? null);
  },

  async checkForms(paths: readonly CutPath[]): Promise<Flaw[]> {
    return checkForms(paths);
  },

  async findAxes(forms: readonly Form[]): Promise<Symmetry[]> {
    return findAxes(forms);
  },

  /** Forms told by fewer pieces, and how far they stray, mm. */
  async reduce(forms: readonly Form[], toleranceMm: number): Promise<{ forms: Form[]; largestMm: number }> {
    let largestMm = 0;
    const made = forms.map((form): Form => {
      if (form.kind === 'circle') return form;
      const told = reduced(form.segments, form.closed, toleranceMm);
      largestMm = Math.max(largestMm, told.largestMm);
      return { ...form, segments: told.segments };
    });
    return { forms: made, largestMm };
  },

  async distance(through: Measurable, from: PlanePick, to: PlanePick): Promise<Figure | null> {
    return figureOf(through.over, [from, to], distance);
  },
};

/** Where something was seen, mm, y up, and its scatter. */
export interface SeenPlace {
  x: number;
  y: number;
  sigmaMm: number;
}

export type FiguresCalls = typeof calls;

serve(calls);
