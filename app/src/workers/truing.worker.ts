import {
  datumOf,
  type JobDocument,
  measureRun,
  type Picture,
  type RunMeasures,
  spotCheckOf,
  truingInput,
  turnedOf,
  wantedOf,
} from '@steady-moth/core/job';
import {
  type Agreement,
  agreements,
  type CheckPicture,
  type CheckResult,
  checkCamera,
  checkSpot,
  culprit,
  type Deviation,
  deviationsOf,
  distance,
  type Figure,
  figureOf,
  findRepairs,
  grownBy,
  limbDiameter,
  limbPicks,
  mmPerPx,
  type PicturePoint,
  type PlaneMap,
  type PlanePick,
  type PlusMinusMap,
  planeMap,
  plusMinusMap,
  type Repair,
  scaleTo,
  type Truing,
  type TruingFault,
  truePicture,
} from '@steady-moth/core/truing';
import * as Comlink from 'comlink';
import { type Advice, adviseNext } from './adviseNext';

type Said = Pick<Picture, 'facts' | 'truing' | 'preparation' | 'kind'>;

export type Settled =
  | {
      ok: true;
      map: PlaneMap;
      mmPerPx: number;
      modelScale: number | null;
      /** How high each plane lies, mm. */
      heights: Record<string, number>;
      /** The turned part's limbs, and how high its axis lies, mm. */
      turned: TurnedOnBoard | null;
    }
  | { ok: false; reason: TruingFault; yardstick?: string };

/** A turned part as the board needs it: where its limbs were picked, and how high its axis lies. */
export interface TurnedOnBoard {
  limbs: PicturePoint[];
  heightMm: number;
}

/** What the slip says about a truing. */
export interface Certainty {
  tiltRad: number;
  tiltPlusMinusRad: [number, number];
  cameraHeightMm: number;
  /** ± of 100 mm along X and along Y on the part's face, in the middle of the picture. */
  hundred: { alongX: number; alongY: number } | null;
  otherTilts: number;
  yardsticks: Record<string, Agreement | null>;
  /** The yardstick without which all the others agree. */
  culprit: string | null;
  spotChecks: Record<string, Agreement | null>;
  advice: Advice | null;
  /** Of a turned part, between its limbs where they were picked, mm. */
  turnedDiameter: Figure | null;
}

/** The last truing with its draws: measuring asks for it again and again. */
let kept: { key: string; truing: Truing } | null = null;

function trued(said: Said): Truing | null {
  const input = truingInput(said);
  const { wanted, factor } = said.truing;
  const key = JSON.stringify([input, wanted, factor]);
  if (kept?.key !== key) {
    const result = truePicture(input);
    if (!result.ok) return null;
    kept = { key, truing: asSaid(said, result.truing).truing };
  }
  return kept.truing;
}

/** The truing with the factor and the wanted length that were said. */
function asSaid(said: Said, truing: Truing): { truing: Truing; modelScale: number | null } {
  const { factor } = said.truing;
  const grown = factor ? grownBy(truing, factor.value) : truing;
  const wanted = wantedOf(said.truing);
  const model = wanted && scaleTo(grown, wanted);
  return model ? { truing: model.truing, modelScale: model.factor } : { truing: grown, modelScale: null };
}

const middleOf = ({ facts }: Said) => ({ uPx: facts.widthPx / 2, vPx: facts.heightPx / 2 });

const face = {
  /** The map alone, without its ±: quick enough to follow a dragged pick. */
  async settle(said: Said): Promise<Settled> {
    const result = truePicture(truingInput(said), { draws: 0 });
    if (!result.ok) return result;
    const { truing, modelScale } = asSaid(said, result.truing);
    const map = planeMap(truing, datumOf(said), 'face', middleOf(said));
    const heights = Object.fromEntries(Object.entries(truing.planes).map(([id, p]) => [id, p.heightMm]));
    const turned = turnedOf(said.truing);
    return {
      ok: true,
      map,
      mmPerPx: mmPerPx(map),
      modelScale,
      heights,
      turned: turned && { limbs: limbPicks(turned), heightMm: heights[turned.limbs[0][0].plane] },
    };
  },

  /** Every ± and deviation of the slip. */
  async certainty(said: Said): Promise<Certainty | null> {
    const truing = trued(said);
    if (!truing) return null;
    const input = truingInput(said);
    const map = planeMap(truing, datumOf(said), 'face', middleOf(said));
    const yardsticks = agreements(input);
    const turned = turnedOf(said.truing);
    return {
      tiltRad: truing.tiltRad,
      tiltPlusMinusRad: truing.tiltPlusMinusRad,
      cameraHeightMm: truing.cameraHeightMm,
      hundred: hundredMm(truing, map, middleOf(said)),
      otherTilts: truing.otherTilts.length,
      yardsticks,
      culprit: culprit(input, yardsticks),
      spotChecks: Object.fromEntries(
        said.truing.spotChecks.map((s) => [s.id, checkSpot(truing, spotCheckOf(s, said.truing))]),
      ),
      advice: adviseNext(said, input, truing, map),
      turnedDiameter: turned && limbDiameter(truing, turned),
    };
  },

  /** ± of 100 mm over the picture, and how far each observed place lies off. */
  async trust(said: Said): Promise<{ map: PlusMinusMap; deviations: Deviation[] } | null> {
    const truing = trued(said);
    return truing && { map: plusMinusMap(truing, 'face', said.facts), deviations: deviationsOf(truingInput(said)) };
  },

  /** What would repair the deviations of the spot checks. */
  async repairs(said: Said): Promise<Repair[]> {
    return findRepairs(
      truingInput(said),
      said.truing.spotChecks.map((s) => spotCheckOf(s, said.truing)),
    );
  },

  /** A camera from pictures of the grid sheet. */
  async checkCamera(pictures: readonly CheckPicture[]): Promise<CheckResult> {
    return checkCamera(pictures);
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
