import { crossingsWithin, type Form, offsetForm, type Segment, vec } from '../../core/src/geometry';
import { timed } from './timed';

/** A closed form of so many lines and arcs in turn, its rim in waves, pieces a few millimetres long. */
function waved(count: number): Extract<Form, { kind: 'chain' }> {
  const at = (k: number) => {
    const angle = (2 * Math.PI * k) / count;
    const far = 0.6 * count + 3 * Math.sin(9 * angle) + (k % 2) * 0.8;
    return vec(far * Math.cos(angle), far * Math.sin(angle));
  };
  const segments = Array.from({ length: count }, (_, k): Segment => {
    const [from, to] = [at(k), at((k + 1) % count)];
    const via = vec(1.002 * ((from.x + to.x) / 2), 1.002 * ((from.y + to.y) / 2));
    return k % 3 === 0 ? { kind: 'arc', from, via, to } : { kind: 'line', from, to };
  });
  return { kind: 'chain', segments, closed: true };
}

/** What making costs, ms: an offset of 3 mm, and all crossings of the pieces of two forms. */
export function timeMaking(count: number): {
  pieces: number;
  offsetMs: number;
  crossingsMs: number;
  crossings: number;
} {
  const form = waved(count);
  const other = form.segments.map((s): Segment => {
    const moved = (p: { x: number; y: number }) => vec(p.x + 2, p.y + 1);
    return s.kind === 'arc'
      ? { kind: 'arc', from: moved(s.from), via: moved(s.via), to: moved(s.to) }
      : { kind: 'line', from: moved(s.from), to: moved(s.to) };
  });
  let crossings = 0;
  const crossingsMs = timed(3, () => {
    crossings = crossingsWithin([...form.segments, ...other]).length;
  });
  return { pieces: count, offsetMs: timed(9, () => offsetForm(form, 3)), crossingsMs, crossings };
}
