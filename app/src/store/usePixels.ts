import type { Picture } from '@steady-moth/core/job';
import * as Comlink from 'comlink';
import { useEffect, useState } from 'react';
import { database } from '../storage';
import { pixels } from '../workers';

export type PixelsState =
  | { kind: 'none' }
  | { kind: 'loading'; share: number; cancel(): void }
  | { kind: 'ready' }
  | { kind: 'failed'; sentence: string }
  | { kind: 'cancelled'; again(): void };

/** Which picture's pixels the worker holds: going between steps does not decode it again. */
let held: string | null = null;

/** Loads the picture's own pixels into the worker, once. */
export function usePixels(picture: Picture | null): PixelsState {
  const [state, setState] = useState<PixelsState>({ kind: 'none' });
  const [attempt, setAttempt] = useState(0);
  const blob = picture?.blob ?? null;
  // biome-ignore lint/correctness/useExhaustiveDependencies: an attempt is counted up to try again
  useEffect(() => {
    if (!blob) {
      setState({ kind: 'none' });
      return;
    }
    if (held === blob) {
      setState({ kind: 'ready' });
      return;
    }
    let over = false;
    const cancel = () => {
      over = true;
      held = null;
      pixels.dismiss();
      setState({ kind: 'cancelled', again: () => setAttempt((n) => n + 1) });
    };
    const progress = (share: number) => {
      if (!over) setState({ kind: 'loading', share, cancel });
    };
    progress(0);
    held = null;
    const load = async () => {
      const row = await database.blobs.get(blob);
      if (!row) throw new Error('missing');
      const { thumb } = await pixels.call((w) => w.load(row.bytes, Comlink.proxy(progress)));
      // A picture that came in with a job file has no small copy for the rack yet.
      if (!row.thumb) await database.blobs.update(blob, { thumb });
    };
    load().then(
      () => {
        if (over) return;
        held = blob;
        setState({ kind: 'ready' });
      },
      () => {
        if (!over)
          setState({
            kind: 'failed',
            sentence: 'This picture cannot be shown: its pixels could not be read. The traces are safe.',
          });
      },
    );
    return () => {
      over = true;
    };
  }, [blob, attempt]);
  return state;
}

/** Said by whoever had the worker load something else: which picture it holds now, null while that is not sure. */
export function sayHeldPixels(blob: string | null): void {
  held = blob;
}
