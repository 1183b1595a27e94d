import { create } from 'zustand';

interface SizeStore {
  /** What is laid over the part in Size: as it was seen, or a variant by its name in the document. */
  laidOver: 'seen' | { variant: string | null } | null;
  layOver(what: SizeStore['laidOver']): void;
}

/** What Size shows beside the part: of this tab only. */
export const useSize = create<SizeStore>((set) => ({
  laidOver: null,
  layOver: (laidOver) => set({ laidOver }),
}));
