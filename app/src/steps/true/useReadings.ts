import type { Picture } from '@steady-moth/core/job';
import { heldTogether, type ReadDimension, type RulerFigures } from '@steady-moth/core/read';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { openReading } from '../../compute';
import type { ReadingCalls } from '../../compute/reading.worker';
import { usePixelsStore } from '../../session/pixelsStore';
import { database } from '../../session/storage';
import type { FoundRuler } from './trueStore';

/** Letters of a picture of 120 megapixels are read in one go, on a slow machine too. */
const LONGEST_MS = 120_000;

async function read<T>(
  blob: string,
  work: (frame: ReadingCalls, bytes: Blob) => Promise<T>,
  nothing: T,
  signal: AbortSignal,
): Promise<T> {
  const row = await database.blobs.get(blob);
  if (!row) return nothing;
  const reading = openReading();
  try {
    return await reading.call((w) => work(w, row.bytes), { signal, silentMs: LONGEST_MS });
  } finally {
    // At once, where it was given up too: the next one does not wait for it.
    reading.terminate();
  }
}

const FOREVER = { retry: false, gcTime: Number.POSITIVE_INFINITY, staleTime: Number.POSITIVE_INFINITY } as const;

/** What the figures of a ruler say; undefined while they are read. */
export type RulerSaid = RulerFigures | null | undefined;

const keyOf = ({ from, to, count }: FoundRuler) => [from.uPx, from.vPx, to.uPx, to.vPx, count];

/** Reads the figures of rulers that were found, on a thread of its own that ends with it. */
export function useRulerFigures({ blob }: Picture, rulers: readonly FoundRuler[]): RulerSaid[] {
  const client = useQueryClient();
  const queryKey = ['figures read', blob, ...rulers.map(keyOf)];
  const { data, isError } = useQuery({
    queryKey,
    queryFn: ({ signal }) =>
      read<(RulerFigures | null)[]>(
        blob,
        (w, bytes) =>
          w.rulers(
            bytes,
            rulers.map(({ graduations, families, count }) => ({ graduations, families: [...families], count })),
          ),
        [],
        signal,
      ),
    enabled: rulers.length > 0,
    ...FOREVER,
  });
  const name = JSON.stringify(queryKey);
  useEffect(() => () => void client.cancelQueries({ queryKey: JSON.parse(name) }), [client, name]);
  return rulers.map((_, k) => (data ? (data[k] ?? null) : isError ? null : undefined));
}

export interface DimensionsRead {
  state: 'off' | 'reading' | 'done';
  read: readonly ReadDimension[];
  stop(): void;
}

const NONE: readonly ReadDimension[] = [];

/** Reads the printed dimensions of a page of which no length is known yet, once it is shown and nobody draws on it. */
export function useDimensionsRead(picture: Picture, isIdle: boolean): DimensionsRead {
  const client = useQueryClient();
  const { blob, calibration, locked, kind } = picture;
  const isShown = usePixelsStore((s) => s.held.includes(blob));
  const wanted = kind !== 'photo' && calibration.references.length === 0 && !locked;
  const may = wanted && isShown && isIdle;
  const { data, isFetching } = useQuery({
    queryKey: ['dimensions read', blob],
    queryFn: ({ signal }) => read<ReadDimension[]>(blob, (w, bytes) => w.drawing(bytes), [], signal),
    enabled: may,
    ...FOREVER,
  });
  const stop = () => void client.cancelQueries({ queryKey: ['dimensions read', blob] });
  useEffect(() => {
    if (!may && isFetching) void client.cancelQueries({ queryKey: ['dimensions read', blob] });
  }, [may, isFetching, client, blob]);
  if (!wanted) return { state: 'off', read: NONE, stop };
  return { state: isFetching ? 'reading' : data ? 'done' : 'off', read: data ?? NONE, stop };
}

/** A dimension as it was read or corrected, held against the others; which of those read it is. */
export type HeldDimension = ReadDimension & { index: number };

/** Dimensions with what a person put right, or left out (null), of them: all are held against each other anew. */
export function useCorrections(read: readonly ReadDimension[]): {
  held: readonly HeldDimension[];
  correct(index: number, value: number | null): void;
} {
  const [said, setSaid] = useState<{ of: readonly ReadDimension[]; values: Record<number, number | null> }>({
    of: read,
    values: {},
  });
  // What was said of another page is not meant of this one.
  const values = said.of === read ? said.values : NO_VALUES;
  const held = useMemo(() => {
    const kept = read.flatMap((d, index) =>
      values[index] === null ? [] : [{ ...d, value: values[index] ?? d.value, index }],
    );
    return heldTogether(kept).map((d, k) => ({ ...d, index: kept[k]!.index }));
  }, [read, values]);
  return { held, correct: (index, value) => setSaid({ of: read, values: { ...values, [index]: value } }) };
}

const NO_VALUES: Record<number, number | null> = {};
