import { type HandOverFault, handOverSentence } from '@steady-moth/core/handover';
import { type JobDocument, viewOfPath } from '@steady-moth/core/job';
import type { Finding } from '@steady-moth/core/proof';
import { findingSentence, sayLength } from '@steady-moth/core/say';
import { findPath } from '@steady-moth/core/sketch';
import { useNavigate } from 'react-router';
import { Act, Notice } from '../../kit';
import { showPlace } from '../../session/showPlace';

/** So many findings are listed; Trace has all of them. */
const LISTED = 5;

/** What goes into the files otherwise than it was said, what is left out, and what a cutter would stumble over. */
export function BeforeItGoes({
  job,
  view,
  faults,
  findings,
}: {
  job: JobDocument;
  view: string | null;
  faults: readonly HandOverFault[];
  findings: readonly Finding[];
}) {
  const navigate = useNavigate();
  const sentences = [...new Set(faults.map((f) => handOverSentence(f, job)))];
  const own = findings.filter((f) => view === null || viewOfPath(job, f.path)?.id === view);
  const nameOf = (id: string) => `“${findPath(job.part, id)?.path.name ?? 'a path'}”`;
  const show = ({ path, at }: Finding) => {
    showPlace(path, at);
    void navigate('../trace', { relative: 'path' });
  };
  return (
    <>
      {sentences.map((sentence) => (
        <Notice key={sentence} tone="wrong">
          {sentence}
        </Notice>
      ))}
      {own.length > 0 && (
        <Notice tone="doubt">
          It goes into the file as it is:
          <ul aria-label="Worth a look before it is cut" className="mt-1 flex flex-col gap-1">
            {own.slice(0, LISTED).map((f) => (
              <li key={`${f.kind} ${f.path} ${f.at.x} ${f.at.y}`}>
                {nameOf(f.path)} {findingSentence(f, f.other && nameOf(f.other), (mm) => sayLength(mm, job.unit))}{' '}
                <Act onClick={() => show(f)}>Show me</Act>
              </li>
            ))}
            {own.length > LISTED && <li>and {own.length - LISTED} more, listed in Trace.</li>}
          </ul>
        </Notice>
      )}
    </>
  );
}
