import { dropConditions } from '@steady-moth/core/job';
import { relationSentence } from '@steady-moth/core/say';
import { X } from 'lucide-react';
import { Act } from '../../kit';
import { Fold } from '../../kit/Fold';
import { useJob } from '../../session/jobStore';
import { useSession } from '../../session/sessionStore';
import type { SketchState } from './sketchState';

/** The relations that the part keeps: one that is looked at lights up what it holds. */
export function RelationLines({ state: { sketch } }: { state: SketchState }) {
  const apply = useJob((s) => s.apply);
  const looked = useSession((s) => s.condition);
  const lookAt = useSession((s) => s.lookAt);
  const all = Object.values(sketch.constraints);
  if (all.length === 0) return null;
  return (
    <Fold name="relations" title="Relations" state={`${all.length}`} isUsed={all.length <= 8}>
      <ul className="mb-2 flex flex-col gap-1 text-[12.5px]">
        {all.map((c) => (
          <li key={c.id} className="flex items-baseline justify-between gap-2">
            <button
              type="button"
              aria-pressed={looked === c.id}
              onClick={() => lookAt(looked === c.id ? null : c.id)}
              className={`cursor-pointer text-left ${looked === c.id ? 'text-rust' : ''}`}
            >
              {relationSentence(sketch, c)}
            </button>
            <Act
              aria-label={`Take away: ${relationSentence(sketch, c)}`}
              onClick={() => apply(dropConditions(sketch.id, [c.id]))}
            >
              <X size={14} />
            </Act>
          </li>
        ))}
      </ul>
    </Fold>
  );
}
