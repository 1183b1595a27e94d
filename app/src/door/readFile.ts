import { PRIORS } from '@steady-moth/core/calibration';
import { MOST } from '@steady-moth/core/job';
import type { LengthUnit } from '@steady-moth/core/units';
import { pages } from '../compute';
import { useJob } from '../session/jobStore';
import { keepThumb } from '../session/pixelsStore';
import { pagesSentence } from '../session/sentences';
import { useSession } from '../session/sessionStore';
import type { ArrivedPicture } from './arrival';
import { joining, startJob } from './keepArrivals';
import type { ChosenPages } from './PageChooser';
import { readArrival } from './readArrival';
import { readPicture, type Told } from './readPicture';

/** A vector page's own scale is exact but for the printer's rounding; a scan's in a page is believed as any scan's. */
const PAGE_SIGMA = { drawing: 1e-4, scan: PRIORS.sigmaResolution } as const;

export type Read =
  | { ok: true; pictures: ArrivedPicture[] }
  | { ok: true; jobId: string }
  | { ok: false; sentence: string | null };

/** Which pages of a document are wanted, and how fine; null for none of them. */
export type ChoosePages = (name: string, count: number, signal: AbortSignal) => Promise<ChosenPages | null>;

/** The pages of a document that somebody chooses, as pictures. */
async function readPages(
  name: string,
  bytes: Uint8Array,
  progress: (share: number) => void,
  signal: AbortSignal,
  choose: ChoosePages,
): Promise<Read> {
  const opened = await pages.call((w) => w.open(bytes), { signal, endOnAbort: true });
  if (!opened.ok) return { ok: false, sentence: pagesSentence(opened.reason) };
  const chosen = await choose(name, opened.pages, signal);
  const pictures: ArrivedPicture[] = [];
  for (const [k, page] of (chosen?.pages ?? []).entries()) {
    const share = (part: number) => progress((k + part) / (chosen?.pages.length ?? 1));
    const drawn = await pages.call((w) => w.draw(page, chosen?.perMm ?? 1), {
      signal,
      endOnAbort: true,
      silentMs: 60_000,
    });
    if (!drawn) return { ok: false, sentence: pagesSentence('not-drawn') };
    share(0.4);
    const kind = drawn.isScan ? 'scan' : 'drawing';
    const title = opened.pages > 1 ? `${name}, page ${page}` : name;
    const resolution = { perMmX: drawn.perMm, perMmY: drawn.perMm, sigma: PAGE_SIGMA[kind] };
    const told = { kind, resolution, outlines: null, zero: null, notes: [] } satisfies Told;
    const read = await readPicture(title, drawn.png, (s) => share(0.4 + 0.6 * s), signal, told);
    if (!read.ok) return read;
    if (read.kind === 'picture') pictures.push({ ...read.picture, name });
  }
  void pages.call((w) => w.close());
  return pictures.length ? { ok: true, pictures } : { ok: false, sentence: null };
}

/** One file, whatever it is. */
export async function readFile(
  file: File,
  progress: (share: number) => void,
  signal: AbortSignal,
  choose: ChoosePages,
): Promise<Read> {
  try {
    const arrival = await readArrival(file, progress, signal);
    if (!arrival.ok) return arrival;
    if (arrival.kind === 'pages') return await readPages(arrival.name, arrival.bytes, progress, signal, choose);
    return arrival.kind === 'job' ? { ok: true, jobId: arrival.jobId } : { ok: true, pictures: [arrival.picture] };
  } catch {
    return { ok: false, sentence: 'It could not be read. Nothing was changed; please try again.' };
  }
}

/** Keeps what was read; tells the job that it is in, and whether that is a new one. */
export async function keep(
  pictures: ArrivedPicture[],
  into: 'rack' | 'job',
  unit: LengthUnit,
): Promise<{ id: string } | { sentence: string }> {
  if (into === 'rack') {
    const started = await startJob(pictures[0]!.name, pictures, unit);
    return started.ok ? { id: started.jobId } : started;
  }
  const { state, mayWrite, apply } = useJob.getState();
  if (!state || !mayWrite) return { sentence: 'This job is open in another tab, so nothing can be added to it here.' };
  if (state.job.pictures.length + pictures.length > MOST.pictures)
    return { sentence: `A job holds up to ${MOST.pictures} pictures. Take one away first, or start another job.` };
  const { action, blobs, last } = joining(pictures);
  apply(action, blobs);
  for (const { hash } of blobs) void keepThumb(hash);
  useSession.getState().choosePicture(last);
  return { id: state.job.id };
}
