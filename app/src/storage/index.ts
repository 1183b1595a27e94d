import { openDatabase } from './database';

export * from './database';
export * from './jobs';

/** The one store of this browser. */
export const database = openDatabase();
