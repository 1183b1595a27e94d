import { afterPresses } from '../board/pressQueue';
import { useSession } from '../session/sessionStore';
import type { Pocket } from './description';

/** Keys of the pockets, by their place in the top row of the keyboard. */
export const POCKET_KEYS = ['KeyQ', 'KeyW', 'KeyE', 'KeyR', 'KeyT', 'KeyY', 'KeyU', 'KeyI', 'KeyO', 'KeyP'] as const;
const LETTERS = 'QWERTYUIOP';

/** The tools of the step like pockets of a cloth roll: the one in use is drawn out. */
export function ToolRoll({ pockets }: { pockets: readonly Pocket[] }) {
  const tool = useSession((s) => s.tool);
  const take = useSession((s) => s.take);
  return (
    <div
      role="toolbar"
      aria-label="Tools"
      className="flex h-[66px] shrink-0 items-end gap-1.5 overflow-x-auto border-line border-t bg-deeper px-2.5 pb-1.5"
    >
      {pockets.map((p, at) => {
        const out = tool === p.tool;
        return (
          <button
            key={p.tool}
            type="button"
            aria-pressed={out}
            title={p.hint}
            onClick={() => afterPresses(() => take(p.tool))}
            className={`relative flex min-w-[55px] max-w-[85px] flex-1 cursor-pointer flex-col items-center rounded-t-sm rounded-b-lg border border-line pt-1 pb-1.5 ${out ? 'h-[60px] border-rust bg-rust text-[var(--on-rust)]' : 'h-[50px] bg-paper text-ink hover:border-ink3'}`}
          >
            <span aria-hidden className="h-5 w-5">
              {p.icon}
            </span>
            <span className="mt-auto whitespace-nowrap text-[13px] max-[1120px]:text-[11px]">{p.word}</span>
            <span aria-hidden className={`absolute top-1 right-1.5 font-mono text-[10.5px] ${out ? '' : 'text-ink2'}`}>
              {LETTERS[at]}
            </span>
          </button>
        );
      })}
      {pockets.length === 0 && <span className="pb-4 text-ink2">No tools in this step.</span>}
    </div>
  );
}
