import { renameJob, setUnit } from '@steady-moth/core/job';
import { useEffect, useMemo, useState } from 'react';
import { Link, Navigate, useNavigate, useParams } from 'react-router';
import { boardPictures } from '../board/useLayers';
import { FileButton } from '../door/FileButton';
import { type Busy, useDoor } from '../door/useDoor';
import { Act, Button, Notice } from '../kit';
import { InTurn } from '../kit/InTurn';
import { useLate } from '../kit/useLate';
import { useJob } from '../session/jobStore';
import { cancelLoading, loadAgain, shownTogether, useLoadPixels, usePixelsStore } from '../session/pixelsStore';
import { useQuestions } from '../session/questions';
import { useReadout } from '../session/readoutStore';
import { saveJobFile } from '../session/saveJobFile';
import { loadSentence, saveSentence } from '../session/sentences';
import { useSession } from '../session/sessionStore';
import { AskBeforeLeaving } from '../step/AskBeforeLeaving';
import type { StepProps, UseStep } from '../step/description';
import { FaultPage } from '../step/FaultPage';
import { Header, UndoButtons } from '../step/Header';
import { PlumbLine } from '../step/PlumbLine';
import { StepLayout } from '../step/StepLayout';
import { STEPS } from '.';

/** The steps at work: nobody waits for one on the way through a job. */
const AT_WORK = new Map(await Promise.all(STEPS.map(async (step) => [step.name, await step.load()] as const)));

/** A step between its neighbours; it stays the same step as long as this is on the screen. */
function StepScreen({ at, useStep, ...props }: StepProps & { at: number; useStep: UseStep }) {
  const parts = useStep(props);
  const before = STEPS[at - 1]?.name ?? null;
  const next = STEPS[at + 1]?.name ?? null;
  return <StepLayout step={STEPS[at]!} before={before} next={next} unit={props.job.unit} {...parts} />;
}

export function JobScreen() {
  const { id = '', step } = useParams();
  const open = useJob((s) => s.open);
  useEffect(() => open(id), [id, open]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another job begins with its first picture, shown whole
  useEffect(() => {
    useSession.getState().setView(null);
    useSession.getState().choosePicture(null);
  }, [id]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new step lays down the tools of the old one
  useEffect(() => {
    useSession.getState().clear();
    useReadout.getState().reset();
  }, [step]);
  const fault = useJob((s) => s.fault);
  const state = useJob((s) => s.state);
  if (!STEPS.some((s) => s.name === step)) return <Navigate to="../true" relative="path" replace />;
  if (fault)
    return <FaultPage sentence={loadSentence(fault)} jobId={fault.reason === 'no-such-job' ? undefined : id} />;
  if (!state) return <main className="p-12 text-ink2">Opening the job …</main>;
  return <OpenJob step={step as string} />;
}

function OpenJob({ step }: { step: string }) {
  const job = useJob((s) => s.state?.job);
  const history = useJob((s) => s.state?.history);
  const apply = useJob((s) => s.apply);
  const undo = useJob((s) => s.undo);
  const redo = useJob((s) => s.redo);
  const chosen = useSession((s) => s.picture);
  const compare = useSession((s) => s.compare);
  const picture = job?.pictures.find((p) => p.id === chosen) ?? job?.pictures[0] ?? null;
  const wanted = useMemo(() => {
    if (!job || !picture) return [];
    const before = compare && picture.before ? [picture.before.blob] : [];
    return [picture.blob, ...before, ...shownTogether(boardPictures(job, picture)).map((p) => p.blob)];
  }, [job, picture, compare]);
  useLoadPixels(wanted);
  const navigate = useNavigate();
  const door = useDoor(job?.unit ?? 'mm', 'job', (newId) => navigate(`/job/${newId}/trace`));
  if (!job || !history) return null;
  const at = STEPS.findIndex((s) => s.name === step);
  return (
    <div className="flex h-full flex-col" {...door.handlers}>
      <Header unit={job.unit} onUnit={(unit) => apply(setUnit(unit))}>
        <Link to="/" className="text-ink2 no-underline hover:text-ink">
          Rack
        </Link>
        <span aria-hidden className="text-ink2">
          /
        </span>
        <h1 className="sr-only">{job.name}</h1>
        <JobName name={job.name} onName={(name) => apply(renameJob(name))} />
        <span className="grow" />
        <KeptAt />
        <UndoButtons
          undo={history.past.at(-1)?.label ?? null}
          redo={history.future[0]?.label ?? null}
          onUndo={undo}
          onRedo={redo}
        />
      </Header>
      <Banners />
      <AskBeforeLeaving id={job.id} />
      {door.notice && <div className="px-6">{door.notice}</div>}
      <div className="flex min-h-0 grow">
        <PlumbLine steps={STEPS} job={job} step={step} />
        {picture ? (
          <InTurn part="step">
            <StepScreen
              key={`${step} ${picture.id}`}
              at={at}
              useStep={AT_WORK.get(step)!}
              job={job}
              picture={picture}
              onFiles={door.take}
              readOne={door.readOne}
            />
          </InTurn>
        ) : (
          <div className="p-12 text-ink2">
            <p className="mb-2">This job has no picture. Drop one here, or paste it.</p>
            <FileButton label="Choose a picture" name="Picture" onFiles={door.take} />
          </div>
        )}
      </div>
      <div className="fixed bottom-40 left-1/3 z-20 flex flex-col items-start gap-2">
        {picture && <LoadingPicture blob={picture.blob} />}
        {door.busy && <Reading busy={door.busy} />}
        <AskedLate />
      </div>
      {door.chooser}
    </div>
  );
}

function JobName({ name, onName }: { name: string; onName(name: string): void }) {
  const [text, setText] = useState(name);
  useEffect(() => setText(name), [name]);
  const accept = () => {
    const tidy = text.trim().slice(0, 200);
    if (tidy && tidy !== name) onName(tidy);
    else setText(name);
  };
  return (
    <input
      aria-label="Name of the job"
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={accept}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur();
        if (e.key === 'Escape') setText(name);
      }}
      className="w-64 rounded border border-transparent bg-transparent px-1.5 py-0.5 font-semibold text-[15px] hover:border-line focus:border-line focus:bg-sheet"
    />
  );
}

