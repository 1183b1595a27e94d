import { type JobAction, movePick, type PickRecord, type Picture, setAxis, setZero } from '@steady-moth/core/job';

/** Every pick of a truing that can be taken hold of. An axis or a zero that leans on a yardstick has none of its own. */
export interface HeldPick {
  id: string;
  end: 'from' | 'to';
  /** Which of a yardstick's spans. */
  span: number;
  pick: PickRecord;
  label: string;
  /** It is one of a yardstick. */
  yardstick: boolean;
}

export function picksOf({ truing }: Picture): HeldPick[] {
  const picks: HeldPick[] = [];
  const add = (
    id: string,
    { from, to }: { from: PickRecord; to: PickRecord },
    label: string,
    point = 'point',
    span = 0,
    yardstick = false,
  ) => {
    picks.push({ id, end: 'from', span, pick: from, label: `${label}, first ${point}`, yardstick });
    picks.push({ id, end: 'to', span, pick: to, label: `${label}, second ${point}`, yardstick });
  };
  truing.yardsticks.forEach((y, k) => {
    if (y.kind === 'known-length') add(y.id, y, `Known length ${k + 1}`, 'reading', 0, true);
    if (y.kind === 'square-lines')
      y.lines.forEach((l, n) => void add(y.id, l, `Line ${n + 1} of ${k + 1}`, 'point', n, true));
    if (y.kind === 'equal-lengths')
      y.lengths.forEach((l, n) => void add(y.id, l, `Length ${n + 1} of ${k + 1}`, 'point', n, true));
  });
  truing.spotChecks.forEach((s, k) => void add(s.id, s, `Spot check ${k + 1}`));
  if (truing.axis && 'from' in truing.axis) add('axis', truing.axis, 'Direction');
  if (truing.wanted) add('wanted', truing.wanted, 'Wanted length');
  if (truing.zero && 'pick' in truing.zero)
    picks.push({ id: 'zero', end: 'from', span: 0, pick: truing.zero.pick, label: 'Zero', yardstick: false });
  return picks;
}

/** Every place that was found of a yardstick, of which one that lies wrong can be left out. */
export function placesOf({ truing }: Picture): { yardstick: string; place: PickRecord }[] {
  return truing.yardsticks.flatMap((y) => {
    const all =
      y.kind === 'disc'
        ? y.rim
        : y.kind === 'sheet'
          ? y.edges.flat()
          : y.kind === 'grid'
            ? y.crossings.map((c) => c.pick)
            : y.kind === 'known-length' && y.strokes
              ? [...y.strokes.strokes.flatMap((s) => s.places), ...y.strokes.edge]
              : [];
    return all.map((place) => ({ yardstick: y.id, place }));
  });
}

/** The change that puts a pick elsewhere. */
export function moveHeld(
  picture: Picture,
  { id, end, span = 0 }: { id: string; end: 'from' | 'to'; span?: number },
  pick: PickRecord,
): JobAction {
  const { axis, zero } = picture.truing;
  if (id === 'zero' && zero && 'pick' in zero) return setZero(picture.id, { ...zero, pick });
  if (id === 'axis' && axis && 'from' in axis) return setAxis(picture.id, { ...axis, [end]: pick });
  return movePick(picture.id, id, end, pick, span);
}

/** A pick that is being dragged: shown, and the picture trued with it, before it is let go. */
export interface PickDraft {
  id: string;
  end: 'from' | 'to';
  span: number;
  pick: PickRecord;
}
