import type { PicturePoint } from '@steady-moth/core/calibration';
import type { PickRecord, Picture } from '@steady-moth/core/job';
import { pixels } from '../../compute';
import type { FoundKind, FoundReference } from '../../compute/pixels.worker';
import { useBench } from '../../session/benchStore';
import { findSentence } from '../../session/sentences';
import type { TrueAnswer, TrueQuestion } from './tools/context';

/** Run number of the last search: a late answer of an earlier one is dropped. */
let latest = 0;

/** Looks for what a tool asks for; why nothing is found is said on the slip. */
export async function findFromClick(picture: Picture, question: TrueQuestion): Promise<TrueAnswer> {
  if (question.kind !== 'holes')
    return { kind: 'reference', answer: await look(picture, question.kind, question.click) };
  const rims: PickRecord[][] = [];
  for (const click of question.clicks) {
    const rim = await findHole(picture, click);
    if (!rim) return { kind: 'holes', clicks: question.clicks, rims: null };
    rims.push(rim);
  }
  return { kind: 'holes', clicks: question.clicks, rims };
}

async function look(picture: Picture, kind: FoundKind, click: PicturePoint): Promise<FoundReference | null> {
  const run = ++latest;
  useBench.getState().setFinding(true);
  const answer = await pixels.call((w) => w.findReference(picture.blob, kind, click)).catch(() => null);
  if (run !== latest || !useBench.getState().finding) return null;
  const found = answer?.found;
  useBench.getState().setFinding(false, found?.ok ? null : findSentence(kind, found?.reason ?? ''));
  return answer;
}

/** A hole's rim about a click, for a datum: its centre needs no more places than these. */
async function findHole(picture: Picture, click: PicturePoint): Promise<PickRecord[] | null> {
  const answer = await look(picture, 'disc', click);
  if (answer?.kind !== 'disc' || !answer.found.ok) return null;
  const { rim } = answer.found;
  return rim.filter((_, k) => k % Math.ceil(rim.length / MOST_RIM) === 0);
}

const MOST_RIM = 32;
