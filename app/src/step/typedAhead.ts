/** What begins a figure, and what may go on with one. */
const BEGINS = /^[\d.,Øø]$/;
const GOES_ON = /^[\d.,Øø×x*/'"°±+\- a-z]$/i;

/** A figure that is typed before anything asks for it, and whether Enter was pressed after it. */
export interface TypedAhead {
  text: string;
  isEntered: boolean;
}

/**
 * What a key makes of what was typed so far. In: null for nothing; `isBusy` while a press is being placed or something is
 * searched, which may come to ask for it. Out: what is kept, and whether the key belongs to it and to nothing else.
 */
export function typedAhead(
  own: TypedAhead | null,
  key: string,
  isBusy: boolean,
): { kept: TypedAhead | null; isTaken: boolean } {
  // Nothing came to ask for it: letters are the tools' again.
  if (!isBusy || key === 'Escape') return { kept: null, isTaken: false };
  if (own === null ? !BEGINS.test(key) : own.isEntered) return { kept: own, isTaken: false };
  const text = own?.text ?? '';
  if (key === 'Enter') return { kept: { text, isEntered: true }, isTaken: true };
  if (key === 'Backspace') return { kept: { text: text.slice(0, -1), isEntered: false }, isTaken: true };
  return GOES_ON.test(key)
    ? { kept: { text: text + key, isEntered: false }, isTaken: true }
    : { kept: own, isTaken: false };
}
