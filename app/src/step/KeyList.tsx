import { Button } from '../kit';
import { Modal } from '../kit/Modal';
import type { KeyWords, Pocket } from './description';
import { POCKET_KEYS } from './ToolRoll';

const EVERYWHERE: readonly KeyWords[] = [
  ['N · B', 'next step · step before'],
  ['Escape', 'lay the tool down'],
  ['F held', 'no snapping'],
  ['G', 'the next of several things to snap to'],
  ['+ · −', 'zoom in · zoom out'],
  ['Home', 'show the whole picture'],
  ['Shift', 'add to what is chosen'],
  ['Arrow keys', 'with a tool in hand, move the cross; without, the board'],
  ['Space', 'set a point where the cross is; held, drag the board'],
  ['Enter', 'accept a figure'],
  ['Ctrl Z · Ctrl Shift Z', 'undo · redo'],
  ['0 to 9', 'type a figure into the readout'],
];

/** All keys of a step: its tools by their letters, its own, and what holds everywhere. */
export function KeyList({
  pockets,
  own,
  onClose,
}: {
  pockets: readonly Pocket[];
  own: readonly KeyWords[];
  onClose(): void;
}) {
  const tools = pockets.map((p, at): KeyWords => [POCKET_KEYS[at]!.replace('Key', ''), p.hint]);
  return (
    <Modal
      title="Keys"
      description="Letters of the top row stand for their place on the keyboard."
      onClose={onClose}
      className="w-140"
    >
      <dl
        // Takes the focus: it scrolls, and has nothing else that takes the focus
        tabIndex={0}
        className="mt-4 grid max-h-[60vh] grid-cols-[9.5rem_1fr] gap-y-1.5 overflow-y-auto"
      >
        {[...tools, ...own, ...EVERYWHERE].map(([key, what]) => (
          <div key={`${key} ${what}`} className="contents">
            <dt className="figure text-[13px]">{key}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
      <div className="mt-5 flex justify-end">
        <Button strong onClick={onClose}>
          Close
        </Button>
      </div>
    </Modal>
  );
}
