import { database } from '../storage';
import { bringIn } from './bringIn';

const NOTE = 'demo-hung';

let hanging: Promise<void> | null = null;

/** Hangs the demo job on the rack, once in the life of this browser's store: whoever deletes it is rid of it. */
export function hangDemo(): Promise<void> {
  hanging ??= hang().catch(() => {
    hanging = null;
  });
  return hanging;
}

async function hang(): Promise<void> {
  if (await database.notes.get(NOTE)) return;
  const answer = await fetch('/demo/latch-plate.jpg');
  if (!answer.ok) return;
  const file = new File([await answer.blob()], 'latch-plate.jpg', { type: 'image/jpeg' });
  const brought = await bringIn(file, 'mm', () => {}, new AbortController().signal);
  if (brought.ok) await database.notes.put({ key: NOTE, value: brought.jobId });
}
