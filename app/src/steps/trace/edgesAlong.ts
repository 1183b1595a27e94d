import type { PicturePoint } from '@steady-moth/core/calibration';
import type { Picture } from '@steady-moth/core/job';
import type { Probe } from '@steady-moth/core/proof';
import { inkOf } from '../../board/inkOf';
import { pixels } from '../../compute';
import type { Run } from '../../session/questions';

/** Places asked in one go: so that progress is told, and what was given up ends soon. */
const AT_ONCE = 24;

/** The picture's edge at each place, null where there is none. */
export async function edgesAlong(
  picture: Picture,
  probes: readonly Probe[],
  { signal, progress }: Run,
): Promise<(PicturePoint | null)[]> {
  const edges: (PicturePoint | null)[] = [];
  for (let k = 0; k < probes.length; k += AT_ONCE) {
    progress(k / probes.length);
    const places = probes.slice(k, k + AT_ONCE).map((p) => p.picture);
    edges.push(...(await pixels.call((w) => w.edgesAt(picture.blob, places, inkOf(picture)), signal)));
  }
  return edges;
}
