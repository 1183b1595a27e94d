import { buildCamera, type CameraSetup, pictureOf } from '@steady-moth/rig/camera';
import { normalRandom, seededRandom } from '../../../numeric';
import type {
  CalibrationInput,
  Disc,
  EqualLengths,
  Grid,
  KnownLength,
  PixelPick,
  Reference,
  Sheet,
  SquareLines,
} from '../..';

/** What the locator tells of a clear edge, px. */
const SIGMA_PX = 0.06;

export const SETUP: CameraSetup = {
  widthPx: 4032,
  heightPx: 3024,
  cPx: 3100,
  centre: [2010, 1520],
  radial: [0.03, -0.02, 0],
  decentring: [0, 0],
  target: [0, 0],
  distanceMm: 330,
  tilt: 0.2,
  tiltTowards: -1.9,
  roll: 0.05,
};

/** Yardsticks as the simulated camera sees them: the truth is the rig's own geometry. */
export function seenBy(setup: CameraSetup, seed: number) {
  const camera = buildCamera(setup);
  const normal = normalRandom(seededRandom(seed));
  const pick = (x: number, y: number, z = 0, sigmaPx = SIGMA_PX): PixelPick => {
    const [uPx, vPx] = pictureOf(camera, { x, y, z }) ?? [0, 0];
    return { uPx: uPx + sigmaPx * normal(), vPx: vPx + sigmaPx * normal(), sigmaPx };
  };
  const along = (a: [number, number], b: [number, number], count: number) =>
    Array.from({ length: count }, (_, k) => {
      const t = 0.05 + (0.9 * k) / (count - 1);
      return pick(a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1]));
    });
  return {
    camera,
    pick,
    length: (id: string, a: [number, number], b: [number, number], lengthMm = Math.hypot(b[0] - a[0], b[1] - a[1])) =>
      ({
        id,
        kind: 'known-length',
        plane: 'table',
        from: pick(...a),
        to: pick(...b),
        lengthMm,
        plusMinusMm: 0.02,
      }) as KnownLength,
    ruler: (id: string, x: number, y: number, lengthMm: number, widthMm = 19): KnownLength => ({
      id,
      kind: 'known-length',
      plane: 'table',
      from: pick(x, y - 2),
      to: pick(x + lengthMm, y - 2),
      lengthMm,
      plusMinusMm: null,
      graduations: {
        spacingMm: 1,
        graduations: Array.from({ length: lengthMm + 1 }, (_, n) => ({
          n,
          places: [pick(x + n, y - 0.8), pick(x + n, y - 2.4)],
        })),
        edge: Array.from({ length: 30 }, (_, k) => pick(x + (k * lengthMm) / 30, y)),
        far: Array.from({ length: 30 }, (_, k) => pick(x + (k * lengthMm) / 30, y - widthMm)),
      },
    }),
    /** The rim as it is seen: of both circles, at each direction from the middle the one that reaches further out. */
    disc(id: string, x: number, y: number, diameterMm: number, thicknessMm: number, known = diameterMm): Disc {
      const bevel = Math.min(0.25, thicknessMm / 2);
      const heights = thicknessMm > 0 ? [thicknessMm - bevel, bevel] : [0];
      const middle = pictureOf(camera, { x, y, z: thicknessMm / 2 }) ?? [0, 0];
      const fine = heights.map((z) =>
        Array.from({ length: 7200 }, (_, k) => {
          const angle = (2 * Math.PI * k) / 7200;
          return pictureOf(camera, {
            x: x + (diameterMm / 2) * Math.cos(angle),
            y: y + (diameterMm / 2) * Math.sin(angle),
            z,
          }) as [number, number];
        }),
      );
      const rim = Array.from({ length: 64 }, (_, k): PixelPick => {
        const angle = (2 * Math.PI * k) / 64 + 0.01;
        const away = fine.map((ring) =>
          ring.reduce(
            (best, [u, v]) => {
              const turn = Math.abs(Math.sin((Math.atan2(v - middle[1], u - middle[0]) - angle) / 2));
              return turn < best.turn ? { turn, far: Math.hypot(u - middle[0], v - middle[1]) } : best;
            },
            { turn: 2, far: 0 },
          ),
        );
        const far = Math.max(...away.map((a) => a.far)) + SIGMA_PX * normal();
        return { uPx: middle[0] + far * Math.cos(angle), vPx: middle[1] + far * Math.sin(angle), sigmaPx: SIGMA_PX };
      });
      return { id, kind: 'disc', plane: 'table', rim, diameterMm: known, plusMinusMm: 0.02, thicknessMm };
    },
    /**
     * Its upper rim all round, half of the bevel below its face, and the foot of its wall on the near side; each circle bent by
     * so much of its radius, as light and rounding do.
     */
    twoRims(id: string, x: number, y: number, diameterMm: number, thicknessMm: number, bent = 0): Disc {
      const circle = (z: number, inset: number, count: number, from: number, to: number) =>
        Array.from({ length: count }, (_, k) => {
          const angle = from + ((to - from) * k) / count;
          const radius = (diameterMm / 2) * (1 - inset + bent * Math.cos(angle - 1) + 0.3 * bent * Math.cos(2 * angle));
          return pick(x + radius * Math.cos(angle), y + radius * Math.sin(angle), z, 0.3);
        });
      // The lens stands over the middle of the table: a foot shows on the side that is turned to it.
      const near = Math.atan2(-y, -x);
      return {
        id,
        kind: 'disc',
        plane: 'table',
        rim: circle(thicknessMm - 0.1, 0.005, 120, 0, 2 * Math.PI),
        foot: circle(0.2, 0.002, 40, near - 1, near + 1),
        diameterMm,
        plusMinusMm: 0.05,
        thicknessMm,
      };
    },
    sheet(id: string, x: number, y: number, w: number, h: number, known = [w, h], plusMinusMm = 0.05): Sheet {
      const c: [number, number][] = [
        [x, y],
        [x + w, y],
        [x + w, y + h],
        [x, y + h],
      ];
      const edges = [0, 1, 2, 3].map((k) => along(c[k]!, c[(k + 1) % 4]!, 24)) as Sheet['edges'];
      return { id, kind: 'sheet', plane: 'table', edges, widthMm: known[0]!, heightMm: known[1]!, plusMinusMm };
    },
    grid(id: string, x: number, y: number, pitchMm: number, columns: number, rows: number, known = pitchMm): Grid {
      const crossings = Array.from({ length: columns * rows }, (_, k) => {
        const [i, j] = [k % columns, Math.floor(k / columns)];
        return { i, j, pick: pick(x + i * pitchMm, y + j * pitchMm) };
      });
      return { id, kind: 'grid', plane: 'table', crossings, pitchMm: known, plusMinusShare: 0.0004 };
    },
    lines: (id: string, spans: ['x' | 'y', [number, number], [number, number]][]): SquareLines => ({
      id,
      kind: 'square-lines',
      plane: 'table',
      lines: spans.map(([way, a, b]) => ({ along: way, from: pick(...a), to: pick(...b) })),
      plusMinusRad: null,
    }),
    equal: (id: string, spans: [[number, number], [number, number]][]): EqualLengths => ({
      id,
      kind: 'equal-lengths',
      plane: 'table',
      lengths: spans.map(([a, b]) => ({ from: pick(...a), to: pick(...b) })),
      plusMinusShare: null,
    }),
  };
}

export const inputOf = (...references: Reference[]): CalibrationInput => ({
  facts: { widthPx: 4032, heightPx: 3024, focal35Mm: 27, focalMm: 5.6, doubts: [], resolution: null },
  lens: 'photo',
  believeResolution: false,
  hold: 'free',
  planes: [],
  references,
});
