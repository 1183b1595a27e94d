import {
  type CommonPoint,
  distance,
  type Figure,
  figureOf,
  type JoinedInput,
  type JoinFault,
  joinPictures,
  numberedRuler,
  type PictureFacts,
  type Reference,
  type Seam,
  type SharedReference,
} from '../calibration';
import type { Pixels } from '../raster';
import { type LengthUnit, parseReadings } from '../units';
import { answerPicture, findEndless, isEndless, type MeasureAnswer } from './answerPicture';
import type { JoinedRequest } from './request';
import { type SaidPicture, type ScriptFault, sayPicture } from './sayPicture';
import { snapped } from './sayYardstick';

export interface JoinedAnswer {
  /** Each picture's answer through the one estimate; its positions are in the frame of the first one. */
  pictures: Record<string, MeasureAnswer>;
  /** How far apart the pictures put each common point, by its place among the joins. */
  seams: (Omit<Seam, 'point'> & { join: number })[];
  distances: { from: readonly [string, string]; to: readonly [string, string]; mm: Figure | null }[];
}

/** Why joined pictures cannot be measured, and in which of them. */
export interface JoinedScriptFault {
  ok: false;
  reason:
    | ScriptFault['reason']
    | Exclude<JoinFault['reason'], 'picture'>
    | 'pictures-missing'
    | 'unknown-picture'
    | 'picture-twice'
    | 'unknown-yardstick'
    | 'not-numbered';
  at?: string;
}

/**
 * Measures several pictures of one part from a script, held together by what they share.
 *
 * In: what is said of each (px, lengths as people write them) and of what joins them; of each picture, in the order of
 * the request, what its file tells of its camera, and its pixels, or null when no pick shall cling. Out: as of one
 * picture, the frame and datum being the first one's, mm.
 * Degenerate: a name that is not there, a shared ruler whose readings were not said, or joins that hold too little give
 * a reason.
 */
export function measureJoined(
  request: JoinedRequest,
  seen: readonly { facts: PictureFacts; pixels: Pixels | null }[],
): { ok: true; answer: JoinedAnswer } | JoinedScriptFault {
  if (seen.length !== request.pictures.length) return { ok: false, reason: 'pictures-missing' };
  const said = new Map<string, SaidPicture>();
  for (const [k, { id, ...own }] of request.pictures.entries()) {
    if (said.has(id)) return { ok: false, reason: 'picture-twice', at: id };
    const first = k === 0 ? { zero: request.zero, axis: request.axis } : {};
    const all = sayPicture({ unit: request.unit, ...own, ...first }, seen[k]!.facts, seen[k]!.pixels);
    if (!all.ok) return { ...all, at: all.at === undefined ? id : `${id}, ${all.at}` };
    said.set(id, all.said);
  }
  const input = joinedBy(request, said);
  if ('ok' in input) return input;
  for (const { from, to } of request.distances ?? [])
    for (const [picture, point] of [from, to])
      if (!said.get(picture)?.points[point]) return { ok: false, reason: 'unknown-point', at: `${picture}, ${point}` };
  const joined = joinPictures(input);
  if (!joined.ok) return faultOf(joined.fault);
  const first = request.pictures[0]!;
  const over = joined.calibrations[first.id]!;
  const datum = (said.get(first.id) as SaidPicture).datum;
  const pickOf = ([picture, point]: readonly [string, string]) => ({
    ...(said.get(picture) as SaidPicture).points[point]!,
    picture,
  });
  const answer: JoinedAnswer = {
    pictures: Object.fromEntries(
      [...said].map(([id, s]) => [id, answerPicture(s, joined.calibrations[id]!, { over, datum, picture: id })]),
    ),
    seams: joined.seams.map(({ point, ...seam }) => ({ join: Number(point), ...seam })),
    distances: (request.distances ?? []).map(({ from, to }) => ({
      from,
      to,
      mm: figureOf(over, [pickOf(from), pickOf(to)], distance),
    })),
  };
  for (const [id, one] of Object.entries(answer.pictures)) {
    const endless = findEndless(one);
    if (endless !== null) return { ok: false, reason: 'without-bound', at: `${id}, ${endless}` };
  }
  const between = answer.distances.find(({ mm }) => isEndless(mm));
  if (between) return { ok: false, reason: 'without-bound', at: `${between.from} to ${between.to}` };
  return { ok: true, answer };
}

/** What the estimate over several pictures takes. */
function joinedBy(request: JoinedRequest, said: ReadonlyMap<string, SaidPicture>): JoinedInput | JoinedScriptFault {
  const points: CommonPoint[] = [];
  const references: SharedReference[] = [];
  const inputs = new Map([...said].map(([id, { input }]) => [id, { ...input, references: [...input.references] }]));
  for (const [k, join] of request.joins.entries()) {
    const stray = Object.keys(join.point ?? join.yardstick ?? {}).find((id) => !said.has(id));
    if (stray !== undefined) return { ok: false, reason: 'unknown-picture', at: stray };
    if (join.point) {
      const places = Object.entries(join.point).map(([picture, { at, plane = 'face', cling = 'edge' }]) => ({
        ...snapped(said.get(picture)?.pixels ?? null, at, cling),
        plane,
        picture,
      }));
      const lost = places.find(
        (p) => p.plane !== 'table' && !inputs.get(p.picture)?.planes.some((q) => q.id === p.plane),
      );
      if (lost) return { ok: false, reason: 'unknown-plane', at: lost.picture };
      points.push({ id: String(k), seen: places });
    }
    if (join.yardstick) {
      const seen = Object.entries(join.yardstick).map(([picture, reference]) => ({ picture, reference }));
      for (const { picture, reference } of seen) {
        const own = inputs.get(picture)?.references ?? [];
        const at = own.findIndex((y) => y.id === reference);
        if (at < 0) return { ok: false, reason: 'unknown-yardstick', at: `${picture}, ${reference}` };
        const written = said.get(picture)?.request.yardsticks.find((y) => y.id === reference)?.length ?? '';
        const shared = shareable(own[at]!, written, request.unit ?? 'mm');
        if (!shared) return { ok: false, reason: 'not-numbered', at: `${picture}, ${reference}` };
        own[at] = shared;
      }
      references.push({ id: String(k), seen });
    }
  }
  return { pictures: [...inputs].map(([id, input]) => ({ id, input })), points, references };
}

/** A yardstick whose places can be told again in another picture; of a ruler by its readings as they were written. */
function shareable(y: Reference, written: string, unit: LengthUnit): Reference | null {
  if (y.kind === 'disc' || y.kind === 'grid' || y.kind === 'sheet') return y;
  const readings = parseReadings(written, unit);
  return y.kind === 'known-length' && y.graduations && readings
    ? numberedRuler({ ...y, graduations: y.graduations }, readings)
    : null;
}

function faultOf(fault: JoinFault): JoinedScriptFault {
  if (fault.reason === 'no-agreement') return { ok: false, reason: fault.reason };
  if (fault.reason !== 'picture') return { ok: false, reason: fault.reason, at: fault.picture };
  const { reason, reference } = fault.fault;
  return { ok: false, reason, at: reference === undefined ? fault.picture : `${fault.picture}, ${reference}` };
}