/** Hours, minutes, seconds; a formatter of the browser's own takes longer to make than the whole screen may. */
const clock = (at: Date): string =>
  [at.getHours(), at.getMinutes(), at.getSeconds()].map((n) => String(n).padStart(2, '0')).join(':');

function KeptAt() {
  const keeping = useJob((s) => s.keeping);
  const text =
    keeping.kind === 'kept'
      ? `Saved ${clock(new Date(keeping.at))}`
      : keeping.kind === 'keeping'
        ? 'Saving …'
        : 'Not saved';
  return (
    <span
      className={`figure text-[12.5px] ${keeping.kind === 'failing' ? 'text-brick' : 'text-ink2'}`}
      aria-live="polite"
    >
      {text}
    </span>
  );
}

/** What concerns the whole job: storage that refuses, another tab, a history that does not fit. */
function Banners() {
  const { keeping, mayWrite, notice, retry, hangAgain, takeOver, dismissNotice } = useJob();
  return (
    <div className="px-6">
      {keeping.kind === 'failing' && (
        <Notice tone="wrong">
          {saveSentence(keeping.reason)}{' '}
          <span className="ml-3 inline-flex gap-4">
            {keeping.reason === 'deleted-elsewhere' ? (
              <Act onClick={() => void hangAgain()}>Hang it again</Act>
            ) : (
              keeping.reason !== 'changed-elsewhere' && <Act onClick={retry}>Try again</Act>
            )}
            <Act onClick={() => void saveJobFile()}>Save as a file</Act>
          </span>
        </Notice>
      )}
      {!mayWrite && (
        <Notice tone="doubt">
          This job is open in another tab, so nothing can be changed here.{' '}
          <Button onClick={takeOver}>Work here instead</Button>
        </Notice>
      )}
      {notice && (
        <Notice tone="doubt">
          {notice} <Act onClick={dismissNotice}>Understood</Act>
        </Notice>
      )}
    </div>
  );
}

/** Shown only when it takes longer than half a second. */
function LoadingPicture({ blob }: { blob: string }) {
  const loading = usePixelsStore((s) => (s.loading?.blob === blob ? s.loading : null));
  const given = usePixelsStore((s) => s.given[blob] ?? null);
  const late = useLate(loading !== null);
  if (given === 'failed')
    return (
      <div className="fixed bottom-28 left-40">
        <Notice tone="wrong">
          This picture cannot be shown: its pixels could not be read. The traces are safe.{' '}
          <Act onClick={() => loadAgain(blob)}>Try again</Act>
        </Notice>
      </div>
    );
  if (given === 'cancelled')
    return (
      <div className="fixed bottom-28 left-40">
        <Notice tone="doubt">
          The picture was not loaded. <Act onClick={() => loadAgain(blob)}>Load it</Act>
        </Notice>
      </div>
    );
  if (!loading || !late) return null;
  return <Waiting text="Loading the picture" share={loading.share} cancel={cancelLoading} />;
}

/** What a worker was asked last, where the answer takes longer than half a second. */
function AskedLate() {
  const last = useQuestions((s) => s.open.at(-1) ?? null);
  const late = useLate(last !== null);
  return last && late ? <Waiting text={last.says} share={last.share} cancel={last.stop} /> : null;
}

/** A file on its way into the job. */
function Reading({ busy }: { busy: Busy }) {
  const late = useLate(true);
  return late ? <Waiting text={`Reading ${busy.name}`} share={busy.share} cancel={busy.cancel} /> : null;
}

/** @param share that is done, 0 to 1; null where nothing tells it */
function Waiting({ text, share, cancel }: { text: string; share: number | null; cancel(): void }) {
  return (
    <div className="flex max-w-xl items-center gap-4 rounded border border-line bg-paper px-4 py-3 shadow">
      <span className="truncate">{text}</span>
      <progress max={1} value={share ?? undefined} className="accent-rust" aria-label={text} />
      <Act onClick={cancel}>Cancel</Act>
    </div>
  );
}
