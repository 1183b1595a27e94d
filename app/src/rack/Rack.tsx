import { checkJob, type JobDocument } from '@steady-moth/core/job';
import { jobFileSentence } from '@steady-moth/core/say';
import { pathsOf } from '@steady-moth/core/sketch';
import { useLiveQuery } from 'dexie-react-hooks';
import { Trash2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useDoor } from '../door/useDoor';
import { Act, Button, Notice } from '../kit';
import { Modal } from '../kit/Modal';
import { OwnFault } from '../kit/OwnFault';
import { hangDemo } from '../session/demo';
import { isLeaseFree } from '../session/lease';
import { saveStoredFile } from '../session/saveJobFile';
import { loadSentence } from '../session/sentences';
import { database, deleteJob, dropNote, fromStored, type JobRow } from '../session/storage';
import { useUnit } from '../session/useUnit';
import { Header } from '../step/Header';
import { Bead } from '../step/PlumbLine';
import { STEPS } from '../steps';
import { StartJob } from './StartJob';

export function Rack() {
  const found = useLiveQuery(
    () =>
      database.jobs
        .orderBy('changedAt')
        .reverse()
        .toArray()
        .catch(() => 'no-storage' as const),
    [],
  );
  const rows = found === 'no-storage' ? undefined : found;
  const [unit, setUnit] = useUnit();
  const [find, setFind] = useState('');
  const navigate = useNavigate();
  const door = useDoor(unit, 'rack', (id, isNew) => navigate(`/job/${id}/${isNew ? 'true' : 'trace'}`));
  useEffect(() => {
    void hangDemo();
  }, []);
  const wanted = rows?.filter((row) => readRow(row).name.toLowerCase().includes(find.trim().toLowerCase()));
  return (
    <div className="flex h-full flex-col" {...door.handlers}>
      <Header unit={unit} onUnit={setUnit}>
        <h1 className="grow font-semibold text-[15px]">Steady Moth</h1>
        <label className="flex items-center gap-2 text-ink2">
          Find a job
          <input
            type="search"
            value={find}
            onChange={(e) => setFind(e.target.value)}
            className="w-36 rounded border border-line bg-sheet px-2 py-0.5 text-ink"
          />
        </label>
      </Header>
      <div aria-hidden className="h-[5px] shrink-0 bg-ink3" />
      <main className="grow overflow-y-auto px-12 pb-12">
        {door.notice}
        {found === 'no-storage' && (
          <Notice tone="wrong">{loadSentence({ ok: false, reason: 'storage-failed' })}</Notice>
        )}
        <ul className="mt-0 grid grid-cols-[repeat(auto-fill,minmax(272px,1fr))] gap-x-8 gap-y-10">
          <li className="pt-[33px]">
            <StartJob busy={door.busy} onFiles={door.take} />
          </li>
          {wanted?.map((row) => (
            <OwnFault key={row.id} of={row.revision} otherwise={<BrokenCard row={row} />}>
              <JobCard row={row} />
            </OwnFault>
          ))}
        </ul>
        {rows && find && wanted?.length === 0 && <p className="mt-8 text-ink2">No job of that name hangs here.</p>}
      </main>
      {door.chooser}
    </div>
  );
}

/** What was last read of each stored job: a large one is read again only after it changed. */
const read = new Map<string, { revision: number; name: string; checked: ReturnType<typeof checkJob> }>();

function readRow({ id, revision, document }: JobRow) {
  const known = read.get(id);
  if (known?.revision === revision) return known;
  const stored = fromStored(document);
  const name = (stored as Partial<JobDocument> | null | undefined)?.name;
  const fresh = {
    revision,
    name: typeof name === 'string' ? name : 'Unreadable job',
    checked: checkedAlone(stored),
  };
  read.set(id, fresh);
  return fresh;
}

/** A job that cannot even be looked through is one that is not sound; the others hang on. */
function checkedAlone(stored: unknown): ReturnType<typeof checkJob> {
  try {
    return checkJob(stored);
  } catch {
    return { ok: false, reason: 'not-a-job' };
  }
}

/** The card of a job that cannot be shown: it can be kept as a file, and deleted. */
function BrokenCard({ row }: { row: JobRow }) {
  const { name } = readRow(row);
  return (
    <li className="relative pt-[33px]">
      <div className="relative rounded border border-brick bg-sheet px-4 pt-3 pb-4">
        <h2 className="truncate pr-8 font-semibold text-[15px]">{name}</h2>
        <p className="mt-0.5 text-[12.5px] text-ink2">
          This job cannot be shown here. The others are not touched by it. Save it as a file before you delete it.
        </p>
        <SaveAsFile id={row.id} />
        <DeleteJob id={row.id} name={name} />
      </div>
    </li>
  );
}

