import type { History, JobDocument } from '@steady-moth/core/job';

/** After writing for this long, others that wait get their turn, ms. */
const STRETCH_MS = 8;
/** Things that are written in one go. */
const AT_ONCE = 500;

/** A job's document as JSON text, written in stretches: one of 50,000 points would hold up the screen otherwise. */
export async function documentText({ part, ...rest }: JobDocument): Promise<string> {
  const rested = rests();
  const entry = ([id, one]: [string, unknown]) => `${JSON.stringify(id)}:${JSON.stringify(one)}`;
  const sketches: string[] = [];
  for (const [id, sketch] of Object.entries(part.sketches)) {
    const fields: string[] = [];
    for (const [field, value] of Object.entries(sketch)) {
      const isRecord = typeof value === 'object' && !Array.isArray(value);
      const text = isRecord ? `{${await written(Object.entries(value), entry, rested)}}` : JSON.stringify(value);
      fields.push(`${JSON.stringify(field)}:${text}`);
    }
    sketches.push(`${JSON.stringify(id)}:{${fields.join(',')}}`);
  }
  const { sketches: _, ...own } = part;
  return `${JSON.stringify(rest).slice(0, -1)},"part":{"sketches":{${sketches.join(',')}},${JSON.stringify(own).slice(1)}}`;
}

export async function historyText({ past, future }: History): Promise<string> {
  const rested = rests();
  const write = (change: History['past'][number]) => JSON.stringify(change);
  return `{"past":[${await written(past, write, rested)}],"future":[${await written(future, write, rested)}]}`;
}

async function written<T>(list: readonly T[], write: (one: T) => string, rested: () => Promise<void>): Promise<string> {
  const pieces: string[] = [];
  for (let k = 0; k < list.length; k += AT_ONCE) {
    pieces.push(
      list
        .slice(k, k + AT_ONCE)
        .map(write)
        .join(','),
    );
    await rested();
  }
  return pieces.join(',');
}

function rests(): () => Promise<void> {
  let until = performance.now() + STRETCH_MS;
  return async () => {
    if (performance.now() < until) return;
    await new Promise((resolve) => setTimeout(resolve));
    until = performance.now() + STRETCH_MS;
  };
}

/** What was stored: JSON text, or an object of an earlier version; undefined for text that is not JSON. */
export function fromStored(stored: unknown): unknown {
  if (typeof stored !== 'string') return stored;
  try {
    return JSON.parse(stored);
  } catch {
    return undefined;
  }
}
