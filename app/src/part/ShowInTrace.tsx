import { type Finding, placeOfFinding } from '@steady-moth/core/findings';
import { useNavigate } from 'react-router';
import { Act } from '../kit';
import { showPlace } from '../session/showPlace';

/** Goes to Trace, to the place of a finding; nothing where it has none. */
export function ShowInTrace({ finding, label }: { finding: Finding; label?: string }) {
  const navigate = useNavigate();
  const place = placeOfFinding(finding);
  if (!place) return null;
  const show = () => {
    showPlace(place.path, place.at);
    void navigate('../trace', { relative: 'path' });
  };
  return (
    <Act aria-label={label} onClick={show}>
      Show me
    </Act>
  );
}
