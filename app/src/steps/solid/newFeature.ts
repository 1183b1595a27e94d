import type { JobDocument } from '@steady-moth/core/job';
import { type Feature, type Path, pathsIn, type Sketch, sketchesOf, TURNED } from '@steady-moth/core/sketch';
import type { SideName } from '@steady-moth/core/solid';
import { FEATURE_WORDS } from './words';

/** A sketch that something could be made of, and how it is called. */
export interface Ground {
  sketch: Sketch;
  name: string;
  paths: readonly Path[];
  /** From where its view shows the part. */
  side: SideName;
}

/** Sketches with paths, called by their view. */
export function groundsOf({ part, pictures }: JobDocument): Ground[] {
  const views = new Map(pictures.flatMap((p) => p.views.map((v) => [v.id, v] as const)));
  return sketchesOf(part).flatMap((sketch) => {
    const paths = pathsIn(sketch);
    const { view } = sketch.frame;
    return paths.length > 0
      ? [
          {
            sketch,
            paths,
            name: view === null ? 'outside all views' : (views.get(view)?.name ?? ''),
            side: (view === null ? null : views.get(view)?.side) ?? 'top',
          },
        ]
      : [];
  });
}

/** Whether a path was traced on a turned part. */
const isTurned = ({ points }: Sketch): boolean =>
  Object.values(points).some(({ at }) => at.kind === 'observed' && at.plane === TURNED);

export const isCircle = (sketch: Sketch, path: Path): boolean =>
  path.uses.length === 1 && sketch.curves[path.uses[0]!.curve]?.kind === 'circle';

export type NewKind = Feature['kind'] | 'view-cut';

const number = (text: string) => ({ text, unit: 'number' as const });

/** A feature as it begins: of what the job has most likely for it; null where it has nothing. */
export function newFeature(kind: NewKind, job: JobDocument, id: string): Feature | null {
  const { unit } = job;
  const length = (mm: string, inch: string) => ({ text: unit === 'in' ? inch : mm, unit });
  const grounds = groundsOf(job);
  const used = new Set(job.part.features.flatMap((f) => ('sketch' in f ? [f.sketch] : [])));
  const base = grounds.find((g) => used.has(g.sketch.id)) ?? grounds[0];
  if (!base) return null;
  const of = { id, name: FEATURE_WORDS[kind === 'view-cut' ? 'extrude' : kind], does: 'add' as const };
  const sketch = base.sketch.id;
  const flat = { draft: number('0'), wall: null, laid: { by: 'low', length: 'own' } } as const;
  switch (kind) {
    case 'extrude':
      return {
        ...of,
        ...flat,
        kind,
        sketch,
        paths: null,
        heights: { from: { text: '0', unit }, to: length('3', '1/8') },
      };
    case 'view-cut': {
      const other = grounds.find((g) => g !== base) ?? base;
      return {
        ...of,
        ...flat,
        kind: 'extrude',
        name: 'Cut by view',
        does: 'keep',
        sketch: other.sketch.id,
        paths: null,
        heights: null,
      };
    }
    case 'revolve': {
      const turned = grounds.find((g) => isTurned(g.sketch)) ?? base;
      const line = turned.paths.find((p) => p.role === 'centre-line');
      const path = turned.paths.find((p) => p.role === 'cut') ?? turned.paths[0]!;
      return {
        ...of,
        kind,
        sketch: turned.sketch.id,
        path: path.id,
        axis: isTurned(turned.sketch) ? null : (line?.id ?? null),
        degrees: number('360'),
      };
    }
    case 'dome': {
      // Lines of two views: an open one of each where there is one.
      const line = ({ paths }: Ground) => paths.find((p) => !p.closed && p.role !== 'centre-line') ?? paths[0]!;
      const views = grounds.filter((g) => g !== base || grounds.length < 3);
      // Without lines in two views it is typed.
      const isDrawn = views.length > 1;
      const [first, second] = isDrawn ? (views as [Ground, Ground]) : [base, base];
      return {
        ...of,
        does: 'cut',
        kind,
        sketch: first.sketch.id,
        path: line(first).id,
        acrossSketch: second.sketch.id,
        across: line(second).id,
        bow: isDrawn ? null : { by: 'height', along: null, across: length('1', '1/32') },
        from: 'end',
        laid: 'body',
      };
    }
    case 'marks': {
      const marks = base.paths.filter((p) => p.role === 'mark');
      const paths = (marks.length > 0 ? marks : base.paths.slice(0, 1)).map((p) => p.id);
      return { ...of, does: 'cut', kind, sketch, paths, by: length('0.5', '1/64'), width: length('1', '1/32') };
    }
    case 'holes': {
      const circles = base.paths.filter((p) => isCircle(base.sketch, p));
      const drilled = circles.filter((p) => p.role === 'drill');
      const paths = (drilled.length > 0 ? drilled : circles).map((p) => p.id);
      if (paths.length === 0) return null;
      return {
        ...of,
        does: 'cut',
        kind,
        sketch,
        paths,
        diameter: null,
        depth: null,
        from: 'end',
        head: { kind: 'none' },
      };
    }
    case 'edges':
      return { ...of, kind, how: 'round', size: length('0.5', '1/64'), which: { kind: 'outer' } };
    case 'hollow':
      return { ...of, kind, wall: length('2', '1/16'), open: [] };
    case 'repeat': {
      const last = job.part.features.findLast((f) => f.kind !== 'edges' && f.kind !== 'hollow' && f.kind !== 'repeat');
      if (!last) return null;
      return { ...of, kind, of: [last.id], how: { kind: 'mirror', across: 'x', at: { text: '0', unit } } };
    }
  }
}
