import type { SniffResult } from './sniffResult';

const text = (b: Uint8Array, at: number): string => String.fromCharCode(b[at]!, b[at + 1]!, b[at + 2]!, b[at + 3]!);

export const isWebp = (b: Uint8Array): boolean => b.length >= 16 && text(b, 0) === 'RIFF' && text(b, 8) === 'WEBP';

/** Size from the first chunk, of any of its three kinds (RFC 9649). */
export function sniffWebp(b: Uint8Array): SniffResult {
  const view = new DataView(b.buffer, b.byteOffset, b.byteLength);
  if (8 + view.getUint32(4, true) > b.length || b.length < 30) return { ok: false, reason: 'truncated' };
  const kind = text(b, 12);
  const three = (at: number) => b[at]! | (b[at + 1]! << 8) | (b[at + 2]! << 16);
  if (kind === 'VP8X') return found(three(24) + 1, three(27) + 1);
  if (kind === 'VP8 ') return found(view.getUint16(26, true) & 0x3fff, view.getUint16(28, true) & 0x3fff);
  if (kind === 'VP8L' && b[20] === 0x2f) {
    const bits = view.getUint32(21, true);
    return found((bits & 0x3fff) + 1, ((bits >> 14) & 0x3fff) + 1);
  }
  return { ok: false, reason: 'broken' };
}

const found = (widthPx: number, heightPx: number): SniffResult => ({ ok: true, mime: 'image/webp', widthPx, heightPx });
