import type { Item, Setting } from '@steady-moth/core/tracing';
import { useState } from 'react';
import { Act } from '../../../kit';
import { useBoardFrame } from '../../../session/useBoardFrame';
import { pathsKey, settleChosen } from '../settleOnEdges';
import { useTrace } from '../traceStore';

/** Lets what is chosen settle on the edges that it lies over. */
export function OnEdge({ items, setting }: { items: readonly Item[]; setting: Setting }) {
  const { frame } = useBoardFrame(setting.job, setting.picture);
  const [busy, setBusy] = useState(false);
  const settled = useTrace((s) => s.settled);
  const settle = async () => {
    setBusy(true);
    await settleChosen(items, setting, frame);
    setBusy(false);
  };
  return (
    <p className="border-line border-t py-2.5">
      <Act disabled={busy} onClick={() => void settle()}>
        Settle on the edge
      </Act>{' '}
      <span className="text-ink2">or press S: each piece by all of the edge along it.</span>
      {settled?.paths === pathsKey(items) && (
        <span role="status" className="block text-verdigris">
          {settled.says}
        </span>
      )}
    </p>
  );
}
