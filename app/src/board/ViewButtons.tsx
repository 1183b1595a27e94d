import { Minus, Plus } from 'lucide-react';
import type { ReactNode } from 'react';

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

function Press({
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
