import type { Picture } from '@steady-moth/core/job';
import { type RefObject, useEffect, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import type { BoardFrame } from '../frames/boardMap';
import { arrowWay, type ScreenPlace, screenPlace } from '../frames/place';
import { fromScreen, isMoved, type View } from '../frames/view';
import { useReadout } from '../session/readoutStore';
import { useSession } from '../session/sessionStore';
import { snapWords } from './aimWords';
import type { BoardTool } from './boardTool';
import { inkOf } from './inkOf';
import { inTurn } from './pressQueue';
import { type Aim, type AimSource, useAim } from './useAim';
import type { useViewControls } from './useViewControls';

/**
 * What pointer, finger and keys do on the board with a tool in hand: hover, press, take hold and let go, each where the tool's
 * aim says that it is.
 */
export function usePointing({
  ref,
  view,
  frame,
  picture,
  sources,
  tool,
  controls,
}: {
  ref: RefObject<HTMLElement | null>;
  view: View | null;
  frame: BoardFrame;
  picture: Picture;
  sources: readonly AimSource[];
  tool: BoardTool;
  controls: ReturnType<typeof useViewControls>;
}) {
  const toolInHand = useSession((s) => s.tool);
  const [held, setHeld] = useState(false);
  const aiming = tool.wish !== null || held;
  const aim = useAim(
    view,
    sources,
    {
      wish: tool.snaps === false ? null : (tool.wish ?? inkOf(picture)),
      targets: tool.targets,
      choose: tool.choose,
      looks: tool.looks ?? true,
    },
    aiming,
  );
  const current = useRef({ tool, held, shift: false });
  current.current.tool = tool;
  current.current.held = held;

  const screenOf = (event: { clientX: number; clientY: number }): ScreenPlace => {
    const box = ref.current?.getBoundingClientRect();
    return screenPlace(event.clientX - (box?.left ?? 0), event.clientY - (box?.top ?? 0));
  };

  const { hoverAt, lastScreen } = useHover({ view, frame, aim, aiming, current });

  // One after the other, each drawn before the next is placed: of two quick presses the second must see the first.
  // By the board that it was made on: while the pixels are looked at the view may change already, and the picture come true.
  const pressAt = (screen: ScreenPlace): void => {
    const lying = { view, sources };
    inTurn(async () => {
      const found = await aim.aimAt(screen, lying).catch(() => null);
      if (!found) return;
      flushSync(() => current.current.tool.place(found.aim));
      useSession.getState().setOtherEdge(0);
    });
  };

  const pressedAt = useRef(screenPlace(0, 0));
  const release = async (event: React.PointerEvent) => {
    if (!current.current.held || !view) return;
    const screen = screenOf(event);
    setHeld(false);
    const letGo = tool.letGo(isMoved(pressedAt.current, screen));
    const found = await aim.aimAt(screen, { view, sources });
    if (found) letGo(found.aim);
    useSession.getState().setOtherEdge(0);
    aim.leave();
  };

  /** The finger that is about to set a point. */
  const finger = useRef<number | null>(null);
  const [touched, setTouched] = useState(false);
  const [cursor, setCursor] = useState<ScreenPlace | null>(null);
  const onKeyDown = (event: React.KeyboardEvent) => {
    if (event.target !== ref.current || !view || !toolInHand) return;
    const by = event.shiftKey ? 1 : 12;
    // Where the keys have moved to, else under the pointer.
    const from = cursor ?? lastScreen.current ?? screenPlace(view.width / 2, view.height / 2);
    const way = arrowWay(event.key);
    if (way) {
      const to = screenPlace(from.x + by * way.x, from.y + by * way.y);
      setCursor(to);
      hoverAt(to);
    } else if (event.key === ' ') pressAt(from);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  const handlers = {
    onKeyDown,
    onPointerDown: (event: React.PointerEvent<HTMLElement>) => {
      const isTouch = event.pointerType === 'touch';
      if (isTouch) setTouched(true);
      if (controls.pointerDown(event) || event.button !== 0 || !view) {
        finger.current = null;
        return;
      }
      setCursor(null);
      const screen = screenOf(event);
      pressedAt.current = screen;
      if (tool.grab(fromScreen(view, screen), view, event.shiftKey)) {
        event.currentTarget.setPointerCapture(event.pointerId);
        setHeld(true);
      } else if (!toolInHand && !tool.wish) controls.startPan(event);
      else if (isTouch) {
        // A finger hides what it points at: it looks through the loupe until it is lifted.
        finger.current = event.pointerId;
        hoverAt(screen);
      } else pressAt(screen);
    },
    onPointerMove: (event: React.PointerEvent<HTMLElement>) => {
      if (controls.pointerMove(event)) return;
      hoverAt(screenOf(event));
    },
    onPointerUp: (event: React.PointerEvent<HTMLElement>) => {
      const isFinger = finger.current === event.pointerId;
      finger.current = null;
      if (controls.pointerUp(event)) return;
      if (isFinger) pressAt(screenOf(event));
      else void release(event);
    },
    onPointerCancel: (event: React.PointerEvent<HTMLElement>) => {
      finger.current = null;
      controls.pointerUp(event);
      setHeld(false);
    },
    onPointerLeave: () => {
      lastScreen.current = null;
      if (!held) aim.leave();
    },
    onDoubleClick: async (event: React.MouseEvent) => {
      const found = await aim.aimAt(screenOf(event));
      if (found) tool.twice?.(found.aim);
    },
  };
  return { aim, aiming, touched, handlers };
}

/** The aim follows the pointer, and the readout the aim. */
function useHover({
  view,
  frame,
  aim,
  aiming,
  current,
}: {
  view: View | null;
  frame: BoardFrame;
  aim: ReturnType<typeof useAim>;
  aiming: boolean;
  current: RefObject<{ tool: BoardTool; held: boolean }>;
}) {
  const showPlace = (at: Aim) => {
    if (frame.kind === 'true') useReadout.getState().show({ xMm: at.place.x, yMm: at.place.y, snaps: snapWords(at) });
    else useReadout.getState().show({ xMm: null, yMm: null, snaps: snapWords(at) });
  };

  const hoverAt = (screen: ScreenPlace) => {
    if (!view) return;
    lastScreen.current = screen;
    if (!aiming) {
      const { x, y } = fromScreen(view, screen);
      const isTrue = frame.kind === 'true';
      useReadout.getState().show({ xMm: isTrue ? x : null, yMm: isTrue ? y : null, snaps: null });
      return;
    }
    aim.move(screen, (found) => {
      showPlace(found);
      current.current.tool.hover(found, current.current.held);
    });
  };

  // The other edge was asked for: shown at once, without the pointer having to move.
  const otherEdge = useSession((s) => s.otherEdge);
  const lastScreen = useRef<ScreenPlace | null>(null);
  const hover = useRef(hoverAt);
  hover.current = hoverAt;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the count is what changed, though it is read elsewhere
  useEffect(() => {
    if (lastScreen.current) hover.current(lastScreen.current);
  }, [otherEdge]);
  return { hoverAt, lastScreen };
}
