import {
  addJoin,
  addReference,
  type JobAction,
  layPicture,
  type PickRecord,
  type Picture,
  setAxis,
  setTurned,
  setZero,
} from '@steady-moth/core/job';
import { inkOf } from '../../../board/inkOf';
import type { Tool as ToolName } from '../../../session/sessionStore';
import { picksOf } from '../picks';
import type { DatumBy } from '../trueStore';
import {
  flatOf,
  NO_PREVIEW,
  recordOf,
  spanTo,
  type TrueAnswer,
  type TrueContext,
  type TrueOutcome,
  type TrueTool,
} from './context';

/** Picks made so far. */
export interface PickState {
  picks: readonly PickRecord[];
}

const NONE: PickState = { picks: [] };

/** A second press this near to the first is a slip of the finger, px of the picture. */
const SAME_PLACE_PX = 4;
/** Two lines whose ways differ by less than this do not lie across each other, rad. */
const ACROSS_RAD = Math.PI / 6;

/** Every tool of True that sets picks: two of a length or a direction, four of two lines, one of what is found by a click. */
export const pickTool: TrueTool<PickState> = {
  start: () => NONE,
  // Both sides of an ink line are edges: of a drawing its middle counts, or a line picked at two places would lie askew.
  wish: (_, { name, picture }) => (name === 'readings' ? 'line' : inkOf(picture)),
  snaps: ({ name, datumBy }) => !onlyPoints(name, datumBy),
  targets: (_, __, ___, { name, picture, mapper }) =>
    name === 'zero' || name === 'direction'
      ? picksOf(picture).flatMap((p) => {
          const place = mapper.toPlace(p.pick);
          return place
            ? [{ id: `${p.id} ${p.end}`, place, sigmaPx: p.pick.sigmaPx, name: 'point', isWeak: false }]
            : [];
        })
      : [],
  step(state, event, context) {
    switch (event.kind) {
      case 'move': {
        const from = firstOf(state);
        return from && context.isTrue ? { state, show: spanTo(from, event.aim.place, context) } : { state };
      }
      case 'place':
        return context.isFinding ? { state } : placed(state, recordOf(event.aim), context);
      case 'answer':
        return answered(event.answer, context);
      case 'cancel':
        return { state: NONE, preview: NO_PREVIEW };
      default:
        return { state };
    }
  },
};

/** The pick that the next one belongs to: the first of two, or the third of four. */
const firstOf = ({ picks }: PickState): PickRecord | null => (picks.length % 2 ? (picks.at(-1) ?? null) : null);

const begun = (picks: readonly PickRecord[]): TrueOutcome<PickState> => ({
  state: { picks },
  // After two of four the first stays in sight.
  preview: { draft: null, first: firstOf({ picks }) ?? picks[0] ?? null },
  effect: { kind: 'fault', sentence: null },
});

const ended = (action: JobAction): TrueOutcome<PickState> => ({
  state: NONE,
  preview: NO_PREVIEW,
  action,
  isDone: true,
});

function placed(state: PickState, pick: PickRecord, context: TrueContext): TrueOutcome<PickState> {
  const { name, datumBy, picture } = context;
  if (name === 'common') return common(pick, context);
  if (name === 'lay') return lay(pick, context);
  if (name === 'ruler' || name === 'disc' || name === 'sheet' || name === 'grid')
    return { state: NONE, ask: { kind: name, click: pick } };
  if (name === 'zero' && datumBy === 'hole') return { state: NONE, ask: { kind: 'holes', clicks: [pick] } };
  if (name === 'zero' && datumBy === 'point') return ended(setZero(picture.id, { pick, plane: 'face' }));
  const picks = [...state.picks, pick];
  if (takesFour(name, datumBy)) return picks.length < 4 ? begun(picks) : ended(saidByFour(picks, context));
  const [first] = state.picks;
  if (!first) return begun([pick]);
  if (Math.hypot(first.uPx - pick.uPx, first.vPx - pick.vPx) < SAME_PLACE_PX)
    return { state, show: { snaps: 'the first point again: pick another' } };
  return saidByTwo(first, pick, context);
}

function saidByTwo(from: PickRecord, to: PickRecord, context: TrueContext): TrueOutcome<PickState> {
  const { name, datumBy, picture, acrossFirst } = context;
  const open = { state: NONE, preview: NO_PREVIEW };
  if (name === 'direction' && datumBy === 'hole') return { ...open, ask: { kind: 'holes', clicks: [from, to] } };
  if (name === 'direction')
    return ended(setAxis(picture.id, { along: flatOf(picture, from, to), from, to, plane: 'face' }));
  if (name === 'across' && acrossFirst && runsAlike(acrossFirst, from, to))
    return { ...open, effect: { kind: 'fault', sentence: 'That runs as the first length does: pick one across it.' } };
  if (name === 'readings' || name === 'across' || name === 'spot' || name === 'wanted')
    return { ...open, effect: { kind: 'pending', pending: { purpose: name, from, to } } };
  return open;
}

