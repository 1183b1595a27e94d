import { type JobAction, movePick, type PickRecord, type Picture, setAxis, setZero } from '@steady-moth/core/job';

/** Every pick of a truing that can be taken hold of. An axis or a zero that leans on a yardstick has none of its own. */
export interface HeldPick {
  id: string;
  end: 'from' | 'to';
  pick: PickRecord;
  label: string;
}

export function picksOf({ truing }: Picture): HeldPick[] {
  const picks: HeldPick[] = [];
  truing.yardsticks.forEach((y, k) => {
    picks.push({ id: y.id, end: 'from', pick: y.from, label: `Known length ${k + 1}, first reading` });
    picks.push({ id: y.id, end: 'to', pick: y.to, label: `Known length ${k + 1}, second reading` });
  });
  truing.spotChecks.forEach((s, k) => {
    picks.push({ id: s.id, end: 'from', pick: s.from, label: `Spot check ${k + 1}, first point` });
    picks.push({ id: s.id, end: 'to', pick: s.to, label: `Spot check ${k + 1}, second point` });
  });
  if (truing.axis && 'from' in truing.axis) {
    picks.push({ id: 'axis', end: 'from', pick: truing.axis.from, label: 'Direction, first point' });
    picks.push({ id: 'axis', end: 'to', pick: truing.axis.to, label: 'Direction, second point' });
  }
  if (truing.zero && 'pick' in truing.zero)
    picks.push({ id: 'zero', end: 'from', pick: truing.zero.pick, label: 'Zero' });
  return picks;
}

/** The change that puts a pick elsewhere. */
export function moveHeld(picture: Picture, id: string, end: 'from' | 'to', pick: PickRecord): JobAction {
  const { axis, zero } = picture.truing;
  if (id === 'zero' && zero && 'pick' in zero) return setZero(picture.id, { ...zero, pick });
  if (id === 'axis' && axis && 'from' in axis) return setAxis(picture.id, { ...axis, [end]: pick });
  return movePick(picture.id, id, end, pick);
}

/** A pick that is being dragged: shown, and the picture trued with it, before it is let go. */
export interface PickDraft {
  id: string;
  end: 'from' | 'to';
  pick: PickRecord;
}
