import { writeDxf } from './dxf';
import { writePdf } from './pdf';
import type { DxfOptions } from './profile/dxfOptions';
import type { FlatProfile } from './profile/flatProfile';
import { writeSvg } from './svg';

export const PROFILE_FORMATS = ['svg', 'dxf', 'pdf'] as const;
export type ProfileFormat = (typeof PROFILE_FORMATS)[number];

/** Writes a profile as a file's bytes. Null when there is nothing to write. */
export async function writeProfile(
  profile: FlatProfile,
  format: ProfileFormat,
  dxf?: DxfOptions,
): Promise<Uint8Array | null> {
  if (format === 'pdf') return writePdf(profile);
  const text = format === 'svg' ? writeSvg(profile) : writeDxf(profile, dxf);
  return text === null ? null : new TextEncoder().encode(text);
}
