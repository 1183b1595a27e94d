/** A file that is written at once, as the browser's private file system gives it to a worker. */
export interface RoomFile {
  getSize(): number;
  write(bytes: Uint8Array<ArrayBuffer>, options: { at: number }): number;
  truncate(size: number): void;
}

/**
 * `plenty`: there is room, and some to spare. `last`: there is room because the reserve was given up for it.
 * `none`: the disk is full, and nothing may be written.
 */
export type Room = 'plenty' | 'last' | 'none';

/** Held on the disk for when it is full, bytes: enough to put away a large job once more, and to tidy up. */
export const RESERVE = 8 << 20;
/** What the database may need besides what is given to it, bytes: it writes twice what it moves from file to file. */
export const MARGIN = 6 << 20;

const STRETCH = 1 << 20;
/** No file system stores this shorter than it is. */
const UNEVEN = new Uint8Array(STRETCH).map((_, k) => (k * 2654435761) >>> 13);

/**
 * Whether a given number of bytes can be put away: as many are written beside the reserve and removed at once.
 * In: the file that holds the reserve, and how many bytes are to come. The file is left with the whole reserve, or empty.
 */
export function roomIn(file: RoomFile, bytes: number): Room {
  const need = bytes + MARGIN;
  const wasWhole = file.getSize() >= RESERVE;
  if (grow(file, RESERVE + need)) {
    file.truncate(RESERVE);
    return 'plenty';
  }
  const isLast = wasWhole && need <= RESERVE;
  file.truncate(wasWhole && !isLast ? RESERVE : 0);
  return isLast ? 'last' : 'none';
}

function grow(file: RoomFile, size: number): boolean {
  try {
    for (let at = file.getSize(); at < size; ) {
      const wrote = file.write(UNEVEN.subarray(0, Math.min(STRETCH, size - at)), { at });
      if (wrote <= 0) return false;
      at += wrote;
    }
    return true;
  } catch {
    return false;
  }
}
