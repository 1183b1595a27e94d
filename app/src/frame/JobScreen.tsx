import { renameJob, STEPS, type StepName, setUnit } from '@steady-moth/core/job';
import { useEffect, useState } from 'react';
import { Link, Navigate, useNavigate, useParams } from 'react-router';
import { HandOverStep } from '../handover/HandOverStep';
import { Act, Button, Notice } from '../kit';
import { PictureStep } from '../picture/PictureStep';
import { useDropAnywhere } from '../rack/StartJob';
import { useBench } from '../store/benchStore';
import { useJob } from '../store/jobStore';
import { useReadout } from '../store/readoutStore';
import { saveJobFile } from '../store/saveJobFile';
import { loadSentence, saveSentence } from '../store/sentences';
import { type PixelsState, usePixels } from '../store/usePixels';
import { TraceStep } from '../trace/TraceStep';
import { TrueStep } from '../true/TrueStep';
import { Header, UndoButtons } from './Header';
import { PlumbLine } from './PlumbLine';

export function JobScreen() {
  const { id = '', step } = useParams();
  const open = useJob((s) => s.open);
  useEffect(() => open(id), [id, open]);
  useEffect(() => {
    useBench.getState().setView(null);
  }, []);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new step lays down the tools of the old one
  useEffect(() => {
    useBench.getState().clear();
    useReadout.getState().reset();
    useReadout.getState().ask(null);
  }, [step]);
  const fault = useJob((s) => s.fault);
  const state = useJob((s) => s.state);
  if (!STEPS.includes(step as StepName)) return <Navigate to="../true" relative="path" replace />;
  if (fault)
    return (
      <main className="mx-auto mt-24 max-w-lg">
        <Notice tone="wrong">{loadSentence(fault)}</Notice>
        <Link to="/" className="text-rust">
          Back to the rack
        </Link>
      </main>
    );
  if (!state) return <main className="p-12 text-ink2">Opening the job …</main>;
  return <OpenJob step={step as StepName} />;
}

function OpenJob({ step }: { step: StepName }) {
  const job = useJob((s) => s.state?.job);
  const history = useJob((s) => s.state?.history);
  const apply = useJob((s) => s.apply);
  const undo = useJob((s) => s.undo);
  const redo = useJob((s) => s.redo);
  const picture = job?.pictures[0] ?? null;
  const pixels = usePixels(picture);
  const navigate = useNavigate();
  const drop = useDropAnywhere(job?.unit ?? 'mm', (newId, isNew) =>
    navigate(`/job/${newId}/${isNew ? 'true' : 'trace'}`),
  );
  if (!job || !history) return null;
  const Step = { picture: PictureStep, true: TrueStep, trace: TraceStep, handover: HandOverStep }[step];
  return (
    <div className="flex h-full flex-col" {...drop.handlers}>
      <Header unit={job.unit} onUnit={(unit) => apply(setUnit(unit))}>
        <Link to="/" className="text-ink2 no-underline hover:text-ink">
          Rack
        </Link>
        <span aria-hidden className="text-ink2">
          /
        </span>
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
      {drop.fault && (
        <div className="px-6">
          <Notice tone="wrong">
            {drop.fault} <Act onClick={drop.dismiss}>Understood</Act>
          </Notice>
        </div>
      )}
      <div className="flex min-h-0 grow">
        <PlumbLine job={job} step={step} />
        {picture ? (
          <Step job={job} picture={picture} ready={pixels.kind === 'ready'} />
        ) : (
          <p className="p-12 text-ink2">This job has no picture. Start one from the rack.</p>
        )}
      </div>
      <LoadingPicture state={pixels} />
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

function KeptAt() {
  const keeping = useJob((s) => s.keeping);
  const text =
    keeping.kind === 'kept'
      ? `kept ${new Date(keeping.at).toLocaleTimeString('en-GB')}`
      : keeping.kind === 'keeping'
        ? 'keeping …'
        : 'not kept';
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
  const { keeping, mayWrite, notice, retry, takeOver, dismissNotice } = useJob();
  return (
    <div className="px-6">
      {keeping.kind === 'failing' && (
        <Notice tone="wrong">
          {saveSentence(keeping.reason)}{' '}
          <span className="ml-3 inline-flex gap-4">
            {keeping.reason !== 'changed-elsewhere' && <Act onClick={retry}>Try again</Act>}
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
function LoadingPicture({ state }: { state: PixelsState }) {
  const [late, setLate] = useState(false);
  const loading = state.kind === 'loading';
  useEffect(() => {
    if (!loading) {
      setLate(false);
      return;
    }
    const timer = setTimeout(() => setLate(true), 500);
    return () => clearTimeout(timer);
  }, [loading]);
  if (state.kind === 'failed')
    return (
      <div className="fixed bottom-28 left-40">
        <Notice tone="wrong">{state.sentence}</Notice>
      </div>
    );
  if (state.kind === 'cancelled')
    return (
      <div className="fixed bottom-28 left-40">
        <Notice tone="doubt">
          The picture was not loaded. <Act onClick={state.again}>Load it</Act>
        </Notice>
      </div>
    );
  if (state.kind !== 'loading' || !late) return null;
  return (
    <div className="fixed bottom-40 left-1/3 flex items-center gap-4 rounded border border-line bg-paper px-4 py-3 shadow">
      <span>Loading the picture</span>
      <progress max={1} value={state.share} className="accent-rust" aria-label="Loading the picture" />
      <Act onClick={state.cancel}>Cancel</Act>
    </div>
  );
}
