import {
  type Agreement,
  agreements,
  type BowedEdge,
  bowedEdges,
  type Calibration,
  type CalibrationFault,
  checkSpot,
  type Deviation,
  deviationsOf,
  distance,
  type Explanation,
  type Figure,
  figureOf,
  findExplanations,
  type JoinFault,
  mmPerPx,
  outlier,
  type PartFrame,
  type PicturePoint,
  type PlaneMap,
  type PlanePick,
  type PlusMinusMap,
  plusMinusMap,
  type RulerWidth,
  rulerWidths,
  type Seam,
  silhouetteDiameter,
  silhouettePicks,
} from '../../calibration';
import { calibrationInput, datumOf, spotCheckOf, turnedOf } from '../calibrationInput';
import type { PictureGroup, SaidOfPicture } from '../joinedPictures';
import { adviseJoined, type JoinAdvice } from './adviseJoined';
import { type Advice, adviseNext } from './adviseNext';
import { type Contradiction, findContradiction } from './findContradiction';
import { type Calibrated, middleOf, rememberEstimates, settlePicture } from './settlePicture';

export type Settled =
  | {
      ok: true;
      map: PlaneMap;
      mmPerPx: number;
      modelScale: number | null;
      /** How high each plane lies, mm. */
      heights: Record<string, number>;
      /** The turned part's silhouettes, and how high its axis lies, mm. */
      turned: TurnedOnBoard | null;
    }
  | { ok: false; reason: CalibrationFault; reference?: string };

/** A turned part as the board needs it: where its silhouettes were picked, and how high its axis lies. */
export interface TurnedOnBoard {
  silhouettes: PicturePoint[];
  heightMm: number;
}

/** What the slip says about a calibration. */
export interface Certainty {
  tiltRad: number;
  tiltPlusMinusRad: [number, number];
  cameraHeightMm: number;
  /** ± of 100 mm along X and along Y on the part's face, in the middle of the picture. */
  hundred: { alongX: number; alongY: number } | null;
  otherTilts: number;
  references: Record<string, Agreement | null>;
  /** Yardsticks that do not fit together; null where they do. No figure is then as good as its ± says. */
  contradiction: Contradiction | null;
  /** The reference without which all the others agree. */
  outlier: string | null;
  spotChecks: Record<string, Agreement | null>;
  /** Widths of rulers of which both long edges are seen. */
  rulerWidths: Record<string, RulerWidth>;
  /** Edges of sheets that are not straight. */
  bowed: BowedEdge[];
  advice: Advice | null;
  /** Of a turned part, between its silhouettes where they were picked, mm. */
  turnedDiameter: Figure | null;
}

/** What a thing is measured through: its picture's own calibration, and that of all joined ones; the same for one alone. */
export interface Measurable extends Pick<Calibrated, 'calibration' | 'over'> {
  /** How the part lies in the world of each. */
  frame: PartFrame;
  overFrame: PartFrame;
}

/** Seams of joined pictures, and what the ± grows to over them. */
export interface Seams {
  seams: Seam[];
  /** Why this picture could not be joined; it stands alone then. */
  fault: JoinFault | null;
  /** From the middle of the first picture to that of each other one. */
  reaches: { picture: string; figure: Figure }[];
  /** What would make the worst of them better. */
  advice: JoinAdvice | null;
}

/** Everything that is told of how a picture was trued. */
export type Calibrator = ReturnType<typeof createCalibrator>;

/**
 * Trues pictures by what the document says of them, and tells how well: whoever holds it has what was worked out last
 * at hand, since one picture is asked about again and again.
 */
