import Dexie, { type EntityTable } from 'dexie';

/**
 * A job as stored. What it holds is unknown until it has been checked: storage is outside. Document and history are
 * kept as JSON text, which goes into storage twenty times as fast as objects do; earlier versions kept objects.
 */
export interface JobRow {
  id: string;
  document: unknown;
  history: unknown;
  /** Raised by every save: a save that does not build on the stored one is refused. */
  revision: number;
  /** Milliseconds since 1970. */
  changedAt: number;
}

/** Picture bytes under their SHA-256. */
export interface BlobRow {
  hash: string;
  bytes: Blob;
  /** A small JPEG of it for the rack. */
  thumb: Blob | null;
}

interface NoteRow {
  key: string;
  value: unknown;
}

export type Database = Dexie & {
  jobs: EntityTable<JobRow, 'id'>;
  blobs: EntityTable<BlobRow, 'hash'>;
  notes: EntityTable<NoteRow, 'key'>;
};

/** Name of the database in the browser. */
const DATABASE_NAME = 'steady-moth';

/** Opens the store. A later form of it gets a further `version` with its upgrade; none is ever edited. */
export function openDatabase(name = DATABASE_NAME): Database {
  // "Saved" is said once a change would outlive a power cut: the browser's own habit is to say it before.
  const database = new Dexie(name, { chromeTransactionDurability: 'strict' }) as Database;
  database.version(1).stores({ jobs: 'id, changedAt', blobs: 'hash' });
  database.version(2).stores({ notes: 'key' });
  // Whether a revision is the stored one is told by the index, without reading the job.
  database.version(3).stores({ jobs: 'id, changedAt, [id+revision]' });
  return database;
}
