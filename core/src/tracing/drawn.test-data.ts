import type { Form, Segment, Vec2 } from '../geometry';
import { act, type JobAction, type JobState, NO_HISTORY, putPaths } from '../job';
import { sampleJob } from '../job/sample.test-data';
import { evaluatePart, MAIN_SKETCH, newPart, newSketch, type PictureMap, type Placing, putForm } from '../sketch';
import type { Setting } from './setting';

/* Ten pixels a millimetre, the left top corner of the picture at zero. */
const PER_MM = 10;

export const MAP: PictureMap = {
  toPlace: ({ uPx, vPx }) => ({ x: uPx / PER_MM, y: -vPx / PER_MM }),
  toPicture: ({ x, y }) => ({ uPx: x * PER_MM, vPx: -y * PER_MM }),
};
const PLACING: Placing = new Map([['pic', { isTrue: true, place: MAP.toPlace, turned: null }]]);

/** A run of lines through some places; closed back to the first, where that is said. */
export function run(places: readonly (readonly [number, number])[], closed = false): Form {
  const at: Vec2[] = places.map(([x, y]) => ({ x, y }));
  const ends = closed ? [...at, at[0]!] : at;
  return {
    kind: 'chain',
    closed,
    segments: ends.slice(1).map((to, k): Segment => ({ kind: 'line', from: ends[k]!, to })),
  };
}
export const square = (x: number, y: number, size: number): Form =>
  run(
    [
      [x, y],
      [x + size, y],
      [x + size, y + size],
      [x, y + size],
    ],
    true,
  );

/** A job with forms drawn in it, each a path of its own, and what is done to it. */
export function drawnJob(...forms: readonly Form[]) {
  let named = 0;
  const newId = () => `n${named++}`;
  let state: JobState = { job: { ...sampleJob(), part: newPart() }, history: NO_HISTORY };
  const me = {
    apply(action: JobAction | null | undefined) {
      if (!action) throw new Error('nothing was done');
      state = act(state, action);
      return me;
    },
    draw(...more: readonly Form[]) {
      const draft = newSketch(MAIN_SKETCH, '', null);
      for (const form of more) {
        const path = { id: newId(), name: `Path ${named}`, role: 'cut' as const, layer: null };
        const see = (place: Vec2) => ({
          picture: 'pic',
          ...MAP.toPicture(place)!,
          sigmaPx: 0.1,
          plane: 'face',
          snappedTo: 'edge' as const,
          neighbouringEdge: null,
        });
        if (!putForm(draft, form, path, see, newId)) throw new Error('not seen');
      }
      return me.apply(putPaths('draw', draft));
    },
    get setting(): Setting {
      const { job } = state;
      const { paths, placeOf, settled } = evaluatePart(job.part, PLACING, { truly: false, draft: null });
      const placeSeen = ({ uPx, vPx }: { uPx: number; vPx: number }) => MAP.toPlace({ uPx, vPx });
      const drawn = { paths, settled, locked: new Set<string>(), placeOf, placeSeen };
      return { job, picture: job.pictures[0]!, drawn, mapper: MAP, newId };
    },
    get paths() {
      return me.setting.drawn.paths;
    },
    get forms() {
      return me.paths.map((p) => p.form!);
    },
    /** What the last change was called. */
    get changed() {
      return state.history.past.at(-1)?.label;
    },
  };
  return forms.length ? me.draw(...forms) : me;
}
