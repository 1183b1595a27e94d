import { useLayoutEffect, useRef } from 'react';
import { useReadout } from './readoutStore';

/**
 * While there is a label, digits typed anywhere are the figure that it names.
 *
 * @param accept what takes the text at Enter: a sentence where it cannot be, null where it was taken
 */
export function useAsk(label: string | null, accept: (text: string) => string | null): void {
  const latest = useRef(accept);
  latest.current = accept;
  // Before what asks is seen: a key pressed as soon as it is would go nowhere otherwise.
  useLayoutEffect(() => {
    if (label === null) return;
    useReadout.getState().ask({ label, accept: (text) => latest.current(text) });
    return () => useReadout.getState().ask(null);
  }, [label]);
}
