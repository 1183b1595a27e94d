import type { PicturePoint } from '@steady-moth/core/calibration';
import type { SnappedCircle } from '@steady-moth/core/edge';
import { type Circle, handlesThrough, splitSegment, threeOnCircle, type Vec2 } from '@steady-moth/core/geometry';
import {
  addCircle,
  bowToArc,
  bowToCurve,
  closeRun,
  edgeKept,
  extendRun,
  insertPoint,
  type JobAction,
  type JobDocument,
  movePoints,
  type NewPoint,
  nearestOther,
  nextName,
  type Picture,
  pointsOfRun,
  type SegmentRecord,
  startRun,
  type TracedPoint,
} from '@steady-moth/core/job';
import { useMemo, useRef } from 'react';
import type { BoardTool } from '../../board/Board';
import type { Aim } from '../../board/useAim';
import { pixels } from '../../compute';
import { type BoardFace, boardMapper, pxPerUnit } from '../../frames/boardMap';
import { isMoved } from '../../frames/view';
import { useBench } from '../../session/benchStore';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { useReadout } from '../../session/readoutStore';
import { hitSegment, hitTest } from './hit';
import { pointsNear } from './pointsNear';
import type { DrawnRun, PlacePoint } from './useForms';

/** What is being done and is not yet a change. */
export interface TraceDraft {
  /** Points where they are being dragged. */
  points: Record<string, TracedPoint> | null;
  /** A segment being bowed, through this board place. */
  bow: { run: string; segment: number; kind: 'arc' | 'curve'; through: Vec2 } | null;
  /** A circle being drawn, in board units. */
  circle: { centre: Vec2; radius: number } | null;
  /** From and to of a measurement. */
  measure: { from: Aim; to: Aim | null } | null;
}

export const NO_DRAFT: TraceDraft = { points: null, bow: null, circle: null, measure: null };

/** The open run that is being drawn on, and at which end. */
export interface Growing {
  run: string;
  end: 'head' | 'tail';
}

const REACH_PX = 10;
/** A circle smaller than this on screen is a slip of the finger, px. */
const LEAST_CIRCLE_PX = 4;

interface Setting {
  job: JobDocument;
  picture: Picture;
  face: BoardFace;
  placePoint: PlacePoint;
  drawn: readonly DrawnRun[];
  growing: Growing | null;
  setGrowing(growing: Growing | null): void;
  draft: TraceDraft;
  setDraft(draft: TraceDraft): void;
}

type Held =
  | { kind: 'points'; ids: string[]; from: Vec2; starts: Record<string, TracedPoint> }
  | { kind: 'bow'; run: string; segment: number; bow: 'arc' | 'curve'; from: Vec2 }
  /** `pressed`: its middle was set by a press of its own, and the next press sets the rim. */
  | { kind: 'circle'; from: Vec2; pressed?: boolean }
  | null;

