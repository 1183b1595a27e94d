import { type ReactNode, useEffect, useId, useRef } from 'react';

/**
 * A window over everything that has to be answered. The browser's own dialog, since it keeps the focus inside without
 * writing styles into the page, which the content policy forbids.
 */
export function Modal({
  title,
  description,
  className = '',
  onClose,
  children,
}: {
  title: ReactNode;
  description: ReactNode;
  className?: string;
  /** Told when it is left by Escape. */
  onClose(): void;
  children: ReactNode;
}) {
  const ref = useRef<HTMLDialogElement>(null);
  const id = useId();
  useEffect(() => {
    const dialog = ref.current;
    if (dialog && !dialog.open) dialog.showModal();
  }, []);
  return (
    <dialog
      ref={ref}
      aria-labelledby={`${id}-title`}
      aria-describedby={`${id}-text`}
      onCancel={(event) => {
        event.preventDefault();
        onClose();
      }}
      className={`m-auto rounded bg-paper p-6 text-ink shadow-xl backdrop:bg-soot/40 ${className}`}
    >
      <h2 id={`${id}-title`} className="truncate font-semibold text-[17px]">
        {title}
      </h2>
      <p id={`${id}-text`} className="mt-1 text-ink2">
        {description}
      </p>
      {children}
    </dialog>
  );
}
