import type { JobDocument, Picture } from '@steady-moth/core/job';
import { useMemo } from 'react';
import { type BoardFrame, boardMapper } from '../frames/boardMap';
import { useGroup } from '../session/group';
import type { AimSource } from './useAim';

/** The pictures joined with the one worked on, to be aimed at where they are shown on its board. */
export function useJoinedSources(
  job: JobDocument,
  picture: Picture,
  frames: ReadonlyMap<string, BoardFrame>,
): AimSource[] {
  const group = useGroup(job, picture);
  return useMemo(
    () =>
      job.pictures.flatMap(({ id, blob, facts, shown }): AimSource[] => {
        const frame = frames.get(id);
        const isJoined = id !== picture.id && group?.pictures.some((p) => p.id === id);
        if (!frame || !isJoined || !shown) return [];
        return [{ id, blob, widthPx: facts.widthPx, heightPx: facts.heightPx, mapper: boardMapper(frame) }];
      }),
    [job.pictures, picture.id, group, frames],
  );
}
