import { addFeature } from '@steady-moth/core/job';
import type { Feature } from '@steady-moth/core/sketch';
import type { SizeAsked } from '@steady-moth/core/solid/kernel';
import type { LengthUnit } from '@steady-moth/core/units';
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from 'react';
import { solids } from '../../compute';
import { Act, Choice, Notice, SlipLine } from '../../kit';
import { useLate } from '../../kit/useLate';
import { type Body, useBody, useBodyFigures, useBodyPlan, useBodySize } from '../../part/useBody';
import { useDrawn } from '../../part/useDrawn';
import { useBodyFaults } from '../../session/bodyFaults';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { type Tool, useSession } from '../../session/sessionStore';
import { useBoardFrame, useBoardFrames } from '../../session/useBoardFrame';
import type { StepParts, StepProps } from '../../step/description';
import { WorkedOn } from '../../step/WorkedOn';
import { CheckLines, tagOf, useChecks } from './BodyChecks';
import { BodyCells, FigureLines } from './BodyFigures';
import { DraftFeature } from './DraftFeature';
import { FeatureLines } from './FeatureLines';
import { type NewKind, newFeature } from './newFeature';
import { askedNext, chosenOn, named, pickedInto } from './picking';
import { middleOf, SectionLine } from './SectionLine';
import { sizeSentence, useSizePlusMinus } from './sizes';
import { useAskReading } from './useAskReading';
import { useUnderlay } from './useUnderlay';
import type { Tag } from './view/BodyView';
import { FlatView } from './view/FlatView';
import { Silhouettes } from './view/Silhouettes';
import type { Met, Section } from './view/scene';
import type { Side } from './view/sides';

/** Drawing in space is a part of its own, fetched with the first body. */
const BodyView = lazy(() => import('./view/BodyView'));

const KINDS: Partial<Record<NonNullable<Tool>, NewKind>> = {
  revolve: 'revolve',
  extrude: 'extrude',
  'view-cut': 'view-cut',
  edges: 'edges',
  holes: 'holes',
  further: 'marks',
};
/** The settled profiles as a body. */
export function useSolidStep({ job, picture }: StepProps): StepParts {
  const { frame, isComing } = useBoardFrame(job, picture);
  const frames = useBoardFrames(job, picture, frame);
  const isTrue = frame.kind === 'true';
  const planned = useBodyPlan(job, frames, useDrawn(job.part, frames, null, true));
  const state = useBody(planned, isTrue);
  const { body } = state;
  const figures = useBodyFigures(planned, body !== null && !state.busy);
  const tool = useSession((s) => s.tool);
  const take = useSession((s) => s.take);
  const apply = useJob((s) => s.apply);
  const [draft, setDraft] = useState<Feature | null>(null);
  const [open, setOpen] = useState<string | null>(null);
  const [section, setSection] = useState<Section | null>(null);
  const [under, setUnder] = useState(true);
  const [from, setFrom] = useState<{ side: Side; asked: number }>({ side: 'corner', asked: 0 });
  const [asked, setAsked] = useState<SizeAsked | null>(null);
  const lastMet = useRef<Met | null>(null);
  const underlay = useUnderlay(picture, frame, body?.box ?? null, under);
  const mesh = body?.mesh ?? null;

  const kind = tool ? KINDS[tool] : undefined;
  // biome-ignore lint/correctness/useExhaustiveDependencies: a tool that is taken out begins anew; the job changes under it
  useEffect(() => {
    setDraft(kind ? newFeature(kind, job, newId()) : null);
    setAsked(null);
    if (kind) setOpen(null);
    if (tool === 'section') setSection((s) => s ?? (body ? { axis: 'y', at: middleOf(body.box, 'y') } : null));
  }, [tool]);

  const picks = picksFor(tool, draft);
  const onPick = (met: Met) => {
    if (!mesh) return;
    const what = named(mesh, met);
    lastMet.current = met;
    if (draft?.kind === 'edges' || draft?.kind === 'hollow') setDraft(pickedInto(draft, mesh, what));
    else setAsked(askedNext(asked, what));
  };
  const size = useBodySize(planned, asked, body !== null);
  const plusMinus = useSizePlusMinus(job, asked?.of === 'faces' ? asked.faces : null);
  const checks = useChecks(job, planned, body !== null);
  const touched = tool === 'body-check' && asked?.of === 'faces' && size.data ? asked.faces : null;
  useAskReading(job.unit, touched, () => setAsked(null));

  const tags = useTags(checks, size.data, plusMinus, job.unit);
  const chosen = useMemo(() => chosenOn(mesh, draft, asked), [mesh, draft, asked]);
  const { features } = job.part;
  const failing = features.find((f) => state.faults.some((own) => own.feature === f.id))?.name ?? null;
  useEffect(() => useBodyFaults.setState({ of: features, name: failing }), [features, failing]);
  const add = () => {
    if (!draft) return;
    apply(addFeature(draft));
    setOpen(draft.id);
    take(null);
  };
  return {
    isTrue,
    cells: <BodyCells job={job} figures={figures} box={body?.box ?? null} />,
    board:
      job.part.features.length === 0 && !body ? (
        <Empty isTrue={isTrue} />
      ) : (
        <Suspense fallback={<p className="p-12 text-ink2">Fetching the drawing board in space …</p>}>
          <BodyView
            mesh={mesh}
            box={body?.box ?? null}
            underlay={underlay}
            section={section}
            picks={picks}
            chosen={chosen}
            tags={tags}
            from={from}
            onPick={onPick}
            instead={<FlatView planned={planned} side={from.side} enabled={body !== null} />}
          />
        </Suspense>
      ),
    slip: (
      <>
        <WorkedOn job={job} picture={picture} views={false} />
        {!isTrue && !isComing && (
          <Notice tone="doubt">The picture is not true yet, so nothing has a size. What is said here is kept.</Notice>
        )}
        <Working state={state} />
        {kind && !draft && (
          <Notice tone="doubt">
            Nothing is traced that this could be made of. Trace a closed profile, or a circle for a hole, first.
          </Notice>
        )}
        {draft && (
          <DraftFeature
            job={job}
            box={body?.box ?? null}
            draft={draft}
            isFurther={tool === 'further'}
            onDraft={setDraft}
            onAdd={add}
            onLeave={() => take(null)}
          />
        )}
        {(tool === 'body-size' || tool === 'body-check') && (
          <AskedSize
            isCheck={tool === 'body-check'}
            asked={asked}
            size={size}
            plusMinus={plusMinus}
            unit={job.unit}
            onWall={lastMet.current && (() => setAsked(wallAt(lastMet.current)))}
          />
        )}
        <FeatureLines
          job={job}
          box={body?.box ?? null}
          faults={state.faults}
          notes={state.notes}
          open={open}
          onOpen={setOpen}
        />
        {job.part.features.length === 0 && !draft && (
          <p className="border-line border-t py-2.5 text-[12.5px] text-ink2">
            Take a tool out of the roll below: Extrude for a flat part, Revolve for a turned one. A part that stays flat
            needs no body: go on to Hand over.
          </p>
        )}
        {body && (
          <>
            <section aria-label="Views" className="border-line border-t py-2.5">
              <h2 className="font-medium">Seen from</h2>
              <Silhouettes
                mesh={body.mesh}
                box={body.box}
                onSide={(side) => setFrom((f) => ({ side, asked: f.asked + 1 }))}
              />
            </section>
            <ul>
              <UnderLine under={under} onUnder={setUnder} />
              <SectionLine section={section} box={body.box} unit={job.unit} onChange={setSection} />
            </ul>
            <FigureLines job={job} figures={figures} />
            <CheckLines job={job} checks={checks} />
          </>
        )}
      </>
    ),
  };
}

