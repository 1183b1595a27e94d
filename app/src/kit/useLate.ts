import { useEffect, useState } from 'react';

/** Half a second after something began, for as long as it lasts. */
export function useLate(active: boolean): boolean {
  const [late, setLate] = useState(false);
  useEffect(() => {
    if (!active) {
      setLate(false);
      return;
    }
    const timer = setTimeout(() => setLate(true), 500);
    return () => clearTimeout(timer);
  }, [active]);
  return late;
}