/** First in one picture, then in the other; and back again for the next point. */
function common(
  pick: PickRecord,
  { job, picture, common: first, commonWith, newId }: TrueContext,
): TrueOutcome<PickState> {
  if (first && first.picture !== picture.id) {
    const locked = [first.picture, picture.id]
      .map((id) => job.pictures.find((p) => p.id === id))
      .find((p) => p?.locked);
    if (locked)
      return {
        state: NONE,
        effect: { kind: 'fault', sentence: `${locked.fileName} is locked: unlock it first, then join it.` },
      };
    const seen = [first, { picture: picture.id, pick }].map((s) => ({ ...s, plane: 'face' }));
    return {
      state: NONE,
      action: addJoin({ id: newId(), kind: 'point', seen }),
      effect: { kind: 'seek', picture: first.picture, begun: null },
    };
  }
  const others = job.pictures.filter((p) => p.id !== picture.id);
  const other = others.find((p) => p.id === commonWith) ?? others[0];
  if (!other) return { state: NONE };
  return { state: NONE, effect: { kind: 'seek', picture: other.id, begun: { picture: picture.id, pick } } };
}

/** Where the zero of another picture lies, pressed in this one; then back to it. */
function lay(pick: PickRecord, { job, laying, isTrue, mapper }: TrueContext): TrueOutcome<PickState> {
  const laid = job.pictures.find((p) => p.id === laying);
  if (!laid) return { state: NONE };
  const place = isTrue ? mapper.toPlace(pick) : null;
  if (!place)
    return {
      state: NONE,
      effect: { kind: 'fault', sentence: 'This picture is not true yet: give it a yardstick first.' },
    };
  const turnRad = laid.calibration.laid?.turnRad ?? 0;
  return {
    state: NONE,
    action: layPicture(laid.id, { xMm: place.x, yMm: place.y, turnRad }),
    effect: { kind: 'back', picture: laid.id },
  };
}

function answered(answer: TrueAnswer, { name, picture }: TrueContext): TrueOutcome<PickState> {
  if (answer.kind === 'holes') {
    const [a, b] = answer.rims ?? [];
    const [from, to] = answer.clicks;
    if (a && b && from && to)
      return ended(setAxis(picture.id, { along: flatOf(picture, from, to), holes: [a, b], plane: 'face' }));
    return a && name !== 'direction' ? ended(setZero(picture.id, { rim: a, plane: 'face' })) : { state: NONE };
  }
  const found = answer.answer;
  if (!found?.found.ok) return { state: NONE };
  if (found.kind === 'ruler') {
    const { from, to } = found.found;
    const pending = { purpose: 'readings' as const, from, to, ruler: found.found };
    return { state: NONE, effect: { kind: 'pending', pending } };
  }
  if (found.kind === 'disc')
    return { state: NONE, effect: { kind: 'found', found: { kind: 'disc', found: found.found } } };
  if (found.kind === 'sheet')
    return { state: NONE, effect: { kind: 'found', found: { kind: 'sheet', found: found.found } } };
  return { state: NONE, effect: { kind: 'found', found: { kind: 'grid', found: found.found } } };
}

function runsAlike(other: { from: PickRecord; to: PickRecord }, from: PickRecord, to: PickRecord): boolean {
  const way = (a: PickRecord, b: PickRecord) => Math.atan2(b.vPx - a.vPx, b.uPx - a.uPx);
  const turn = way(from, to) - way(other.from, other.to);
  return Math.abs(Math.sin(turn)) < Math.sin(ACROSS_RAD);
}

/** What is said by two picks on each of two lines. */
const takesFour = (name: ToolName, by: DatumBy): boolean =>
  name === 'lines' ||
  name === 'equal' ||
  name === 'turned' ||
  (name === 'zero' && by !== 'point' && by !== 'hole') ||
  (name === 'direction' && by === 'middle');

function saidByFour(picks: readonly PickRecord[], { name, picture, newId }: TrueContext): JobAction {
  const [a, b, c, d] = picks as [PickRecord, PickRecord, PickRecord, PickRecord];
  const pairs: [[PickRecord, PickRecord], [PickRecord, PickRecord]] = [
    [a, b],
    [c, d],
  ];
  if (name === 'zero') return setZero(picture.id, { crossing: [...picks], plane: 'face' });
  if (name === 'turned')
    return setTurned(picture.id, { plane: picture.calibration.turned?.plane ?? 'face', silhouettes: pairs });
  if (name === 'direction') return setAxis(picture.id, { along: flatOf(picture, a, b), edges: pairs, plane: 'face' });
  return addSpans(picture, name === 'lines', pairs, newId());
}

/** Two lines of a square frame, or two equal lengths. */
function addSpans(
  picture: Picture,
  isSquare: boolean,
  pairs: readonly (readonly [PickRecord, PickRecord])[],
  id: string,
): JobAction {
  const spans = pairs.map(([from, to]) => ({ from, to }));
  const said = { id, plane: 'face', typed: '' };
  return addReference(
    picture.id,
    isSquare
      ? {
          ...said,
          kind: 'square-lines',
          lines: spans.map((s) => ({ ...s, along: alongRows(s.from, s.to) })),
          plusMinusRad: null,
        }
      : { ...said, kind: 'equal-lengths', lengths: spans, plusMinusShare: null },
  );
}

/** Which lines of a square frame run alike: told in the picture's own rows, however it is shown. */
const alongRows = (from: PickRecord, to: PickRecord): 'x' | 'y' =>
  Math.abs(to.uPx - from.uPx) >= Math.abs(to.vPx - from.vPx) ? 'x' : 'y';

/** A click that only says about what place something is looked for. */
const onlyPoints = (name: ToolName, by: DatumBy): boolean =>
  name === 'ruler' ||
  name === 'disc' ||
  name === 'sheet' ||
  name === 'grid' ||
  ((name === 'zero' || name === 'direction') && by === 'hole');
