import type { Vec2 } from '@steady-moth/core/geometry';
import { act, checkJob, type JobAction, type JobState, NO_HISTORY } from '@steady-moth/core/job';
import { evaluatePart, MAIN_SKETCH, newPart, type Path, pathsOf, walkOf } from '@steady-moth/core/sketch';
import type { SnapKind } from '@steady-moth/core/tracing';
import { expect } from 'vitest';
import { sampleJob } from '../../../../../core/src/job/sample.test-data';
import type { Aim } from '../../../board/useAim';
import { screenPlace } from '../../../frames/place';
import type { TracePreview } from '../../../part/preview';
import { drawnPath } from '../../../part/useDrawn';
import type { Selection, Tool as ToolName } from '../../../session/sessionStore';
import type { ToolEvent } from '../../../tool/tool';
import type { GuideKind, ShapeKind } from '../traceStore';
import type { TraceAnswer, TraceContext, TraceHeld, TraceOutcome } from './context';
import { traceToolOf } from './index';

/* Ten pixels a millimetre, the left top corner at zero. The tests tell places as the picture has them, y down. */
const PER_MM = 10;

/** A hand with a tool: what it does is applied to a job, as the board does it. */
export function hand(start: ToolName = null) {
  let state: JobState = { job: { ...sampleJob(), part: newPart() }, history: NO_HISTORY };
  let name = start;
  let tool = traceToolOf(name);
  let own = tool.start();
  let selection: Selection = null;
  let preview: TracePreview | null = null;
  let held: TraceHeld | null = null;
  let last: TraceOutcome<unknown> = { state: null };
  const bench = {
    tangent: false,
    curveThrough: false,
    shape: 'rectangle' as ShapeKind,
    corners: 6,
    guide: 'through' as GuideKind,
    chain: false,
    boxTouches: false,
    snapOff: [] as SnapKind[],
  };
  let named = 0;
  let angle: number | null = null;
  const shown: unknown[] = [];
  /** The part at a given number of pixels per millimetre, then bent out of shape, y up. */
  const evaluated = (perMm: number, bent = (p: Vec2): Vec2 => p) =>
    evaluatePart(
      state.job.part,
      new Map([
        ['pic', { isTrue: true, place: ({ uPx, vPx }) => bent({ x: uPx / perMm, y: -vPx / perMm }), turned: null }],
      ]),
      { truly: false, draft: null },
    );
  const drawn = () => {
    const { paths, placeOf } = evaluated(PER_MM);
    return {
      isWhole: true,
      locked: new Set<string>(),
      faults: [],
      settled: new Map(),
      paths: paths.map(drawnPath),
      placeOf,
      placeSeen: ({ uPx, vPx }: { uPx: number; vPx: number }) => ({ x: uPx / PER_MM, y: -vPx / PER_MM }),
    };
  };
  const context = (): TraceContext => ({
    job: state.job,
    picture: state.job.pictures[0]!,
    drawn: drawn(),
    mapper: {
      toPlace: ({ uPx, vPx }) => ({ x: uPx / PER_MM, y: -vPx / PER_MM }),
      toPicture: ({ x, y }) => ({ uPx: x * PER_MM, vPx: -y * PER_MM }),
    },
    isTrue: true,
    isFreeHand: false,
    selection,
    piece:
      name === 'arc'
        ? name
        : name === 'curve'
          ? bench.curveThrough
            ? 'spline'
            : name
          : bench.tangent
            ? 'tangent'
            : 'line',
    ...bench,
    scale: 10,
    angle,
    newId: () => `n${named++}`,
  });
  const dispatch = (event: ToolEvent<TraceHeld, TraceAnswer>) => {
    last = tool.step(own, event, context());
    own = last.state;
    if (last.preview !== undefined) preview = last.preview;
    if (last.held !== undefined) held = last.held;
    if (last.action) state = act(state, last.action);
    if (last.select !== undefined) selection = last.select;
    if (last.show) shown.push(last.show);
    if (last.show?.angle !== undefined) angle = last.show.angle;
    expect(checkJob(state.job)).toMatchObject({ ok: true });
    return last;
  };
  /** Where a press means, snapped to the point of that name. */
  const aim = (x: number, y: number, point: string | null = null): Aim => ({
    screen: screenPlace(x * 10, y * 10),
    place: { x, y: -y },
    picture: { uPx: x * PER_MM, vPx: y * PER_MM },
    pictureId: 'pic',
    sigmaPx: 0.1,
    snappedTo: point ? 'point' : 'edge',
    isShadow: false,
    point,
    onto: point && 'point',
    edges: [],
    edge: 0,
  });
  const me = {
    bench,
    context,
    take(next: ToolName) {
      const other = traceToolOf(next);
      if (other !== tool) {
        dispatch({ kind: 'cancel' });
        tool = other;
        own = tool.start();
      }
      name = next;
      return me;
    },
    press(x: number, y: number, point: string | null = null) {
      dispatch({ kind: 'press', at: { x, y: -y }, reach: 1, shift: false });
      if (held === null) dispatch({ kind: 'place', aim: aim(x, y, point) });
      return me;
    },
    drag(from: [number, number], to: [number, number], point: string | null = null, shift = false) {
      dispatch({ kind: 'press', at: { x: from[0], y: -from[1] }, reach: 1, shift });
      dispatch({ kind: 'move', aim: aim(...to, point), isHeld: held !== null });
      const was = held;
      held = null;
      dispatch({ kind: 'let-go' });
      const isMoved = Math.hypot(to[0] - from[0], to[1] - from[1]) > 0.2;
      if (was) dispatch({ kind: 'drop', held: was, isMoved, aim: aim(...to, point) });
      return me;
    },
    move(x: number, y: number) {
      dispatch({ kind: 'move', aim: aim(x, y), isHeld: false });
      return me;
    },
    type(text: string, mm: number) {
      if (tool.reads?.(own, context())) return dispatch({ kind: 'said', text, unit: 'mm' }).refused ?? null;
      return dispatch({ kind: 'typed', value: { text, unit: 'mm' }, mm }).refused ?? null;
    },
    apply(action: JobAction) {
      state = act(state, action);
    },
    answer: (answer: TraceAnswer) => void dispatch({ kind: 'answer', answer }),
    finish: () => void dispatch({ kind: 'finish' }),
    shown,
    /** The points that a press there would snap to, with a reach of 1.2 mm: twelve pixels of the screen. */
    snapsTo: (x: number, y: number) =>
      (tool.targets?.(own, { x, y: -y }, 1.2, context()) ?? []).flatMap(({ id }) => id ?? []),
    get last() {
      return last;
    },
    get preview() {
      return preview;
    },
    get selection() {
      return selection;
    },
    get awaits() {
      return tool.awaits?.(own, context()) ?? null;
    },
    get paths(): Path[] {
      return pathsOf(state.job.part);
    },
    get sketch() {
      return state.job.part.sketches[MAIN_SKETCH];
    },
    get changes() {
      return state.history.past.map((c) => c.label);
    },
    points: (path: Path) => walkOf(me.sketch!, path)?.points ?? [],
    kinds: (path: Path) => path.uses.map((u) => me.sketch!.curves[u.curve]!.kind),
    at: (id: string) => {
      const p = drawn().placeOf(id);
      return p && { x: p.x, y: 0 - p.y };
    },
    forms: () => drawn().paths.map((d) => d.form),
    /** The same under another calibration, with another number of pixels per millimetre. */
    formsThrough: (bent: (p: Vec2) => Vec2) => evaluated(PER_MM, bent).paths.map((p) => p.form),
    formsAt: (perMm: number) => evaluated(perMm).paths.map((p) => p.form),
  };
  return me;
}
