import { digest, type FileFacts, type FlatProfile, type JobFileResult, type PackedJob, readFacts, readJobFile, type SniffResult, sniffPicture, writeDxf, writeJobFile, writePdf, writeSvg } from '@steady-moth/core/format';
import * as Comlink from 'comlink';

/** A picture file judged before anything decodes it. */
export type Judged = ({ ok: true; blob: string } & Omit<Extract<SniffResult, { ok: true }>, 'ok'> & FileFacts) | Extract<SniffResult, { ok: false }>;

export type ProfileFormat = 'svg' | 'dxf' | 'pdf';

const face = {
  async judge(bytes: Uint8Array): Promise<Judged> {
    const found = sniffPicture(bytes);
    if (!found.ok) return found;
    return { ...found, blob: digest(bytes), ...(await readFacts(bytes, found.widthPx, found.heightPx)) };
  },

  async writeProfile(profile: FlatProfile, format: ProfileFormat): Promise<Uint8Array | null> {
    if (format === 'pdf') return writePdf(profile);
    const text = format === 'svg' ? writeSvg(profile) : writeDxf(profile);
    return text === null ? null : new TextEncoder().encode(text);
  },

  async packJob(packed: PackedJob): Promise<Uint8Array> {
    const bytes = writeJobFile(packed);
    return Comlink.transfer(bytes, [bytes.buffer]);
  },

  async unpackJob(bytes: Uint8Array): Promise<JobFileResult> {
    return readJobFile(bytes);
  },
};

export type FilesFace = typeof face;

Comlink.expose(face);
