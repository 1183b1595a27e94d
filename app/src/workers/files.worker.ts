import type { FlatProfile, JobFileResult, PackedJob } from '@steady-moth/core/format';
import { digest } from '@steady-moth/core/format/digest';
import { type FileFacts, readFacts, type SniffResult, sniffPicture } from '@steady-moth/core/format/picture';
import * as Comlink from 'comlink';

/** A picture file judged before anything decodes it. */
export type Judged =
  | ({ ok: true } & Omit<Extract<SniffResult, { ok: true }>, 'ok'> & FileFacts)
  | Extract<SniffResult, { ok: false }>;

export type ProfileFormat = 'svg' | 'dxf' | 'pdf';

// The writers are heavy, and most visits hand nothing over: they are loaded when first needed.
const writers = () => import('@steady-moth/core/format');

const face = {
  async judge(bytes: Uint8Array): Promise<Judged> {
    const found = sniffPicture(bytes);
    if (!found.ok) return found;
    return { ...found, ...(await readFacts(bytes, found.widthPx, found.heightPx)) };
  },

  /** The name under which a picture's bytes are kept. */
  async digest(bytes: Uint8Array): Promise<string> {
    return digest(bytes);
  },

  async writeProfile(profile: FlatProfile, format: ProfileFormat): Promise<Uint8Array | null> {
    const { writePdf, writeSvg, writeDxf } = await writers();
    if (format === 'pdf') return writePdf(profile);
    const text = format === 'svg' ? writeSvg(profile) : writeDxf(profile);
    return text === null ? null : new TextEncoder().encode(text);
  },

  async packJob(packed: PackedJob): Promise<Uint8Array> {
    const bytes = (await writers()).writeJobFile(packed);
    return Comlink.transfer(bytes, [bytes.buffer]);
  },

  async unpackJob(bytes: Uint8Array): Promise<JobFileResult> {
    return (await writers()).readJobFile(bytes);
  },
};

export type FilesFace = typeof face;

Comlink.expose(face);