/** What a press on the body takes: a face, an edge, either of them; null for nothing. */
function picksFor(tool: Tool, draft: Feature | null): 'face' | 'edge' | 'either' | null {
  if (tool === 'body-size') return 'either';
  if (tool === 'body-check' || draft?.kind === 'hollow') return 'face';
  return draft?.kind === 'edges' && draft.which.kind === 'picked' ? 'edge' : null;
}

/** What stands at the body: its checks, and the size that is asked. */
function useTags(
  checks: ReturnType<typeof useChecks>,
  size: ReturnType<typeof useBodySize>['data'],
  plusMinus: ReturnType<typeof useSizePlusMinus>,
  unit: LengthUnit,
): Tag[] {
  return useMemo(() => {
    const own = checks.flatMap((c) => tagOf(c, unit));
    if (size?.between) own.push({ id: 'asked', text: sizeSentence(size, plusMinus, unit), at: size.between[1] });
    return own;
  }, [checks, size, plusMinus, unit]);
}

const wallAt = (met: Met | null): SizeAsked | null => met && { of: 'wall', at: met.at, normal: met.normal };

function Empty({ isTrue }: { isTrue: boolean }) {
  return (
    <div className="flex h-full items-center justify-center bg-board p-12 text-ink2">
      <p className="max-w-96">
        {isTrue
          ? 'There is no body yet. Take Extrude or Revolve out of the roll below, and what was traced becomes one.'
          : 'A body is made of what was traced, once the picture is true.'}
      </p>
    </div>
  );
}

/** That the body is being worked out, or was not to its end. */
function Working({ state }: { state: Body }) {
  const late = useLate(state.busy);
  return (
    <>
      {late && (
        <Notice tone="good">
          Working the body out … <Act onClick={() => solids.terminate()}>Stop</Act>
        </Notice>
      )}
      {state.failed && (
        <Notice tone="wrong">
          The body was not worked out to its end. Nothing that you said is lost.{' '}
          <Act onClick={state.again}>Work it out again</Act>
        </Notice>
      )}
    </>
  );
}

function UnderLine({ under, onUnder }: { under: boolean; onUnder(under: boolean): void }) {
  return (
    <SlipLine
      title="Picture under it"
      figure={
        <Choice
          label="Picture under it"
          value={under ? 'shown' : 'hidden'}
          options={[
            { value: 'shown', text: 'shown' },
            { value: 'hidden', text: 'hidden' },
          ]}
          onChange={(v) => onUnder(v === 'shown')}
        />
      }
    />
  );
}

/** What was pressed on the body, and what it measures. */
function AskedSize({
  isCheck,
  asked,
  size,
  plusMinus,
  unit,
  onWall,
}: {
  isCheck: boolean;
  asked: SizeAsked | null;
  size: ReturnType<typeof useBodySize>;
  plusMinus: ReturnType<typeof useSizePlusMinus>;
  unit: LengthUnit;
  /** Measures the wall where the body was pressed last; null where it was not. */
  onWall: (() => void) | null;
}) {
  const words = () => {
    if (asked === null)
      return isCheck
        ? 'Press the face, or the two faces, that the caliper touched, and type its reading.'
        : 'Press a face, two faces, or an edge of the body.';
    if (size.data) return sizeSentence(size.data, plusMinus, unit);
    return size.isFetching ? 'Measuring …' : 'A flat face alone has no size: press a second one.';
  };
  return (
    <Notice tone="good">
      {words()}
      {!isCheck && asked?.of === 'faces' && asked.faces.length === 1 && onWall && (
        <>
          {' '}
          <Act onClick={onWall}>The wall there</Act>
        </>
      )}
    </Notice>
  );
}
