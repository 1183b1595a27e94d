import type { Form } from '@steady-moth/core/geometry';
import { evaluatePart, type Part, workedOut } from '@steady-moth/core/sketch';
import type { BoardFrame } from '../../frames/boardMap';
import { placingOfFrame } from '../../frames/placing';

/** A part in one of its variants; null for as it was drawn. */
export const inVariant = (part: Part, variant: string | null): Part => ({ ...part, variant });

/** A part as it was seen: without what was related and decided, nor what is made of it. */
export function asSeen(part: Part): Part {
  const sketches = Object.entries(workedOut(part).sketches).map(([id, s]) => [
    id,
    { ...s, curves: { ...s.curves }, constraints: {}, dimensions: rimless(s), makers: {} },
  ]);
  return { ...part, sketches: Object.fromEntries(sketches) };
}

/** The sizes without which a circle has none. */
const rimless = ({ dimensions, curves }: Part['sketches'][string]) =>
  Object.fromEntries(
    Object.entries(dimensions).filter(([, d]) => d.kind === 'diameter' && curves[d.refs[0]!.id]?.evidence.length === 0),
  );

/** Forms of what is cut and marked, as it is on the board. */
export function formsOf(part: Part, frames: ReadonlyMap<string, BoardFrame>): Form[] {
  const placing = new Map([...frames].map(([id, frame]) => [id, placingOfFrame(frame)]));
  return evaluatePart(part, placing, { truly: false, draft: null }).paths.flatMap(({ path, form, made }) => {
    if (path.role === 'reference' || path.role === 'centre-line') return [];
    return made ?? (form ? [form] : []);
  });
}
