import { formOf, type Run } from '@steady-moth/core/job';
import { describe, expect, it } from 'vitest';
import { hitSegment, hitTest } from './hit';
import { type DrawnRun, drawnRun } from './useForms';

/* Board places, y down; forms have y up. */
const BOARD: Record<string, { x: number; y: number }> = {
  a: { x: 0, y: 0 },
  b: { x: 50, y: 0 },
  c: { x: 50, y: 30 },
  r1: { x: 20, y: 10 },
  r2: { x: 24, y: 14 },
  r3: { x: 20, y: 18 },
};
const place = (id: string) => BOARD[id] ?? null;
const drawn = (run: Run): DrawnRun =>
  drawnRun(
    run,
    formOf(run, (id) => ({ x: BOARD[id].x, y: -BOARD[id].y })),
  );
const chain = drawn({
  id: 'run',
  kind: 'chain',
  role: 'cut',
  name: 'x',
  layer: null,
  plane: 'face',
  points: ['a', 'b', 'c'],
  segments: [{ kind: 'line' }, { kind: 'line' }],
  closed: false,
});
const hole = drawn({
  id: 'hole',
  kind: 'circle',
  role: 'cut',
  name: 'y',
  layer: null,
  plane: 'face',
  points: ['r1', 'r2', 'r3'],
});

describe('hitTest', () => {
  it('takes the nearest point before any segment', () => {
    expect(hitTest([chain], place, { x: 48, y: 1 }, 3)).toEqual({ kind: 'point', run: 'run', point: 'b' });
  });

  it('takes a segment, and where along it', () => {
    expect(hitTest([chain], place, { x: 25, y: 2 }, 3)).toEqual({
      kind: 'segment',
      run: 'run',
      segment: 0,
      t: expect.closeTo(0.5, 9),
    });
    expect(hitTest([chain], place, { x: 52, y: 15 }, 3)).toMatchObject({ kind: 'segment', segment: 1 });
  });

  it('takes a circle by its rim and by its centre', () => {
    expect(hitTest([hole], place, { x: 20, y: 14.5 }, 1)).toEqual({ kind: 'centre', run: 'hole' });
    expect(hitSegment([hole], { x: 16.2, y: 14 }, 1)).toEqual({ kind: 'circle', run: 'hole' });
  });

  it('takes nothing beyond its reach', () => {
    expect(hitTest([chain, hole], place, { x: 80, y: 80 }, 5)).toBeNull();
  });
});
