import type { PickRecord } from '../../sketch';
import type {
  DiscRecord,
  EqualLengthsRecord,
  GridRecord,
  KnownLengthRecord,
  ReferenceRecord,
  SheetRecord,
  SquareLinesRecord,
  TurnedDiameterRecord,
} from '../document/document';
import { NO_PLACES, NO_SPANS, type RecordKind, type Span } from './kind';

const knownLength: RecordKind<KnownLengthRecord> = {
  word: 'a known length',
  spans: ({ from, to }) => [{ from, to }],
  movePick(record, _, end, pick) {
    // They were counted between the readings that were.
    record.graduations = null;
    record[end] = pick;
  },
  places: ({ graduations: g }) => (g ? [...g.graduations.flatMap((s) => s.places), ...g.edge, ...g.far] : []),
  keepPlaces({ graduations: g }, stays) {
    if (!g) return;
    g.graduations = g.graduations.filter((s) => s.places.every(stays));
    g.edge = g.edge.filter(stays);
    g.far = g.far.filter(stays);
  },
  datumLine: ({ from, to }) => ({ from, to }),
  isNumbered: false,
};

const disc: RecordKind<DiscRecord> = {
  word: 'a coin',
  ...NO_SPANS,
  places: ({ rim, foot }) => (foot ? [...rim, ...foot] : rim),
  keepPlaces(record, stays) {
    record.rim = record.rim.filter(stays);
    if (record.foot) record.foot = record.foot.filter(stays);
  },
  datumLine: () => null,
  isNumbered: true,
};

const sheet: RecordKind<SheetRecord> = {
  word: 'a sheet',
  ...NO_SPANS,
  places: ({ edges }) => edges.flat(),
  keepPlaces(record, stays) {
    record.edges = record.edges.map((edge) => edge.filter(stays)) as typeof record.edges;
  },
  datumLine: ({ edges: [first] }) => ({ from: first[0]!, to: first[first.length - 1]! }),
  isNumbered: true,
};

const grid: RecordKind<GridRecord> = {
  word: 'a grid',
  ...NO_SPANS,
  places: ({ crossings }) => crossings.map((c) => c.pick),
  keepPlaces(record, stays) {
    record.crossings = record.crossings.filter((c) => stays(c.pick));
  },
  datumLine({ crossings }) {
    const row = crossings.filter((c) => c.j === crossings[0]!.j).sort((a, b) => a.i - b.i);
    return row.length > 1 ? { from: row[0]!.pick, to: row[row.length - 1]!.pick } : null;
  },
  isNumbered: true,
};

function moveIn(spans: Span[], span: number, end: 'from' | 'to', pick: PickRecord): void {
  if (spans[span]) spans[span][end] = pick;
}

const squareLines: RecordKind<SquareLinesRecord> = {
  word: 'square lines',
  spans: ({ lines }) => lines,
  movePick: ({ lines }, span, end, pick) => moveIn(lines, span, end, pick),
  ...NO_PLACES,
  datumLine: ({ lines }) => lines[0]!,
  isNumbered: false,
};

const equalLengths: RecordKind<EqualLengthsRecord> = {
  word: 'equal lengths',
  spans: ({ lengths }) => lengths,
  movePick: ({ lengths }, span, end, pick) => moveIn(lengths, span, end, pick),
  ...NO_PLACES,
  datumLine: ({ lengths }) => lengths[0]!,
  isNumbered: false,
};

const turnedDiameter: RecordKind<TurnedDiameterRecord> = {
  word: 'a known diameter',
  ...NO_SPANS,
  ...NO_PLACES,
  datumLine: () => null,
  isNumbered: false,
};

const KINDS: { [K in ReferenceRecord['kind']]: RecordKind<Extract<ReferenceRecord, { kind: K }>> } = {
  'known-length': knownLength,
  disc,
  sheet,
  grid,
  'square-lines': squareLines,
  'equal-lengths': equalLengths,
  'turned-diameter': turnedDiameter,
};

/** The face of a reference's own kind. */
export const recordKindOf = <R extends ReferenceRecord>(record: R): RecordKind<R> =>
  KINDS[record.kind] as unknown as RecordKind<R>;
