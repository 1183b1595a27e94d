import { act, checkJob, type JobState, NO_HISTORY } from '@steady-moth/core/job';
import { describe, expect, it } from 'vitest';
import { sampleJob } from '../../../../../core/src/job/sample.test-data';
import type { Tool as ToolName } from '../../../session/sessionStore';
import type { CropRules } from './cropDrag';
import { type PictureContext, pictureToolOf } from './pictureTools';

const RULES: CropRules = {
  aspect: null,
  symmetry: 'none',
  within: { left: 0, top: 0, right: 4032, bottom: 3024 },
};

/** A hand with a tool of Picture; a pixel of the picture is a unit of the board. */
function hand(name: ToolName, rules: Partial<CropRules> = {}, clearBy: PictureContext['clearBy'] = 'colour') {
  let state: JobState = { job: sampleJob(), history: NO_HISTORY };
  const tool = pictureToolOf(name);
  let own = tool.start();
  const context = (): PictureContext => ({
    picture: state.job.pictures[0]!,
    mapper: { toPlace: ({ uPx, vPx }) => ({ x: uPx, y: -vPx }), toPicture: ({ x, y }) => ({ uPx: x, vPx: -y }) },
    rules: { ...RULES, ...rules },
    name,
    clearBy,
    newId: () => 'view1',
  });
  const step = (event: Parameters<typeof tool.step>[1]) => {
    const outcome = tool.step(own, event, context());
    own = outcome.state;
    if (outcome.action) state = act(state, outcome.action);
    expect(checkJob(state.job).ok).toBe(true);
    return outcome;
  };
  const aim = (x: number, y: number) => ({ place: { x, y: -y }, picture: { uPx: x, vPx: y } }) as never;
  const me = {
    drag([x, y]: [number, number], to: [number, number]) {
      const held = step({ kind: 'press', at: { x, y: -y }, reach: 10, shift: false }).held;
      const shown = step({ kind: 'move', aim: aim(...to), isHeld: true }).preview;
      step({ kind: 'let-go' });
      const isMoved = Math.hypot(to[0] - x, to[1] - y) > 3;
      if (held) expect(step({ kind: 'drop', held, isMoved, aim: aim(...to) }).preview).toBeNull();
      return shown;
    },
    press: (x: number, y: number) => step({ kind: 'place', aim: aim(x, y) }).ask,
    answer: (colour: [number, number, number] | null) => step({ kind: 'answer', answer: colour }).isDone ?? false,
    get picture() {
      return state.job.pictures[0];
    },
    get changes() {
      return state.history.past.map((c) => c.label);
    },
  };
  return me;
}

describe('Crop', () => {
  it('takes what it is dragged round, shows it meanwhile, and moves its sides', () => {
    const h = hand('crop');
    expect(h.drag([100, 200], [900, 800])).toEqual({ left: 100, top: 200, right: 900, bottom: 800 });
    expect(h.picture!.preparation.crop).toEqual({ leftPx: 100, topPx: 200, widthPx: 800, heightPx: 600 });
    h.drag([900, 500], [1000, 500]);
    expect(h.picture!.preparation.crop).toMatchObject({ leftPx: 100, widthPx: 900 });
    h.drag([500, 500], [510, 530]);
    expect(h.picture!.preparation.crop).toMatchObject({ leftPx: 110, topPx: 230, widthPx: 900 });
  });

  it('is none when it holds all of the picture, or was only pressed', () => {
    const h = hand('crop');
    h.drag([50, 50], [50, 50]);
    expect(h.changes).toEqual([]);
    h.drag([100, 200], [900, 800]);
    h.drag([0, 0], [4032, 3024]);
    expect(h.picture!.preparation.crop).toBeNull();
  });
});

describe('View', () => {
  it('cuts out what it is dragged round, whatever the shape of the crop', () => {
    const h = hand('view', { aspect: 1, symmetry: 'upright' });
    h.drag([100, 200], [900, 500]);
    expect(h.picture!.views).toEqual([
      {
        id: 'view1',
        name: 'From the top',
        side: 'top',
        offsetMm: 0,
        crop: { leftPx: 100, topPx: 200, widthPx: 800, heightPx: 300 },
      },
    ]);
  });
});

describe('a view that is there', () => {
  it('is changed by its sides, about its own middle where symmetry is asked for', () => {
    const h = hand('view', { symmetry: 'upright' });
    h.drag([100, 200], [900, 500]);
    h.drag([900, 350], [950, 350]);
    expect(h.picture!.views).toMatchObject([{ id: 'view1', crop: { leftPx: 50, widthPx: 900, heightPx: 300 } }]);
    expect(h.changes).toEqual(['cut out a view', 'change a view']);
    h.drag([500, 350], [540, 350]);
    expect(h.picture!.views[0]!.crop).toMatchObject({ leftPx: 90, widthPx: 900 });
  });
});

describe('Background, Darkest and Lightest', () => {
  it('ask for the colour that was pressed, and are laid down with it', () => {
    const h = hand('background');
    expect(h.press(10, 20)).toEqual({ kind: 'colour', uPx: 10, vPx: 20 });
    expect(h.answer([200, 190, 170])).toBe(true);
    expect(h.picture!.preparation.clear).toMatchObject({ colour: [200, 190, 170] });
  });

  it('clear what joins each place that is pressed, one change a press, and stay in hand', () => {
    const h = hand('background', {}, 'region');
    expect(h.press(10, 20)).toBeUndefined();
    expect(h.press(30, 40)).toBeUndefined();
    expect(h.picture!.preparation.clear).toMatchObject({
      by: 'region',
      places: [
        { uPx: 10, vPx: 20 },
        { uPx: 30, vPx: 40 },
      ],
    });
    expect(h.changes).toEqual(['clear the background', 'clear the background']);
  });

  it('keep darkest and lightest apart', () => {
    const dark = hand('darkest');
    dark.answer([255, 255, 255]);
    expect(dark.picture!.preparation.tones.dark).toBeLessThan(dark.picture!.preparation.tones.light);
    const light = hand('lightest');
    light.answer([51, 51, 51]);
    expect(light.picture!.preparation.tones.light).toBeCloseTo(0.2, 6);
  });

  it('change nothing where the picture has no colour', () => {
    const h = hand('background');
    expect(h.answer(null)).toBe(false);
    expect(h.changes).toEqual([]);
  });
});
