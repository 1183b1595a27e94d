import type { Vec2 } from '@steady-moth/core/geometry';
import type { JobDocument, PickRecord, Picture } from '@steady-moth/core/job';
import type { PictureMap } from '@steady-moth/core/sketch';
import type { Aim } from '../../../board/useAim';
import type { FoundKind, FoundReference } from '../../../compute/pixels.worker';
import type { Reading } from '../../../session/readoutStore';
import type { Tool as ToolName } from '../../../session/sessionStore';
import type { Outcome, Tool } from '../../../tool/tool';
import type { PickDraft } from '../picks';
import type { DatumBy, PendingFound, PendingLength } from '../trueStore';

/** What the tools of True look at. */
export interface TrueContext {
  job: JobDocument;
  picture: Picture;
  mapper: PictureMap;
  /** Lengths are shown. */
  isTrue: boolean;
  name: ToolName;
  datumBy: DatumBy;
  /** The first of two lengths across each other. */
  acrossFirst: { from: PickRecord; to: PickRecord } | null;
  /** A common point that was picked in one picture and waits for its like in another. */
  common: { picture: string; pick: PickRecord } | null;
  commonWith: string | null;
  /** The picture whose zero's place on the part is pressed here. */
  laying: string | null;
  /** Something is being looked for: presses wait. */
  isFinding: boolean;
  newId(): string;
}

/** What is being done and is not yet a change. */
export interface TruePreview {
  /** A pick that is being dragged. */
  draft: PickDraft | null;
  /** The first of two picks. */
  first: PickRecord | null;
}

export const NO_PREVIEW: TruePreview = { draft: null, first: null };

export interface TrueHeld {
  id: string;
  end: 'from' | 'to';
  span: number;
}

/** What is looked for in the pixels: a reference about a click, or the rims of holes about each of some. */
export type TrueQuestion = { kind: FoundKind; click: PickRecord } | { kind: 'holes'; clicks: readonly PickRecord[] };

/** What was found; null for nothing, of which somebody has been told why. */
export type TrueAnswer =
  | { kind: 'reference'; answer: FoundReference | null }
  | { kind: 'holes'; clicks: readonly PickRecord[]; rims: readonly PickRecord[][] | null };

export type TrueEffect =
  | { kind: 'pending'; pending: PendingLength }
  | { kind: 'found'; found: PendingFound }
  /** Why something is not taken; null takes back what was said before. */
  | { kind: 'fault'; sentence: string | null }
  /** Goes to another picture with the tool still in hand. */
  | { kind: 'back'; picture: string }
  | { kind: 'seek'; picture: string; begun: { picture: string; pick: PickRecord } | null };

export type TrueTool<State> = Tool<State, TrueContext, TruePreview, TrueHeld, TrueQuestion, TrueAnswer, TrueEffect>;
export type TrueOutcome<State> = Outcome<State, TruePreview, TrueHeld, TrueQuestion, TrueEffect>;

export const recordOf = (aim: Aim): PickRecord => ({
  uPx: aim.picture.uPx,
  vPx: aim.picture.vPx,
  sigmaPx: aim.sigmaPx,
});

/** Which way a line runs more, as the picture is shown. */
export function flatOf({ preparation }: Picture, from: PickRecord, to: PickRecord): 'x' | 'y' {
  const liesFlat = Math.abs(to.uPx - from.uPx) >= Math.abs(to.vPx - from.vPx);
  return liesFlat === (preparation.turns % 2 === 0) ? 'x' : 'y';
}

/** Length and direction from a pick to a place of the part, for the readout. */
export function spanTo(from: PickRecord, to: Vec2, { mapper }: TrueContext): Partial<Reading> {
  const start = mapper.toPlace(from);
  if (!start) return {};
  const [dx, dy] = [to.x - start.x, to.y - start.y];
  return { lengthMm: Math.hypot(dx, dy), lengthPlusMinusMm: null, angle: Math.atan2(dy, dx) };
}
