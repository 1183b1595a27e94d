import type { PixelPick } from '../../calibration';
import { medianOf } from '../../numeric';

const FEWEST_RIM = 8;
const STRAY_RIM_PX = 1;

/** Those of the places in order that lie along one smooth line: the rest are scratches and shadows. */
export function smoothLine(places: PixelPick[]): PixelPick[] {
  if (places.length < FEWEST_RIM) return [];
  const [a, b] = [places[0]!, places[places.length - 1]!];
  const length = Math.hypot(b.uPx - a.uPx, b.vPx - a.vPx) || 1;
  const off = places.map((p) => ((b.uPx - a.uPx) * (p.vPx - a.vPx) - (b.vPx - a.vPx) * (p.uPx - a.uPx)) / length);
  // Neighbours tell where the line is, bent by the lens as it may be.
  const kept = places.filter((_, k) => {
    const near = off.slice(Math.max(0, k - 4), k + 5);
    return Math.abs(off[k]! - medianOf(near)) < STRAY_RIM_PX;
  });
  return kept.length >= FEWEST_RIM ? kept : [];
}
