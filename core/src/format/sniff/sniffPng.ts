import type { SniffResult } from './sniffResult';

const SIGNATURE = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
export const isPng = (b: Uint8Array): boolean => SIGNATURE.every((v, k) => b[k] === v);

/** Chunks from IHDR to IEND (ISO/IEC 15948). */
export function sniffPng(b: Uint8Array): SniffResult {
  const view = new DataView(b.buffer, b.byteOffset, b.byteLength);
  if (b.length < 33) return { ok: false, reason: 'truncated' };
  if (view.getUint32(12) !== CHUNK.IHDR) return { ok: false, reason: 'broken' };
  const size = { widthPx: view.getUint32(16), heightPx: view.getUint32(20) };
  let at = 8;
  while (at + 12 <= b.length) {
    const length = view.getUint32(at);
    const kind = view.getUint32(at + 4);
    if (at + 12 + length > b.length) break;
    if (kind === CHUNK.IEND) return { ok: true, mime: 'image/png', ...size };
    at += 12 + length;
  }
  return { ok: false, reason: 'truncated' };
}

const CHUNK = { IHDR: 0x49484452, IEND: 0x49454e44 } as const;
