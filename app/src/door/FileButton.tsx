import { useRef } from 'react';
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
        onChange={(e) => {
          onFiles([...(e.target.files ?? [])]);
          e.target.value = '';
        }}
      />
    </>
  );
}
