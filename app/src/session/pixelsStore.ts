import type { Picture } from '@steady-moth/core/job';
import * as Comlink from 'comlink';
import { useEffect } from 'react';
import { create } from 'zustand';
import { pixels } from '../compute';
import type { LoadedPixels } from '../compute/pixels.worker';
import { database, roomFor } from './storage';

interface PixelsStore {
  /** The pictures whose pixels the worker holds, by hash. */
  held: readonly string[];
  loading: { blob: string; share: number } | null;
  /** Pictures that could not be loaded, or whose loading was cancelled. */
  given: Readonly<Record<string, 'failed' | 'cancelled'>>;
}

/** Which pixels are at hand: going between steps and pictures does not decode them again. */
export const usePixelsStore = create<PixelsStore>(() => ({ held: [], loading: null, given: {} }));

const { setState, getState } = usePixelsStore;

// Whatever it held is gone with the worker; what is wanted is loaded again by the next one.
pixels.onEnd(() => setState({ held: [], loading: null }));

/** A picture of 120 megapixels is decoded in one go, on a slow machine too. */
const LONGEST_DECODE_MS = 120_000;

/** Decodes a picture's bytes in the worker, which then holds its pixels. */
export async function loadBytes(
  blob: string,
  bytes: Blob,
  progress: (share: number) => void,
  signal?: AbortSignal,
): Promise<LoadedPixels> {
  const loaded = await pixels.call((w) => w.load(blob, bytes, Comlink.proxy(progress)), {
    signal,
    endOnAbort: true,
    silentMs: LONGEST_DECODE_MS,
  });
  setState({ held: loaded.held });
  return loaded;
}

async function loadStored(blob: string): Promise<void> {
  setState({ loading: { blob, share: 0 } });
  const over = () => getState().loading?.blob !== blob;
  try {
    const row = await database.blobs.get(blob);
    if (!row) throw new Error('missing');
    await loadBytes(blob, row.bytes, (share) => {
      if (!over()) setState({ loading: { blob, share } });
    });
    // A picture that came in with a job file has no small copy for the rack yet.
    if (!row.thumb) void keepThumb(blob);
  } catch {
    if (!over()) setState((s) => ({ given: { ...s.given, [blob]: 'failed' } }));
  }
  if (!over()) setState({ loading: null });
}

/** The small copy is made once the picture itself had its turn on the board. */
const THUMB_DELAY_MS = 1500;

/** Stores a small copy of a loaded picture beside its bytes, for the rack. */
export async function keepThumb(blob: string): Promise<void> {
  await new Promise((resolve) => setTimeout(resolve, THUMB_DELAY_MS));
  const thumb = await pixels.call((w) => w.thumb(blob)).catch(() => null);
  // The picture is written again with it; on a full disk it can do without.
  const row = thumb && (await database.blobs.get(blob));
  if (row && (await roomFor(row.bytes.size + thumb.size)) === 'plenty') await database.blobs.update(blob, { thumb });
}

export function cancelLoading(): void {
  const { loading } = getState();
  if (!loading) return;
  setState((s) => ({ given: { ...s.given, [loading.blob]: 'cancelled' } }));
  pixels.terminate();
}

export function loadAgain(blob: string): void {
  setState((s) => {
    const { [blob]: _, ...given } = s.given;
    return { given };
  });
}

/** Pixels shown at once; more pictures than that are kept off the board until others are hidden. */
const MOST_SHOWN_PX = 150e6;

/** Of pictures, the first the most wanted, those that can be held together. */
export function shownTogether(pictures: readonly Picture[]): Picture[] {
  let left = MOST_SHOWN_PX;
  return pictures.filter(({ facts }, k) => {
    left -= facts.widthPx * facts.heightPx;
    return k === 0 || left >= 0;
  });
}

/** Has these pictures' pixels loaded, one after another, the first first. */
export function useLoadPixels(blobs: readonly string[]): void {
  const { held, loading, given } = usePixelsStore();
  const next = blobs.find((blob) => !held.includes(blob) && !given[blob]);
  useEffect(() => {
    if (next && !loading) void loadStored(next);
  }, [next, loading]);
}

export const useIsHeld = (blob: string | null): boolean =>
  usePixelsStore((s) => blob !== null && s.held.includes(blob));
