import type { LengthUnit } from '@steady-moth/core/units';
import { type DragEvent, useEffect, useRef, useState } from 'react';
import { Act } from '../kit';
import { bringIn } from '../store/bringIn';

export interface Busy {
  name: string;
  share: number;
  cancel(): void;
}

/** Files taken in one go, each to its own job; and how many faults are told. */
const MOST_AT_ONCE = 40;
const MOST_FAULTS = 3;

async function bringInSafely(...args: Parameters<typeof bringIn>): ReturnType<typeof bringIn> {
  try {
    return await bringIn(...args);
  } catch {
    return { ok: false, sentence: 'It could not be read. Nothing was changed; please try again.' };
  }
}

/** Takes files from anywhere on the screen: dropped, pasted or chosen. */
export function useDropAnywhere(unit: LengthUnit, onJob: (id: string, isNew: boolean) => void) {
  const [busy, setBusy] = useState<Busy | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const take = async (list: readonly File[]) => {
    if (list.length === 0 || busy) return;
    const stop = new AbortController();
    const faults: string[] =
      list.length > MOST_AT_ONCE ? [`${list.length} files were dropped; the first ${MOST_AT_ONCE} are taken.`] : [];
    let last: { id: string; isNew: boolean } | null = null;
    let taken = 0;
    setFault(null);
    for (const file of list.slice(0, MOST_AT_ONCE)) {
      setBusy({ name: file.name, share: 0, cancel: () => stop.abort() });
      const brought = await bringInSafely(
        file,
        unit,
        (share) => setBusy({ name: file.name, share, cancel: () => stop.abort() }),
        stop.signal,
      );
      if (stop.signal.aborted) break;
      if (brought.ok) {
        taken += 1;
        last = { id: brought.jobId, isNew: !/\.moth$/i.test(file.name) };
      } else if (faults.length < MOST_FAULTS) faults.push(`${file.name}: ${brought.sentence}`);
    }
    setBusy(null);
    setFault(faults.length ? faults.join(' ') : null);
    // One file leads to its job; of several, each hangs on the rack.
    if (last && taken === 1 && list.length === 1) onJob(last.id, last.isNew);
  };
  const latest = useRef(take);
  latest.current = take;
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      const pasted = [...(event.clipboardData?.files ?? [])];
      if (pasted.length) void latest.current(pasted);
    };
    window.addEventListener('paste', onPaste);
    return () => window.removeEventListener('paste', onPaste);
  }, []);
  const handlers = {
    onDragOver: (event: DragEvent) => event.preventDefault(),
    onDrop: (event: DragEvent) => {
      event.preventDefault();
      void take([...event.dataTransfer.files]);
    },
  };
  return { busy, fault, take, handlers, dismiss: () => setFault(null) };
}

/** The empty place on the rack that says how to start. */
export function StartJob({ busy, onFiles }: { busy: Busy | null; onFiles(files: readonly File[]): void }) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <section
      aria-label="Start a job"
      className="flex min-h-[264px] flex-col items-start rounded border border-rust border-dashed p-7"
    >
      <h2 className="font-semibold text-[18px] text-rust">Start a job</h2>
      {busy ? (
        <div className="mt-3 w-full" aria-live="polite">
          <p className="truncate text-ink2">Reading {busy.name}</p>
          <progress
            className="my-2 w-full accent-rust"
            max={1}
            value={busy.share}
            aria-label={`Reading ${busy.name}`}
          />
          <Act onClick={busy.cancel}>Cancel</Act>
        </div>
      ) : (
        <>
          <p className="mt-2 text-[14px] text-ink2">
            Drop a photograph here: the thing beside a ruler, a coin or anything else of known length. JPEG, PNG, WebP,
            TIFF or HEIC; several start a job each.
          </p>
          <p className="mt-2 text-[14px] text-ink2">
            Flat-on, from far enough to zoom in, the ruler at the height of the face.
          </p>
          <div className="mt-4 flex flex-col gap-1.5">
            <Act onClick={() => input.current?.click()}>Choose a picture or a job file</Act>
          </div>
          <input
            ref={input}
            type="file"
            multiple
            accept="image/*,.heic,.heif,.tif,.tiff,.moth"
            aria-label="Picture or job file"
            className="sr-only"
            tabIndex={-1}
            onChange={(e) => {
              onFiles([...(e.target.files ?? [])]);
              e.target.value = '';
            }}
          />
        </>
      )}
    </section>
  );
}
