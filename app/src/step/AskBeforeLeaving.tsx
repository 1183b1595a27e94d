import { useEffect } from 'react';
import { useBlocker } from 'react-router';
import { Button } from '../kit';
import { Modal } from '../kit/Modal';
import { useJob } from '../session/jobStore';
import { saveJobFile } from '../session/saveJobFile';

/** Asks before a job is left whose last change is not saved: within the application, and when the tab is closed. */
export function AskBeforeLeaving({ id }: { id: string }) {
  const keeping = useJob((s) => s.keeping.kind);
  useEffect(() => {
    if (keeping === 'kept') return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, [keeping]);
  // What is only on its way into storage gets there also after the job was left.
  const leaving = useBlocker(
    ({ nextLocation }) => keeping === 'failing' && !nextLocation.pathname.startsWith(`/job/${id}/`),
  );
  if (leaving.state !== 'blocked') return null;
  return (
    <Modal
      title="Leave without the last changes?"
      description="They could not be saved in this browser. Save the job as a file to keep them."
      onClose={leaving.reset}
      className="w-120"
    >
      <div className="mt-5 flex justify-end gap-3">
        <Button onClick={leaving.proceed}>Leave without them</Button>
        <Button onClick={() => void saveJobFile()}>Save as a file</Button>
        <Button strong onClick={leaving.reset}>
          Stay here
        </Button>
      </div>
    </Modal>
  );
}