/** What the pointer does in Trace, by the tool in hand; with none it takes hold of points and of segments' middles. */
export function useTraceTool(setting: Setting): BoardTool {
  const tool = useBench((s) => s.tool);
  const held = useRef<Held>(null);
  const latest = useRef(setting);
  latest.current = setting;
  return useMemo(() => {
    const apply = (action: JobAction) => useJob.getState().apply(action);
    // Presses may follow one another faster than the screen is drawn: what the one before changed must count already.
    const now = (): Setting => ({ ...latest.current, job: useJob.getState().state?.job ?? latest.current.job });
    const setGrowing = (growing: Growing | null) => {
      latest.current = { ...latest.current, growing };
      latest.current.setGrowing(growing);
    };
    const mapper = () => boardMapper(now().face);
    /** While nothing is true the board is in pixels, and no length is shown. */
    const isTrue = () => now().face.kind === 'true';
    const traced = (aim: Aim): TracedPoint => ({
      picture: aim.pictureId,
      uPx: aim.picture.uPx,
      vPx: aim.picture.vPx,
      sigmaPx: aim.sigmaPx,
      cling: aim.cling,
      beside: aim.edges.length > 1 ? placeOnly(nearestOther(aim.edges, aim.edges[aim.edge])) : null,
    });
    const placeOf = (id: string) => now().placePoint(now().job.part.points[id]);
    /** A point that was worked out, not picked: it carries the scatter given. */
    const derived = (place: Vec2, sigmaPx: number): NewPoint | null => {
      const at = mapper().toPicture(place);
      return at && { id: newId(), point: { picture: now().picture.id, ...at, sigmaPx, cling: 'free', beside: null } };
    };

    const drawOn = (aim: Aim) => {
      const { growing, job } = now();
      const run = growing && job.part.runs.find((r) => r.id === growing.run);
      if (!growing || run?.kind !== 'chain' || run.closed) {
        const other = job.part.runs.find(
          (r) =>
            r.kind === 'chain' &&
            !r.closed &&
            aim.point !== null &&
            (r.points[0] === aim.point || r.points.at(-1) === aim.point),
        );
        if (other?.kind === 'chain') {
          setGrowing({ run: other.id, end: other.points.at(-1) === aim.point ? 'tail' : 'head' });
          return;
        }
        const id = newId();
        apply(
          startRun(
            {
              id,
              name: job.part.runs.some((r) => r.kind === 'chain') ? nextName(job.part, 'Path') : 'Outer edge',
              role: 'cut',
            },
            { id: newId(), point: traced(aim) },
          ),
        );
        setGrowing({ run: id, end: 'tail' });
        return;
      }
      const [here, far] =
        growing.end === 'tail' ? [run.points.at(-1), run.points[0]] : [run.points[0], run.points.at(-1)];
      if (aim.point === here) return;
      if (aim.point !== null && aim.point === far && run.points.length >= 3) {
        apply(closeRun(run.id));
        setGrowing(null);
        useBench.getState().select({ kind: 'run', run: run.id });
        return;
      }
      apply(extendRun(run.id, growing.end, { id: newId(), point: traced(aim) }));
    };

    const insertAt = (aim: Aim) => {
      const { drawn } = now();
      const view = useBench.getState().view;
      const found = view && hitSegment(drawn, aim.board, (2 * REACH_PX) / view.scale);
      if (found?.kind !== 'segment') return;
      const form = drawn.find((d) => d.run.id === found.run)?.form;
      if (form?.kind !== 'chain') return;
      const pieces = splitSegment(form.segments[found.segment], found.t);
      const bends: NewPoint[] = [];
      const records = pieces.map((piece): SegmentRecord => {
        const own = (p: Vec2) => {
          const point = derived({ x: p.x, y: -p.y }, aim.sigmaPx);
          if (point) bends.push(point);
          return point?.id ?? '';
        };
        if (piece.kind === 'arc') return { kind: 'arc', via: own(piece.via) };
        if (piece.kind === 'curve')
          return { kind: 'curve', handleFrom: own(piece.handleFrom), handleTo: own(piece.handleTo) };
        return { kind: 'line' };
      });
      const id = newId();
      const exact = derived({ x: pieces[0].to.x, y: -pieces[0].to.y }, aim.sigmaPx);
      // A point on a line goes where the picture's edge is; one on an arc or a curve stays on it, or it would bend anew.
      const bent = form.segments[found.segment].kind !== 'line' && exact;
      const point = bent ? bent.point : traced(aim);
      apply(insertPoint(found.run, found.segment, { id, point }, records[0], records[1], bends));
      useBench.getState().select({ kind: 'point', run: found.run, point: id });
    };

    const finishCircle = async (centre: Vec2, radius: number, sigmaPx: number) => {
      const view = useBench.getState().view;
      const { setDraft, face, picture } = now();
      // It stays in sight, as it was drawn, until it has settled; another one may be drawn meanwhile.
      const circle0 = { centre, radius };
      const clear = () => {
        if (latest.current.draft.circle === circle0) setDraft(NO_DRAFT);
      };
      setDraft({ ...NO_DRAFT, circle: circle0 });
      if (!view || radius * view.scale < LEAST_CIRCLE_PX) {
        setDraft(NO_DRAFT);
        return;
      }
      const snapped = useBench.getState().freeHand
        ? null
        : await pixels.call((w) => w.cling(picture.blob, face, { centre, radius }, inkOf(picture))).catch(() => null);
      const circle = snapped ?? { centre, radius };
      // Three rim points that carry the fit's own scatter: the mean of three has the radius's σ. Neighbouring places
      // along a rim stray together, so that fewer count than were found.
      const count = snapped ? Math.max(1, snapped.used / RIM_CORRELATION) : 1;
      const rimSigma = snapped
        ? Math.max(
            LEAST_RIM_SIGMA_PX,
            (snapped.scatter * pxPerUnit(mapper(), circle.centre) * Math.sqrt(3)) / Math.sqrt(count),
          )
        : sigmaPx;
      const rim = threeOnCircle(circle).map((p) => derived(p, rimSigma));
      if (!rim[0] || !rim[1] || !rim[2]) {
        clear();
        return;
      }
      const cling = snapped ? ('edge' as const) : ('free' as const);
      const places = threeOnCircle(circle);
      const points = rim.map(
        (r, k) =>
          r && { ...r, point: { ...r.point, cling, beside: otherRimAt(snapped?.beside ?? [], places[k], circle) } },
      ) as [NewPoint, NewPoint, NewPoint];
      const id = newId();
      // Counted now: another one may have been drawn while this one settled.
      apply(addCircle({ id, name: nextName(now().job.part, 'Hole'), role: 'cut' }, points));
      clear();
      useBench.getState().select({ kind: 'run', run: id });
      useReadout.getState().show({ snaps: snapped ? roundWords(snapped) : 'nothing: F is held' });
    };

    const bowed = (run: string, segment: number, kind: 'arc' | 'curve', aim: Aim) => {
      const form = now().drawn.find((d) => d.run.id === run)?.form;
      if (form?.kind !== 'chain') return;
      const { from, to } = form.segments[segment];
      // Pressing on the point that bends it has taken the focus there; that point is gone with the new bend.
      useBench.getState().select({ kind: 'segment', run, segment });
      if (kind === 'arc') {
        apply(bowToArc(run, segment, { id: newId(), point: traced(aim) }));
        return;
      }
      const handles = handlesThrough(from, { x: aim.board.x, y: -aim.board.y }, to);
      const [a, b] = [handles.handleFrom, handles.handleTo].map((p) => derived({ x: p.x, y: -p.y }, aim.sigmaPx));
      if (a && b) apply(bowToCurve(run, segment, a, b));
    };

    return {
      wish: tool === null || tool === 'arc' || tool === 'curve' ? null : inkOf(setting.picture),
      targets(at, reach) {
        if (tool !== 'line' && tool !== 'measure') return [];
        const { drawn, job } = now();
        return pointsNear(drawn, placeOf, at, reach).flatMap((id) => {
          const board = placeOf(id);
          return board ? [{ id, board, sigmaPx: job.part.points[id].sigmaPx }] : [];
        });
      },
      choose(edges) {
        const { growing, job } = now();
        const run = growing && job.part.runs.find((r) => r.id === growing.run);
        return tool === 'line' && run ? edgeKept(run, job.part.points, growing.end, edges) : 0;
      },
      grab(raw, view, shift) {
        const { drawn, job } = now();
        const reach = REACH_PX / view.scale;
        const select = useBench.getState().select;
        const before = held.current;
        held.current = null;
        if (tool === 'circle') {
          held.current =
            before?.kind === 'circle' && before.pressed
              ? { kind: 'circle', from: before.from }
              : { kind: 'circle', from: raw };
          return true;
        }
        if (tool !== null && tool !== 'arc' && tool !== 'curve') return false;
        const found = tool === null ? hitTest(drawn, placeOf, raw, reach) : hitSegment(drawn, raw, reach);
        if (!found) {
          select(null);
          return false;
        }
        if (found.kind === 'point' || found.kind === 'centre') {
          const run = job.part.runs.find((r) => r.id === found.run);
          const ids = found.kind === 'point' ? [found.point] : run ? pointsOfRun(run) : [];
          held.current = {
            kind: 'points',
            ids,
            from: raw,
            starts: Object.fromEntries(ids.map((id) => [id, job.part.points[id]])),
          };
          select(found.kind === 'point' ? found : { kind: 'run', run: found.run });
          return true;
        }
        if (found.kind === 'circle') {
          select({ kind: 'run', run: found.run });
          return false;
        }
        select({ kind: 'segment', run: found.run, segment: found.segment });
        const chosen = job.part.runs.find((r) => r.id === found.run);
        const own = chosen?.kind === 'chain' ? chosen.segments[found.segment].kind : 'line';
        held.current = {
          kind: 'bow',
          run: found.run,
          segment: found.segment,
          bow: tool === 'curve' || (tool === null && (shift || own === 'curve')) ? 'curve' : 'arc',
          from: raw,
        };
        return true;
      },
      hover(aim, isHeld) {
        const { setDraft, draft, growing, job } = now();
        const h = held.current;
        if (isHeld && h?.kind === 'points') {
          setDraft({ ...NO_DRAFT, points: movedPoints(h, aim, traced(aim), now()) });
          return;
        }
        if (isHeld && h?.kind === 'bow') {
          setDraft({ ...NO_DRAFT, bow: { run: h.run, segment: h.segment, kind: h.bow, through: aim.board } });
          return;
        }
        if (h?.kind === 'circle') {
          const radius = Math.hypot(aim.board.x - h.from.x, aim.board.y - h.from.y);
          setDraft({ ...NO_DRAFT, circle: { centre: h.from, radius } });
          if (isTrue()) useReadout.getState().show({ lengthMm: radius * 2, lengthPlusMinusMm: null });
          return;
        }
        if (tool === 'measure' && draft.measure && !draft.measure.to) {
          if (isTrue()) showSpan(draft.measure.from.board, aim.board);
          return;
        }
        const run = growing && job.part.runs.find((r) => r.id === growing.run);
        if (tool === 'line' && run?.kind === 'chain') {
          const last = placeOf(growing?.end === 'head' ? run.points[0] : (run.points.at(-1) as string));
          if (last && isTrue()) showSpan(last, aim.board);
        }
      },
      place(aim) {
        if (tool === 'line') drawOn(aim);
        else if (tool === 'point') insertAt(aim);
        else if (tool === 'measure') {
          const { draft, setDraft } = now();
          if (!draft.measure || draft.measure.to) setDraft({ ...NO_DRAFT, measure: { from: aim, to: null } });
          else setDraft({ ...NO_DRAFT, measure: { from: draft.measure.from, to: aim } });
        } else if (tool === 'circle') {
          // By the keyboard: first the centre, then the rim.
          const h = held.current;
          if (h?.kind !== 'circle') held.current = { kind: 'circle', from: aim.board };
          else {
            held.current = null;
            void finishCircle(h.from, Math.hypot(aim.board.x - h.from.x, aim.board.y - h.from.y), aim.sigmaPx);
          }
        }
      },
      letGo(raw, view) {
        const h = held.current;
        held.current = null;
        return (aim) => {
          if (!h) return;
          if (!held.current) now().setDraft(NO_DRAFT);
          if (!isMoved(view, h.from, raw)) {
            // A press without a move only chooses; of a circle it sets the middle, and the next one its rim.
            if (h.kind === 'circle') held.current = { ...h, pressed: true };
            return;
          }
          if (h.kind === 'circle')
            void finishCircle(h.from, Math.hypot(aim.board.x - h.from.x, aim.board.y - h.from.y), aim.sigmaPx);
          else if (h.kind === 'bow') bowed(h.run, h.segment, h.bow, aim);
          else
            apply(
              movePoints(h.ids.length > 1 ? 'move a circle' : 'move a point', movedPoints(h, aim, traced(aim), now())),
            );
        };
      },
      twice() {
        const { growing } = now();
        if (tool !== 'line' || !growing) return;
        setGrowing(null);
        useBench.getState().select({ kind: 'run', run: growing.run });
      },
    };
  }, [tool, setting.picture]);
}

