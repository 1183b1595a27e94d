import { type ReactNode, useEffect, useState } from 'react';

/** The parts of the screen that were built before. */
const warm = new Set<string>();

/**
 * A part of the screen that is built in a task of its own the first time: code that runs for the first time is slow, and
 * all of a screen at once would hold up what waits. From then on it is there at once.
 */
export function InTurn({ part, children }: { part: string; children: ReactNode }) {
  const [isDue, setIsDue] = useState(() => warm.has(part));
  useEffect(() => {
    warm.add(part);
    if (isDue) return;
    const soon = setTimeout(() => setIsDue(true));
    return () => clearTimeout(soon);
  }, [part, isDue]);
  return isDue ? children : null;
}
