import { featureFindings } from '@steady-moth/core/findings';
import type { BodyFile, BodyFormat, NamedBody } from '@steady-moth/core/format/body';
import type { Machine } from '@steady-moth/core/format/profile';
import { handedOverBody, handedOverVariants } from '@steady-moth/core/handover';
import { type JobDocument, setBodyFactor } from '@steady-moth/core/job';
import { fixed } from '@steady-moth/core/units';
import { useMemo, useState } from 'react';
import { solids } from '../../compute';
import type { BoardFrame } from '../../frames/boardMap';
import { placingOfFrame } from '../../frames/placing';
import { Act, Button, LengthField, Notice, SlipLine } from '../../kit';
import { useBodyPlan } from '../../part/useBody';
import type { Drawn } from '../../part/useDrawn';
import { download, fileNameFor } from '../../session/download';
import { useJob } from '../../session/jobStore';
import { askQuestion, type Run } from '../../session/questions';
import { today } from '../../session/today';
import { SectionLine, ViewLine } from './DrawingLine';

const FORMATS: readonly { format: BodyFormat; mime: string; what: string }[] = [
  { format: 'step', mime: 'model/step', what: 'exact surfaces, for other programs and machines' },
  { format: 'stl', mime: 'model/stl', what: 'triangles, for printers and slicers' },
  { format: '3mf', mime: 'model/3mf', what: 'triangles with their unit and name, for printers' },
];

const WRITING = {
  says: () => 'Writing the file',
  failed: 'The file was not written. Nothing was changed; please try again.',
};

const REFUSED: Record<Extract<BodyFile, { ok: false }>['reason'], string> = {
  tolerance: 'A tolerance lies between 0.001 and 1 mm.',
  'too-many': 'That would be more than a million triangles, which no printer needs: a coarser tolerance does.',
  'not-closed': 'The triangles leave a gap, so no file was made. Another tolerance may help; STEP has no triangles.',
  'not-written': 'The body could not be written. Nothing was changed.',
};

/** The body as files. */
export function BodyLines({
  job,
  frames,
  drawn,
  isReady,
  machine,
}: {
  job: JobDocument;
  frames: ReadonlyMap<string, BoardFrame>;
  drawn: Drawn;
  /** Everything that the body is made of is worked out. */
  isReady: boolean;
  /** What it is made on; null: it goes out as it is. */
  machine: Machine | null;
}) {
  const { plan } = useBodyPlan(job, frames, drawn);
  const [toleranceMm, setTolerance] = useState(0.05);
  const [busy, setBusy] = useState<BodyFormat | 'all' | null>(null);
  const [told, setTold] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const { variants, bodyFactor } = job.part;
  const apply = useJob((s) => s.apply);
  const { title, steps, factor, lost } = useMemo(
    () => handedOverBody(job, drawn, plan, machine),
    [job, drawn, plan, machine],
  );

  const run = async (what: BodyFormat | 'all', work: (run: Run) => Promise<void>) => {
    setBusy(what);
    setFault(null);
    setTold(null);
    await askQuestion({ ...WRITING, ask: (_: null, own) => work(own) }, null);
    setBusy(null);
  };
  const write = (format: BodyFormat, mime: string) =>
    run(format, async ({ signal }) => {
      const file = await solids.call(
        (w) => w.write(steps, format, { title, date: today(), toleranceMm, factor, machine }),
        { signal, endOnAbort: true },
      );
      if (!file.ok) {
        setFault(REFUSED[file.reason]);
        return;
      }
      download(file.bytes, fileNameFor(title, format), mime);
      if (file.triangles !== null)
        setTold(
          `${file.triangles.toLocaleString('en')} triangles, at most ${fixed(file.deviationMm ?? 0, 4)} mm off the surface.`,
        );
    });
  const writeAll = () =>
    run('all', async ({ signal, progress }) => {
      const placing = new Map([...frames].map(([id, frame]) => [id, placingOfFrame(frame)]));
      const bodies: NamedBody[] = [];
      const leftOut: string[] = [];
      for (const own of handedOverVariants(job, placing, machine)) {
        signal.throwIfAborted();
        progress((bodies.length + leftOut.length) / (2 * Math.max(1, variants.length)));
        if (own.faults.length > 0) leftOut.push(own.title);
        else bodies.push({ name: own.name, title: own.title, steps: own.steps });
        // One variant at a time, with room for whatever else waits.
        await new Promise((next) => setTimeout(next));
      }
      const all = await solids.call((w) => w.writeAll(bodies, { date: today(), toleranceMm, factor, machine }), {
        signal,
        endOnAbort: true,
      });
      download(all.bytes, fileNameFor(`${job.name} variants`, 'zip'), 'application/zip');
      const missing = [...leftOut, ...all.leftOut];
      if (missing.length > 0) setFault(`Left out, as it could not be made whole: ${missing.join(', ')}.`);
    });
  const disabled = !isReady || busy !== null || plan.steps.length === 0;
  return (
    <section aria-label="Body">
      <h2 className="mt-4 mb-1 font-medium">The body</h2>
      {fault && <Notice tone="wrong">{fault}</Notice>}
      {told && <Notice tone="good">{told}</Notice>}
      {plan.faults.length > 0 && (
        <Notice tone="doubt">{`${featureFindings(plan.faults, job)
          .map((f) => f.says)
          .join(' ')} The body goes into the file without it.`}</Notice>
      )}
      {machine && (
        <Notice tone={lost ? 'doubt' : 'good'}>
          {`For ${machine.name}: profiles and holes seen from above are made up for, and triangles stretched along X and Y. Heights and other sides stay as they are.`}
          {lost && ' Something of a profile has no room there: look at the body before it is made.'}
        </Notice>
      )}
      {bodyFactor && (
        <Notice tone="doubt">
          {`The body goes out ${fixed(factor, 4)} times as large as it is: ${bodyFactor.why}.`}{' '}
          <Act onClick={() => apply(setBodyFactor(null))}>As it is</Act>
        </Notice>
      )}
      <ul>
        <SlipLine
          title="Triangles"
          figure={
            <LengthField
              narrow
              label="Largest gap of triangles"
              value={String(toleranceMm)}
              unit="mm"
              onAccept={(mm) => setTolerance(mm)}
            />
          }
        >
          largest gap to the surface, mm; STEP has none
        </SlipLine>
        {FORMATS.map(({ format, mime, what }) => (
          <SlipLine
            key={format}
            title={format.toUpperCase()}
            figure={
              <Button strong disabled={disabled} onClick={() => void write(format, mime)}>
                {busy === format ? 'Writing …' : `Download ${format.toUpperCase()}`}
              </Button>
            }
          >
            {what}
          </SlipLine>
        ))}
        <ViewLine job={job} plan={plan} disabled={disabled} />
        <SectionLine job={job} plan={plan} disabled={disabled} />
        {variants.length > 0 && (
          <SlipLine
            title="All variants"
            figure={
              <Button disabled={disabled} onClick={() => void writeAll()}>
                {busy === 'all' ? 'Writing …' : 'Download a zip'}
              </Button>
            }
          >
            {variants.map((v) => v.name).join(', ')}: each as STEP, STL and 3MF
          </SlipLine>
        )}
      </ul>
    </section>
  );
}
