import type { Vec2 } from '@steady-moth/core/geometry';
import {
  addJoin,
  type JobDocument,
  type PickRecord,
  type Picture,
  setAxis,
  setTurned,
  setZero,
} from '@steady-moth/core/job';
import { useMemo, useRef } from 'react';
import type { BoardTool } from '../../board/Board';
import type { Aim } from '../../board/useAim';
import { type BoardFace, boardMapper } from '../../frames/boardMap';
import { isMoved, toScreen } from '../../frames/view';
import { type DatumBy, type Selection, type Tool, useBench } from '../../session/benchStore';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { useReadout } from '../../session/readoutStore';
import { addSpans, axisThroughHoles, findReference, flatOf, zeroAtHole } from './findFromClick';
import { commonPicks, moveHeld, type PickDraft, picksOf, placesOf } from './picks';

const GRAB_PX = 12;

const recordOf = (aim: Aim): PickRecord => ({ uPx: aim.picture.uPx, vPx: aim.picture.vPx, sigmaPx: aim.sigmaPx });

/** What the pointer does in True: sets picks with the tool in hand, and drags any that is there. */
export function useTrueTool({
  job,
  picture,
  face,
  first,
  setFirst,
  setDraft,
}: {
  job: JobDocument;
  picture: Picture;
  face: BoardFace;
  first: PickRecord | null;
  setFirst(pick: PickRecord | null): void;
  setDraft(draft: PickDraft | null): void;
}): BoardTool {
  const tool = useBench((s) => s.tool);
  const held = useRef<{ id: string; end: 'from' | 'to'; span: number; from: Vec2 } | null>(null);
  /** Picks of lines or equal lengths that wait for the rest. */
  const spans = useRef<PickRecord[]>([]);
  const datumBy = useBench((s) => s.datumBy);
  return useMemo(() => {
    const mapper = boardMapper(face);
    const apply = useJob.getState().apply;
    const bench = useBench.getState;
    /** Length and direction from the first pick to here, as the board has them now. */
    const showSpan = (aim: Aim) => {
      const from = first && mapper.toBoard(first);
      if (!from || face.kind !== 'true') return;
      const dx = aim.board.x - from.x;
      const dy = from.y - aim.board.y;
      useReadout.getState().show({ lengthMm: Math.hypot(dx, dy), lengthPlusMinusMm: null, angle: Math.atan2(dy, dx) });
    };
    return {
      wish: tool === null ? null : tool === 'readings' ? 'line' : 'edge',
      // Where a click only points at something, it shall mean just the place clicked on.
      snaps: !onlyPoints(tool, datumBy),
      targets: () =>
        tool === 'zero' || tool === 'direction'
          ? picksOf(picture).flatMap((p) => {
              const board = mapper.toBoard(p.pick);
              return board ? [{ id: `${p.id} ${p.end}`, board, sigmaPx: p.pick.sigmaPx }] : [];
            })
          : [],
      grab(raw, view) {
        // With a tool in hand a press sets a new pick, unless it hits one of the same kind that is already there.
        if (tool !== null) return false;
        const at = toScreen(view, raw);
        const found = [...picksOf(picture), ...commonPicks(job, picture)]
          .map((p) => ({ p, place: mapper.toBoard(p.pick) }))
          .filter((c) => c.place !== null)
          .map((c) => ({
            p: c.p,
            away: Math.hypot(toScreen(view, c.place as never).x - at.x, toScreen(view, c.place as never).y - at.y),
          }))
          .filter((c) => c.away <= GRAB_PX)
          .sort((a, b) => a.away - b.away)[0];
        held.current = found ? { id: found.p.id, end: found.p.end, span: found.p.span, from: raw } : null;
        const place = found
          ? null
          : placeNear(
              picture,
              (p) => mapper.toBoard(p),
              at,
              (b) => toScreen(view, b),
            );
        bench().select(found ? { kind: 'pick', id: found.p.id, end: found.p.end, span: found.p.span } : place);
        return held.current !== null;
      },
      hover(aim, isHeld) {
        const h = held.current;
        if (isHeld && h) setDraft({ id: h.id, end: h.end, span: h.span, pick: recordOf(aim) });
        else showSpan(aim);
      },
      letGo(raw, view) {
        const h = held.current;
        held.current = null;
        return (aim) => {
          // A press without a move only chooses: it must not set the pick anew.
          if (h && isMoved(view, h.from, raw)) apply(moveHeld(picture, h, recordOf(aim)));
          if (!held.current) setDraft(null);
        };
      },
      place(aim) {
        const pick = recordOf(aim);
        if (bench().finding) return;
        if (bench().findFault) bench().setFinding(false);
        if (tool === 'common') {
          placeCommon(job, picture, pick);
          return;
        }
        if (tool === 'ruler' || tool === 'disc' || tool === 'sheet' || tool === 'grid') {
          void findReference(picture, tool, pick);
          return;
        }
        if (tool === 'zero' && datumBy === 'hole') {
          void zeroAtHole(picture, pick);
          return;
        }
        if (tool === 'zero' && datumBy === 'point') {
          apply(setZero(picture.id, { pick, plane: 'face' }));
          bench().take(null);
          return;
        }
        if (takesFour(tool, datumBy)) {
          const picks = first ? [...spans.current, pick] : [pick];
          spans.current = picks;
          setFirst(picks.length % 2 ? pick : picks[0]);
          if (picks.length < 4) return;
          saidByFour(picture, tool as FourPicked, picks);
          spans.current = [];
          setFirst(null);
          bench().take(null);
          return;
        }
        if (tool === null) return;
        if (!first) {
          setFirst(pick);
          return;
        }
        if (Math.hypot(first.uPx - pick.uPx, first.vPx - pick.vPx) < SAME_PLACE_PX) {
          useReadout.getState().show({ snaps: 'the first point again: pick another' });
          return;
        }
        if (tool === 'direction' && datumBy === 'hole') void axisThroughHoles(picture, first, pick);
        else if (tool === 'direction') {
          apply(setAxis(picture.id, { along: flatOf(first, pick), from: first, to: pick, plane: 'face' }));
          bench().take(null);
        } else if (tool === 'across' && runsAlike(bench().acrossFirst, first, pick))
          bench().setFinding(false, 'That runs as the first length does: pick one across it.');
        else if (tool === 'readings' || tool === 'across' || tool === 'spot' || tool === 'wanted')
          bench().setPending({ purpose: tool, from: first, to: pick });
        setFirst(null);
      },
    };
  }, [tool, datumBy, job, picture, face, first, setFirst, setDraft]);
}

