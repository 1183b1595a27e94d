import { circleOf, groundOf, maySettle, type Setting } from '@steady-moth/core/tracing';
import { useState } from 'react';
import { Act } from '../../../kit';
import type { DrawnPath } from '../../../part/useDrawn';
import { useJob } from '../../../session/jobStore';
import { useBoardFrame } from '../../../session/useBoardFrame';
import { settledAgain } from '../settleAgain';

type Side = 'inside' | 'outside';

/**
 * What was said of circles while the page is open, and what came of it, by which it is told whether that still stands: the
 * document keeps the rim alone.
 */
const said = new Map<string, { side: Side; radius: number }>();

/** A circle that was moved since, or undone, is off by more. */
const SAME_MM = 1e-6;

/**
 * Light alone does not tell a hole in a dark thing from a bright disc on dark ground. With no outline round it the ± of a
 * circle holds both, until a person says which it is.
 */
export function HoleOrDisc({ own, setting }: { own: DrawnPath; setting: Setting }) {
  const apply = useJob((s) => s.apply);
  const { frame } = useBoardFrame(setting.job, setting.picture);
  const [state, setState] = useState<'idle' | 'busy' | 'nothing'>('idle');
  const circle = circleOf(own);
  if (frame.kind !== 'true' || !circle || !maySettle(own, setting)) return null;
  const { id } = own.path;
  const { paths } = setting.drawn;
  const before = paths.slice(
    0,
    paths.findIndex((p) => p.path.id === id),
  );
  // With the outline there already, it was settled as the hole that it is.
  if (groundOf(circle, before) === 'inside') return null;
  const isWithin = groundOf(circle, paths) === 'inside';
  const last = said.get(id);
  const known = last && Math.abs(last.radius - circle.radius) < SAME_MM ? last.side : null;
  if (isWithin && known === 'inside') return null;
  const settle = async (side: Side) => {
    setState('busy');
    const settled = await settledAgain(own, side, frame, setting);
    if (settled) {
      apply(settled.action);
      said.set(id, { side, radius: settled.radius });
    }
    setState(settled ? 'idle' : 'nothing');
  };
  const act = (side: Side) =>
    known !== side && (
      <Act className="mr-3" disabled={state === 'busy'} onClick={() => void settle(side)}>
        It is a {side === 'inside' ? 'hole' : 'disc'}
      </Act>
    );
  return (
    <p className="mt-2 text-ink2">
      {known
        ? `Settled as a ${known === 'inside' ? 'hole' : 'disc'}.`
        : isWithin
          ? 'It was drawn before the outline round it: its ± may hold a disc as well.'
          : 'Hole or disc? Drawn by itself, its ± holds both until you say which.'}{' '}
      {act('inside')}
      {!isWithin && act('outside')}
      {state === 'nothing' && (
        <span role="status" className="block text-amber">
          No round edge was found there, so it stays as it was.
        </span>
      )}
    </p>
  );
}
