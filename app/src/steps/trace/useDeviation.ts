import type { Picture } from '@steady-moth/core/job';
import { type Deviation, deviationOf, type Probe, probesOf } from '@steady-moth/core/proof';
import type { PictureMap } from '@steady-moth/core/sketch';
import { useEffect, useRef, useState } from 'react';
import type { DrawnPath } from '../../part/useDrawn';
import { askQuestion, type QuestionKind } from '../../session/questions';
import { edgesAlong } from './edgesAlong';

const COMPARED: QuestionKind<{ picture: Picture; probes: Probe[]; mapper: PictureMap }, Deviation> = {
  says: () => 'Comparing with the picture’s edges',
  ask: async ({ picture, probes, mapper }, run) => deviationOf(probes, await edgesAlong(picture, probes, run), mapper),
};

export interface DeviationState {
  path: string | null;
  result: Deviation | null;
  isAsking: boolean;
  ask(own: DrawnPath, worn: Readonly<Record<string, true>>): void;
  drop(): void;
}

/** Holds one path against the picture's edges when asked, and forgets it once the path or the picture's map changed. */
export function useDeviation(picture: Picture, mapper: PictureMap, paths: readonly DrawnPath[]): DeviationState {
  const [own, setOwn] = useState<DrawnPath | null>(null);
  const [result, setResult] = useState<Deviation | null>(null);
  const [isAsking, setAsking] = useState(false);
  const stopping = useRef<AbortController | null>(null);
  const drop = () => {
    stopping.current?.abort();
    setOwn(null);
    setResult(null);
    setAsking(false);
  };
  const isStill = own !== null && paths.includes(own);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what it was told of is no longer what is there
  useEffect(() => {
    if (own && !isStill) drop();
  }, [isStill, mapper]);
  const ask = async (path: DrawnPath, worn: Readonly<Record<string, true>>) => {
    stopping.current?.abort();
    const mine = new AbortController();
    stopping.current = mine;
    setOwn(path);
    setResult(null);
    setAsking(true);
    const found = await askQuestion(COMPARED, { picture, probes: probesOf(path, worn, mapper), mapper }, mine.signal);
    if (mine !== stopping.current || mine.signal.aborted) return;
    setAsking(false);
    setResult(found);
  };
  return { path: own?.path.id ?? null, result, isAsking, ask: (path, worn) => void ask(path, worn), drop };
}
