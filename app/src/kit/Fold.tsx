import { ChevronRight } from 'lucide-react';
import { Collapsible } from 'radix-ui';
import { type ReactNode, useState } from 'react';

const keyOf = (name: string): string => `steady-moth-fold-${name}`;

/** What was chosen before in this browser; null where nothing was, or storage is closed to us. */
function chosenBefore(name: string): boolean | null {
  try {
    const kept = localStorage.getItem(keyOf(name));
    return kept === null ? null : kept === 'open';
  } catch {
    return null;
  }
}

/** A part of the slip under a plain heading that says how it stands; open where it is used, or was opened before. */
export function Fold({
  name,
  title,
  state,
  isUsed,
  children,
}: {
  /** Under which it is remembered. */
  name: string;
  title: string;
  state: ReactNode;
  isUsed: boolean;
  children: ReactNode;
}) {
  const [chosen, setChosen] = useState(() => chosenBefore(name));
  const choose = (open: boolean) => {
    setChosen(open);
    try {
      localStorage.setItem(keyOf(name), open ? 'open' : 'closed');
    } catch {
      // It is as it was the next time.
    }
  };
  return (
    <Collapsible.Root asChild open={chosen ?? isUsed} onOpenChange={choose}>
      <section aria-label={title} className="border-line border-t">
        <Collapsible.Trigger className="group flex w-full cursor-pointer items-baseline gap-3 py-2 text-left">
          <span className="w-6 shrink-0 self-center text-ink2">
            <ChevronRight size={15} className="group-data-[state=open]:rotate-90" />
          </span>
          <span className="min-w-0 grow font-medium">{title}</span>
          <span className="min-w-0 text-right text-[12.5px] text-ink2">{state}</span>
        </Collapsible.Trigger>
        <Collapsible.Content>{children}</Collapsible.Content>
      </section>
    </Collapsible.Root>
  );
}
