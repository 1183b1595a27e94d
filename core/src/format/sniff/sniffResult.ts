/** Kinds of picture that are taken. */
export type PictureMime = 'image/jpeg' | 'image/png' | 'image/webp' | 'image/tiff' | 'image/heic';

export type PictureFault =
  | { reason: 'empty' | 'not-a-picture' | 'truncated' | 'file-too-large' | 'broken' }
  | { reason: 'too-many-pixels'; megapixels: number }
  | { reason: 'too-long'; mostPx: number };

export type SniffResult =
  | { ok: true; mime: PictureMime; widthPx: number; heightPx: number }
  | ({ ok: false } & PictureFault);
