import type { CalibrationFault, CalibrationInput, Datum, PictureFacts, PlanePick, TurnedPart } from '../calibration';
import { lensOf } from '../job';
import type { Pixels } from '../raster';
import { TURNED } from '../sketch';
import type { MeasureRequest, ScriptPlace, ScriptPlane, ScriptSnap } from './request';
import { type SaidYardstick, sayTurnedDiameter, sayYardstick, snapped } from './sayYardstick';

/** One picture as the estimate takes it, and what is asked of it. */
export interface SaidPicture {
  request: MeasureRequest;
  input: CalibrationInput;
  datum: Datum;
  points: Record<string, PlanePick>;
  turned: TurnedPart | null;
  pixels: Pixels | null;
  /** What makes a yardstick doubtful that was found, by its id. */
  doubts: Record<string, string>;
}

/** Why a request cannot be answered, and at which yardstick or point; 'without-bound' where a ± would be endless. */
export interface ScriptFault {
  ok: false;
  reason: CalibrationFault | Extract<SaidYardstick, { ok: false }>['reason'] | 'unknown-point' | 'without-bound';
  at?: string;
}

/** What a script says of one picture: its yardsticks found, its picks moved onto what they cling to. */
export function sayPicture(
  request: MeasureRequest,
  facts: PictureFacts,
  pixels: Pixels | null,
): { ok: true; said: SaidPicture } | ScriptFault {
  const pick = (at: ScriptPlace, plane: ScriptPlane, cling: ScriptSnap): PlanePick => ({
    ...snapped(pixels, at, cling),
    plane,
  });
  const level = { heightMm: 0, plusMinusMm: 0 };
  const heights = { yardstick: level, face: level, ...request.heights };
  const input: CalibrationInput = {
    facts,
    lens: lensOf(request.kind ?? 'photo'),
    believeResolution: request.believeResolution ?? true,
    hold: request.hold ?? 'free',
    saved: request.camera ?? null,
    planes: Object.entries(heights).map(([id, height]) => ({ id, ...height })),
    references: [],
  };
  const planes = new Set(['table', ...Object.keys(heights)]);
  const asked = [request.zero, request.axis, request.turned];
  const onTurned = request.turned ? new Set([...planes, TURNED]) : planes;
  if (
    asked.some((p) => p?.plane !== undefined && !planes.has(p.plane)) ||
    (request.settle ?? []).some((s) => s.plane !== undefined && !planes.has(s.plane)) ||
    Object.values(request.points ?? {}).some((p) => p.plane !== undefined && !onTurned.has(p.plane))
  )
    return { ok: false, reason: 'unknown-plane' };
  const axisPlane = request.turned?.plane ?? 'face';
  const turned = request.turned ? turnedBy(request.turned, (at, cling) => pick(at, axisPlane, cling)) : null;
  const doubts: Record<string, string> = {};
  for (const y of request.yardsticks) {
    const said =
      y.kind === 'turned-diameter'
        ? sayTurnedDiameter(y, turned, request.unit ?? 'mm')
        : sayYardstick(y, pixels, request.unit ?? 'mm', facts);
    if (!said.ok) return { ok: false, reason: said.reason, at: said.detail ? `${y.id} (${said.detail})` : y.id };
    input.references.push(said.reference);
    if (said.doubt) doubts[y.id] = said.doubt;
  }
  const { zero, axis } = request;
  const datum: Datum = {
    zero: zero ? pick(zero.at, zero.plane ?? 'face', zero.cling ?? 'edge') : null,
    axis: axis
      ? {
          along: axis.along,
          from: pick(axis.from, axis.plane ?? 'face', axis.cling ?? 'edge'),
          to: pick(axis.to, axis.plane ?? 'face', axis.cling ?? 'edge'),
        }
      : null,
  };
  const points = Object.fromEntries(
    Object.entries(request.points ?? {}).map(([name, p]) => {
      const plane = p.plane === TURNED ? axisPlane : (p.plane ?? 'face');
      return [name, pick(p.at, plane, p.cling ?? 'edge')];
    }),
  );
  const stray = (request.distances ?? []).flatMap((d) => [d.from, d.to]).find((name) => !Object.hasOwn(points, name));
  if (stray !== undefined) return { ok: false, reason: 'unknown-point', at: stray };
  return { ok: true, said: { request, input, datum, points, turned, pixels, doubts } };
}

function turnedBy(
  { limbs: [a, b], cling = 'edge' }: NonNullable<MeasureRequest['turned']>,
  pick: (at: ScriptPlace, cling: ScriptSnap) => PlanePick,
): TurnedPart {
  return {
    silhouettes: [
      [pick(a[0], cling), pick(a[1], cling)],
      [pick(b[0], cling), pick(b[1], cling)],
    ],
  };
}
