import { describe, expect, it } from 'vitest';
import type { Vec2 } from '../geometry';
import { act, checkJob, NO_HISTORY } from '../job';
import { addSpotCheck, changeTurnedPlane, removePlane, setTurned } from '../job/actions/calibrationActions';
import { setPathPlane } from '../job/actions/pathActions';
import { reprojectPicture } from '../job/actions/reprojectPicture';
import { datumOf, spotCheckOf } from '../job/calibrationInput';
import { sampleJob } from '../job/sample.test-data';
import { findPath, formOf, placedOnTurned, planeOfPath, TURNED } from '.';
import { type Bent, seen as seenAt, sketchOf } from './traced.test-data';

/** The axis is X; the lens stands over (zc, 0). */
const AXIS = { x: 0, y: 0, dx: 1, dy: 0 };
const LENS = [18, 4, 260];

/** Where a place of the part in its own mm is seen on the plane of its axis. */
function seen(along: number, across: number, up: number): Vec2 {
  const t = LENS[2]! / (LENS[2]! - up);
  return { x: LENS[0]! + t * (along - LENS[0]!), y: LENS[1]! + t * (across - LENS[1]!) };
}

/** On the silhouette of a profile, by sin θ = (ρ − ρ′ (z − zc)) / D. */
function silhouette(along: number, radius: number, side: 1 | -1, slope = 0): Vec2 {
  const off = Math.acos((radius - slope * (along - LENS[0]!)) / Math.hypot(LENS[1]!, LENS[2]!));
  const angle = Math.atan2(LENS[2]!, LENS[1]!) - side * off;
  return seen(along, radius * Math.cos(angle), radius * Math.sin(angle));
}

/** A path over these places, which are told by name. */
const chain = (places: Record<string, Vec2>, points: string[], bent: Bent[] = [], closed = true) => {
  const all = Object.fromEntries(
    [...Object.keys(places), ...points].map((id) => [id, seenAt(0, 0, { plane: TURNED })]),
  );
  return sketchOf(all, { points, bent, closed });
};
const section = ({ sketch, path }: ReturnType<typeof chain>, places: Record<string, Vec2>) =>
  placedOnTurned(sketch, path, (id) => places[id] ?? null, AXIS, LENS);

describe('a path on a turned part', () => {
  it('becomes its section: limbs as far from the axis as they are, ends where their near rims are', () => {
    const places: Record<string, Vec2> = {
      a: silhouette(5, 13, 1),
      b: silhouette(35, 13, 1),
      // A point in the middle of the end is seen on its near rim, 13 mm above the axis.
      end: seen(35, 2, Math.sqrt(13 ** 2 - 4)),
      c: silhouette(35, 13, -1),
      d: silhouette(5, 13, -1),
    };
    const placed = section(chain(places, ['a', 'b', 'end', 'c', 'd']), places);
    const truth: Record<string, [number, number]> = {
      a: [5, 13],
      b: [35, 13],
      end: [35, 2],
      c: [35, -13],
      d: [5, -13],
    };
    for (const [id, [x, y]] of Object.entries(truth)) {
      expect(placed(id)?.x).toBeCloseTo(x, 6);
      expect(placed(id)?.y).toBeCloseTo(y, 6);
    }
    // What it would have been on the plane: the end 5 % nearer to the lens.
    expect(places.end!.x - 35).toBeGreaterThan(0.8);
  });

  it('follows a cone, an arc and a curve by the way that they run', () => {
    const ball = (z: number, side: 1 | -1) =>
      silhouette(z, Math.sqrt(400 - (z - 20) ** 2), side, -(z - 20) / Math.sqrt(400 - (z - 20) ** 2));
    const places: Record<string, Vec2> = { a: ball(10, 1), via: ball(20, 1), b: ball(30, 1) };
    const placed = section(chain(places, ['a', 'b'], [{ arc: 'via' }], false), places);
    for (const [id, z] of [
      ['a', 10],
      ['via', 20],
      ['b', 30],
    ] as const) {
      // The pictured silhouette of a ball is no circle on the plane, only nearly one.
      expect(Math.hypot((placed(id)?.x ?? 0) - 20, placed(id)?.y ?? 0)).toBeCloseTo(20, 1);
      expect(placed(id)?.x).toBeCloseTo(z, 0);
    }
    const cone = (z: number) => silhouette(z, 8 + 0.2 * z, 1, 0.2);
    const [from, to] = [cone(5), cone(25)];
    const third = (k: number) => ({ x: from.x + (k * (to.x - from.x)) / 3, y: from.y + (k * (to.y - from.y)) / 3 });
    const straight: Record<string, Vec2> = { a: from, b: to, h: third(1), i: third(2) };
    const curve = chain(straight, ['a', 'b'], [{ cubic: ['h', 'i'] }], false);
    const cut = section(curve, straight);
    const form = formOf(curve.sketch, curve.path, cut);
    expect(form?.kind).toBe('chain');
    for (const id of ['a', 'h', 'i', 'b']) {
      const at = cut(id);
      expect(at?.y).toBeCloseTo(8 + 0.2 * (at?.x ?? 0), 6);
    }
  });

  it('ends in its flat face where a round ends that turns away from the lens before it', () => {
    // The round from 13 mm at 33 along to 10 mm at 36, as it is seen: of all its places those seen farthest along.
    const round = (r: number, tube: number, end: number, acrossSeen: number): Vec2 => {
      let best: Vec2 | null = null;
      for (let i = 0; i <= 2000; i++) {
        const lean = (i / 2000) * (Math.PI / 2);
        const [away, along] = [r + tube * Math.cos(lean), end - tube + tube * Math.sin(lean)];
        // The place of this circle that is seen that far across, on the side of the lens.
        let [low, high] = [0, Math.PI / 2];
        const at = (turn: number) => seen(along, away * Math.sin(turn), away * Math.cos(turn));
        if (at(high).y < acrossSeen) continue;
        for (let k = 0; k < 50; k++) {
          if (at((low + high) / 2).y < acrossSeen) low = (low + high) / 2;
          else high = (low + high) / 2;
        }
        const place = at(low);
        if (!best || place.x > best.x) best = place;
      }
      return best!;
    };
    for (const [r, tube, end] of [
      [10, 3, 36],
      [6, 4, 60],
      [20, 1, 45],
    ] as const) {
      const corner = round(r, tube, end, r * (1 + tube / 100));
      const places: Record<string, Vec2> = {
        a: silhouette(5, r + tube, 1),
        b: silhouette(end - tube, r + tube, 1),
        via: silhouette(end - 0.3 * tube, r + tube * 0.7, 1, -1),
        c: corner,
        d: seen(end, 0, r),
      };
      const placed = section(chain(places, ['a', 'b', 'c', 'd'], ['line', { arc: 'via' }], false), places);
      expect(Math.abs((placed('c')?.x ?? 0) - end)).toBeLessThan(tube < 2 ? 0.15 : 0.08);
      expect(Math.abs((placed('c')?.y ?? 0) - r)).toBeLessThan(tube < 2 ? 0.4 : 0.25);
      expect(Math.abs((placed('d')?.x ?? 0) - end)).toBeLessThan(0.1);
    }
  });

  it('is left as it is seen where nothing of it runs along the axis, or it is a circle', () => {
    const places: Record<string, Vec2> = { a: { x: 3, y: -5 }, b: { x: 3, y: 5 } };
    const placed = section(chain(places, ['a', 'b'], [], false), places);
    expect([placed('a'), placed('b')]).toEqual([places.a, places.b]);
    expect(section(chain(places, ['a', 'lost'], [], false), places)('lost')).toBeNull();
  });
});

