import type { Repair } from '@steady-moth/core/findings';
import { Act } from '../kit';
import { useJob } from '../session/jobStore';

/** What is pressed to mend a finding; nothing where it is only told. What cannot be done is said. */
export function RepairAct({ repair: { press }, label }: { repair: Repair; label?: string }) {
  if (!press) return null;
  const take = () => {
    const action = press.act();
    if (typeof action === 'string') useJob.setState({ notice: action });
    else useJob.getState().apply(action);
  };
  return (
    <Act aria-label={label} onClick={take}>
      {press.name}
    </Act>
  );
}
