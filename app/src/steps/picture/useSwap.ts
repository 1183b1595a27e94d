import type { PicturePoint } from '@steady-moth/core/calibration';
import { type Bend, LEAST_PAIRS, type LinedUp, lineUp, type Pair } from '@steady-moth/core/geometry';
import { newPicture, type Picture, swapPicture } from '@steady-moth/core/job';
import { useMemo, useState } from 'react';
import type { BoardTool } from '../../board/boardTool';
import type { ArrivedPicture } from '../../door/arrival';
import { useJob } from '../../session/jobStore';
import { useSession } from '../../session/sessionStore';

/** A picture that shall take another's place, and what lines both up. */
export interface Swap {
  /** The one that comes, as a picture that can be shown. */
  next: Picture;
  arrived: ArrivedPicture;
  /** Which of both is on the board. */
  side: 'old' | 'new';
  first: PicturePoint | null;
  pairs: { old: PicturePoint; new: PicturePoint }[];
  bend: Bend;
}

export interface SwapHandle {
  swap: Swap | null;
  lined: LinedUp | null;
  tool: BoardTool;
  begin(arrived: ArrivedPicture): void;
  look(side: Swap['side']): void;
  setBend(bend: Bend): void;
  dropPair(index: number): void;
  cancel(): void;
  take(): void;
}

/** Lines a new picture up with the one whose place it takes: by common points, or as both frames lie. */
export function useSwap(picture: Picture): SwapHandle {
  const [swap, setSwap] = useState<Swap | null>(null);
  const lined = useMemo(() => swap && linedUp(picture, swap), [picture, swap]);
  const tool = useMemo<BoardTool>(
    () => ({
      wish: picture.kind === 'photo' ? 'edge' : 'line',
      targets: () => [],
      grab: () => false,
      hover() {},
      letGo: () => () => {},
      place(aim) {
        const at = { uPx: aim.picture.uPx, vPx: aim.picture.vPx };
        setSwap((s) => {
          if (!s) return s;
          // The first of a pair is picked in the old picture, the second in the new one.
          if (s.side === 'old') return { ...s, first: at, side: 'new' };
          if (!s.first) return s;
          const pairs = [...s.pairs, { old: s.first, new: at }];
          return { ...s, pairs, first: null, side: 'old', bend: bendFor(pairs.length, picture, s.bend) };
        });
      },
    }),
    [picture],
  );
  return {
    swap,
    lined,
    tool,
    begin(arrived) {
      useSession.getState().take(null);
      setSwap({
        next: newPicture('swap', arrived.file, picture.kind),
        arrived,
        side: 'old',
        first: null,
        pairs: [],
        bend: 'similar',
      });
    },
    look: (side) => setSwap((s) => s && { ...s, side }),
    setBend: (bend) => setSwap((s) => s && { ...s, bend }),
    dropPair: (index) =>
      setSwap((s) => {
        if (!s) return s;
        const pairs = s.pairs.filter((_, k) => k !== index);
        return { ...s, pairs, bend: pairs.length < LEAST_PAIRS[s.bend] ? 'similar' : s.bend };
      }),
    cancel: () => setSwap(null),
    take() {
      if (!swap || !lined) return;
      useJob.getState().apply(swapPicture(picture.id, swap.arrived.file, lined.onto), [swap.arrived.blob]);
      setSwap(null);
    },
  };
}

/** Two photographs were taken from two places: with enough points the tilt between them is let free. */
function bendFor(pairs: number, { kind }: Picture, bend: Bend): Bend {
  return kind === 'photo' && pairs >= LEAST_PAIRS.tilted ? 'tilted' : bend;
}

function linedUp({ facts }: Picture, { next, pairs, bend }: Swap): LinedUp | null {
  if (pairs.length >= 2) return lineUp(pairs.map(asPair), bend);
  // Without common points the frames are laid on each other: right for a page drawn or scanned again.
  const [x, y] = [next.facts.widthPx / facts.widthPx, next.facts.heightPx / facts.heightPx];
  return { onto: [x, 0, 0, 0, y, 0, 0, 0, 1], apart: [], rms: null };
}

const asPair = (pair: Swap['pairs'][number]): Pair => ({
  from: { x: pair.old.uPx, y: pair.old.vPx },
  to: { x: pair.new.uPx, y: pair.new.vPx },
});
