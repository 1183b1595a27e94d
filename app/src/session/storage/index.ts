import { openDatabase } from './database';

export { fromStored } from './asText';
export * from './database';
export * from './jobs';
export { dropNote, readNote, writeNote } from './leavingNote';
export { askToKeep, LITTLE, roomFor } from './room';

/** The one store of this browser. */
export const database = openDatabase();
