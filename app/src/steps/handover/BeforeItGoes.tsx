import { type Finding, flawFindings, sentenceOf } from '@steady-moth/core/findings';
import { type JobDocument, viewOfPath } from '@steady-moth/core/job';
import type { Flaw } from '@steady-moth/core/proof';
import { Notice } from '../../kit';
import { ShowInTrace } from '../../part/ShowInTrace';

/** So many flaws are listed; Trace has all of them. */
const LISTED = 5;

/** What goes into the files otherwise than it was said, what is left out, and what a cutter would stumble over. */
export function BeforeItGoes({
  job,
  view,
  wrong,
  flaws,
}: {
  job: JobDocument;
  view: string | null;
  wrong: readonly Finding[];
  flaws: readonly Flaw[];
}) {
  const own = flaws.filter((f) => view === null || viewOfPath(job, f.path)?.id === view);
  return (
    <>
      {[...new Set(wrong.map(sentenceOf))].map((sentence) => (
        <Notice key={sentence} tone="wrong">
          {sentence}
        </Notice>
      ))}
      {own.length > 0 && (
        <Notice tone="doubt">
          It goes into the file as it is:
          <ul aria-label="Worth a look before it is cut" className="mt-1 flex flex-col gap-1">
            {flawFindings(own.slice(0, LISTED), job, null).map((finding) => (
              <li key={finding.key}>
                {sentenceOf(finding)} <ShowInTrace finding={finding} />
              </li>
            ))}
            {own.length > LISTED && <li>and {own.length - LISTED} more, listed in Trace.</li>}
          </ul>
        </Notice>
      )}
    </>
  );
}
