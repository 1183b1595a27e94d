import type { Flaw } from '../proof';

/** What is worth a look, said of the path that it was found in. */
export function flawSentence({ kind, size }: Flaw, other: string | null, say: (mm: number) => string): string {
  switch (kind) {
    case 'open':
      return `is open: its ends are ${say(size ?? 0)} apart.`;
    case 'crosses-itself':
      return 'crosses itself.';
    case 'crosses':
      return `crosses ${other}.`;
    case 'touches':
      return other ? `touches ${other}: nothing would be left between them.` : 'touches itself: nothing is left there.';
    case 'drawn-twice':
      return other ? `and ${other} share a piece: it would be cut twice.` : 'runs along itself: it would be cut twice.';
    case 'stray':
      return `has a piece of ${say(size ?? 0)}: a stray click?`;
    case 'kink':
      return `has a kink of ${Math.round(10 * (size ?? 0)) / 10}°: is it meant to be smooth?`;
  }
}
