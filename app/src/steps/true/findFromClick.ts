import type { PicturePoint } from '@steady-moth/core/calibration';
import { addReference, type PickRecord, type Picture, setAxis, setZero } from '@steady-moth/core/job';
import { pixels } from '../../compute';
import type { FoundKind } from '../../compute/pixels.worker';
import { useBench } from '../../session/benchStore';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { findSentence } from '../../session/sentences';

/** Run number of the last search: a late answer of an earlier one is dropped. */
let latest = 0;

async function look(picture: Picture, kind: FoundKind, click: PicturePoint) {
  const run = ++latest;
  useBench.getState().setFinding(true);
  const answer = await pixels.call((w) => w.findReference(picture.blob, kind, click)).catch(() => null);
  if (run !== latest || !useBench.getState().finding) return null;
  const found = answer?.found;
  useBench.getState().setFinding(false, found?.ok ? null : findSentence(kind, found?.reason ?? ''));
  return answer;
}

/** Looks for a reference about a click; what was found waits to be told what it is. */
export async function findReference(picture: Picture, kind: FoundKind, click: PicturePoint): Promise<void> {
  const answer = await look(picture, kind, click);
  if (!answer?.found.ok) return;
  const bench = useBench.getState();
  if (answer.kind === 'ruler')
    bench.setPending({ purpose: 'readings', from: answer.found.from, to: answer.found.to, ruler: answer.found });
  else bench.setFound(answer as Parameters<typeof bench.setFound>[0]);
}

/** A hole's rim about a click, for a datum: its centre needs no more places than these. */
async function findHole(picture: Picture, click: PicturePoint): Promise<PickRecord[] | null> {
  const answer = await look(picture, 'disc', click);
  if (answer?.kind !== 'disc' || !answer.found.ok) return null;
  const { rim } = answer.found;
  return rim.filter((_, k) => k % Math.ceil(rim.length / MOST_RIM) === 0);
}

const MOST_RIM = 32;

/** Zero at the centre of the hole about a click. */
export async function zeroAtHole(picture: Picture, click: PicturePoint): Promise<void> {
  const rim = await findHole(picture, click);
  if (!rim) return;
  useJob.getState().apply(setZero(picture.id, { rim, plane: 'face' }));
  useBench.getState().take(null);
}

/** X or Y through the centres of two holes. */
export async function axisThroughHoles(picture: Picture, first: PickRecord, second: PicturePoint): Promise<void> {
  const holes = [await findHole(picture, first), await findHole(picture, second)];
  if (!holes[0] || !holes[1]) return;
  useJob
    .getState()
    .apply(setAxis(picture.id, { along: flatOf(first, second), holes: [holes[0], holes[1]], plane: 'face' }));
  useBench.getState().take(null);
}

/** Which way a line runs more, as it is pictured. */
export const flatOf = (from: PicturePoint, to: PicturePoint): 'x' | 'y' =>
  Math.abs(to.uPx - from.uPx) >= Math.abs(to.vPx - from.vPx) ? 'x' : 'y';

/** Two lines of a square frame, or two equal lengths, by four picks. */
export function addSpans(picture: Picture, kind: 'lines' | 'equal', picks: readonly PickRecord[]): void {
  const spans = [0, 2].map((k) => ({ from: picks[k], to: picks[k + 1] }));
  const said = { id: newId(), plane: 'face', typed: '' };
  useJob.getState().apply(
    addReference(
      picture.id,
      kind === 'lines'
        ? {
            ...said,
            kind: 'square-lines',
            lines: spans.map((s) => ({ ...s, along: flatOf(s.from, s.to) })),
            plusMinusRad: null,
          }
        : { ...said, kind: 'equal-lengths', lengths: spans, plusMinusShare: null },
    ),
  );
}