function SaveAsFile({ id }: { id: string }) {
  const [state, setState] = useState<'no' | 'busy' | 'failed'>('no');
  const save = async () => {
    setState('busy');
    setState((await saveStoredFile(id).catch(() => false)) ? 'no' : 'failed');
  };
  return (
    <p className="mt-2">
      <Act disabled={state === 'busy'} onClick={() => void save()}>
        {state === 'busy' ? 'Packing …' : 'Save as a file'}
      </Act>
      {state === 'failed' && <span className="ml-2 text-[12.5px] text-brick">It could not be read.</span>}
    </p>
  );
}

function JobCard({ row }: { row: JobRow }) {
  const { checked, name } = readRow(row);
  const job = checked.ok ? checked.job : null;
  const blob = job?.pictures[0]?.blob;
  const thumb = useThumb(blob);
  return (
    <li className="relative pt-[33px]">
      <div aria-hidden className="absolute top-0 left-1/2 h-[27px] w-px bg-ink2" />
      <div
        aria-hidden
        className="absolute top-[27px] left-1/2 h-3 w-3 -translate-x-1/2 rounded-full border border-ink2 bg-paper"
      />
      <div className="relative overflow-hidden rounded border border-line bg-sheet">
        <Link
          to={job ? `/job/${row.id}/${pathsOf(job.part).length ? 'trace' : 'true'}` : `/job/${row.id}/true`}
          className="block text-ink no-underline"
        >
          <div className="h-[168px] bg-board">
            {thumb && <img src={thumb} alt="" className="h-full w-full object-cover" />}
          </div>
          <div className="px-4 pt-3 pb-4">
            <h2 className="truncate font-semibold text-[15px]">{name}</h2>
            <p className="mt-0.5 truncate text-[12.5px] text-ink2">
              {job ? describe(job) : jobFileSentence(checked as Exclude<typeof checked, { ok: true }>)}
            </p>
            <div className="mt-2.5 flex items-center justify-between">
              <span className="flex items-center">
                {job &&
                  STEPS.map((step, k) => {
                    const { bead, lacks } = step.stateOf(job);
                    return (
                      <span key={step.name} className="flex items-center" title={lacks || 'Good'}>
                        {k > 0 && <span className="h-px w-3 bg-ink3" />}
                        <Bead bead={bead} />
                      </span>
                    );
                  })}
              </span>
              <time className="text-[12.5px] text-ink2" dateTime={new Date(row.changedAt).toISOString()}>
                {ago(Date.now() - row.changedAt)}
              </time>
            </div>
          </div>
        </Link>
        {!job && (
          <div className="px-4 pb-3">
            <SaveAsFile id={row.id} />
          </div>
        )}
        <DeleteJob id={row.id} name={name} />
      </div>
    </li>
  );
}

function DeleteJob({ id, name }: { id: string; name: string }) {
  const [asked, setAsked] = useState(false);
  const [isOpen, setIsOpen] = useState(false);
  const remove = async () => {
    // Whoever works on it in another tab would go on with a job that is gone.
    if (await isLeaseFree(id)) {
      setAsked(false);
      await deleteJob(database, id);
      dropNote(window.localStorage, id);
    } else setIsOpen(true);
  };
  return (
    <>
      <button
        type="button"
        aria-label={`Delete ${name}`}
        onClick={() => {
          setIsOpen(false);
          setAsked(true);
        }}
        className="absolute top-2 right-2 cursor-pointer rounded bg-paper/90 p-1.5 text-ink2 hover:text-brick"
      >
        <Trash2 size={16} />
      </button>
      {asked && (
        <Modal
          title={`Delete “${name}”?`}
          description="Its pictures, its traces and its history go with it. This cannot be taken back; save it as a file first if in doubt."
          onClose={() => setAsked(false)}
          className="w-96"
        >
          {isOpen && <Notice tone="doubt">This job is open in another tab. Close it there first.</Notice>}
          <div className="mt-5 flex justify-end gap-3">
            <Button onClick={() => setAsked(false)}>Keep it</Button>
            <Button strong onClick={() => void remove()}>
              Delete it
            </Button>
          </div>
        </Modal>
      )}
    </>
  );
}

function useThumb(hash: string | undefined): string | null {
  const blob = useLiveQuery(async () => (hash ? ((await database.blobs.get(hash))?.thumb ?? null) : null), [hash]);
  const [url, setUrl] = useState<string | null>(null);
  useEffect(() => {
    if (!blob) return;
    const made = URL.createObjectURL(blob);
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [blob]);
  return url;
}

function describe({ pictures, part }: JobDocument): string {
  const paths = pathsOf(part).length;
  const picture = pictures.length === 1 ? '1 picture' : `${pictures.length} pictures`;
  return paths ? `${picture}, ${paths === 1 ? '1 path' : `${paths} paths`} traced` : `${picture}, nothing traced yet`;
}

function ago(ms: number): string {
  const minutes = Math.round(ms / 60_000);
  if (minutes < 1) return 'just now';
  if (minutes < 60) return `${minutes} min ago`;
  const hours = Math.round(minutes / 60);
  if (hours < 24) return hours === 1 ? '1 hour ago' : `${hours} hours ago`;
  const days = Math.round(hours / 24);
  return days === 1 ? 'yesterday' : `${days} days ago`;
}
