import type { PicturePoint } from '@steady-moth/core/calibration';
import { type Box, boxCorners, type Vec2 } from '@steady-moth/core/geometry';
import type { Picture } from '@steady-moth/core/job';
import type { PictureMap } from '@steady-moth/core/sketch';
import type { LengthUnit } from '@steady-moth/core/units';
import { type ReactNode, useEffect, useMemo, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import type { SnapWish } from '../compute/pixels.worker';
import { type BoardFace, boardMapper, clipOutline, liesAt, rectOutline, wholeOf } from '../frames/boardMap';
import { framed } from '../frames/framed';
import { arrowWay, type ScreenPlace, screenPlace } from '../frames/place';
import { fitView, fromScreen, isMoved, type View } from '../frames/view';
import { useBench } from '../session/benchStore';
import { useReadout } from '../session/readoutStore';
import { inkOf } from './inkOf';
import { Loupe } from './Loupe';
import { type Layer, PictureLayer } from './PictureLayer';
import { inTurn } from './pressQueue';
import { RULER_PX, Rulers } from './Rulers';
import { type Aim, type AimSource, type SnapTarget, useAim } from './useAim';
import { useViewControls } from './useViewControls';
import { SnapButtons, ViewButtons } from './ViewButtons';

/** What a step does with the pointer. Aims are already clung; `raw` is where the pointer itself is, on the part. */
export interface BoardTool {
  /** What new points snap to; null when the pointer only takes hold of what is there. */
  wish: SnapWish | null;
  /** False for what has nothing to do with edges: places are taken as they are pointed at. */
  snaps?: boolean;
  /** False where what is pointed at is no place of the picture: it is not looked at closely. */
  looks?: boolean;
  /** Existing points that a new one may snap to: those within reach of a place. */
  targets(at: Vec2, reach: number): readonly SnapTarget[];
  /** Which of several edges close together a press means, the nearest first; left out, the nearest. */
  choose?(edges: readonly PicturePoint[]): number;
  /** Takes hold at once of something under the pointer; true starts a drag of it. */
  grab(raw: Vec2, view: View, shift: boolean): boolean;
  /** The pointer moves, with or without something held. */
  hover(aim: Aim, held: boolean): void;
  /** A press that grabbed nothing. */
  place(aim: Aim): void;
  /**
   * What was grabbed is let go where the pointer is: it is out of hand at once, so that the next thing can be taken
   * hold of, and what comes back is called once it is known what is there. `isMoved` is false where it was only pressed.
   */
  letGo(isMoved: boolean): (aim: Aim) => void;
  /** A second press in one place. */
  twice?(aim: Aim): void;
}

export interface Drawing {
  view: View;
  mapper: PictureMap;
  aim: Aim | null;
}

const NONE_ELSE: readonly AimSource[] = [];
/** Kept free round the part when it is shown alone, px. */
const PART_MARGIN_PX = 48;

export function Board({
  picture,
  face,
  layers,
  also = NONE_ELSE,
  staysInPlace = false,
  settled = true,
  unit,
  tool,
  partBox,
  under,
  children,
}: {
  /** What new points snap to, and what is shown whole at first. */
  picture: Picture;
  face: BoardFace;
  /** The pictures on the board, the lowest first. */
  layers: readonly Layer[];
  /** Further pictures that can be aimed at where the one worked on does not reach. */
  also?: readonly AimSource[];
  /** Another picture in the same frame comes into view where the one before it was looked at. */
  staysInPlace?: boolean;
  /** False while the face is about to change: nothing is redrawn for the one that goes. */
  settled?: boolean;
  unit: LengthUnit;
  tool: BoardTool;
  /** Box round what was traced; null while nothing is. */
  partBox?: () => Box | null;
  /** What lies between the pictures and the drawing, and is no part of it for keys and readers. */
  under?: (view: View) => ReactNode;
  children: (drawing: Drawing) => ReactNode;
}) {
  const ref = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState<{ width: number; height: number } | null>(null);
  const view = useBench((s) => s.view);
  const setView = useBench((s) => s.setView);
  const toolInHand = useBench((s) => s.tool);
  const mapper = useMemo(() => boardMapper(face), [face]);
  // Where the board's places come from, for whoever reads the page; not made anew at every pointer move.
  const mapText = useMemo(() => (face.kind === 'true' ? JSON.stringify(face.map) : undefined), [face]);
  const shown = layers.find((l) => l.picture.id === picture.id)?.clip ?? null;
  const { facts } = picture;
  const [held, setHeld] = useState(false);
  const aiming = tool.wish !== null || held;
  const sources = useMemo<AimSource[]>(() => {
    const { widthPx, heightPx } = picture.facts;
    return [{ id: picture.id, blob: picture.blob, widthPx, heightPx, mapper }, ...also];
  }, [picture.id, picture.blob, picture.facts, mapper, also]);
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

  const whole = useMemo(() => {
    if (!size) return null;
    return fitView(shown ? clipOutline(face, shown) : rectOutline(mapper, wholeOf(facts)), size.width, size.height, 12);
  }, [size, face, mapper, shown, facts]);

  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(() => setSize({ width: element.clientWidth, height: element.clientHeight }));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);

  const { turns, flip } = picture.preparation;
  const shownKey = `${picture.id} ${turns} ${flip} ${shown ? Object.values(shown) : ''}`;
  useEffect(() => {
    if (!whole) return;
    const { framing, setFraming } = useBench.getState();
    const next = framed(view, framing, { key: shownKey, face, whole, staysInPlace });
    if (next.view !== view) setView(next.view);
    if (next.framing !== framing) setFraming(next.framing);
  }, [whole, shownKey, staysInPlace, face, view, setView]);

  const controls = useViewControls(ref, view, whole, setView);

  const screenOf = (event: { clientX: number; clientY: number }): ScreenPlace => {
    const box = ref.current?.getBoundingClientRect();
    return screenPlace(event.clientX - (box?.left ?? 0), event.clientY - (box?.top ?? 0));
  };

  const showPlace = (at: Aim) => {
    if (face.kind === 'true') useReadout.getState().show({ xMm: at.place.x, yMm: at.place.y, snaps: snapWords(at) });
    else useReadout.getState().show({ xMm: null, yMm: null, snaps: snapWords(at) });
  };

  const hoverAt = (screen: ScreenPlace) => {
    if (!view) return;
    lastScreen.current = screen;
    if (!aiming) {
      const { x, y } = fromScreen(view, screen);
      const isTrue = face.kind === 'true';
      useReadout.getState().show({ xMm: isTrue ? x : null, yMm: isTrue ? y : null, snaps: null });
      return;
    }
    aim.move(screen, (found) => {
      showPlace(found);
      current.current.tool.hover(found, current.current.held);
    });
  };

  // One after the other, each drawn before the next is placed: of two quick presses the second must see the first.
  // By the view that it was made in: while the pixels are looked at the view may change already.
  const pressAt = (screen: ScreenPlace): void => {
    inTurn(async () => {
      const found = await aim.aimAt(screen, view).catch(() => null);
      if (!found) return;
      flushSync(() => current.current.tool.place(found.aim));
      useBench.getState().setOtherEdge(0);
    });
  };

  const pressedAt = useRef(screenPlace(0, 0));
  const release = async (event: React.PointerEvent) => {
    if (!current.current.held || !view) return;
    const screen = screenOf(event);
    setHeld(false);
    const letGo = tool.letGo(isMoved(pressedAt.current, screen));
    const found = await aim.aimAt(screen, view);
    if (found) letGo(found.aim);
    useBench.getState().setOtherEdge(0);
    aim.leave();
  };

  // The other edge was asked for: shown at once, without the pointer having to move.
  const otherEdge = useBench((s) => s.otherEdge);
  const lastScreen = useRef<ScreenPlace | null>(null);
  const hover = useRef(hoverAt);
  hover.current = hoverAt;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the count is what changed, though it is read elsewhere
  useEffect(() => {
    if (lastScreen.current) hover.current(lastScreen.current);
  }, [otherEdge]);

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

  return (
    <div className="absolute inset-0 overflow-hidden bg-deeper">
      <div
        ref={ref}
        role="application"
        aria-label="Drawing board. With a tool in hand, arrow keys move the cross, space sets a point."
        tabIndex={0}
        data-map={mapText}
        data-view={view ? `${view.x} ${view.y} ${view.scale}` : undefined}
        className={`absolute select-none overflow-hidden bg-board outline-none focus-visible:ring-2 focus-visible:ring-inset focus-visible:ring-rust ${tool.wish ? 'cursor-crosshair' : ''}`}
        style={{ left: RULER_PX, top: RULER_PX, right: 0, bottom: 0, touchAction: 'none' }}
        onKeyDown={onKeyDown}
        onPointerDown={(event) => {
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
        }}
        onPointerMove={(event) => {
          if (controls.pointerMove(event)) return;
          hoverAt(screenOf(event));
        }}
        onPointerUp={(event) => {
          const isFinger = finger.current === event.pointerId;
          finger.current = null;
          if (controls.pointerUp(event)) return;
          if (isFinger) pressAt(screenOf(event));
          else void release(event);
        }}
        onPointerCancel={(event) => {
          finger.current = null;
          controls.pointerUp(event);
          setHeld(false);
        }}
        onPointerLeave={() => {
          lastScreen.current = null;
          if (!held) aim.leave();
        }}
        onDoubleClick={async (event) => {
          const found = await aim.aimAt(screenOf(event));
          if (found) tool.twice?.(found.aim);
        }}
      >
        {view && (
          <>
            {layers.map((layer) => (
              <PictureLayer key={layer.picture.id} layer={layer} view={view} settled={settled} />
            ))}
            {under?.(view)}
            <svg className="absolute inset-0 h-full w-full" aria-label="Drawing" role="group">
              {children({ view, mapper, aim: aim.shown?.aim ?? null })}
              {aim.shown && aiming && tool.looks !== false && <AimMark aim={aim.shown.aim} />}
            </svg>
            {aim.shown?.look && aiming && (
              <Loupe
                look={aim.shown.look}
                edge={aim.shown.aim.edge}
                at={aim.shown.aim.screen}
                view={view}
                lies={liesAt(
                  sources.find((s) => s.id === aim.shown?.aim.pictureId)?.mapper ?? mapper,
                  aim.shown.aim.picture,
                )}
                caption={tool.snaps === false ? '' : loupeWords(aim.shown.aim)}
              />
            )}
          </>
        )}
      </div>
      {view && (
        <ViewButtons
          onZoom={controls.zoomBy}
          onWhole={controls.showAll}
          onPart={
            partBox &&
            (() => {
              const box = partBox();
              if (box) setView(fitView(boxCorners(box), view.width, view.height, PART_MARGIN_PX));
            })
          }
        />
      )}
      {touched && tool.wish && <SnapButtons />}
      {view && (
        <div className="absolute" style={{ left: RULER_PX, top: RULER_PX }}>
          <Rulers view={view} isTrue={face.kind === 'true'} unit={unit} pointer={aim.shown?.aim.screen ?? null} />
        </div>
      )}
      <div
        className="absolute top-0 left-0 border-line border-r border-b bg-deeper"
        style={{ width: RULER_PX, height: RULER_PX }}
      />
    </div>
  );
}