export function createCalibrator() {
  const single = rememberEstimates();
  let kept: { key: string; calibrated: Calibrated } | null = null;

  const calibratedWhole = (said: SaidOfPicture, group: PictureGroup | null): Calibrated | null => {
    const { wanted, factor, axis, zero, laid } = said.calibration;
    const key = JSON.stringify(
      group ? [said.id, group] : [calibrationInput(said), wanted, factor, axis, zero, laid, said.preparation],
    );
    if (kept?.key !== key) {
      const result = settlePicture(said, group, undefined, single);
      if (!result.ok) return null;
      kept = { key, calibrated: result.calibrated };
    }
    return kept.calibrated;
  };

  return {
    /** The map alone, without its ±: quick enough to follow a dragged pick. */
    settle(said: SaidOfPicture, group: PictureGroup | null): Settled {
      const result = settlePicture(said, group, 0, single);
      if (!result.ok) return result;
      const { calibration, map, modelScale } = result.calibrated;
      const heights = Object.fromEntries(Object.entries(calibration.planes).map(([id, p]) => [id, p.heightMm]));
      const turned = calibration.lens === 'photo' ? turnedOf(said.calibration) : null;
      return {
        ok: true,
        map,
        mmPerPx: mmPerPx(map),
        modelScale,
        heights,
        turned: turned && { silhouettes: silhouettePicks(turned), heightMm: heights[turned.silhouettes[0][0].plane]! },
      };
    },

    /** Every ± and deviation of the slip. */
    certainty(said: SaidOfPicture, group: PictureGroup | null): Certainty | null {
      const calibrated = calibratedWhole(said, group);
      if (!calibrated) return null;
      const { calibration, map, seams } = calibrated;
      const input = calibrationInput(said);
      const references = agreements(input);
      const turned = calibration.lens === 'photo' ? turnedOf(said.calibration) : null;
      const widths = rulerWidths(input);
      return {
        tiltRad: calibration.tiltRad,
        tiltPlusMinusRad: calibration.tiltPlusMinusRad,
        cameraHeightMm: calibration.cameraHeightMm,
        hundred: hundredMm(calibration, map, middleOf(said)),
        otherTilts: calibration.otherTilts.length,
        references,
        contradiction: findContradiction(input, references),
        outlier: outlier(input, references),
        rulerWidths: widths,
        bowed: bowedEdges(input),
        spotChecks: Object.fromEntries(
          said.calibration.spotChecks.map((s) => [s.id, checkSpot(calibration, spotCheckOf(s, said.calibration))]),
        ),
        // What would help joined pictures is said with their seams.
        advice: seams ? null : adviseNext(said, input, calibration, map, widths),
        turnedDiameter: turned && silhouetteDiameter(calibration, turned),
      };
    },

    /** How well joined pictures fit at their seams. */
    seams(said: SaidOfPicture, group: PictureGroup): Seams | null {
      const calibrated = calibratedWhole(said, group);
      if (!calibrated) return null;
      const { over, seams, joinFault } = calibrated;
      const middle = (p: SaidOfPicture): PlanePick => ({ ...middleOf(p), sigmaPx: 0.1, plane: 'face', picture: p.id });
      const first = group.pictures[0]!;
      const others = group.pictures.slice(1);
      const reaches = seams
        ? others.flatMap((other) => {
            const figure = figureOf(over, [middle(first), middle(other)], distance);
            return figure ? [{ picture: other.id, figure }] : [];
          })
        : [];
      return { seams: seams ?? [], fault: joinFault, reaches, advice: joinFault ? null : adviseJoined(group, single) };
    },

    /** ± of 100 mm over the picture, and how far each observed place lies off. */
    trust(said: SaidOfPicture, group: PictureGroup | null): { map: PlusMinusMap; deviations: Deviation[] } | null {
      const calibrated = calibratedWhole(said, group);
      return (
        calibrated && {
          map: plusMinusMap(calibrated.calibration, 'face', said.facts),
          deviations: deviationsOf(calibrationInput(said)),
        }
      );
    },

    /** What would repair the deviations of the spot checks. */
    explanations(said: SaidOfPicture): Explanation[] {
      return findExplanations(
        calibrationInput(said),
        said.calibration.spotChecks.map((s) => spotCheckOf(s, said.calibration)),
      );
    },

    /** The calibration itself, to be measured through on a thread of its own. */
    whole(said: SaidOfPicture, group: PictureGroup | null): Measurable | null {
      const calibrated = calibratedWhole(said, group);
      if (!calibrated) return null;
      const { calibration, over, map, overMap } = calibrated;
      const first = group && over !== calibration ? group.pictures[0]! : said;
      return {
        calibration,
        over,
        frame: frameOf(map, said, said.id === first.id),
        overFrame: frameOf(overMap, first, true),
      };
    },
  };
}

/** The datum that a picture has from another one has no scatter of its own here. */
const frameOf = ({ zero, turn, flip }: PlaneMap, by: SaidOfPicture, isOwn: boolean): PartFrame => ({
  zero,
  turn,
  flip,
  datum: isOwn ? datumOf(by) : { zero: null, axis: null },
  picture: by.id,
});

/** ± of 100 mm about the middle of the picture, with picks of a fifth of a pixel. */
function hundredMm(
  calibration: Calibration,
  map: PlaneMap,
  middle: { uPx: number; vPx: number },
): Certainty['hundred'] {
  const span = 50 / mmPerPx(map);
  const pick = (du: number, dv: number): PlanePick => ({
    uPx: middle.uPx + du,
    vPx: middle.vPx + dv,
    sigmaPx: 0.1,
    plane: 'face',
  });
  const across = figureOf(calibration, [pick(-span, 0), pick(span, 0)], distance);
  const down = figureOf(calibration, [pick(0, -span), pick(0, span)], distance);
  if (!across || !down) return null;
  return { alongX: (100 * across.plusMinus) / across.value, alongY: (100 * down.plusMinus) / down.value };
}
