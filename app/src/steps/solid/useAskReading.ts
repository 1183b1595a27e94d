import { addBodyCheck } from '@steady-moth/core/job';
import type { FaceName } from '@steady-moth/core/sketch';
import { type LengthUnit, parseLength } from '@steady-moth/core/units';
import { lengthSentence } from '../../kit/lengthSentence';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { useAsk } from '../../session/useAsk';

/** While faces are chosen for it, digits are a caliper's reading of what lies between them. */
export function useAskReading(unit: LengthUnit, faces: readonly FaceName[] | null, onDone: () => void): void {
  useAsk(faces && 'Caliper', (text) => {
    const read = parseLength(text, unit);
    if (!read.ok) return lengthSentence(read.reason);
    const reading = { text: text.trim(), unit };
    if (faces) useJob.getState().apply(addBodyCheck({ id: newId(), faces: [...faces], reading }));
    onDone();
    return null;
  });
}
