import { addBodyCheck } from '@steady-moth/core/job';
import type { FaceName } from '@steady-moth/core/sketch';
import { type LengthUnit, parseLength } from '@steady-moth/core/units';
import { useEffect, useRef } from 'react';
import { lengthSentence } from '../../kit/lengthSentence';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { useReadout } from '../../session/readoutStore';

/** While faces are chosen for it, digits are a caliper's reading of what lies between them. */
export function useAskReading(unit: LengthUnit, faces: readonly FaceName[] | null, onDone: () => void): void {
  const done = useRef(onDone);
  done.current = onDone;
  useEffect(() => {
    if (!faces) return;
    useReadout.getState().ask({
      label: 'Caliper',
      accept(text) {
        const read = parseLength(text, unit);
        if (!read.ok) return lengthSentence(read.reason);
        const reading = { text: text.trim(), unit };
        useJob.getState().apply(addBodyCheck({ id: newId(), faces: [...faces], reading }));
        done.current();
        return null;
      },
    });
    return () => useReadout.getState().ask(null);
  }, [faces, unit]);
}
