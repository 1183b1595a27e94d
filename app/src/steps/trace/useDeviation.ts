import type { PicturePoint } from '@steady-moth/core/calibration';
import type { Picture } from '@steady-moth/core/job';
import { useEffect, useRef, useState } from 'react';
import { inkOf } from '../../board/inkOf';
import { pixels } from '../../compute';
import type { BoardMapper } from '../../frames/boardMap';
import { type Deviation, deviationOf, probesOf } from './deviation';
import type { DrawnPath } from './useDrawn';

/** Places asked in one go: so that progress is told, and what was given up ends soon. */
const AT_ONCE = 24;

export interface DeviationState {
  path: string | null;
  result: Deviation | null;
  /** Share that is done; null while nothing is asked. */
  share: number | null;
  ask(own: DrawnPath, worn: Readonly<Record<string, true>>): void;
  drop(): void;
}

/** Holds one path against the picture's edges when asked, and forgets it once the path or the picture's map changed. */
export function useDeviation(picture: Picture, mapper: BoardMapper, paths: readonly DrawnPath[]): DeviationState {
  const [own, setOwn] = useState<DrawnPath | null>(null);
  const [result, setResult] = useState<Deviation | null>(null);
  const [share, setShare] = useState<number | null>(null);
  const run = useRef(0);
  const drop = () => {
    run.current += 1;
    setOwn(null);
    setResult(null);
    setShare(null);
  };
  const isStill = own !== null && paths.includes(own);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what it was told of is no longer what is there
  useEffect(() => {
    if (own && !isStill) drop();
  }, [isStill, mapper]);
  const ask = async (path: DrawnPath, worn: Readonly<Record<string, true>>) => {
    const mine = ++run.current;
    setOwn(path);
    setResult(null);
    const probes = probesOf(path, worn, mapper);
    const edges: (PicturePoint | null)[] = [];
    for (let k = 0; k < probes.length; k += AT_ONCE) {
      setShare(k / probes.length);
      const places = probes.slice(k, k + AT_ONCE).map((p) => p.picture);
      const found = await pixels.call((w) => w.edgesAt(picture.blob, places, inkOf(picture))).catch(() => null);
      if (mine !== run.current) return;
      edges.push(...(found ?? places.map(() => null)));
    }
    setShare(null);
    setResult(deviationOf(probes, edges, mapper));
  };
  return { path: own?.path.id ?? null, result, share, ask: (path, worn) => void ask(path, worn), drop };
}
