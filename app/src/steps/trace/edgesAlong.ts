import type { PicturePoint } from '@steady-moth/core/calibration';
import type { Picture } from '@steady-moth/core/job';
import type { Probe } from '@steady-moth/core/proof';
import { inkOf } from '../../board/inkOf';
import { pixels } from '../../compute';

/** Places asked in one go: so that progress is told, and what was given up ends soon. */
const AT_ONCE = 24;

/**
 * The picture's edge at each place, null where there is none. `onShare` is told the share that is done, and says by false
 * that nobody waits any more.
 */
export async function edgesAlong(
  picture: Picture,
  probes: readonly Probe[],
  onShare: (share: number) => boolean = () => true,
): Promise<(PicturePoint | null)[]> {
  const edges: (PicturePoint | null)[] = [];
  for (let k = 0; k < probes.length && onShare(k / probes.length); k += AT_ONCE) {
    const places = probes.slice(k, k + AT_ONCE).map((p) => p.picture);
    const found = await pixels.call((w) => w.edgesAt(picture.blob, places, inkOf(picture))).catch(() => null);
    edges.push(...(found ?? places.map(() => null)));
  }
  return edges;
}
