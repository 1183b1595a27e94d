import { bodyPlanOf, type JobDocument } from '@steady-moth/core/job';
import type { BodyPlan, FeatureFault, FeatureNote } from '@steady-moth/core/solid';
import type { BodyFigures, BodySize, SizeAsked } from '@steady-moth/core/solid/kernel';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo, useRef } from 'react';
import { solids } from '../compute';
import type { ShownBody } from '../compute/solid.worker';
import type { BoardFrame } from '../frames/boardMap';
import { placingOfFrame } from '../frames/placing';
import { digest, WORKED_OUT } from '../session/group';
import type { Drawn } from './useDrawn';

/** What the features of a job come to, and the key of its plain figures. */
export interface Planned {
  plan: BodyPlan;
  key: string;
  drawn: Drawn;
}

/** `drawn`: the part where it truly lies. The plan of the body as the document and the calibration say; it keeps its identity as long as no figure changed. */
export function useBodyPlan(job: JobDocument, frames: ReadonlyMap<string, BoardFrame>, drawn: Drawn): Planned {
  const placing = useMemo(() => new Map([...frames].map(([id, frame]) => [id, placingOfFrame(frame)])), [frames]);
  const { part, pictures } = job;
  const last = useRef<Planned | null>(null);
  return useMemo(() => {
    const plan = bodyPlanOf({ part, pictures }, drawn, placing);
    const key = digest(JSON.stringify(plan));
    if (last.current?.key === key && last.current.drawn === drawn) return last.current;
    const same = last.current?.key === key ? last.current.plan : plan;
    last.current = { plan: same, key, drawn };
    return last.current;
  }, [part, pictures, drawn, placing]);
}

export interface Body {
  body: ShownBody | null;
  /** Of the plan, and of the kernel. */
  faults: readonly FeatureFault[];
  notes: readonly FeatureNote[];
  /** What is shown is not yet what the features say. */
  busy: boolean;
  /** The computation ended before its time. */
  failed: boolean;
  again(): void;
}

/** The body, worked out in its worker; until that is done the last one stays. */
export function useBody({ plan, key, drawn }: Planned, isTrue: boolean): Body {
  const wanted = isTrue && drawn.isWhole && plan.steps.length > 0;
  const query = useQuery({
    queryKey: ['body', key],
    queryFn: ({ signal }) => solids.call((w) => w.build(plan.steps), signal),
    enabled: wanted,
    placeholderData: keepPreviousData,
    retry: false,
    ...WORKED_OUT,
  });
  const body = wanted ? (query.data?.body ?? null) : null;
  const told = wanted && !query.isPlaceholderData ? query.data : undefined;
  return {
    body,
    faults: [...plan.faults, ...(told?.faults ?? [])],
    notes: [...plan.notes, ...(told?.notes ?? [])],
    busy: wanted && query.isFetching,
    failed: wanted && query.isError,
    again: () => void query.refetch(),
  };
}

/** Volume, surface and centre of the body that is shown; null until they are known. */
export function useBodyFigures({ plan, key }: Planned, enabled: boolean): BodyFigures | null {
  const query = useQuery({
    queryKey: ['body-figures', key],
    queryFn: ({ signal }) => solids.call((w) => w.figures(plan.steps), signal),
    enabled,
    retry: false,
    ...WORKED_OUT,
  });
  return query.data ?? null;
}

/** A size of the body, by its exact surfaces. */
export function useBodySize({ plan, key }: Planned, asked: SizeAsked | null, enabled: boolean) {
  return useQuery<BodySize | null>({
    queryKey: ['body-size', key, asked],
    queryFn: ({ signal }) => solids.call((w) => w.size(plan.steps, asked as SizeAsked), signal),
    enabled: enabled && asked !== null,
    ...WORKED_OUT,
  });
}
