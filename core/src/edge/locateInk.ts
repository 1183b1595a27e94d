import type { Pixels } from '../raster';
import { locateEdges, locateGraduation } from './locate';
import type { Located, LocateOptions } from './settleSeat';

/** Ink broader than this is an area and not a line, and within this reach of a place both its edges are looked for, px. */
const INK = { widestPx: 16, searchPx: 16 } as const;
/** Both edges of a line run along one another: cosine of 20°. */
const ALONGSIDE = Math.cos(Math.PI / 9);

/**
 * A line by its middle, broad or thin: half way between two edges with dark between them, where both show; else as
 * `locateGraduation` has it. A broad line has two good edges, and whoever takes one of them for the line is off by half
 * its width, with a small ±.
 */
export function locateInk(pixels: Pixels, uPx: number, vPx: number, options: LocateOptions = {}): Located | null {
  const within = (searchPx: number) => middleOf(locateEdges(pixels, uPx, vPx, { ...options, searchPx }), uPx, vPx);
  const wide = Math.max(INK.searchPx, options.searchPx ?? 0);
  // What lies farther about may be in the way: the line is then looked for close by.
  return (
    within(wide) ?? (wide > INK.searchPx ? within(INK.searchPx) : null) ?? locateGraduation(pixels, uPx, vPx, options)
  );
}

/** Half way between those two edges that are the two sides of one dark line, the nearest one to a place. */
function middleOf(edges: readonly Located[], uPx: number, vPx: number): Located | null {
  let best: Located | null = null;
  let nearest = Number.POSITIVE_INFINITY;
  for (const [k, p] of edges.entries())
    for (const q of edges.slice(k + 1)) {
      // Normals lead from dark to light: those of a line's two edges lead away from each other.
      const facing = Math.cos(p.normal) * Math.cos(q.normal) + Math.sin(p.normal) * Math.sin(q.normal);
      if (facing > -ALONGSIDE) continue;
      const [du, dv] = [q.uPx - p.uPx, q.vPx - p.vPx];
      const width = du * Math.cos(q.normal) + dv * Math.sin(q.normal);
      if (!(width > 0) || width > INK.widestPx) continue;
      const [c, n] = [Math.cos(q.normal), Math.sin(q.normal)];
      // How far the middle line lies from where it was looked for; the place on it that is nearest to there is told.
      const across = ((p.uPx + q.uPx) / 2 - uPx) * c + ((p.vPx + q.vPx) / 2 - vPx) * n;
      if (Math.abs(across) >= nearest) continue;
      nearest = Math.abs(across);
      best = {
        ...q,
        uPx: uPx + across * c,
        vPx: vPx + across * n,
        kind: 'line',
        dark: true,
        sigmaPx: Math.hypot(p.sigmaPx, q.sigmaPx) / 2,
        softPx: Math.max(p.softPx, q.softPx) / 2,
      };
    }
  return best;
}
