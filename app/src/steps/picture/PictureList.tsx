import { lockPicture, orderPicture, type Picture, removePicture, showPicture } from '@steady-moth/core/job';
import { ArrowDown, ArrowUp, Eye, EyeOff, Lock, LockOpen, Trash2 } from 'lucide-react';
import type { ButtonHTMLAttributes } from 'react';
import { FileButton } from '../../door/FileButton';
import { useJob } from '../../session/jobStore';
import { useSession } from '../../session/sessionStore';

/** The job's pictures in their order on the board, the uppermost first; one of them is worked on. */
export function PictureList({
  pictures,
  chosen,
  onFiles,
}: {
  pictures: readonly Picture[];
  chosen: string;
  onFiles(files: readonly File[]): void;
}) {
  return (
    <section aria-label="Pictures of this job" className="mb-3">
      <ul>
        {pictures
          .map((picture, k) => (
            <PictureRow
              key={picture.id}
              picture={picture}
              at={k}
              count={pictures.length}
              chosen={picture.id === chosen}
            />
          ))
          .reverse()}
      </ul>
      <div className="mt-2 pl-9">
        <FileButton label="Add pictures" name="Pictures to add" onFiles={onFiles} />
      </div>
    </section>
  );
}

function PictureRow({ picture, at, count, chosen }: { picture: Picture; at: number; count: number; chosen: boolean }) {
  const apply = useJob((s) => s.apply);
  const choosePicture = useSession((s) => s.choosePicture);
  const { id, fileName, shown, locked } = picture;
  return (
    <li className={`flex items-center gap-1 border-line border-t py-1.5 ${chosen ? 'font-semibold' : ''}`}>
      <Tool
        label={shown ? `Hide ${fileName} on the board` : `Show ${fileName} on the board`}
        onClick={() => apply(showPicture(id, !shown))}
      >
        {shown ? <Eye size={16} /> : <EyeOff size={16} />}
      </Tool>
      <button
        type="button"
        aria-pressed={chosen}
        onClick={() => choosePicture(id)}
        className={`min-w-0 grow cursor-pointer truncate text-left hover:underline ${chosen ? 'text-rust' : ''}`}
        title={fileName}
      >
        {fileName}
      </button>
      {count > 1 && (
        <>
          <Tool
            label={`Move ${fileName} up`}
            disabled={at === count - 1 || locked}
            onClick={() => apply(orderPicture(id, 1))}
          >
            <ArrowUp size={16} />
          </Tool>
          <Tool
            label={`Move ${fileName} down`}
            disabled={at === 0 || locked}
            onClick={() => apply(orderPicture(id, -1))}
          >
            <ArrowDown size={16} />
          </Tool>
        </>
      )}
      <Tool label={locked ? `Unlock ${fileName}` : `Lock ${fileName}`} onClick={() => apply(lockPicture(id, !locked))}>
        {locked ? <Lock size={16} /> : <LockOpen size={16} />}
      </Tool>
      <Tool label={`Take ${fileName} away`} disabled={locked} onClick={() => apply(removePicture(id))}>
        <Trash2 size={16} />
      </Tool>
    </li>
  );
}

function Tool({ label, ...rest }: { label: string } & ButtonHTMLAttributes<HTMLButtonElement>) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      {...rest}
      className="shrink-0 cursor-pointer rounded p-1 text-ink2 hover:bg-deeper hover:text-rust disabled:cursor-default disabled:text-ink3"
    />
  );
}
