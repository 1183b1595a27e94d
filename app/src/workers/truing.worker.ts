import {
  datumOf,
  type JobDocument,
  measureRun,
  type Picture,
  type RunMeasures,
  spotCheckOf,
  truingInput,
} from '@steady-moth/core/job';
import {
  type Agreement,
  agreements,
  checkSpot,
  distance,
  type Figure,
  figureOf,
  mmPerPx,
  type PlaneMap,
  type PlanePick,
  planeMap,
  type Truing,
  type TruingFault,
  truePicture,
} from '@steady-moth/core/truing';
import * as Comlink from 'comlink';
import { type Advice, adviseNext } from './adviseNext';

type Said = Pick<Picture, 'facts' | 'truing' | 'preparation' | 'kind'>;

export type Settled =
  | { ok: true; map: PlaneMap; mmPerPx: number }
  | { ok: false; reason: TruingFault; yardstick?: string };

/** What the slip says about a truing. */
export interface Certainty {
  tiltRad: number;
  tiltPlusMinusRad: [number, number];
  cameraHeightMm: number;
  /** ± of 100 mm along X and along Y on the part's face, in the middle of the picture. */
  hundred: { alongX: number; alongY: number } | null;
  otherTilts: number;
  yardsticks: Record<string, Agreement | null>;
  spotChecks: Record<string, Agreement | null>;
  advice: Advice | null;
}

/** The last truing with its draws: measuring asks for it again and again. */
let kept: { key: string; truing: Truing } | null = null;

function trued(said: Said): Truing | null {
  const input = truingInput(said);
  const key = JSON.stringify(input);
  if (kept?.key !== key) {
    const result = truePicture(input);
    if (!result.ok) return null;
    kept = { key, truing: result.truing };
  }
  return kept.truing;
}

const middleOf = ({ facts }: Said) => ({ uPx: facts.widthPx / 2, vPx: facts.heightPx / 2 });

const face = {
  /** The map alone, without its ±: quick enough to follow a dragged pick. */
  async settle(said: Said): Promise<Settled> {
    const result = truePicture(truingInput(said), { draws: 0 });
    if (!result.ok) return result;
    const map = planeMap(result.truing, datumOf(said), 'face', middleOf(said));
    return { ok: true, map, mmPerPx: mmPerPx(map) };
  },

  /** Every ± and deviation of the slip. */
  async certainty(said: Said): Promise<Certainty | null> {
    const truing = trued(said);
    if (!truing) return null;
    const input = truingInput(said);
    const map = planeMap(truing, datumOf(said), 'face', middleOf(said));
    return {
      tiltRad: truing.tiltRad,
      tiltPlusMinusRad: truing.tiltPlusMinusRad,
      cameraHeightMm: truing.cameraHeightMm,
      hundred: hundredMm(truing, map, middleOf(said)),
      otherTilts: truing.otherTilts.length,
      yardsticks: agreements(input),
      spotChecks: Object.fromEntries(said.truing.spotChecks.map((s) => [s.id, checkSpot(truing, spotCheckOf(s))])),
      advice: adviseNext(said, input, truing, map),
    };
  },

  async measureRun(said: Said, job: Pick<JobDocument, 'part'>, runId: string): Promise<RunMeasures | null> {
    const truing = trued(said);
    const run = job.part.runs.find((r) => r.id === runId);
    return truing && run ? measureRun(job as JobDocument, run, truing) : null;
  },

  async distance(said: Said, from: PlanePick, to: PlanePick): Promise<Figure | null> {
    const truing = trued(said);
    return truing && figureOf(truing, [from, to], distance);
  },
};

export type TruingFace = typeof face;

/** ± of 100 mm about the middle of the picture, with picks of a fifth of a pixel. */
function hundredMm(truing: Truing, map: PlaneMap, middle: { uPx: number; vPx: number }): Certainty['hundred'] {
  const span = 50 / mmPerPx(map);
  const pick = (du: number, dv: number): PlanePick => ({
    uPx: middle.uPx + du,
    vPx: middle.vPx + dv,
    sigmaPx: 0.1,
    plane: 'face',
  });
  const across = figureOf(truing, [pick(-span, 0), pick(span, 0)], distance);
  const down = figureOf(truing, [pick(0, -span), pick(0, span)], distance);
  if (!across || !down) return null;
  return { alongX: (100 * across.plusMinus) / across.value, alongY: (100 * down.plusMinus) / down.value };
}

Comlink.expose(face);
