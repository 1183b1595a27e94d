import type { Vec2 } from '../geometry';
import type { JobDocument } from '../job';
import {
  clustersOf,
  type Id,
  type Observation,
  observationIn,
  type PictureMap,
  type Placer,
  seenOf,
  settleCluster,
  sketchesOf,
  workedOut,
} from '../sketch';
import type { Traced } from './setting';

/** What went at least this far, mm, went along; less is rounding. */
const LED_MM = 1e-6;

/**
 * What is led somewhere takes along what relations and sizes tie to it: all of that is said anew where it then lies, so
 * that nothing springs back once it is let go.
 */
export function ledWith(
  moves: Readonly<Record<Id, Observation>>,
  { job, drawn, mapper }: { job: JobDocument; drawn: Pick<Traced, 'placeSeen' | 'settled'>; mapper: PictureMap },
): Record<Id, Observation> {
  const all: Record<Id, Observation> = { ...moves };
  for (const sketch of sketchesOf(workedOut(job.part))) {
    const placed = (at: Observation | undefined): Vec2 | null => (at ? drawn.placeSeen(at) : null);
    for (const cluster of clustersOf(sketch).all) {
      const seen = seenOf(sketch, cluster);
      const grabbed = new Set(seen.filter((id) => Object.hasOwn(moves, id)));
      if (grabbed.size === 0) continue;
      // What was worked out while it was dragged need not be worked out again.
      const drag = drawn.settled.get(sketch.id)?.drags.get(cluster);
      const rest = drag?.rest ?? settleCluster(sketch, cluster, (id) => placed(observationIn(sketch, id)));
      const pulled: Placer = (id) => placed(moves[id] ?? observationIn(sketch, id));
      const led = settleCluster(sketch, cluster, pulled, grabbed, drag?.last ?? null);
      if (!rest.ok || !led.ok) continue;
      for (const [id, place] of led.places) {
        const [was, before] = [rest.places.get(id), observationIn(sketch, id)];
        if (!before || !was || Math.hypot(was.x - place.x, was.y - place.y) < LED_MM) continue;
        // By as much as it moved: how it was seen apart from the others stays what it was.
        const own = placed(before);
        const spot = own && mapper.toPicture({ x: own.x + place.x - was.x, y: own.y + place.y - was.y });
        if (spot) all[id] = { ...(moves[id] ?? { ...before, snappedTo: 'free', neighbouringEdge: null }), ...spot };
      }
    }
  }
  return all;
}
