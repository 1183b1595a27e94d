import type { FaultPlace } from '@steady-moth/core/solid';
import { useNavigate } from 'react-router';
import { Act } from '../../kit';
import { showPlace } from '../../session/showPlace';

/** Goes to Trace, to the place at which a profile is at fault. */
export function ShowInTrace({ where }: { where: FaultPlace }) {
  const navigate = useNavigate();
  const show = () => {
    showPlace(where.path, where.at);
    void navigate('../trace', { relative: 'path' });
  };
  return <Act onClick={show}>Show me</Act>;
}
