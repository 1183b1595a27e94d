import type { PicturePoint } from '@steady-moth/core/calibration';
import type { Vec2 } from '@steady-moth/core/geometry';
import { type PictureMap, pxPerUnit } from '@steady-moth/core/sketch';
import { useCallback, useEffect, useRef, useState } from 'react';
import { pixels } from '../compute';
import type { Look, SnapWish } from '../compute/pixels.worker';
import type { ScreenPlace } from '../frames/place';
import { fromScreen, toScreen, type View } from '../frames/view';
import { useSession } from '../session/sessionStore';
import { LOUPE } from './Loupe';

/** Where the pointer means, after clinging. */
export interface Aim {
  screen: ScreenPlace;
  /** On the part. */
  place: Vec2;
  picture: PicturePoint;
  /** Which picture that is in: another than the one worked on where the pointer is over one joined with it. */
  pictureId: string;
  sigmaPx: number;
  snappedTo: 'edge' | 'line' | 'point' | 'free';
  /** The edge looks like the rim of a shadow. */
  isShadow: boolean;
  /** Name of the existing point that it clings to. */
  point: string | null;
  /** What of the trace it clings to, in words; null for nothing of it. */
  onto: string | null;
  /** Every edge that runs along the one clung to, that one included; one of them is `edge`. */
  edges: readonly AimedEdge[];
  edge: number;
}

/** One of several edges close together. */
interface AimedEdge extends PicturePoint {
  screen: ScreenPlace;
}

/** An aim, and what was seen of the picture there. */
interface Aimed {
  aim: Aim;
  look: Look | null;
}

/** What of the trace a new point may snap to. */
export interface SnapTarget {
  /** The point that it would be; null for a place that follows from pieces. */
  id: string | null;
  place: Vec2;
  sigmaPx: number;
  /** What it is, in words. */
  name: string;
  /** Comes after the picture's edges: along a piece there is always one. */
  isWeak: boolean;
}

/** A picture that can be aimed at. */
export interface AimSource {
  id: string;
  blob: string;
  widthPx: number;
  heightPx: number;
  mapper: PictureMap;
}

/** How the board lies: what is seen of it, and the pictures on it as they are mapped. */
export interface Lying {
  view: View | null;
  sources: readonly AimSource[];
}

export interface AimWish {
  /** What of the picture to snap to, null for nothing. */
  wish: SnapWish | null;
  targets: (at: Vec2, reach: number) => readonly SnapTarget[];
  /** Which of several edges close together is meant, the nearest first; left out, the nearest. */
  choose?: (edges: readonly PicturePoint[]) => number;
  /** False where the picture is not looked at. */
  looks: boolean;
}

/** Reach of clinging on screen, and its bounds in the original picture. */
const REACH = { screenPx: 9, leastPx: 3, mostPx: 48 } as const;
/** A point set by hand stands within about half a screen pixel, and never better than this in the picture. */
const FREE_SIGMA_PX = 0.5;
const NO_EDGES: readonly AimedEdge[] = [];

/**
 * Turns screen places into aims. Moves are answered as fast as the worker can, the latest first; a press waits for its
 * own place, so that what was shown is what is set.
 */
