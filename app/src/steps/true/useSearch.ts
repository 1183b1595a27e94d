import type { FoundThing } from '@steady-moth/core/find';
import type { Picture } from '@steady-moth/core/job';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
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
 * Searches a picture of which nothing is known yet, once it is shown and nobody has taken anything up: in the
 * background, on a thread of its own that ends with the search. What was found stays found while the page is open.
 */
export function useSearch(picture: Picture, isTrue: boolean, isIdle: boolean): Search {
  const client = useQueryClient();
  const [stopped, setStopped] = useState<string | null>(null);
  const [waited, setWaited] = useState(false);
  const { blob, calibration, locked, kind } = picture;
  const isShown = usePixelsStore((s) => s.held.includes(blob));
  const wanted = !isTrue && calibration.references.length === 0 && !locked && kind !== 'drawing' && stopped !== blob;
  const may = wanted && isShown && isIdle;
  // Somebody in a hurry has a tool in hand before that: the machine is theirs.
  useEffect(() => {
    if (!may) return;
    const soon = setTimeout(() => setWaited(true), FIRST_MS);
    return () => {
      clearTimeout(soon);
      setWaited(false);
    };
  }, [may]);
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
    enabled: may && waited,
    retry: false,
    gcTime: Number.POSITIVE_INFINITY,
    staleTime: Number.POSITIVE_INFINITY,
  });
  useEffect(() => {
    if (!may && isFetching) void client.cancelQueries({ queryKey: ['search', blob] });
  }, [may, isFetching, client, blob]);
  if (!wanted) return { state: 'off', found: NOTHING, stop: () => {} };
  return {
    state: isFetching ? 'looking' : data ? 'done' : 'off',
    found: data ?? NOTHING,
    stop: () => setStopped(blob),
  };
}

/** So long after the picture is shown, ms. */
const FIRST_MS = 800;

/** A picture of 120 megapixels is decoded and searched in one go, on a slow machine too. */
const LONGEST_MS = 120_000;
