import { useEffect, useMemo, useState } from 'react';
import { Act } from '../../../kit';

/** So many pieces of a path are listed at once, with their figures. */
const LISTED = 60;

interface Listed {
  from: number;
  to: number;
  show(from: number): void;
}

/** The stretch of a path's pieces that is listed: all of a short one; of a long one that with the chosen piece. */
export function useStretch(count: number, chosen: number | null): Listed {
  const [start, setStart] = useState(0);
  useEffect(() => {
    if (chosen !== null) setStart((from) => (chosen >= from && chosen < from + LISTED ? from : startOf(chosen)));
  }, [chosen]);
  const from = Math.min(start, startOf(Math.max(0, count - 1)));
  return useMemo(() => ({ from, to: Math.min(count, from + LISTED), show: setStart }), [from, count]);
}

const startOf = (piece: number): number => Math.floor(piece / LISTED) * LISTED;

/** Goes to the stretch before or after. */
export function Stretch({ stretch: { from, to, show }, of }: { stretch: Listed; of: number }) {
  if (of <= LISTED) return null;
  return (
    <p className="mt-2 flex gap-4 text-ink2">
      <span>
        {from + 1} to {to} of {of}
      </span>
      <Act disabled={from === 0} onClick={() => show(from - LISTED)}>
        Earlier
      </Act>
      <Act disabled={to >= of} onClick={() => show(to)}>
        Later
      </Act>
    </p>
  );
}
