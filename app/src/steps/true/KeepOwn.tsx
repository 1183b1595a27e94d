import { useState } from 'react';
import { Act } from '../../kit';
import type { OwnReference } from '../../session/storage/ownReferences';
import { useForgetReference, useKeepReference } from './ownReferences';

/** One without its name yet. */
export type Unnamed = OwnReference extends infer Y ? (Y extends OwnReference ? Omit<Y, 'name'> : never) : never;

/** Keeps what is known of a reference under a name of the person's own, for next time. */
export function KeepOwn({ entry }: { entry: Unnamed | null }) {
  const keep = useKeepReference();
  const [name, setName] = useState<string | null>(null);
  const [kept, setKept] = useState<string | null>(null);
  if (kept) return <span className="text-[12.5px] text-verdigris">Kept as “{kept}”.</span>;
  if (name === null)
    return (
      <Act disabled={!entry} onClick={() => setName('')}>
        Keep for next time
      </Act>
    );
  return (
    <form
      className="flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        const clean = name.trim().slice(0, 80);
        if (!clean || !entry) return;
        void keep({ ...entry, name: clean } as OwnReference).then(() => setKept(clean));
      }}
    >
      <input
        // biome-ignore lint/a11y/noAutofocus: it appears because its name is what is asked for now
        autoFocus
        aria-label="Name to keep it under"
        placeholder="my steel rule, checked in March"
        value={name}
        maxLength={80}
        onChange={(e) => setName(e.target.value)}
        className="w-44 rounded border border-line bg-sheet px-1.5 py-0.5 text-[12.5px]"
      />
      <Act type="submit">Keep</Act>
    </form>
  );
}

/** Forgets one of the person's own, where such a one is chosen. */
export function ForgetOwn({
  kind,
  name,
  own,
}: {
  kind: OwnReference['kind'];
  name: string;
  own: readonly { name: string }[];
}) {
  const forget = useForgetReference();
  return own.some((y) => y.name === name) ? <Act onClick={() => void forget(kind, name)}>Forget “{name}”</Act> : null;
}
