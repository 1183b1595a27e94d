import { sha256 } from '@noble/hashes/sha2';
import { bytesToHex } from '@noble/hashes/utils';

/** SHA-256 in hexadecimal: the name under which a picture's bytes are kept. */
export function digest(bytes: Uint8Array): string {
  return bytesToHex(sha256(bytes));
}