export function useAim(view: View | null, sources: readonly AimSource[], wish: AimWish, active: boolean) {
  const [shown, setShown] = useState<Aimed | null>(null);
  const queue = useRef<{ busy: boolean; next: (() => Promise<void>) | null }>({ busy: false, next: null });
  const context = useRef({ view, sources, wish, active });
  context.current = { view, sources, wish, active };
  const run = useRef(0);

  useEffect(() => {
    if (!active) setShown(null);
  }, [active]);

  /** The aim at a screen place, on the board as it lies now or as it was seen lying; null off the board's model. */
  const aimAt = useCallback(async (screen: ScreenPlace, by: Lying = context.current): Promise<Aimed | null> => {
    const { wish: w } = context.current;
    const { view: v, sources: all } = by;
    if (!v) return null;
    const place = fromScreen(v, screen);
    const source = all.find((s) => isIn(s, s.mapper.toPicture(place))) ?? all[0];
    if (!source) return null;
    const { mapper: m, blob: b, id: pictureId } = source;
    const picture = m.toPicture(place);
    if (!picture) return null;
    const perScreen = pxPerUnit(m, place) / v.scale;
    const free = useSession.getState().freeHand;
    const base = {
      screen,
      place,
      picture,
      pictureId,
      sigmaPx: Math.max(FREE_SIGMA_PX, 0.5 * perScreen),
      snappedTo: 'free' as const,
      isShadow: false,
      point: null,
      onto: null,
      edges: NO_EDGES,
      edge: 0,
    };
    const onto = (target: SnapTarget | undefined): Aimed | null => {
      const there = target && m.toPicture(target.place);
      if (!target || !there) return null;
      const { place: at, sigmaPx, id, name } = target;
      return {
        aim: {
          ...base,
          screen: toScreen(v, at),
          place: at,
          picture: there,
          sigmaPx,
          snappedTo: 'point',
          point: id,
          onto: name,
        },
        look: null,
      };
    };
    const targets = free ? [] : nearestFirst(w.targets(place, REACH.screenPx / v.scale), v, screen);
    const strong = targets.filter((t) => !t.isWeak);
    const weak = targets.filter((t) => t.isWeak);
    const asked = useSession.getState().otherEdge;
    const first = asked < strong.length ? onto(strong[asked]) : null;
    if (first) return first;
    if (!w.looks) return { aim: base, look: null };
    const searchPx = free || !w.wish ? 0 : Math.min(REACH.mostPx, Math.max(REACH.leastPx, REACH.screenPx * perScreen));
    const look = await pixels
      .call((p) => p.look(b, picture, LOUPE.acrossPx, w.wish ?? 'edge', searchPx))
      .catch(() => null);
    const edges = (look?.located ?? []).flatMap(({ uPx, vPx }) => {
      const at = m.toPlace({ uPx, vPx });
      return at ? [{ uPx, vPx, screen: toScreen(v, at) }] : [];
    });
    const isRead = look !== null && edges.length > 0 && edges.length === look.located.length;
    const seen = isRead ? edges.length : 0;
    // One after the other as often as the next one was asked for: points and the like, edges, what lies along pieces.
    const count = strong.length + seen + weak.length;
    const turn = count > 0 ? asked % count : 0;
    if (turn < strong.length) return onto(strong[turn]) ?? { aim: base, look };
    if (turn >= strong.length + seen) return onto(weak[turn - strong.length - seen]) ?? { aim: base, look };
    if (!look) return { aim: base, look };
    // What the run goes on along, and from there to the next one for each time the other edge was asked for.
    const edge = ((w.choose?.(edges) ?? 0) + turn - strong.length) % edges.length;
    const { uPx, vPx, sigmaPx, kind } = look.located[edge]!;
    return {
      aim: {
        screen: edges[edge]!.screen,
        place: fromScreen(v, edges[edge]!.screen),
        picture: { uPx, vPx },
        pictureId,
        sigmaPx,
        snappedTo: kind,
        isShadow: look.shadows[edge] ?? false,
        point: null,
        onto: null,
        edges,
        edge,
      },
      look,
    };
  }, []);

  const move = useCallback(
    (screen: ScreenPlace, then: (aim: Aim) => void) => {
      const mine = ++run.current;
      queue.current.next = async () => {
        const found = await aimAt(screen);
        if (!found || mine !== run.current || !context.current.active) return;
        setShown(found);
        then(found.aim);
      };
      const pump = async () => {
        const q = queue.current;
        if (q.busy) return;
        q.busy = true;
        while (q.next) {
          const job = q.next;
          q.next = null;
          await job();
        }
        q.busy = false;
      };
      void pump();
    },
    [aimAt],
  );

  const leave = useCallback(() => {
    run.current += 1;
    setShown(null);
  }, []);

  return { shown, move, aimAt, leave };
}

const isIn = ({ widthPx, heightPx }: AimSource, at: PicturePoint | null): boolean =>
  at !== null && at.uPx >= 0 && at.vPx >= 0 && at.uPx <= widthPx && at.vPx <= heightPx;

/** Those within reach, the nearest first; of several names of one place the first. */
function nearestFirst(targets: readonly SnapTarget[], view: View, screen: ScreenPlace): SnapTarget[] {
  const away = ({ place }: SnapTarget) => {
    const p = toScreen(view, place);
    return Math.hypot(p.x - screen.x, p.y - screen.y);
  };
  const near = targets.map((target) => ({ target, away: away(target) })).filter((t) => t.away <= REACH.screenPx);
  near.sort((a, b) => Number(a.target.id === null) - Number(b.target.id === null) || a.away - b.away);
  const apart = (a: Vec2, b: Vec2) => Math.hypot(a.x - b.x, a.y - b.y) * view.scale;
  const kept: SnapTarget[] = [];
  for (const { target } of near)
    if (!kept.some((k) => k.isWeak === target.isWeak && apart(k.place, target.place) < 0.5)) kept.push(target);
  return kept;
}
