import { create } from 'zustand';

/** In what colour traces are drawn over a picture. */
export const TRACE_COLOURS = ['dark', 'light', 'blue'] as const;
export type TraceColour = (typeof TRACE_COLOURS)[number];

const COLOUR_KEY = 'steady-moth-trace-colour';

/** The colour that was chosen in this browser before. */
function keptColour(): TraceColour {
  try {
    const kept = localStorage.getItem(COLOUR_KEY);
    const colour = TRACE_COLOURS.find((c) => c === kept) ?? 'dark';
    document.documentElement.dataset.traceColour = colour;
    return colour;
  } catch {
    // No storage, or no page.
    return 'dark';
  }
}

function keepColour(colour: TraceColour): void {
  document.documentElement.dataset.traceColour = colour;
  try {
    localStorage.setItem(COLOUR_KEY, colour);
  } catch {
    // It is dark again the next time.
  }
}

interface PartStore {
  traceColour: TraceColour;
  setTraceColour(colour: TraceColour): void;
}

/** How the part is drawn, in every step that draws it. */
export const usePart = create<PartStore>((set) => ({
  traceColour: keptColour(),
  setTraceColour(traceColour) {
    keepColour(traceColour);
    set({ traceColour });
  },
}));