describe('a turned part in the document', () => {
  const pick = (uPx: number, vPx: number) => ({ uPx, vPx, sigmaPx: 0.1 });
  const silhouettes = [
    [pick(900, 900), pick(1900, 900)],
    [pick(900, 1700), pick(1900, 1700)],
  ] as [[ReturnType<typeof pick>, ReturnType<typeof pick>], [ReturnType<typeof pick>, ReturnType<typeof pick>]];
  const start = () => act({ job: sampleJob(), history: NO_HISTORY }, setTurned('pic', { plane: 'face', silhouettes }));
  const spot = {
    id: 's',
    plane: TURNED,
    from: pick(1, 2),
    to: pick(3, 4),
    lengthMm: 30,
    plusMinusMm: null,
    typed: '30',
  };

  it('holds spot checks and paths, which fall to the plane of its axis when it goes', () => {
    let state = act(act(start(), addSpotCheck('pic', spot)), setPathPlane('path1', TURNED));
    expect(checkJob(state.job).ok).toBe(true);
    state = act(state, changeTurnedPlane('pic', 'table'));
    const { calibration } = state.job.pictures[0]!;
    expect(spotCheckOf(spot, calibration)).toMatchObject({
      from: { plane: 'table' },
      turned: {
        silhouettes: [
          [{ uPx: 900 }, {}],
          [{}, {}],
        ],
      },
    });
    state = act(state, setTurned('pic', null));
    expect(state.job.pictures[0]!.calibration.spotChecks[0]!.plane).toBe('table');
    const traced = findPath(state.job.part, 'path1');
    expect(traced && planeOfPath(traced.sketch, traced.path)).toBe('table');
    expect(checkJob(state.job).ok).toBe(true);
  });

  it('is refused on a plane that is not there, and nothing may lie on one that is not there', () => {
    const { job } = start();
    const { calibration } = job.pictures[0]!;
    const with_ = (change: object) => ({
      ...job,
      pictures: [{ ...job.pictures[0], calibration: { ...calibration, ...change } }],
    });
    expect(checkJob(with_({ turned: { plane: 'nowhere', silhouettes } })).ok).toBe(false);
    expect(checkJob(with_({ turned: null, spotChecks: [spot] })).ok).toBe(false);
    expect(checkJob(with_({ turned: { plane: 'face', silhouettes: [silhouettes[0]] } })).ok).toBe(false);
  });

  it('gives the direction of X, and is carried to other pixels', () => {
    const job = structuredClone(start().job);
    const picture = job.pictures[0]!;
    picture.calibration.axis = { along: 'x', edges: silhouettes, plane: 'face' };
    expect(datumOf(picture).axis).toMatchObject({ along: 'x', from: { end: 0 }, to: { end: 1 } });
    reprojectPicture(job, picture, [1, 0, 10, 0, 1, 20, 0, 0, 1]);
    expect(picture.calibration.turned?.silhouettes[1][1]).toMatchObject({ uPx: 1910, vPx: 1720 });
    expect(picture.calibration.axis).toMatchObject({
      edges: [
        [{ uPx: 910 }, {}],
        [{}, {}],
      ],
    });
    expect(act(start(), removePlane('pic', 'face')).job.pictures[0]!.calibration.turned?.plane).toBe('face');
  });
});
