import type { PicturePoint } from '@steady-moth/core/calibration';
import type {
  DxfOptions,
  FlatProfile,
  JobFileResult,
  PackedJob,
  ProfileFormat,
  Sheet,
  Tiling,
} from '@steady-moth/core/format';
import { digest } from '@steady-moth/core/format/digest';
import type { OutlineFault, OutlinePage, OutlineResult, Outlines } from '@steady-moth/core/format/outlines';
import { type FileFacts, readFacts, type SniffResult, sniffPicture } from '@steady-moth/core/format/picture';
import type { Sketch } from '@steady-moth/core/sketch';
import * as Comlink from 'comlink';
import { serve } from './serve';

/** A picture file judged before anything decodes it. */
type Judged =
  | ({ ok: true } & Omit<Extract<SniffResult, { ok: true }>, 'ok'> & FileFacts)
  | Extract<SniffResult, { ok: false }>;

/** Outlines out of a drawing file, and the page they are drawn on. */
export type ReadOutlines =
  | {
      ok: true;
      png: Uint8Array;
      perMm: number;
      sketch: Sketch;
      zero: PicturePoint;
      leftOut: Outlines['leftOut'];
      unitless: boolean;
    }
  | { ok: false; reason: OutlineFault };

// The writers are heavy, and most visits hand nothing over: they are loaded when first needed.
const writers = () => import('@steady-moth/core/format');

const calls = {
  async judge(bytes: Uint8Array): Promise<Judged> {
    const found = sniffPicture(bytes);
    if (!found.ok) return found;
    return { ...found, ...(await readFacts(bytes, found.widthPx, found.heightPx)) };
  },

  /** The name under which a picture's bytes are kept. */
  async digest(bytes: Uint8Array): Promise<string> {
    // The browser's own is ten times as fast, and there is none where the page was not fetched securely.
    const subtle = globalThis.crypto?.subtle;
    if (!subtle) return digest(bytes);
    const hash = new Uint8Array(await subtle.digest('SHA-256', bytes as BufferSource));
    return Array.from(hash, (b) => b.toString(16).padStart(2, '0')).join('');
  },

  /** Reads a drawing's outlines, and draws them on a page as a picture that can be traced and measured on. */
  async readOutlines(bytes: Uint8Array, kind: 'svg' | 'dxf'): Promise<ReadOutlines> {
    const { layOutPage, OUTLINES, readDxf, readSvg } = await import('@steady-moth/core/format/outlines');
    if (bytes.length > OUTLINES.mostBytes) return { ok: false, reason: 'too-large' };
    const text = new TextDecoder().decode(bytes);
    const read = kind === 'svg' ? readSvg(text) : readDxf(text);
    if (!read.ok) return read;
    const page = layOutPage(read.outlines);
    if (!page) return { ok: false, reason: 'nothing-in-it' };
    const png = await drawOutlines(page);
    const { leftOut, unitless } = read.outlines;
    const { pxPerMm: perMm, sketch, zero } = page;
    return Comlink.transfer({ ok: true, png, perMm, sketch, zero, leftOut, unitless }, [png.buffer]);
  },

  /** Forms out of SVG that came as text, from the clipboard. */
  async readForms(text: string): Promise<OutlineResult> {
    const { OUTLINES, readSvg } = await import('@steady-moth/core/format/outlines');
    return text.length > OUTLINES.mostBytes ? { ok: false, reason: 'too-large' } : readSvg(text);
  },

  async writeProfile(profile: FlatProfile, format: ProfileFormat, dxf?: DxfOptions): Promise<Uint8Array | null> {
    return (await writers()).writeProfile(profile, format, dxf);
  },

  /** A profile over several pages; null where there is nothing to write, or no room on the paper. */
  async writeTiles(profile: FlatProfile, tiling: Tiling): Promise<Uint8Array | null> {
    return (await writers()).writeTiledPdf(profile, tiling);
  },

  /** All views of a part on one sheet; null where there is nothing to draw. */
  async writeSheet(sheet: Sheet): Promise<Uint8Array | null> {
    return (await writers()).writeSheetPdf(sheet);
  },

  /** The sheet on which a camera is checked, as PDF. */
  async writeGridSheet(): Promise<Uint8Array> {
    return (await writers()).writeGridSheet();
  },

  async packJob(packed: PackedJob): Promise<Uint8Array> {
    const bytes = (await writers()).writeJobFile(packed);
    return Comlink.transfer(bytes, [bytes.buffer]);
  },

  /** Packs what is stored under a job's name, sound or not. */
  async packStored(document: unknown, history: unknown, blobs: ReadonlyMap<string, Uint8Array>): Promise<Uint8Array> {
    const bytes = (await writers()).packAsItIs(document, history, blobs);
    return Comlink.transfer(bytes, [bytes.buffer]);
  },

  async unpackJob(bytes: Uint8Array): Promise<JobFileResult> {
    return (await writers()).readJobFile(bytes);
  },
};

/** Width of a drawn line on the page, px. */
const LINE_PX = 3;

async function drawOutlines({ widthPx, heightPx, pxPerMm, paths }: OutlinePage): Promise<Uint8Array> {
  const { DASHES } = await import('@steady-moth/core/format/outlines');
  const canvas = new OffscreenCanvas(widthPx, heightPx);
  const context = canvas.getContext('2d');
  if (!context) throw new Error('This browser cannot draw here.');
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, widthPx, heightPx);
  context.scale(pxPerMm, pxPerMm);
  context.lineWidth = LINE_PX / pxPerMm;
  context.strokeStyle = '#1c1a17';
  for (const { d, role } of paths) {
    context.setLineDash(DASHES[role].map((d) => d * (LINE_PX / pxPerMm) * 4));
    context.stroke(new Path2D(d));
  }
  const blob = await canvas.convertToBlob({ type: 'image/png' });
  return new Uint8Array(await blob.arrayBuffer());
}

export type FilesCalls = typeof calls;

serve(calls);
