import {
  type JobAction,
  type JobDocument,
  moveCommonPoint,
  movePick,
  type PickRecord,
  type Picture,
  type ReferenceRecord,
  recordKindOf,
  setAxis,
  setTurned,
  setZero,
  type TurnedRecord,
} from '@steady-moth/core/job';

/** Every pick of a calibration that can be taken hold of. An axis or a zero that leans on a reference has none of its own. */
export interface HeldPick {
  id: string;
  end: 'from' | 'to';
  /** Which of a reference's spans. */
  span: number;
  pick: PickRecord;
  label: string;
}

/** Two picks of a calibration that belong together, drawn as a line. */
export interface HeldSpan {
  id: string;
  span: number;
  from: PickRecord;
  to: PickRecord;
  label: string;
  /** What its ends are called. */
  point: 'reading' | 'point';
}

/** What a reference's spans and their ends are called, where it has any. */
const SPAN_WORDS: Partial<Record<ReferenceRecord['kind'], { word: string; point: HeldSpan['point'] }>> = {
  'square-lines': { word: 'Line', point: 'point' },
  'equal-lengths': { word: 'Length', point: 'point' },
};

/** The spans of all references that have any. */
export function referenceSpans({ calibration }: Picture): HeldSpan[] {
  return calibration.references.flatMap((y, k) => {
    const words = SPAN_WORDS[y.kind];
    return recordKindOf(y)
      .spans(y)
      .map(({ from, to }, span): HeldSpan => {
        const label = words ? `${words.word} ${span + 1} of ${k + 1}` : `Known length ${k + 1}`;
        return { id: y.id, span, from, to, label, point: words?.point ?? 'reading' };
      });
  });
}

/** Both silhouettes of a turned part. */
export function turnedSpans({ calibration: { turned } }: Picture): HeldSpan[] {
  const silhouettes = turned?.silhouettes ?? [];
  return silhouettes.map(([from, to], span) => ({
    id: 'turned',
    span,
    from,
    to,
    label: `Edge ${span + 1}`,
    point: 'point',
  }));
}

export function picksOf(picture: Picture): HeldPick[] {
  const { axis, wanted, zero, spotChecks } = picture.calibration;
  const alone = (id: string, { from, to }: { from: PickRecord; to: PickRecord }, label: string): HeldSpan => {
    return { id, span: 0, from, to, label, point: 'point' };
  };
  const spans = [
    ...referenceSpans(picture),
    ...spotChecks.map((s, k) => alone(s.id, s, `Spot check ${k + 1}`)),
    ...(axis && 'from' in axis ? [alone('axis', axis, 'Direction')] : []),
    ...(wanted ? [alone('wanted', wanted, 'Wanted length')] : []),
    ...turnedSpans(picture),
  ];
  const picks = spans.flatMap(({ id, span, from, to, label, point }): HeldPick[] => [
    { id, end: 'from', span, pick: from, label: `${label}, first ${point}` },
    { id, end: 'to', span, pick: to, label: `${label}, second ${point}` },
  ]);
  if (zero && 'pick' in zero) picks.push({ id: 'zero', end: 'from', span: 0, pick: zero.pick, label: 'Zero' });
  return picks;
}

/** Where a picture shows common points. */
export function commonPicks({ joins }: Pick<JobDocument, 'joins'>, picture: Picture): HeldPick[] {
  return joins
    .filter((j) => j.kind === 'point')
    .flatMap((j, k) =>
      j.seen
        .filter((s) => s.picture === picture.id)
        .map(({ pick }): HeldPick => {
          return { id: `${COMMON}${j.id}`, end: 'from', span: 0, pick, label: `Common point ${k + 1}` };
        }),
    );
}

/** A common point is taken hold of by its join's name behind this. */
const COMMON = 'common ';

/** Every place that was found of a reference, of which one that lies wrong can be left out. */
export function placesOf({ calibration }: Picture): { reference: string; place: PickRecord }[] {
  return calibration.references.flatMap((y) =>
    recordKindOf(y)
      .places(y)
      .map((place) => ({ reference: y.id, place })),
  );
}

/** The change that puts a pick elsewhere. */
export function moveHeld(
  picture: Picture,
  { id, end, span = 0 }: { id: string; end: 'from' | 'to'; span?: number },
  pick: PickRecord,
): JobAction {
  const { axis, turned, zero } = picture.calibration;
  if (id.startsWith(COMMON)) return moveCommonPoint(id.slice(COMMON.length), picture.id, { pick });
  if (id === 'turned' && turned) return setTurned(picture.id, movedSilhouette(turned, end, span, pick));
  if (id === 'zero' && zero && 'pick' in zero) return setZero(picture.id, { ...zero, pick });
  if (id === 'axis' && axis && 'from' in axis) return setAxis(picture.id, { ...axis, [end]: pick });
  return movePick(picture.id, id, end, pick, span);
}

/** A turned part with one pick of its silhouettes elsewhere. */
export function movedSilhouette(
  turned: TurnedRecord,
  end: 'from' | 'to',
  span: number,
  pick: PickRecord,
): TurnedRecord {
  const silhouettes = structuredClone(turned.silhouettes);
  silhouettes[span === 0 ? 0 : 1][end === 'from' ? 0 : 1] = pick;
  return { ...turned, silhouettes };
}

/** A pick that is being dragged: shown, and the picture trued with it, before it is let go. */
export interface PickDraft {
  id: string;
  end: 'from' | 'to';
  span: number;
  pick: PickRecord;
}
