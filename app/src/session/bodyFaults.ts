import type { Feature } from '@steady-moth/core/sketch';
import { create } from 'zustand';

/** The feature that could not be made when a list of them was last worked out; null where all could, or none was. */
export const useBodyFaults = create<{ of: readonly Feature[] | null; name: string | null }>(() => ({
  of: null,
  name: null,
}));
