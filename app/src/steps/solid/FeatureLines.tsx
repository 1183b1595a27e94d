import { featureFindings } from '@steady-moth/core/findings';
import { changeFeature, dropFeature, type JobDocument, moveFeature } from '@steady-moth/core/job';
import type { Feature } from '@steady-moth/core/sketch';
import type { Box, FeatureFault, FeatureNote } from '@steady-moth/core/solid';
import { ArrowDown, ArrowUp, X } from 'lucide-react';
import { Act } from '../../kit';
import { ShowInTrace } from '../../part/ShowInTrace';
import { useJob } from '../../session/jobStore';
import { FeatureFields } from './FeatureFields';
import { featureFigure, featureSentence, noteSentence } from './words';

/** The body's length holds: what stayed where it was drawn is then laid to its ends. */
const lengthOfBody = ({ by }: Laid): Laid => ({ by: by === 'drawn' ? 'low' : by, length: 'body' });
type Laid = Extract<Feature, { kind: 'extrude' }>['laid'];

/** The features in the order in which they are worked, each with what it found out. */
export function FeatureLines({
  job,
  box,
  faults,
  notes,
  open,
  onOpen,
}: {
  job: JobDocument;
  box: Box | null;
  faults: readonly FeatureFault[];
  notes: readonly FeatureNote[];
  open: string | null;
  onOpen(id: string | null): void;
}) {
  const apply = useJob((s) => s.apply);
  const { features, sketches } = job.part;
  return (
    <ol aria-label="Features">
      {features.map((feature, k) => {
        const isOpen = open === feature.id;
        const own = featureFindings(
          faults.filter((f) => f.feature === feature.id),
          job,
        );
        const holds = feature.kind === 'extrude' ? feature.laid.length : 'own';
        return (
          <li key={feature.id} className="border-line border-t py-2.5">
            <div className="flex items-baseline gap-3">
              <span className="w-4 shrink-0 text-[12.5px] text-ink2">{k + 1}</span>
              <button
                type="button"
                aria-expanded={isOpen}
                onClick={() => onOpen(isOpen ? null : feature.id)}
                className="min-w-0 grow cursor-pointer text-left font-medium hover:text-rust"
              >
                {feature.name}
              </button>
              <span className="figure shrink-0 text-[14px]">{featureFigure(feature)}</span>
            </div>
            <div className="ml-7">
              <p className="text-[12.5px] text-ink2">{featureSentence(feature, sketches)}</p>
              {notes
                .filter((n) => n.feature === feature.id)
                .map((note) => (
                  <p
                    key={noteSentence(note, job.unit, holds)}
                    className={`text-[12.5px] ${(note.kind === 'longer' && holds === 'own') || note.kind === 'inexact' || note.kind === 'apart' ? 'text-amber' : 'text-ink2'}`}
                  >
                    {noteSentence(note, job.unit, holds)}
                    {note.kind === 'longer' && feature.kind === 'extrude' && holds === 'own' && (
                      <>
                        {' '}
                        <Act onClick={() => apply(changeFeature({ ...feature, laid: lengthOfBody(feature.laid) }))}>
                          The body’s length holds
                        </Act>
                      </>
                    )}
                  </p>
                ))}
              {own.map((finding) => (
                <p key={finding.key} role="alert" className="text-[12.5px] text-brick">
                  {finding.says} <ShowInTrace finding={finding} />
                </p>
              ))}
              {isOpen && (
                <div className="mt-2">
                  <FeatureFields
                    job={job}
                    isNew={false}
                    box={box}
                    feature={feature}
                    onChange={(f) => apply(changeFeature(f))}
                  />
                  <div className="mt-2 flex gap-4">
                    <Act aria-label="Earlier" disabled={k === 0} onClick={() => apply(moveFeature(feature.id, -1))}>
                      <ArrowUp size={15} />
                    </Act>
                    <Act
                      aria-label="Later"
                      disabled={k === features.length - 1}
                      onClick={() => apply(moveFeature(feature.id, 1))}
                    >
                      <ArrowDown size={15} />
                    </Act>
                    <span className="grow" />
                    <Act aria-label={`Take ${feature.name} away`} onClick={() => apply(dropFeature(feature.id))}>
                      <X size={15} />
                    </Act>
                  </div>
                </div>
              )}
            </div>
          </li>
        );
      })}
    </ol>
  );
}
