import { type Box, pathData, type Vec2 } from '@steady-moth/core/geometry';
import type { JobDocument } from '@steady-moth/core/job';
import {
  type Cluster,
  createEvaluator,
  type EvaluatedPath,
  type Id,
  type LongSettling,
  type Observation,
  type PartFault,
  type Placing,
  type SettledPlaces,
  seenIn,
} from '@steady-moth/core/sketch';
import { boxOfPath, type Traced } from '@steady-moth/core/tracing';
import { useEffect, useMemo, useReducer, useRef, useState } from 'react';
import { figures } from '../compute';
import type { BoardFrame } from '../frames/boardMap';
import { onBoard } from '../frames/place';
import { placingOfFrame } from '../frames/placing';

/** A path as it lies on the board. What is not always needed is worked out when it is first asked for. */
export interface DrawnPath extends EvaluatedPath {
  /** Path data of the board, for an element. */
  readonly data: string;
  /** The same of what is made of it; empty where nothing is. */
  readonly madeData: string;
  /** Box round all of it, null without a form. */
  readonly bounds: Box | null;
}

const drawnOf = new WeakMap<EvaluatedPath, DrawnPath>();

export function drawnPath(evaluated: EvaluatedPath): DrawnPath {
  const known = drawnOf.get(evaluated);
  if (known) return known;
  const { form, made } = evaluated;
  let data: string | undefined;
  let madeData: string | undefined;
  const drawn: DrawnPath = {
    ...evaluated,
    get data() {
      data ??= form ? pathData(form, onBoard) : '';
      return data;
    },
    get madeData() {
      madeData ??= (made ?? []).map((one) => pathData(one, onBoard)).join(' ');
      return madeData;
    },
    get bounds() {
      return boxOfPath(evaluated);
    },
  };
  drawnOf.set(evaluated, drawn);
  return drawn;
}

/** The part as it is drawn: places are of the part, mm, y up, or pixels while nothing is true. */
export interface Drawn extends Traced {
  /** False while a large part is still being evaluated: what is here then is as it was before. */
  isWhole: boolean;
  paths: readonly DrawnPath[];
  /** What cannot be made as it was said. */
  faults: readonly PartFault[];
}

export const NOTHING_DRAWN: Drawn = {
  isWhole: true,
  paths: [],
  locked: new Set(),
  faults: [],
  settled: new Map(),
  placeOf: () => null,
  placeSeen: () => null,
};

const NONE_LOCKED: ReadonlySet<string> = new Set();

/**
 * All paths on the board; what is in `draft` stands where it is being dragged. `truly` puts each where it is on its own
 * plane, or on its turned part, as it is handed over. A path of which nothing changed keeps its identity.
 */
export function useDrawn(
  part: JobDocument['part'],
  frames: ReadonlyMap<string, BoardFrame>,
  draft: Readonly<Record<string, Observation>> | null,
  truly = false,
): Drawn {
  const [{ evaluate, prepare, long, take }] = useState(createEvaluator);
  const [stretch, next] = useReducer((n: number) => n + 1, 0);
  const here = useRef(new WeakSet<Cluster>());
  const last = useRef<{ drawn: Drawn; placing: Placing } | null>(null);
  const placing = useMemo<Placing>(
    () => new Map([...frames].map(([id, frame]) => [id, placingOfFrame(frame)])),
    [frames],
  );
  // biome-ignore lint/correctness/useExhaustiveDependencies: each stretch goes on where the one before ended
  const made = useMemo((): Drawn | null | LongSettling[] => {
    // What nobody answered for is settled here after all.
    const waits = long(part, placing, { truly, draft }).filter((l) => !here.current.has(l.cluster));
    if (waits.length > 0) return waits;
    const until = performance.now() + STRETCH_MS;
    // All of it is new with the first drawing, and with each calibration; a change after that touches one path.
    if (last.current?.placing !== placing && !prepare(part, placing, { truly, draft }, () => performance.now() > until))
      return null;
    const { paths, faults, settled, placeOf } = evaluate(part, placing, { truly, draft });
    const whole: Drawn = {
      isWhole: true,
      paths: drawnAll(paths),
      locked: NONE_LOCKED,
      faults,
      settled,
      placeOf,
      placeSeen: (at) => placing.get(at.picture)?.place(at, null) ?? null,
    };
    last.current = { drawn: whole, placing };
    return whole;
  }, [evaluate, prepare, long, part, placing, truly, draft, stretch]);
  const waits = Array.isArray(made) ? made : null;
  const drawn = Array.isArray(made) ? null : made;
  useEffect(() => {
    if (drawn || waits) return;
    const soon = setTimeout(next);
    return () => clearTimeout(soon);
  });
  useEffect(() => {
    if (!waits) return;
    const controller = new AbortController();
    void settledElsewhere(waits, placing, truly, controller.signal).then((found) => {
      if (controller.signal.aborted) return;
      waits.forEach((settling, k) => {
        const result = found[k];
        if (result) take(settling, result);
        else here.current.add(settling.cluster);
      });
      next();
    });
    return () => controller.abort();
  }, [waits, placing, truly, take]);
  const before = last.current?.drawn;
  return useMemo(() => drawn ?? { ...(before ?? NOTHING_DRAWN), isWhole: false }, [drawn, before]);
}

/** Large clusters, settled on a thread of their own; null for each that came to nothing. */
async function settledElsewhere(
  waits: readonly LongSettling[],
  placing: Placing,
  truly: boolean,
  signal: AbortSignal,
): Promise<(SettledPlaces | null)[]> {
  return Promise.all(
    waits.map(async ({ sketch, cluster }) => {
      const seen = seenIn(sketch, placing, { truly, draft: null });
      const places = new Map<Id, Vec2>();
      for (const id of [...Object.keys(sketch.points), ...Object.keys(sketch.picks)]) {
        const at = seen(id);
        if (at) places.set(id, at);
      }
      const first = cluster.points[0] ?? cluster.shapes[0]!;
      const found = await figures.call((w) => w.settle(sketch, [first], places), signal).catch(() => null);
      return found?.[0] ?? null;
    }),
  );
}

/** A part is evaluated for at most this long in one go, ms; a large one takes several goes, and others get their turn in between. */
const STRETCH_MS = 20;

const lists = new WeakMap<readonly EvaluatedPath[], readonly DrawnPath[]>();

/** The list keeps its identity with that of the evaluated ones. */
function drawnAll(paths: readonly EvaluatedPath[]): readonly DrawnPath[] {
  const made = lists.get(paths) ?? paths.map(drawnPath);
  lists.set(paths, made);
  return made;
}

/** As much of a drawing as its layers show; what is locked can be seen and not taken hold of. */
export function useShown(drawn: Drawn, layers: JobDocument['part']['layers']): Drawn {
  return useMemo(() => {
    if (layers.length === 0) return drawn;
    const of = (what: 'hidden' | 'locked') => new Set(layers.filter((l) => l[what]).map((l) => l.name));
    const [hidden, locked] = [of('hidden'), of('locked')];
    const isOn = (names: ReadonlySet<string>, { path }: DrawnPath) => path.layer !== null && names.has(path.layer);
    return {
      ...drawn,
      paths: drawn.paths.filter((d) => !isOn(hidden, d)),
      locked: new Set(drawn.paths.filter((d) => isOn(locked, d)).map((d) => d.path.id)),
    };
  }, [drawn, layers]);
}
