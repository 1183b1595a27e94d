import type { LengthUnit } from '@steady-moth/core/units';
import { type DragEvent, type ReactNode, useEffect, useRef, useState } from 'react';
import { Act, Notice } from '../kit';
import type { ArrivedPicture } from './arrival';
import { type ChosenPages, PageChooser } from './PageChooser';
import { keep, readFile } from './readFile';

export interface Busy {
  name: string;
  share: number;
  cancel(): void;
}

/** Files taken in one go, and how many sentences are told of them. */
const MOST_AT_ONCE = 40;
const MOST_TOLD = 4;
/**
 * The one door for files: dropped anywhere, pasted, or chosen. On the rack each file starts a job; in a job its
 * pictures join the job. Job files always hang on the rack as jobs of their own.
 */
export function useDoor(unit: LengthUnit, into: 'rack' | 'job', onJob: (id: string, isNew: boolean) => void) {
  const [busy, setBusy] = useState<Busy | null>(null);
  const [told, setTold] = useState<{ tone: 'wrong' | 'doubt'; text: string } | null>(null);
  const [asked, setAsked] = useState<{ name: string; count: number; answer(chosen: ChosenPages | null): void } | null>(
    null,
  );

  const choosePages = (name: string, count: number, signal: AbortSignal) =>
    new Promise<ChosenPages | null>((answer) => {
      signal.addEventListener('abort', () => answer(null));
      setAsked({ name, count, answer });
    }).finally(() => setAsked(null));
  /**
   * What is told of a run of reading, until it is over: a worker's word of progress comes by a way of its own, and may
   * come after its answer.
   */
  const begin = () => {
    const stop = new AbortController();
    let over = false;
    const tell = (name: string, share: number) => {
      if (!over) setBusy({ name, share, cancel: () => stop.abort() });
    };
    const end = () => {
      over = true;
      setBusy(null);
    };
    return { stop, tell, end };
  };

  /** One run at a time: files that come meanwhile wait for their turn. */
  const line = useRef<Promise<unknown>>(Promise.resolve());
  const inTurn = <T,>(work: () => Promise<T>): Promise<T> => {
    const mine = line.current.then(work);
    line.current = mine.catch(() => {});
    return mine;
  };

  const take = async (list: readonly File[]) => {
    if (list.length > 0) await inTurn(() => takeNow(list));
  };

  const takeNow = async (list: readonly File[]) => {
    const { stop, tell, end } = begin();
    const faults: string[] =
      list.length > MOST_AT_ONCE ? [`${list.length} files were dropped; the first ${MOST_AT_ONCE} are taken.`] : [];
    const notes: string[] = [];
    let last: { id: string; isNew: boolean } | null = null;
    let taken = 0;
    setTold(null);
    for (const file of list.slice(0, MOST_AT_ONCE)) {
      const progress = (share: number) => tell(file.name, share);
      progress(0);
      const found = await readFile(file, progress, stop.signal, choosePages);
      if (stop.signal.aborted) break;
      const fail = (sentence: string) => void faults.push(`${file.name}: ${sentence}`);
      if (!found.ok) {
        if (found.sentence) fail(found.sentence);
        continue;
      }
      if ('jobId' in found) {
        last = { id: found.jobId, isNew: false };
        taken += 1;
        continue;
      }
      for (const picture of found.pictures) notes.push(...picture.notes);
      const kept = await keep(found.pictures, into, unit);
      if ('sentence' in kept) fail(kept.sentence);
      else {
        taken += 1;
        if (into === 'rack') last = { id: kept.id, isNew: true };
      }
    }
    end();
    const sentences = faults.length ? faults : [...new Set(notes)];
    if (sentences.length) {
      const more = sentences.length > MOST_TOLD ? [`And ${sentences.length - MOST_TOLD} more.`] : [];
      const text = [...sentences.slice(0, MOST_TOLD), ...more].join(' ');
      setTold({ tone: faults.length ? 'wrong' : 'doubt', text });
    }
    // One file leads to its job; of several, each hangs on the rack.
    if (last && taken === 1 && list.length === 1) onJob(last.id, last.isNew);
  };

  /** Reads one picture without keeping it. */
  const readOne = (file: File): Promise<ArrivedPicture | null> => inTurn(() => readOneNow(file));

  const readOneNow = async (file: File): Promise<ArrivedPicture | null> => {
    const { stop, tell, end } = begin();
    setTold(null);
    const progress = (share: number) => tell(file.name, share);
    progress(0);
    const found = await readFile(file, progress, stop.signal, choosePages);
    end();
    if (stop.signal.aborted) return null;
    if (!found.ok) {
      if (found.sentence) setTold({ tone: 'wrong', text: `${file.name}: ${found.sentence}` });
      return null;
    }
    return 'pictures' in found ? found.pictures[0]! : null;
  };

  const latest = useRef(take);
  latest.current = take;
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      const pasted = [...(event.clipboardData?.files ?? [])];
      if (pasted.length) void latest.current(pasted);
    };
    window.addEventListener('paste', onPaste);
    return () => window.removeEventListener('paste', onPaste);
  }, []);
  const handlers = {
    onDragOver: (event: DragEvent) => event.preventDefault(),
    onDrop: (event: DragEvent) => {
      event.preventDefault();
      void take([...event.dataTransfer.files]);
    },
  };
  const notice: ReactNode = told && (
    <Notice tone={told.tone}>
      {told.text} <Act onClick={() => setTold(null)}>Understood</Act>
    </Notice>
  );
  const chooser: ReactNode = asked && (
    <PageChooser name={asked.name} count={asked.count} onChoose={(chosen) => asked.answer(chosen)} />
  );
  return { busy, take, readOne, handlers, notice, chooser };
}
