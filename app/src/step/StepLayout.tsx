import type { LengthUnit } from '@steady-moth/core/units';
import { type ReactNode, use, useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { focusBoard } from '../board/focusBoard';
import { InTurn } from '../kit/InTurn';
import { useBench } from '../session/benchStore';
import { Neighbours } from './description';
import { KeyList } from './KeyList';
import { Readout } from './Readout';
import { type Pocket, ToolRoll } from './ToolRoll';
import { useKeys } from './useKeys';

/** What every step looks like: board, tool roll and readout at the left, the slip at the right. */
export function StepLayout({
  board,
  slip,
  pockets,
  unit,
  isTrue,
  title,
  lead,
  cells,
  asked = null,
  giveUp,
}: {
  board: ReactNode;
  slip: ReactNode;
  pockets: readonly Pocket[];
  unit: LengthUnit;
  isTrue: boolean;
  title: string;
  lead: string;
  /** What the readout shows instead of the pointer's place. */
  cells?: ReactNode;
  /** What the step asks for, or could not do: something else each time. */
  asked?: unknown;
  giveUp?: () => boolean;
}) {
  const { before, next } = use(Neighbours);
  const navigate = useNavigate();
  const [keys, setKeys] = useState(false);
  useKeys(pockets, {
    go(by) {
      const to = by > 0 ? next : before;
      if (to) navigate(`../${to}`, { relative: 'path' });
    },
    showKeys: () => setKeys(true),
    giveUp,
  });
  // What is asked for or refused stands on top of the slip: it comes in sight. What was answered leaves the focus where
  // the work goes on.
  const slipRef = useRef<HTMLElement>(null);
  const tool = useBench((s) => s.tool);
  useEffect(() => {
    if (tool || asked) slipRef.current?.scrollTo({ top: 0 });
    else focusBoard();
  }, [tool, asked]);
  return (
    <>
      {keys && <KeyList pockets={pockets} onClose={() => setKeys(false)} />}
      <main className="flex min-w-0 grow flex-col">
        <div className="relative min-h-0 grow">{board}</div>
        <ToolRoll pockets={pockets} />
        <Readout unit={unit} isTrue={isTrue} cells={cells} />
      </main>
      <aside
        ref={slipRef}
        aria-label="Slip"
        className="relative w-[340px] shrink-0 overflow-y-auto border-line border-l bg-paper px-6 pt-9 pb-8"
      >
        <div
          aria-hidden
          className="absolute top-3 left-1/2 h-3.5 w-3.5 -translate-x-1/2 rounded-full border border-ink3 bg-board"
        />
        <h2 className="font-semibold text-[18px]">{title}</h2>
        <p className="mt-0.5 mb-4 text-[14px] text-ink2">{lead}</p>
        <InTurn part="slip">{slip}</InTurn>
      </aside>
    </>
  );
}
