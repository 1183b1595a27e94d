import type { DiscResult, GridResult, RulerResult, SheetResult } from '@steady-moth/core/find';
import type { PickRecord } from '@steady-moth/core/job';
import { create } from 'zustand';
import { onLayDown, useSession } from '../../session/sessionStore';

/** A length that waits for its figure: both picks are made. */
export interface PendingLength {
  purpose: 'readings' | 'across' | 'spot' | 'wanted';
  from: PickRecord;
  to: PickRecord;
  /** The ruler that was found by one click, its strokes counted. */
  ruler?: FoundRuler;
}

export type FoundRuler = Extract<RulerResult, { ok: true }>;

/** A reference that was found by one click and waits to be told what it is. */
export type PendingFound =
  | { kind: 'disc'; found: Extract<DiscResult, { ok: true }> }
  | { kind: 'sheet'; found: Extract<SheetResult, { ok: true }> }
  | { kind: 'grid'; found: Extract<GridResult, { ok: true }> };

/** By what zero or the direction of X is picked: a place or a line; where edges cross; between two; holes. */
export type DatumBy = 'point' | 'crossing' | 'middle' | 'hole';

/** What True waits for: of this tab only, never part of the document. */
interface TrueStore {
  pending: PendingLength | null;
  found: PendingFound | null;
  /** Why what was looked for about a click was not found. */
  findFault: string | null;
  datumBy: DatumBy;
  /** The first of two lengths across each other, once it is said. */
  acrossFirst: { from: PickRecord; to: PickRecord } | null;
  /** A common point that was picked in one picture and waits for its like in another. */
  common: { picture: string; pick: PickRecord } | null;
  /** The picture whose zero's place is pressed in another one. */
  laying: string | null;
  /** The picture that common points are picked in next; null for the next one of the job. */
  commonWith: string | null;
  setPending(pending: PendingLength | null): void;
  setFound(found: PendingFound | null): void;
  setFindFault(fault: string | null): void;
  setDatumBy(by: DatumBy): void;
  setAcrossFirst(first: { from: PickRecord; to: PickRecord } | null): void;
  /** Goes to another picture with the tool still in hand, a common point begun or ended. */
  seekCommon(picture: string, begun: { picture: string; pick: PickRecord } | null): void;
  /** Goes to another picture, where the place of this one's zero is pressed. */
  lay(laying: string, into: string): void;
  setCommonWith(picture: string | null): void;
}

const NOTHING_WAITS = {
  pending: null,
  found: null,
  findFault: null,
  acrossFirst: null,
  common: null,
  laying: null,
} as const;

export const useTrue = create<TrueStore>((set) => ({
  ...NOTHING_WAITS,
  datumBy: 'point',
  commonWith: null,
  setPending: (pending) => set({ pending }),
  setFound: (found) => set({ found }),
  setFindFault: (findFault) => set({ findFault }),
  setDatumBy: (datumBy) => set({ datumBy }),
  setAcrossFirst: (acrossFirst) => set({ acrossFirst }),
  seekCommon(picture, common) {
    set({ common });
    useSession.setState({ picture, pictureView: null, selection: null });
  },
  lay(laying, into) {
    set({ ...NOTHING_WAITS, laying });
    useSession.setState({
      picture: into,
      pictureView: null,
      selection: null,
      tool: 'lay',
      otherEdge: 0,
    });
  },
  setCommonWith: (commonWith) => set({ commonWith }),
}));

onLayDown((why) => {
  const { common } = useTrue.getState();
  useTrue.setState(NOTHING_WAITS);
  // A common point that was begun is given up where it was begun.
  if (why === 'tool' && common) useSession.setState({ picture: common.picture });
});
