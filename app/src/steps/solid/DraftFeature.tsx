import type { JobDocument } from '@steady-moth/core/job';
import type { Feature } from '@steady-moth/core/sketch';
import type { Box } from '@steady-moth/core/solid';
import { Button, Choice } from '../../kit';
import { newId } from '../../session/newId';
import { FeatureFields } from './FeatureFields';
import { newFeature } from './newFeature';
import { isEmpty } from './picking';

const FURTHER = [
  { value: 'marks', text: 'marks' },
  { value: 'dome', text: 'dome' },
  { value: 'hollow', text: 'hollow' },
  { value: 'repeat', text: 'repeat' },
] as const;

/** The feature that is being said, until it is added. */
export function DraftFeature({
  job,
  box,
  draft,
  isFurther,
  onDraft,
  onAdd,
  onLeave,
}: {
  job: JobDocument;
  /** Round the body; null while there is none. */
  box: Box | null;
  draft: Feature;
  /** It may become another kind of its tool. */
  isFurther: boolean;
  onDraft(draft: Feature): void;
  onAdd(): void;
  onLeave(): void;
}) {
  return (
    <section aria-label="New feature" className="mb-4 rounded border border-rust bg-sheet px-3 py-3">
      {isFurther && (
        <div className="mb-2">
          <Choice
            label="What to add"
            value={draft.kind as (typeof FURTHER)[number]['value']}
            options={FURTHER}
            onChange={(next) => onDraft(newFeature(next, job, newId()) ?? draft)}
          />
        </div>
      )}
      <h3 className="mb-2 font-medium">{draft.name}</h3>
      <FeatureFields isNew job={job} box={box} feature={draft} onChange={onDraft} />
      <div className="mt-3 flex gap-3">
        <Button strong disabled={isEmpty(draft)} onClick={onAdd}>
          Add it
        </Button>
        <Button onClick={onLeave}>Leave it</Button>
      </div>
    </section>
  );
}
