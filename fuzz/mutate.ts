import type { Random } from '../core/src/numeric';

/** Bytes, lengths and counts that programs trip over. */
const EDGE_BYTES = [0, 1, 0x7f, 0x80, 0xfe, 0xff];
const EDGE_WORDS = [
  '0',
  '-1',
  '1e999',
  'NaN',
  '9007199254740993',
  '4294967295',
  '0.0000000001',
  '-0',
  '60001',
  '1e-320',
  '[object Object]',
  'function Object() { [native code] }',
  '\ufffe',
  '\u0000',
  '',
];
/** Values that stand in a document in place of another. */
const EDGE_VALUES: readonly unknown[] = [
  null,
  0,
  -1,
  1e308,
  1e-300,
  0.5,
  60_000,
  true,
  '',
  'function Object() { [native code] }',
  '[object Object]',
  [],
  {},
  [[]],
  '\ud800',
  'x'.repeat(300),
];

const upTo = (random: Random, below: number): number => Math.min(below - 1, Math.floor(random() * below));
/** Mostly one change: an input with many is refused for the first of them. */
const some = (random: Random): number => (random() < 0.6 ? 1 : 2 + upTo(random, 4));
const oneOf = <T>(random: Random, list: readonly T[]): T => list[upTo(random, list.length)]!;

/** One to six changes at random places: bits, bytes, stretches left out, said twice, moved, or taken from another. */
export function mutateBytes(random: Random, bytes: Uint8Array, other: Uint8Array): Uint8Array {
  let out = bytes.slice();
  for (let k = some(random); k > 0 && out.length > 0; k--) {
    // Headers decide: every other change falls into the first bytes.
    const at = upTo(random, random() < 0.5 ? Math.min(out.length, 400) : out.length);
    const length = Math.min(out.length - at, 1 + upTo(random, random() < 0.8 ? 16 : 2000));
    const part = out.slice(at, at + length);
    switch (upTo(random, 7)) {
      case 0:
        out[at]! ^= 1 << upTo(random, 8);
        break;
      case 1:
        out.fill(oneOf(random, EDGE_BYTES), at, at + length);
        break;
      case 2:
        out = join(out.subarray(0, at), out.subarray(at + length));
        break;
      case 3:
        out = join(out.subarray(0, at), part, out.subarray(at));
        break;
      case 4:
        out = out.slice(0, at);
        break;
      case 5: {
        const from = upTo(random, Math.max(1, other.length));
        out = join(out.subarray(0, at), other.subarray(from, from + length), out.subarray(at + length));
        break;
      }
      default:
        new DataView(out.buffer).setUint8(at, upTo(random, 256));
    }
  }
  return out;
}