function AimMark({ aim }: { aim: Aim }) {
  const { x, y } = aim.screen;
  const others = aim.edges.filter((_, k) => k !== aim.edge);
  const path = `M ${x - 9} ${y} H ${x - 3} M ${x + 3} ${y} H ${x + 9} M ${x} ${y - 9} V ${y - 3} M ${x} ${y + 3} V ${y + 9}`;
  return (
    <g pointerEvents="none">
      <path d={path} stroke="white" strokeWidth={3.5} />
      <path d={path} stroke="var(--rust)" strokeWidth={1.6} />
      {others.map(({ screen }, k) => (
        <circle key={k} cx={screen.x} cy={screen.y} r={3} fill="white" stroke="var(--ink)" strokeWidth={1.2} />
      ))}
    </g>
  );
}

const KINDS = { edge: 'edge', line: 'graduation', point: 'point', free: 'nothing' } as const;

const kindWord = (aim: Aim): string => (aim.isShadow ? 'shadow?' : KINDS[aim.snappedTo]);

function snapWords(aim: Aim): string {
  if (aim.snappedTo === 'free') return useBench.getState().freeHand ? 'nothing: F is held' : 'nothing near';
  if (aim.onto !== null) return aim.onto;
  const which = aim.edges.length > 1 ? ` ${aim.edge + 1} of ${aim.edges.length}` : '';
  return `${kindWord(aim)}${which}, ${plusMinus(aim)}`;
}

const plusMinus = ({ sigmaPx }: Aim): string => `± ${(2 * sigmaPx).toFixed(2)} px`;

/** Short enough for the loupe's width; where there are several edges it names the key that takes the next. */
function loupeWords(aim: Aim): string {
  if (aim.snappedTo === 'free') return 'no edge near';
  if (aim.onto !== null) return aim.onto;
  if (aim.edges.length > 1)
    return `${aim.isShadow ? 'shadow? ' : ''}${aim.edge + 1} of ${aim.edges.length} (G), ${plusMinus(aim)}`;
  return `${kindWord(aim)}, ${plusMinus(aim)}`;
}