/** Of a drawing the middle of an ink line counts, of a thing its edge. */
const inkOf = ({ kind }: Picture): 'edge' | 'line' => (kind === 'drawing' ? 'line' : 'edge');

/** Places along a rim that stray together: a worn stretch, the foot seen beside the face. */
const RIM_CORRELATION = 6;
/** No rim point is known better than what the locator's model leaves open, px. */
const LEAST_RIM_SIGMA_PX = 0.03;

const roundWords = ({ used, beside }: SnappedCircle): string =>
  `round edge, ${used} of 48 places${beside.length ? '; another runs along it' : ''}`;

/** The other rim, where one was seen within a sixth of a turn from a place on this one. */
function otherRimAt(beside: SnappedCircle['beside'], place: Vec2, circle: Circle): PicturePoint | null {
  const away = (b: SnappedCircle['beside'][number]) => Math.hypot(b.place.x - place.x, b.place.y - place.y);
  const nearest = beside.reduce<SnappedCircle['beside'][number] | null>(
    (best, b) => (!best || away(b) < away(best) ? b : best),
    null,
  );
  return nearest && away(nearest) < circle.radius ? nearest.other : null;
}

const placeOnly = ({ uPx, vPx }: PicturePoint): PicturePoint => ({ uPx, vPx });

function showSpan(from: Vec2, to: Vec2): void {
  const dx = to.x - from.x;
  const dy = from.y - to.y;
  useReadout.getState().show({ lengthMm: Math.hypot(dx, dy), lengthPlusMinusMm: null, angle: Math.atan2(dy, dx) });
}

/** One point goes where the aim is; several move along together. */
function movedPoints(
  h: Extract<NonNullable<Held>, { kind: 'points' }>,
  aim: Aim,
  single: TracedPoint,
  { placePoint, face, picture }: Setting,
): Record<string, TracedPoint> {
  if (h.ids.length === 1) return { [h.ids[0]]: single };
  const moved: Record<string, TracedPoint> = {};
  for (const [id, start] of Object.entries(h.starts)) {
    const place = placePoint(start);
    const at =
      place &&
      boardMapper(face).toPicture({ x: place.x + aim.board.x - h.from.x, y: place.y + aim.board.y - h.from.y });
    moved[id] = at ? { ...start, ...at, picture: picture.id, cling: 'free', beside: null } : start;
  }
  return moved;
}
