import { type RefObject, useEffect, useRef } from 'react';
import { arrowWay, type PagePlace, pagePlace, screenPlace } from '../frames/place';
import { panBy, type View, zoomAbout } from '../frames/view';

/** How far out and in, as factors of the view of the whole picture. */
const ZOOM = { least: 0.25, most: 400, wheel: 1.0018, key: 1.3 } as const;
const KEY_PAN_PX = 60;
/** A press that moves less than this draws nothing along, px. */
const LEAST_PAN_PX = 4;

/**
 * Zoom and pan by wheel, trackpad, pinch and keys, and by dragging: with the middle button or with space held, or where
 * nothing is taken hold of and no tool is in hand. The board moves with everything on it; the picture alone cannot be
 * dragged.
 */
export function useViewControls(
  ref: RefObject<HTMLDivElement | null>,
  view: View | null,
  whole: View | null,
  setView: (view: View) => void,
) {
  const latest = useRef({ view, whole, setView });
  latest.current = {
    view,
    whole,
    // Of two turns of the wheel within one frame the second goes on from the first.
    setView(next) {
      latest.current.view = next;
      setView(next);
    },
  };
  const touches = useRef(new Map<number, PagePlace>());
  const panning = useRef<{ id: number; last: PagePlace; isMoved: boolean } | null>(null);
  const space = useRef(false);

  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const bounds = () => ({
      least: (latest.current.whole?.scale ?? 1) * ZOOM.least,
      most: (latest.current.whole?.scale ?? 1) * ZOOM.most,
    });
    const onWheel = (event: WheelEvent) => {
      const { view: v, setView: set } = latest.current;
      if (!v) return;
      event.preventDefault();
      const box = element.getBoundingClientRect();
      const at = screenPlace(event.clientX - box.left, event.clientY - box.top);
      // Pinching a trackpad comes as a wheel with ctrl; a wheel has no sideways part and whole notches.
      const notched =
        event.deltaMode !== 0 || (event.deltaX === 0 && Number.isInteger(event.deltaY) && Math.abs(event.deltaY) >= 50);
      if (event.ctrlKey) set(zoomAbout(v, at, ZOOM.wheel ** (-event.deltaY * 5), bounds()));
      else if (event.shiftKey && notched) set(panBy(v, event.deltaY, 0));
      else if (notched)
        set(zoomAbout(v, at, ZOOM.wheel ** -(event.deltaMode ? event.deltaY * 40 : event.deltaY), bounds()));
      else set(panBy(v, event.deltaX, event.deltaY));
    };
    const onKey = (event: KeyboardEvent) => {
      if (event.key === ' ') space.current = event.type === 'keydown';
      const { view: v, whole: w, setView: set } = latest.current;
      if (event.type !== 'keydown' || !v || isTyping(event.target) || event.ctrlKey || event.metaKey) return;
      const middle = screenPlace(v.width / 2, v.height / 2);
      const pan = arrowWay(event.key);
      if (event.key === '+' || event.key === '=' || event.key === 'PageUp')
        set(zoomAbout(v, middle, ZOOM.key, bounds()));
      else if (event.key === '-' || event.key === 'PageDown') set(zoomAbout(v, middle, 1 / ZOOM.key, bounds()));
      else if (event.key === 'Home' && w) set(w);
      else if (pan && !event.defaultPrevented && isBoard(event.target))
        set(panBy(v, pan.x * KEY_PAN_PX, pan.y * KEY_PAN_PX));
      else return;
      event.preventDefault();
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    window.addEventListener('keydown', onKey);
    window.addEventListener('keyup', onKey);
    return () => {
      element.removeEventListener('wheel', onWheel);
      window.removeEventListener('keydown', onKey);
      window.removeEventListener('keyup', onKey);
    };
  }, [ref]);

  /** Zooms about the middle, as the keys do. */
  const zoomBy = (steps: 1 | -1) => {
    const { view: v, whole: w, setView: set } = latest.current;
    if (!v) return;
    const unit = w?.scale ?? 1;
    const bounds = { least: unit * ZOOM.least, most: unit * ZOOM.most };
    set(zoomAbout(v, screenPlace(v.width / 2, v.height / 2), ZOOM.key ** steps, bounds));
  };
  const showAll = () => {
    const { whole: w, setView: set } = latest.current;
    if (w) set(w);
  };

  /** From now on this pointer draws the board along. */
  const startPan = (event: React.PointerEvent) => {
    panning.current = { id: event.pointerId, last: pagePlace(event), isMoved: false };
    event.currentTarget.setPointerCapture(event.pointerId);
  };

  return {
    zoomBy,
    showAll,
    /** True when the press belongs to the view and not to a tool. */
    pointerDown(event: React.PointerEvent): boolean {
      if (event.pointerType === 'touch') touches.current.set(event.pointerId, pagePlace(event));
      if (touches.current.size >= 2) {
        panning.current = null;
        return true;
      }
      if (event.button === 1 || (event.button === 0 && space.current)) {
        startPan(event);
        event.preventDefault();
        return true;
      }
      return false;
    },
    startPan,
    pointerMove(event: React.PointerEvent): boolean {
      const { view: v, whole: w, setView: set } = latest.current;
      if (!v) return false;
      const here = pagePlace(event);
      if (panning.current?.id === event.pointerId) {
        // A hand that only presses is never quite still.
        const away = Math.hypot(panning.current.last.x - here.x, panning.current.last.y - here.y);
        if (!panning.current.isMoved && away < LEAST_PAN_PX) return true;
        panning.current.isMoved = true;
        set(panBy(v, panning.current.last.x - here.x, panning.current.last.y - here.y));
        panning.current.last = here;
        return true;
      }
      if (touches.current.size < 2 || !touches.current.has(event.pointerId)) return false;
      const before = [...touches.current.values()];
      touches.current.set(event.pointerId, here);
      const after = [...touches.current.values()];
      const box = ref.current?.getBoundingClientRect();
      const middle = (p: PagePlace[]) =>
        screenPlace((p[0]!.x + p[1]!.x) / 2 - (box?.left ?? 0), (p[0]!.y + p[1]!.y) / 2 - (box?.top ?? 0));
      const apart = (p: PagePlace[]) => Math.hypot(p[0]!.x - p[1]!.x, p[0]!.y - p[1]!.y) || 1;
      const [from, to] = [middle(before), middle(after)];
      const moved = panBy(v, from.x - to.x, from.y - to.y);
      const unit = w?.scale ?? 1;
      set(zoomAbout(moved, to, apart(after) / apart(before), { least: unit * ZOOM.least, most: unit * ZOOM.most }));
      return true;
    },
    pointerUp(event: React.PointerEvent): boolean {
      const pinching = touches.current.size >= 2;
      touches.current.delete(event.pointerId);
      if (panning.current?.id === event.pointerId) {
        panning.current = null;
        return true;
      }
      return pinching;
    },
  };
}

/** A field that has its own undo and its own letters. */
export function isTextField(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  // A tick, a choice or a slider takes no letters: the tools' keys go on while it has the focus.
  if (target instanceof HTMLInputElement && UNWRITTEN.has(target.type)) return false;
  return target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName);
}

const UNWRITTEN: ReadonlySet<string> = new Set(['checkbox', 'radio', 'range', 'button', 'submit', 'file', 'color']);

/** Whether keys belong to what has the focus: fields, and sliders and choices that move by arrows. */
export function isTyping(target: EventTarget | null): boolean {
  return (
    isTextField(target) ||
    (target instanceof HTMLInputElement && /^(radio|range)$/.test(target.type)) ||
    (target instanceof HTMLElement && /^(slider|radio)$/.test(target.getAttribute('role') ?? ''))
  );
}

const isBoard = (target: EventTarget | null): boolean =>
  target === document.body || (target instanceof Element && target.getAttribute('role') === 'application');
