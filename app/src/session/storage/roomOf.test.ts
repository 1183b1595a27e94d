import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MARGIN, RESERVE, type RoomFile, roomIn } from './roomOf';

/** A disk of a given size, in bytes, with one file of ours on it and what others put there. */
function disk(size: number) {
  const state = { own: 0, others: 0 };
  const file: RoomFile = {
    getSize: () => state.own,
    write(bytes, { at }) {
      const grown = Math.max(state.own, at + bytes.length);
      if (grown + state.others > size) throw new DOMException('full', 'QuotaExceededError');
      state.own = grown;
      return bytes.length;
    },
    truncate(to) {
      state.own = Math.min(state.own, to);
    },
  };
  return { file, state, free: () => size - state.own - state.others };
}

describe('room for what is to be stored', () => {
  it('is told as it is, and what it was told for fits in all cases', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 64 << 20 }),
        fc.array(
          fc.record({
            bytes: fc.integer({ min: 0, max: 4 << 20 }),
            others: fc.integer({ min: -(8 << 20), max: 8 << 20 }),
          }),
        ),
        (size, steps) => {
          const { file, state, free } = disk(size);
          for (const { bytes, others } of steps) {
            const held = state.own;
            state.others = Math.max(0, Math.min(size - held, state.others + others));
            const before = free() + held;
            const room = roomIn(file, bytes);
            expect([0, RESERVE]).toContain(state.own);
            if (room === 'none') {
              // With room for it and the reserve beside it, it would not have been refused.
              expect(before).toBeLessThan(RESERVE + bytes + MARGIN);
              continue;
            }
            expect(free()).toBeGreaterThanOrEqual(bytes + MARGIN);
            expect(state.own).toBe(room === 'plenty' ? RESERVE : 0);
            state.others += bytes;
          }
        },
      ),
    );
  });

  it('is there once more when the disk ran full, and again when there is room', () => {
    const { file, state, free } = disk(40 << 20);
    expect(roomIn(file, 100)).toBe('plenty');
    state.others += free();
    // A picture is not worth the reserve; the last change is.
    expect(roomIn(file, 5 << 20)).toBe('none');
    expect(state.own).toBe(RESERVE);
    expect(roomIn(file, 100)).toBe('last');
    expect(free()).toBe(RESERVE);
    state.others += 100;
    expect(roomIn(file, 100)).toBe('none');
    state.others -= 20 << 20;
    expect(roomIn(file, 100)).toBe('plenty');
  });
});
