import type { LengthUnit } from '@steady-moth/core/units';
import { type DragEvent, useEffect, useRef, useState } from 'react';
import { Act } from '../kit';
import { bringIn } from '../store/bringIn';

export interface Busy {
  name: string;
  share: number;
  cancel(): void;
}

/** Takes files from anywhere on the screen: dropped, pasted or chosen. */
export function useDropAnywhere(unit: LengthUnit, onJob: (id: string, isNew: boolean) => void) {
  const [busy, setBusy] = useState<Busy | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const take = async (list: readonly File[]) => {
    const [file] = list;
    if (!file) return;
    const stop = new AbortController();
    const show = (share: number) => setBusy({ name: file.name, share, cancel: () => stop.abort() });
    setFault(null);
    show(0);
    try {
      const brought = await bringIn(file, unit, show, stop.signal);
      if (brought.ok) onJob(brought.jobId, !/\.moth$/i.test(file.name));
      else setFault(`${file.name}: ${brought.sentence}`);
      if (list.length > 1) setFault('Only the first of these files was taken: a job starts with one picture.');
    } catch {
      if (!stop.signal.aborted) setFault(`${file.name} could not be read. Nothing was changed; please try again.`);
    } finally {
      setBusy(null);
    }
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
            Drop a photograph here: the thing beside a ruler, a coin or anything else of known length.
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
