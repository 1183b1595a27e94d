import type { Segment, Vec2 } from '../../geometry';
import type { OutlineForm } from './outlines';

/** Ends nearer than this are one, mm: files round to this or finer. */
const SAME_PLACE_MM = 2e-4;

/**
 * Joins loose open pieces of one layer that meet end to end into chains, and closes those that come round: files often
 * hold the sides of one outline one by one. Where three pieces or more meet in one place none of them is joined there.
 */
export function joinForms(forms: readonly OutlineForm[]): OutlineForm[] {
  const isLoose = (f: OutlineForm) => f.form.kind === 'chain' && !f.form.closed;
  const byLayer = new Map<string, OutlineForm[]>();
  for (const f of forms.filter(isLoose)) {
    const key = `${f.role} ${f.layer ?? ''}`;
    byLayer.set(key, [...(byLayer.get(key) ?? []), f]);
  }
  return [...forms.filter((f) => !isLoose(f)), ...[...byLayer.values()].flatMap(joinLayer)];
}

interface Piece {
  segments: Segment[];
  used: boolean;
}

function joinLayer(forms: OutlineForm[]): OutlineForm[] {
  const pieces: Piece[] = forms.map((f) => ({ segments: f.form.kind === 'chain' ? f.form.segments : [], used: false }));
  const ends = new Map<string, Piece[]>();
  const key = (p: Vec2) => `${Math.round(p.x / SAME_PLACE_MM)} ${Math.round(p.y / SAME_PLACE_MM)}`;
  /** The cell of a place, or a neighbouring one that has ends in it: a place may lie on the border between two. */
  const cellOf = (p: Vec2): string => {
    for (const dx of [0, -0.5, 0.5])
      for (const dy of [0, -0.5, 0.5]) {
        const near = key({ x: p.x + dx * SAME_PLACE_MM, y: p.y + dy * SAME_PLACE_MM });
        if (ends.has(near)) return near;
      }
    return key(p);
  };
  for (const piece of pieces)
    for (const p of [piece.segments[0]!.from, (piece.segments.at(-1) as Segment).to]) {
      const cell = cellOf(p);
      ends.set(cell, [...(ends.get(cell) ?? []), piece]);
    }
  /** The only other piece that ends here, turned so that it leads on from here. */
  const nextFrom = (p: Vec2, self: Piece): { piece: Piece; segments: Segment[] } | null => {
    const here = cellOf(p);
    const meeting = ends.get(here) ?? [];
    const piece = meeting.length === 2 ? meeting.find((m) => m !== self) : undefined;
    if (!piece || piece.used) return null;
    piece.used = true;
    const leadsOn = cellOf(piece.segments[0]!.from) === here;
    return { piece, segments: leadsOn ? piece.segments : reversed(piece.segments) };
  };
  /** All that follows on a chain's end, of which `piece` is the last. */
  const grow = (chain: Segment[], piece: Piece): Segment[] => {
    const grown = [...chain];
    let head = piece;
    for (;;) {
      const last = (grown.at(-1) as Segment).to;
      const on = nextFrom(last, head);
      if (!on) return grown;
      head = on.piece;
      grown.push({ ...on.segments[0]!, from: last }, ...on.segments.slice(1));
    }
  };
  const joined: OutlineForm[] = [];
  pieces.forEach((piece, k) => {
    if (piece.used) return;
    piece.used = true;
    // On from its end, and then from its beginning.
    let chain = reversed(grow(reversed(grow(piece.segments, piece)), piece));
    const [first, last] = [chain[0]!.from, (chain.at(-1) as Segment).to];
    const closed = chain.length > 1 && cellOf(first) === cellOf(last);
    if (closed) chain = [...chain.slice(0, -1), { ...(chain.at(-1) as Segment), to: first }];
    joined.push({ ...forms[k]!, form: { kind: 'chain', segments: chain, closed } });
  });
  return joined;
}

function reversed(segments: readonly Segment[]): Segment[] {
  return segments
    .map((s): Segment => {
      if (s.kind === 'curve')
        return { kind: 'curve', from: s.to, handleFrom: s.handleTo, handleTo: s.handleFrom, to: s.from };
      return { ...s, from: s.to, to: s.from };
    })
    .reverse();
}
