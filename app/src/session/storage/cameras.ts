import type { CameraRecord } from '@steady-moth/core/job';
import type { Database } from './database';
import { LITTLE, roomFor } from './room';

/** A camera that was checked with a grid, at one size of picture and one zoom. */
export interface KeptCamera extends CameraRecord {
  widthPx: number;
  heightPx: number;
  focal35Mm: number | null;
}

const NOTE = 'checked cameras';
const MOST = 50;

/** All that were kept; anything else that storage holds in their place is left out. */
export async function listCameras(db: Database): Promise<KeptCamera[]> {
  const row = await db.notes.get(NOTE);
  return Array.isArray(row?.value) ? row.value.filter(isKeptCamera).slice(0, MOST) : [];
}

/** Keeps one under its name; one of the same name is replaced. False on a full disk. */
export async function keepCamera(db: Database, camera: KeptCamera): Promise<boolean> {
  if ((await roomFor(LITTLE)) === 'none') return false;
  await db.transaction('rw', db.notes, async () => {
    const others = (await listCameras(db)).filter((c) => c.name !== camera.name);
    await db.notes.put({ key: NOTE, value: [...others, camera].slice(-MOST) });
  });
  return true;
}

/** Storage is outside: what comes from it is looked at. */
function isKeptCamera(value: unknown): value is KeptCamera {
  if (typeof value !== 'object' || value === null) return false;
  const { name, mean, covariance, widthPx, heightPx, focal35Mm } = value as Record<string, unknown>;
  return (
    typeof name === 'string' &&
    name.length > 0 &&
    name.length <= 200 &&
    areNumbers(mean, 5) &&
    areNumbers(covariance, 25) &&
    typeof widthPx === 'number' &&
    typeof heightPx === 'number' &&
    (focal35Mm === null || typeof focal35Mm === 'number')
  );
}

const areNumbers = (value: unknown, count: number): boolean =>
  Array.isArray(value) && value.length === count && value.every((v) => typeof v === 'number' && Number.isFinite(v));
