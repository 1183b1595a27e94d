/** Hands bytes to the browser as a file. */
export function download(bytes: Uint8Array, name: string, mime: string): void {
  const url = URL.createObjectURL(new Blob([bytes as BlobPart], { type: mime }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}

/** A file name from a job's: letters, digits and hyphens of any script, no path in it. */
export function fileNameFor(jobName: string, ending: string): string {
  const plain = jobName
    .normalize('NFC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 80);
  return `${plain || 'job'}.${ending}`;
}
