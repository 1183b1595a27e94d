import { type FoundThing, findAll } from '@steady-moth/core/find';
import { decodePicture } from './decodePicture';
import { serve } from './serve';

const calls = {
  /** Searches all of a picture for things of known size. It has pixels of its own, so that it holds up nobody. */
  async search(bytes: Blob): Promise<FoundThing[]> {
    return findAll(await decodePicture(bytes));
  },
};

export type SearchCalls = typeof calls;

serve(calls);
