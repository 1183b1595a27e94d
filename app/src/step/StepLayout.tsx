import type { LengthUnit } from '@steady-moth/core/units';
import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { focusBoard } from '../board/focusBoard';
import { InTurn } from '../kit/InTurn';
import { useSession } from '../session/sessionStore';
import type { StepDescription, StepParts } from './description';
import { KeyList } from './KeyList';
import { Readout } from './Readout';
import { ToolRoll } from './ToolRoll';
import { useKeys } from './useKeys';

/** What every step looks like: board, tool roll and readout at the left, the slip at the right. */
export function StepLayout({
  step,
  before,
  next,
  unit,
  isTrue,
  board,
  slip,
  tools = step.tools,
  lead = step.lead,
  cells,
  asked = null,
  giveUp,
  onKey,
}: {
  step: StepDescription;
  /** The names of the steps before and after it; null at either end. */
  before: string | null;
  next: string | null;
  unit: LengthUnit;
} & StepParts) {
  const navigate = useNavigate();
  const [keys, setKeys] = useState(false);
  useKeys(tools, {
    go(by) {
      const to = by > 0 ? next : before;
      if (to) navigate(`../${to}`, { relative: 'path' });
    },
    showKeys: () => setKeys(true),
    giveUp,
    onKey,
  });
  // What is asked for or refused stands on top of the slip: it comes in sight. What was answered leaves the focus where
  // the work goes on.
  const slipRef = useRef<HTMLElement>(null);
  const tool = useSession((s) => s.tool);
  useEffect(() => {
    if (tool || asked) slipRef.current?.scrollTo({ top: 0 });
    else focusBoard();
  }, [tool, asked]);
  return (
    <>
      {keys && <KeyList pockets={tools} own={step.keys} onClose={() => setKeys(false)} />}
      <main className="flex min-w-0 grow flex-col">
        <div className="relative min-h-0 grow">{board}</div>
        <ToolRoll pockets={tools} />
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
        <h2 className="font-semibold text-[18px]">{step.title}</h2>
        <p className="mt-0.5 mb-4 text-[14px] text-ink2">{lead}</p>
        <InTurn part="slip">{slip}</InTurn>
      </aside>
    </>
  );
}
