import { crossingsWithin, type Form, offsetForm, type Segment, vec } from '../../core/src/geometry';
import { seededRandom } from '../../core/src/numeric';
import { checkForms } from '../../core/src/proof';
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

/**
 * Smooth closed forms of six curves each, none of which crosses itself: how many are said to, and what looking costs, ms
 * for each.
 */
export function lookThroughCurves(forms: number): { told: number; ms: number } {
  const random = seededRandom(5);
  const drawn = Array.from({ length: forms }, (): Form => {
    const places = Array.from({ length: 6 }, (_, k) => {
      const [angle, far] = [(k * Math.PI) / 3, 20 + 6 * random()];
      return vec(50 + far * Math.cos(angle), 50 + far * Math.sin(angle));
    });
    const along = places.map((_, k) => {
      const [a, b] = [places[(k + 5) % 6]!, places[(k + 1) % 6]!];
      return vec((b.x - a.x) / 6, (b.y - a.y) / 6);
    });
    const segments = places.map((from, k): Segment => {
      const [to, a, b] = [places[(k + 1) % 6]!, along[k]!, along[(k + 1) % 6]!];
      const [handleFrom, handleTo] = [vec(from.x + a.x, from.y + a.y), vec(to.x - b.x, to.y - b.y)];
      return { kind: 'curve', from, handleFrom, handleTo, to };
    });
    return { kind: 'chain', closed: true, segments };
  });
  const began = performance.now();
  const told = drawn.filter((form) =>
    checkForms([{ id: 'form', forms: [form] }]).some((f) => f.kind === 'crosses-itself' || f.kind === 'touches'),
  ).length;
  return { told, ms: (performance.now() - began) / forms };
}
