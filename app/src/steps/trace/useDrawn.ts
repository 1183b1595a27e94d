import { formsBounds, pathData, type Vec2 } from '@steady-moth/core/geometry';
import type { JobDocument } from '@steady-moth/core/job';
import { createEvaluator, type EvaluatedPath, type Observation, type Placing } from '@steady-moth/core/sketch';
import { useMemo, useState } from 'react';
import type { BoardFace } from '../../frames/boardMap';
import { placingOfFace } from '../../frames/placing';
import type { Box } from '../../frames/view';

/** A path as it lies on the board. What is not always needed is worked out when it is first asked for. */
export interface DrawnPath extends EvaluatedPath {
  /** Path data in board coordinates, y down. */
  readonly data: string;
  /** Box round it in board coordinates, null without a form. */
  readonly bounds: Box | null;
}

const drawnOf = new WeakMap<EvaluatedPath, DrawnPath>();

export function drawnPath(evaluated: EvaluatedPath): DrawnPath {
  const known = drawnOf.get(evaluated);
  if (known) return known;
  const { form } = evaluated;
  let data: string | undefined;
  let bounds: Box | null | undefined;
  const drawn: DrawnPath = {
    ...evaluated,
    get data() {
      data ??= form ? pathData(form, (p) => ({ x: p.x, y: -p.y })) : '';
      return data;
    },
    get bounds() {
      if (bounds === undefined) {
        const box = form && formsBounds([form]);
        bounds = box && { left: box.min.x, right: box.max.x, top: -box.max.y, bottom: -box.min.y };
      }
      return bounds;
    },
  };
  drawnOf.set(evaluated, drawn);
  return drawn;
}

/** The part as it lies on the board, y down. */
export interface Drawn {
  paths: readonly DrawnPath[];
  /** Of a point or a pick by its name. */
  placeOf(id: string): Vec2 | null;
  /** Of anything that was seen, where it shows on the board. */
  placeSeen(at: Pick<Observation, 'picture' | 'uPx' | 'vPx'>): Vec2 | null;
}

export const NOTHING_DRAWN: Drawn = { paths: [], placeOf: () => null, placeSeen: () => null };

const turnedOver = (p: Vec2 | null): Vec2 | null => p && { x: p.x, y: -p.y };

/**
 * All paths on the board; what is in `draft` stands where it is being dragged. `truly` puts each where it is on its own
 * plane, or on its turned part, as it is handed over. A path of which nothing changed keeps its identity.
 */
export function useDrawn(
  part: JobDocument['part'],
  faces: ReadonlyMap<string, BoardFace>,
  draft: Readonly<Record<string, Observation>> | null,
  truly = false,
): Drawn {
  const [evaluate] = useState(createEvaluator);
  const placing = useMemo<Placing>(() => new Map([...faces].map(([id, face]) => [id, placingOfFace(face)])), [faces]);
  return useMemo(() => {
    const { paths, placeOf } = evaluate(part, placing, { truly, draft });
    return {
      paths: drawnAll(paths),
      placeOf: (id) => turnedOver(placeOf(id)),
      placeSeen: (at) => turnedOver(placing.get(at.picture)?.place(at, null) ?? null),
    };
  }, [evaluate, part, placing, truly, draft]);
}

const lists = new WeakMap<readonly EvaluatedPath[], readonly DrawnPath[]>();

/** The list keeps its identity with that of the evaluated ones. */
function drawnAll(paths: readonly EvaluatedPath[]): readonly DrawnPath[] {
  const made = lists.get(paths) ?? paths.map(drawnPath);
  lists.set(paths, made);
  return made;
}
