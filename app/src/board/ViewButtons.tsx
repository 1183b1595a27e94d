import { Minus, Plus } from 'lucide-react';
import type { ReactNode } from 'react';
import { useSession } from '../session/sessionStore';

/** What of the board is seen, for those who do not know its keys: closer, further, all of the picture, the part alone. */
export function ViewButtons({
  onZoom,
  onWhole,
  onPart,
}: {
  onZoom(steps: 1 | -1): void;
  onWhole(): void;
  onPart?: () => void;
}) {
  return (
    <div
      role="group"
      aria-label="View"
      className="absolute right-3 bottom-3 flex overflow-hidden rounded border border-line bg-paper"
    >
      <Press name="Zoom out" hint="Zoom out (−)" onPress={() => onZoom(-1)}>
        <Minus size={16} />
      </Press>
      <Press name="Zoom in" hint="Zoom in (+)" onPress={() => onZoom(1)}>
        <Plus size={16} />
      </Press>
      <Press name="Show the whole picture" hint="Show the whole picture (Home)" onPress={onWhole}>
        Whole
      </Press>
      {onPart && (
        <Press name="Show the part" hint="Show what was traced, as large as it fits" onPress={onPart}>
          Part
        </Press>
      )}
    </div>
  );
}

/** What keys do beside a keyboard, for those who point with a finger. */
export function SnapButtons() {
  const freeHand = useSession((s) => s.freeHand);
  const { setFreeHand, setOtherEdge } = useSession.getState();
  const look = 'flex h-11 cursor-pointer items-center border-line border-r px-3 text-ink last:border-r-0';
  return (
    <div
      role="group"
      aria-label="Snapping"
      className="absolute bottom-3 left-9 flex overflow-hidden rounded border border-line bg-paper"
    >
      <button
        type="button"
        aria-pressed={freeHand}
        onClick={() => setFreeHand(!freeHand)}
        className={`${look} ${freeHand ? 'bg-deeper' : ''}`}
      >
        Free hand
      </button>
      <button type="button" onClick={() => setOtherEdge(useSession.getState().otherEdge + 1)} className={look}>
        Next edge
      </button>
    </div>
  );
}

export function Press({
  name,
  hint,
  onPress,
  children,
}: {
  name: string;
  hint: string;
  onPress(): void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={name}
      title={hint}
      onClick={onPress}
      className="flex h-8 min-w-8 cursor-pointer items-center justify-center border-line border-r px-2 text-[12.5px] text-ink last:border-r-0 hover:bg-deeper"
    >
      {children}
    </button>
  );
}
