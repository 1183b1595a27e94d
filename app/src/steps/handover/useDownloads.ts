import type { DxfOptions, ProfileFormat } from '@steady-moth/core/format';
import { titleOf } from '@steady-moth/core/format/body/prepare';
import { type FlatProfile, sheetOf } from '@steady-moth/core/format/profile';
import type { JobDocument } from '@steady-moth/core/job';
import { useState } from 'react';
import { files } from '../../compute';
import type { Drawn } from '../../part/useDrawn';
import { download, fileNameFor } from '../../session/download';
import { askQuestion, type Run } from '../../session/questions';
import { saveJobFile } from '../../session/saveJobFile';
import { today } from '../../session/today';

/** Files of the flat part and of the job: one is written at a time. */
export function useDownloads(job: JobDocument, drawn: Drawn, dxf: DxfOptions) {
  const [busy, setBusy] = useState<ProfileFormat | 'sheet' | 'job' | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const write = async (what: NonNullable<typeof busy>, failed: string, work: (run: Run) => Promise<void>) => {
    setBusy(what);
    setFault(null);
    await askQuestion({ says: () => 'Writing the file', failed, ask: (_: null, run) => work(run) }, null);
    setBusy(null);
  };
  return {
    busy,
    fault,
    handOver: (format: ProfileFormat, mime: string, profile: FlatProfile) =>
      write(
        format,
        `The ${format.toUpperCase()} file could not be written. Nothing was changed; please try again.`,
        async ({ signal }) => {
          const bytes = await files.call((w) => w.writeProfile(profile, format, dxf), { signal, endOnAbort: true });
          if (bytes) download(bytes, fileNameFor(job.name, format), mime);
        },
      ),
    handOverSheet: () =>
      write('sheet', 'The sheet could not be written. Nothing was changed; please try again.', async ({ signal }) => {
        const sheet = sheetOf(job, drawn.paths, drawn.settled, { title: titleOf(job), date: today() });
        const bytes = await files.call((w) => w.writeSheet(sheet), { signal, endOnAbort: true });
        if (bytes) download(bytes, fileNameFor(`${job.name} sheet`, 'pdf'), 'application/pdf');
      }),
    async packJob() {
      setBusy('job');
      setFault(null);
      const done = await saveJobFile().catch(() => false);
      if (!done) setFault("A picture of this job is missing from this browser's storage, so it cannot be packed.");
      setBusy(null);
    },
  };
}
