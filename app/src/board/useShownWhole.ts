import type { Picture } from '@steady-moth/core/job';
import type { PictureMap } from '@steady-moth/core/sketch';
import { type RefObject, useEffect, useMemo, useState } from 'react';
import { type BoardFrame, clipOutline, rectOutline, wholeOf } from '../frames/boardMap';
import { framed } from '../frames/framed';
import { fitView, type View } from '../frames/view';
import { useSession } from '../session/sessionStore';
import type { Layer } from './PictureLayer';

/** The view that shows a picture whole, in which it comes into sight at first; null until the board has a size. */
export function useShownWhole(
  ref: RefObject<HTMLElement | null>,
  { id, facts, preparation }: Picture,
  frame: BoardFrame,
  mapper: PictureMap,
  shown: Layer['clip'] | null,
  staysInPlace: boolean,
): View | null {
  const view = useSession((s) => s.view);
  const setView = useSession((s) => s.setView);
  const [size, setSize] = useState<{ width: number; height: number } | null>(null);
  const whole = useMemo(() => {
    if (!size) return null;
    return fitView(
      shown ? clipOutline(frame, shown) : rectOutline(mapper, wholeOf(facts)),
      size.width,
      size.height,
      12,
    );
  }, [size, frame, mapper, shown, facts]);

  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(() => setSize({ width: element.clientWidth, height: element.clientHeight }));
    observer.observe(element);
    return () => observer.disconnect();
  }, [ref.current]);

  const { turns, flip } = preparation;
  const shownKey = `${id} ${turns} ${flip} ${shown ? Object.values(shown) : ''}`;
  useEffect(() => {
    if (!whole) return;
    const { framing, setFraming } = useSession.getState();
    const next = framed(view, framing, { key: shownKey, frame, whole, staysInPlace });
    if (next.view !== view) setView(next.view);
    if (next.framing !== framing) setFraming(next.framing);
  }, [whole, shownKey, staysInPlace, frame, view, setView]);
  return whole;
}
