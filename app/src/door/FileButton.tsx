import { useEffect, useRef } from 'react';
import { Act } from '../kit';

const ACCEPTED = 'image/*,.heic,.heif,.tif,.tiff,.pdf,.svg,.dxf';

/** Words that open the dialog for files. */
export function FileButton({
  label,
  name,
  multiple = true,
  jobs = false,
  disabled = false,
  onFiles,
}: {
  label: string;
  /** Accessible name of the file field itself. */
  name: string;
  multiple?: boolean;
  /** Whether job files are taken as well. */
  jobs?: boolean;
  disabled?: boolean;
  onFiles(files: readonly File[]): void;
}) {
  const input = useRef<HTMLInputElement>(null);
  const latest = useRef(onFiles);
  latest.current = onFiles;
  // The field listens itself, to the end: the dialog may still be open when the screen round it is drawn anew, for
  // instance because another picture arrived, and what is chosen then would be lost on a field that hangs nowhere.
  useEffect(() => {
    const field = input.current;
    field?.addEventListener('change', () => {
      latest.current([...(field.files ?? [])]);
      field.value = '';
    });
  }, []);
  return (
    <>
      <Act disabled={disabled} onClick={() => input.current?.click()}>
        {label}
      </Act>
      <input
        ref={input}
        type="file"
        multiple={multiple}
        disabled={disabled}
        accept={jobs ? `${ACCEPTED},.moth` : ACCEPTED}
        aria-label={name}
        className="sr-only"
        tabIndex={-1}
      />
    </>
  );
}
