import type { FoundThing } from '@steady-moth/core/find';
import type { Picture } from '@steady-moth/core/job';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { searching } from '../../compute';
import { usePixelsStore } from '../../session/pixelsStore';
import { database } from '../../session/storage';

export interface Search {
  state: 'off' | 'looking' | 'done';
  found: readonly FoundThing[];
  stop(): void;
}

const NOTHING: readonly FoundThing[] = [];

/**
 * Searches a picture of which nothing is known yet, once it is shown: in the background, on a thread of its own that
 * ends with the search. What was found stays found while the page is open.
 */
export function useSearch(picture: Picture): Search {
  const [stopped, setStopped] = useState<string | null>(null);
  const { blob, calibration, locked, kind } = picture;
  const isShown = usePixelsStore((s) => s.held.includes(blob));
  const wanted = calibration.references.length === 0 && !locked && kind !== 'drawing' && stopped !== blob;
  const { data, isFetching } = useQuery({
    queryKey: ['search', blob],
    queryFn: async ({ signal }) => {
      const row = await database.blobs.get(blob);
      if (!row) return [];
      try {
        return await searching.call((w) => w.search(row.bytes), { signal, endOnAbort: true, silentMs: LONGEST_MS });
      } finally {
        searching.terminate();
      }
    },
    enabled: wanted && isShown,
    retry: false,
    gcTime: Number.POSITIVE_INFINITY,
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (!wanted) return { state: 'off', found: NOTHING, stop: () => {} };
  return {
    state: isFetching ? 'looking' : data ? 'done' : 'off',
    found: data ?? NOTHING,
    stop: () => setStopped(blob),
  };
}

/** A picture of 120 megapixels is decoded and searched in one go, on a slow machine too. */
const LONGEST_MS = 120_000;
