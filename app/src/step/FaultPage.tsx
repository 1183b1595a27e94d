import { useState } from 'react';
import { useParams, useRouteError } from 'react-router';
import { Button, Notice } from '../kit';
import { useJob } from '../session/jobStore';
import { saveJobFile, saveStoredFile } from '../session/saveJobFile';
import { Mark } from './Mark';

/** What is shown where a page cannot be: what happened, and ways to the data and out of it. */
export function FaultPage({ sentence, detail, jobId }: { sentence: string; detail?: string; jobId?: string }) {
  const [saving, setSaving] = useState<'no' | 'busy' | 'nothing'>('no');
  const save = async () => {
    if (!jobId) return;
    setSaving('busy');
    const done = (await saveJobFile().catch(() => false)) || (await saveStoredFile(jobId).catch(() => false));
    setSaving(done ? 'no' : 'nothing');
  };
  return (
    <main className="mx-auto mt-24 max-w-xl px-6">
      <p className="mb-4 flex items-center gap-3 font-semibold text-[15px]">
        <Mark /> Steady Moth
      </p>
      <Notice tone="wrong">{sentence}</Notice>
      {detail && <p className="figure mt-2 break-words text-[12.5px] text-ink2">{detail}</p>}
      <div className="mt-5 flex flex-wrap gap-3">
        <Button strong onClick={() => window.location.assign('/')}>
          To the rack
        </Button>
        <Button onClick={() => window.location.reload()}>Try again</Button>
        {jobId && (
          <Button disabled={saving === 'busy'} onClick={() => void save()}>
            {saving === 'busy' ? 'Packing …' : 'Save the job as a file'}
          </Button>
        )}
      </div>
      {saving === 'nothing' && <Notice tone="doubt">Nothing is stored under this job's name in this browser.</Notice>}
    </main>
  );
}

/** A page that failed while it was drawn. */
export function RouteFault() {
  const error = useRouteError();
  const { id } = useParams();
  const unsaved = useJob((s) => s.id === id && s.keeping.kind !== 'kept');
  return (
    <FaultPage
      jobId={id}
      sentence={
        unsaved
          ? 'This page stopped with a fault of ours, before the last change was saved. Save the job as a file first.'
          : 'This page stopped with a fault of ours. Your jobs are safe in this browser.'
      }
      detail={error instanceof Error ? error.message : String(error)}
    />
  );
}