/** First in one picture, then in the other; and back again for the next point. */
function placeCommon(job: JobDocument, picture: Picture, pick: PickRecord): void {
  const bench = useBench.getState();
  const begun = bench.common;
  if (begun && begun.picture !== picture.id) {
    const locked = [begun.picture, picture.id]
      .map((id) => job.pictures.find((p) => p.id === id))
      .find((p) => p?.locked);
    if (locked) {
      bench.setFinding(false, `${locked.fileName} is locked: unlock it first, then join it.`);
      return;
    }
    const seen = [begun, { picture: picture.id, pick }].map((s) => ({ ...s, plane: 'face' }));
    useJob.getState().apply(addJoin({ id: newId(), kind: 'point', seen }));
    bench.seekCommon(begun.picture, null);
    return;
  }
  const others = job.pictures.filter((p) => p.id !== picture.id);
  const other = others.find((p) => p.id === bench.commonWith) ?? others[0];
  if (other) bench.seekCommon(other.id, { picture: picture.id, pick });
}

/** A second press this near to the first is a slip of the finger, px of the picture. */
const SAME_PLACE_PX = 4;

/** Two lines that run within so much of each other's way do not lie across, rad. */
const ACROSS_RAD = Math.PI / 6;

function runsAlike(other: { from: PickRecord; to: PickRecord } | null, from: PickRecord, to: PickRecord): boolean {
  if (!other) return false;
  const way = (a: PickRecord, b: PickRecord) => Math.atan2(b.vPx - a.vPx, b.uPx - a.uPx);
  const turn = way(from, to) - way(other.from, other.to);
  return Math.abs(Math.sin(turn)) < Math.sin(ACROSS_RAD);
}

type FourPicked = 'lines' | 'equal' | 'turned' | 'zero' | 'direction';

/** What is said by two picks on each of two lines. */
const takesFour = (tool: Tool, by: DatumBy): boolean =>
  tool === 'lines' ||
  tool === 'equal' ||
  tool === 'turned' ||
  tool === 'zero' ||
  (tool === 'direction' && by === 'middle');

function saidByFour(picture: Picture, tool: FourPicked, picks: readonly PickRecord[]): void {
  const { apply } = useJob.getState();
  const [a, b, c, d] = picks;
  if (tool === 'zero') apply(setZero(picture.id, { crossing: [...picks], plane: 'face' }));
  else if (tool === 'turned')
    apply(
      setTurned(picture.id, {
        plane: picture.calibration.turned?.plane ?? 'face',
        silhouettes: [
          [a, b],
          [c, d],
        ],
      }),
    );
  else if (tool === 'direction')
    apply(
      setAxis(picture.id, {
        along: flatOf(a, b),
        edges: [
          [a, b],
          [c, d],
        ],
        plane: 'face',
      }),
    );
  else addSpans(picture, tool, picks);
}

/** A click that only says about what place something is looked for. */
const onlyPoints = (tool: Tool, by: DatumBy): boolean =>
  tool === 'ruler' ||
  tool === 'disc' ||
  tool === 'sheet' ||
  tool === 'grid' ||
  ((tool === 'zero' || tool === 'direction') && by === 'hole');

/** The found place under the pointer, so that it can be left out. */
function placeNear(
  picture: Picture,
  toBoard: (p: PickRecord) => Vec2 | null,
  at: Vec2,
  toScreen: (board: Vec2) => Vec2,
): Selection {
  let best: Selection = null;
  let least = GRAB_PX;
  for (const { reference, place } of placesOf(picture)) {
    const board = toBoard(place);
    const seen = board && toScreen(board);
    const away = seen ? Math.hypot(seen.x - at.x, seen.y - at.y) : Number.POSITIVE_INFINITY;
    if (away > least) continue;
    least = away;
    best = { kind: 'place', reference, uPx: place.uPx, vPx: place.vPx };
  }
  return best;
}
