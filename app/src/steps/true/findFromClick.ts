import { cameraConstantPx, type PicturePoint } from '@steady-moth/core/calibration';
import type { CoinHints } from '@steady-moth/core/find';
import type { PickRecord, Picture } from '@steady-moth/core/job';
import { pixels } from '../../compute';
import type { FoundKind, FoundReference } from '../../compute/pixels.worker';
import { findSentence } from '../../session/sentences';
import type { TrueAnswer, TrueQuestion } from './tools/context';
import { useTrue } from './trueStore';

/** Run number of the last search: a late answer of an earlier one is dropped. */
let latest = 0;

/** Looks for what a tool asks for; why nothing is found is said on the slip. */
export async function findFromClick(picture: Picture, question: TrueQuestion): Promise<TrueAnswer> {
  if (question.kind !== 'holes')
    return { kind: 'reference', answer: await findReference(picture, question.kind, question.click) };
  const rims: PickRecord[][] = [];
  for (const click of question.clicks) {
    const rim = await findHole(picture, click);
    if (!rim) return { kind: 'holes', clicks: question.clicks, rims: null };
    rims.push(rim);
  }
  return { kind: 'holes', clicks: question.clicks, rims };
}

const findReference = (picture: Picture, kind: FoundKind, click: PicturePoint): Promise<FoundReference | null> =>
  look(kind, () => pixels.call((w) => w.findReference(picture.blob, kind, click, hintsOf(picture))));

/** What the file tells of the lens, so that a coin's tilt is judged by it. */
function hintsOf({ facts }: Picture): CoinHints {
  return { cPx: cameraConstantPx(facts) };
}

async function look<A extends Pick<FoundReference, 'found'>>(
  kind: FoundKind,
  ask: () => Promise<A>,
): Promise<A | null> {
  const run = ++latest;
  useTrue.getState().setFinding(true);
  const answer = await ask().catch(() => null);
  if (run !== latest || !useTrue.getState().finding) return null;
  const found = answer?.found;
  useTrue.getState().setFinding(false, found?.ok ? null : findSentence(kind, found?.reason ?? ''));
  return answer;
}

/** A hole's rim about a click, for a datum: its centre needs no more places than these. */
async function findHole(picture: Picture, click: PicturePoint): Promise<PickRecord[] | null> {
  const answer = await look('disc', async () => ({
    kind: 'disc' as const,
    found: await pixels.call((w) => w.findHole(picture.blob, click)),
  }));
  if (!answer?.found.ok) return null;
  const { rim } = answer.found;
  return rim.filter((_, k) => k % Math.ceil(rim.length / MOST_RIM) === 0);
}

const MOST_RIM = 32;
