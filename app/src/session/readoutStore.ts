import { create } from 'zustand';

/** What the readout shows of the pointer; mm and rad, null where there is nothing to show. */
export interface Reading {
  xMm: number | null;
  yMm: number | null;
  lengthMm: number | null;
  lengthPlusMinusMm: number | null;
  angle: number | null;
  snaps: string | null;
}

const NOTHING: Reading = { xMm: null, yMm: null, lengthMm: null, lengthPlusMinusMm: null, angle: null, snaps: null };

interface ReadoutStore {
  reading: Reading;
  /** What digits typed now would be taken as, and what takes them; null when nothing waits for a figure. */
  asks: { label: string; accept(text: string): string | null } | null;
  show(part: Partial<Reading>): void;
  reset(): void;
  ask(asks: ReadoutStore['asks']): void;
}

/** Follows the pointer, so it is kept apart: only the readout renders on it. */
export const useReadout = create<ReadoutStore>((set) => ({
  reading: NOTHING,
  asks: null,
  show: (part) => set((s) => ({ reading: { ...s.reading, ...part } })),
  reset: () => set({ reading: NOTHING }),
  ask: (asks) => set({ asks }),
}));