/** A text with some of its numbers, words or lines changed, left out, or said again. */
export function mutateText(random: Random, text: string, other: string): string {
  if (random() < 0.15)
    return new TextDecoder().decode(
      mutateBytes(random, new TextEncoder().encode(text), new TextEncoder().encode(other)),
    );
  let out = text;
  for (let k = some(random); k > 0; k--) {
    const tokens = out.split(/(\s+|[<>"'=,;:/()[\]{}])/);
    const at = upTo(random, tokens.length);
    const far = Math.min(tokens.length, at + 1 + upTo(random, 20));
    switch (upTo(random, 6)) {
      case 0:
        tokens[at] = oneOf(random, EDGE_WORDS);
        break;
      case 1:
        tokens.splice(at, far - at);
        break;
      case 2:
        tokens.splice(at, 0, ...tokens.slice(at, far));
        break;
      case 3: {
        const theirs = other.split(/(\s+)/);
        const from = upTo(random, theirs.length);
        tokens.splice(at, 1, ...theirs.slice(from, from + 1 + upTo(random, 30)));
        break;
      }
      case 4: {
        const number = tokens.findIndex((t, i) => i >= at && /^-?\d/.test(t));
        if (number >= 0) tokens[number] = oneOf(random, EDGE_WORDS);
        break;
      }
      default: {
        const [a, b] = [at, upTo(random, tokens.length)];
        [tokens[a], tokens[b]] = [tokens[b]!, tokens[a]!];
      }
    }
    out = tokens.join('');
  }
  return out;
}

/** Texts whose numbers alone are changed, and stay numbers: what is behind the first check is then reached as well. */
export function mutateNumbers(random: Random, text: string): string {
  const numbers = [...text.matchAll(/(?<![\w.#])-?\d+(?:\.\d+)?/g)];
  let out = text;
  for (let k = some(random); k > 0 && numbers.length > 0; k--) {
    const { 0: number, index } = oneOf(random, numbers);
    // From its own place on, which changes before it may have moved a little.
    const at = out.indexOf(number, Math.max(0, index - 20));
    if (at < 0) continue;
    const next = String(Number((Number(number) * factor(random)).toFixed(6)));
    out = out.slice(0, at) + next + out.slice(at + number.length);
  }
  return out;
}

/** A plain value in which some numbers are others of their size, and some entries stand in another order. */
export function mutateGently(random: Random, value: unknown): unknown {
  const out = structuredClone(value);
  const places: { holder: Record<string, unknown>; key: string }[] = [];
  gather(out, places, 0);
  const numbers = places.filter(({ holder, key }) => typeof holder[key] === 'number');
  for (let k = some(random); k > 0 && numbers.length > 0; k--) {
    const { holder, key } = oneOf(random, numbers);
    const own = holder[key] as number;
    holder[key] = Number.isInteger(own) && Math.abs(own) < 100 ? own : own * factor(random);
  }
  const lists = places.filter(({ holder, key }) => Array.isArray(holder[key]) && (holder[key] as unknown[]).length > 1);
  if (lists.length > 0 && random() < 0.3) {
    const { holder, key } = oneOf(random, lists);
    (holder[key] as unknown[]).reverse();
  }
  return out;
}

const factor = (random: Random): number => oneOf(random, [1.0001, 0.98, 1.3, 0.5, 2]);

/** A plain value in which one to four places were changed: another value, a field gone or new, an entry twice. */
export function mutateJson(random: Random, value: unknown): unknown {
  const out = structuredClone(value);
  for (let k = some(random); k > 0; k--) {
    const places: { holder: Record<string, unknown>; key: string }[] = [];
    gather(out, places, 0);
    if (places.length === 0) break;
    const { holder, key } = oneOf(random, places);
    const kind = upTo(random, 5);
    if (kind === 0) holder[key] = structuredClone(oneOf(random, EDGE_VALUES));
    else if (kind === 1 && Array.isArray(holder)) holder.push(structuredClone(holder[Number(key)]));
    else if (kind === 1) delete holder[key];
    else if (kind === 2 && typeof holder[key] === 'number')
      holder[key] = (holder[key] as number) * oneOf(random, [-1, 0, 1e3, 1e-3, 1e6, 1.0001]);
    else if (kind === 3) {
      const from = oneOf(random, places);
      holder[key] = structuredClone(from.holder[from.key]);
    } else if (Array.isArray(holder)) holder.splice(Number(key), 1);
    else
      holder[oneOf(random, ['extra', 'id', 'kind', 'function Object() { [native code] }'])] = oneOf(
        random,
        EDGE_VALUES,
      );
  }
  return out;
}

const DEEPEST = 12;

function gather(value: unknown, places: { holder: Record<string, unknown>; key: string }[], depth: number): void {
  if (typeof value !== 'object' || value === null || depth > DEEPEST) return;
  const holder = value as Record<string, unknown>;
  for (const key of Object.keys(holder)) {
    places.push({ holder, key });
    gather(holder[key], places, depth + 1);
  }
}

function join(...parts: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(parts.reduce((sum, p) => sum + p.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}
