import type { PickRecord } from '../../sketch';
import type { ReferenceRecord } from '../document/document';

export interface Span {
  from: PickRecord;
  to: PickRecord;
}

/** What the document does with a kind of reference: everything but the estimate (calibration/reference/kinds). */
export interface RecordKind<R extends ReferenceRecord> {
  /** What it is called in undo. */
  word: string;
  /** Pairs of picks that a person set and can drag. */
  spans(record: R): Span[];
  /** One end of a span elsewhere: changes the record. */
  movePick(record: R, span: number, end: 'from' | 'to', pick: PickRecord): void;
  /** Every place that was found, each of which can be left out. */
  places(record: R): PickRecord[];
  /** Keeps only places that stay: changes the record. */
  keepPlaces(record: R, stays: (place: PickRecord) => boolean): void;
  /** The line by which a datum can go; null for none. */
  datumLine(record: R): Span | null;
  /** Its places can be told again in another picture, whatever was typed. */
  isNumbered: boolean;
}

export const NO_SPANS = { spans: (): Span[] => [], movePick: (): void => {} } as const;
export const NO_PLACES = { places: (): PickRecord[] => [], keepPlaces: (): void => {} } as const;
