import type { Picture } from '@steady-moth/core/job';
import { type Deviation, deviationOf, probesOf } from '@steady-moth/core/proof';
import type { PictureMap } from '@steady-moth/core/sketch';
import { useEffect, useRef, useState } from 'react';
import type { DrawnPath } from '../../part/useDrawn';
import { edgesAlong } from './edgesAlong';

export interface DeviationState {
  path: string | null;
  result: Deviation | null;
  /** Share that is done; null while nothing is asked. */
  share: number | null;
  ask(own: DrawnPath, worn: Readonly<Record<string, true>>): void;
  drop(): void;
}

/** Holds one path against the picture's edges when asked, and forgets it once the path or the picture's map changed. */
export function useDeviation(picture: Picture, mapper: PictureMap, paths: readonly DrawnPath[]): DeviationState {
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
    const edges = await edgesAlong(picture, probes, (done) => {
      const isWanted = mine === run.current;
      if (isWanted) setShare(done);
      return isWanted;
    });
    if (mine !== run.current) return;
    setShare(null);
    setResult(deviationOf(probes, edges, mapper));
  };
  return { path: own?.path.id ?? null, result, share, ask: (path, worn) => void ask(path, worn), drop };
}
