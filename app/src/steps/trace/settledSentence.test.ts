import type { PieceSettled, SettleResult, ToSettle } from '@steady-moth/core/outline';
import { newSketch } from '@steady-moth/core/sketch';
import { describe, expect, it } from 'vitest';
import { settledSentence } from './settledSentence';

const to = (name: string): ToSettle => ({
  sketch: newSketch('s', '', null),
  path: {
    id: name,
    name,
    role: 'cut',
    layer: null,
    closed: false,
    uses: ['a', 'b', 'c'].map((curve) => ({ curve, reversed: false })),
  },
  only: null,
  picture: 'pic',
});
const piece = (curve: string, isDoubtful: boolean): PieceSettled => ({
  curve,
  found: 3,
  asked: 9,
  rmsPx: 0,
  isDoubtful,
});
const ok = (moved: number, ...pieces: PieceSettled[]): SettleResult => ({ ok: true, picks: {}, moved, pieces });

describe('settledSentence', () => {
  it('says how far the farthest moved, in the unit of the job, and in px while nothing is true', () => {
    const all = [
      { to: to('Rim'), result: ok(0.1234, piece('a', false)) },
      { to: to('Hole'), result: ok(0.05) },
    ];
    expect(settledSentence(all, 'mm')).toBe('Settled on the edge; it moved by up to 0.123 mm.');
    expect(settledSentence(all.slice(1), null)).toBe('Settled on the edge; it moved by up to 0.1 px.');
  });

  it('names the pieces that were left as drawn, and the paths that could not settle', () => {
    const says = settledSentence(
      [
        { to: to('Rim'), result: ok(1, piece('a', false), piece('c', true)) },
        { to: to('Hole'), result: { ok: false, reason: 'no-edge' } },
      ],
      'mm',
    );
    expect(says).toContain('Too little edge along piece 3 of “Rim”: left as drawn.');
    expect(says).toContain('“Hole” stays as it was: the picture has no edge along it.');
  });
});
