import type { JobDocument } from './document';
import type { History } from './history';

/** Hashes of the bytes that a job cannot be shown without. */
export function blobsOf({ pictures }: JobDocument): string[] {
  return [...new Set(pictures.flatMap((p) => [p.blob, ...(p.before ? [p.before.blob] : [])]))];
}

/** Hashes of all bytes that a job or its undo history names. */
export function blobsNamed(job: JobDocument, history: History): string[] {
  const told = JSON.stringify(history).match(/"[0-9a-f]{64}"/g) ?? [];
  return [...new Set([...blobsOf(job), ...told.map((t) => t.slice(1, -1))])];
}
