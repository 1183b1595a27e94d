import { openDatabase } from './database';

export { fromStored } from './asText';
export * from './database';
export * from './jobs';

/** The one store of this browser. */
export const database = openDatabase();
