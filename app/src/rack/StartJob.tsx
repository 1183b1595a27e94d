import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { AdviceCard } from '../door/AdviceCard';
import { FileButton } from '../door/FileButton';
import type { Busy } from '../door/useDoor';
import { Act } from '../kit';
import { type FinishedDemo, finishedDemo, finishedDemos } from '../session/demo';

/** Demo jobs as they are when all is done, each once it is asked for. */
function FinishedDemos({ onFiles }: { onFiles(files: readonly File[]): void }) {
  const { data = [] } = useQuery({
    queryKey: ['finished-demos'],
    queryFn: finishedDemos,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const [fault, setFault] = useState(false);
  if (data.length === 0) return null;
  const open = async (demo: FinishedDemo) => {
    const file = await finishedDemo(demo);
    setFault(file === null);
    if (file) onFiles([file]);
  };
  return (
    <div className="mb-3 text-[13px] text-ink2">
      The demo jobs hang here as just a picture. Finished:
      <ul className="mt-0.5 flex flex-wrap gap-x-3">
        {data.map((demo) => (
          <li key={demo.file}>
            <Act onClick={() => void open(demo)}>{demo.job}</Act>
          </li>
        ))}
      </ul>
      {fault && <p role="alert">It could not be fetched. Is the server still running?</p>}
    </div>
  );
}

/** The empty place on the rack that says how to start. */
export function StartJob({ busy, onFiles }: { busy: Busy | null; onFiles(files: readonly File[]): void }) {
  return (
    <section
      aria-label="Start a job"
      className="flex min-h-[264px] flex-col items-start rounded border border-rust border-dashed p-5"
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
          <p className="mt-1 text-[13px] text-ink2">
            Drop or paste a photograph, a scan, a PDF, an SVG or a DXF anywhere here.
          </p>
          <AdviceCard className="my-3 w-full" />
          <FinishedDemos onFiles={onFiles} />
          <FileButton label="Choose a picture or a job file" name="Picture or job file" jobs onFiles={onFiles} />
        </>
      )}
    </section>
  );
}
