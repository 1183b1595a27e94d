import { type Static, type TProperties, type TSchema, Type } from '@sinclair/typebox';
import { MOST } from './bounds';

/*
 * What the document is defined with. Each definition is the JSON Schema by which a document is checked and the type that
 * code knows it by, in one. Objects are closed, numbers and lists bounded.
 */

/** What is named here is checked once, wherever it is used: the compiled check stays small. */
export const NAMED: Record<string, TSchema> = {};

export function named<T extends TSchema>(name: string, schema: T) {
  NAMED[name] = schema;
  return Type.Unsafe<Static<T>>({ $ref: `#/$defs/${name}` });
}

export const closed = <P extends TProperties>(properties: P) =>
  Type.Object(properties, { additionalProperties: false });
export const orNull = <T extends TSchema>(schema: T) => Type.Union([schema, Type.Null()]);
export const list = <T extends TSchema>(items: T, maxItems: number, minItems?: number) =>
  Type.Array(items, { maxItems, ...(minItems === undefined ? {} : { minItems }) });
/** By name, in no order of its own. */
export const record = <T extends TSchema>(items: T, maxProperties: number) =>
  Type.Unsafe<Record<string, Static<T>>>({
    type: 'object',
    propertyNames: id,
    additionalProperties: items,
    maxProperties,
  });
export const two = <T extends TSchema>(items: T) =>
  Type.Unsafe<[Static<T>, Static<T>]>({ type: 'array', items, minItems: 2, maxItems: 2 });
export const four = <T extends TSchema>(items: T) =>
  Type.Unsafe<[Static<T>, Static<T>, Static<T>, Static<T>]>({ type: 'array', items, minItems: 4, maxItems: 4 });
export const exactly = <T extends TSchema>(count: number, items: T) =>
  Type.Array(items, { minItems: count, maxItems: count });
export const oneOf = <const L extends readonly (string | number)[]>(...words: L) =>
  Type.Unsafe<L[number]>({ enum: [...words] });
export const is = <const V extends string | number | boolean>(value: V) => Type.Unsafe<V>({ const: value });
export const number = (minimum: number, maximum: number) => Type.Number({ minimum, maximum });
export const whole = (minimum: number, maximum: number) => Type.Integer({ minimum, maximum });
export const yes = Type.Boolean();

/** Bounded by a pattern, since the bound by length would bring a helper into the compiled check. */
export const text = (least: number, most: number) => Type.String({ pattern: `^[\\s\\S]{${least},${most}}$` });

/** Not the names that objects have of themselves. */
const ID = Type.String({ pattern: '^(?!(?:__proto__|constructor|prototype)$)[A-Za-z0-9_-]{1,80}$' });
export const id = named('id', ID);
export const name = text(1, MOST.nameLength);
/** What was typed, or the name of what it is, to be shown again as it was written. */
export const typed = text(0, 80);
/** 'table', 'reference', 'face', or the id of a further plane: `job/checkJob.ts` sees that it is there. */
export const plane = named('plane', ID);

/** Picks may lie somewhat outside a picture, never a thousand times its size. */
export const px = number(-1e6, 1e6);
export const mm = number(-1e4, 1e4);
export const spread = number(0, 1e4);
export const share = number(0, 1);
export const lengthMm = Type.Number({ exclusiveMinimum: 0, maximum: 1e4 });

const pickFields = { uPx: px, vPx: px, sigmaPx: Type.Number({ exclusiveMinimum: 0, maximum: 1000 }) };

/** Where a pick lies in the original picture, px, with its scatter. */
const PICK = closed(pickFields);
export type PickRecord = Static<typeof PICK>;
export const pick = named('pick', PICK);
export const PICK_FIELDS = pickFields;

export const along = oneOf('x', 'y');
export const unit = oneOf('mm', 'in');

/** What somebody typed for a length, read again whenever it is needed; bare figures count in `unit`. */
export const EXPRESSION = named('expression', closed({ text: text(1, 80), unit }));
/** What somebody typed for a bare number: how many, or degrees. */
export const FIGURE = named('figure', closed({ text: text(1, 80), unit: is('number') }));
