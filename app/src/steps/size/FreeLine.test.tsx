import type { Sketch, SketchTold } from '@steady-moth/core/sketch';
import { newSketch } from '@steady-moth/core/sketch';
import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import { FreeLine } from './FreeLine';
import type { SketchState } from './sketchState';

const ref = (id: string) => ({ sketch: 's', id });
const sketch: Sketch = {
  ...newSketch('s', '', null),
  constraints: {
    level: { id: 'level', kind: 'level', count: null, refs: [ref('a')] },
    plumb: { id: 'plumb', kind: 'plumb', count: null, refs: [ref('a')] },
  },
};
const told: SketchTold = {
  free: 2,
  of: 8,
  onlyJust: 0,
  points: {},
  settled: [],
  given: [],
  contradictions: [],
  notFound: [],
  lost: [],
  moved: { points: 0, largestMm: 0, rmsMm: 0, largestSigmas: 0 },
};
const shown = (change: Partial<SketchTold> | null) => {
  const state: SketchState = {
    sketch,
    places: new Map(),
    place: () => null,
    told: change && { ...told, ...change },
    measures: {},
    chosen: [],
  };
  return renderToStaticMarkup(<FreeLine state={state} unit="mm" />);
};
const count = (html: string, text: string) => html.split(text).length - 1;

describe('what is still free', () => {
  it('is told as a count, and by words while it is worked out', () => {
    expect(shown({})).toMatch(/2(<!-- -->)? of (<!-- -->)?8/);
    expect(shown(null)).toContain('Working it out.');
  });

  it('says what contradicts itself once, with a way out for each of it', () => {
    const html = shown({ contradictions: [['level', 'plumb']] });
    expect(count(html, 'These cannot all be.')).toBe(1);
    expect(count(html, 'Take it away')).toBe(2);
    expect(html).toContain('Level: something');
    expect(html).toContain('Plumb: something');
    expect(count(html, 'role="alert"')).toBe(1);
  });

  it('does not call wrong what only was not found', () => {
    const html = shown({ notFound: ['a'] });
    expect(html).toContain('That does not mean that it is wrong');
    expect(html).not.toContain('Take it away');
  });
});
