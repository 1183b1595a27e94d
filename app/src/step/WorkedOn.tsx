import type { JobDocument, Picture } from '@steady-moth/core/job';
import { useSession } from '../session/sessionStore';

/** Which picture of the job, and which of its views, is worked on; nothing where there is no choice. */
export function WorkedOn({ job, picture, views = true }: { job: JobDocument; picture: Picture; views?: boolean }) {
  const choosePicture = useSession((s) => s.choosePicture);
  const chooseView = useSession((s) => s.chooseView);
  const view = useSession((s) => s.pictureView);
  const look = 'min-w-0 grow rounded border border-line bg-sheet px-1.5 py-1 text-ink';
  return (
    <>
      {job.pictures.length > 1 && (
        <label className="mb-2 flex items-center gap-2 text-ink2">
          Picture
          <select
            aria-label="Picture"
            value={picture.id}
            onChange={(e) => choosePicture(e.target.value)}
            className={look}
          >
            {job.pictures.map((p) => (
              <option key={p.id} value={p.id}>
                {p.fileName}
              </option>
            ))}
          </select>
        </label>
      )}
      {views && picture.views.length > 0 && (
        <label className="mb-2 flex items-center gap-2 text-ink2">
          View
          <select value={view ?? ''} onChange={(e) => chooseView(e.target.value || null)} className={look}>
            <option value="">all of the picture</option>
            {picture.views.map((v) => (
              <option key={v.id} value={v.id}>
                {v.name}
              </option>
            ))}
          </select>
        </label>
      )}
    </>
  );
}
