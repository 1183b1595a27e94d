import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { calibrate } from '../estimate/calibrate';
import { backProject } from '../model/backProject';
import { prepareCamera } from '../model/camera';
import { placeInFrame } from '../model/frame';
import { type Datum, datumBy, type Laid, planeMap } from './datum';

const NO_SPREAD = 0.1;
/** A scanned page at four dots to the millimetre: where its pixels lie is plain arithmetic. */
const page = calibrate({
  facts: {
    widthPx: 800,
    heightPx: 600,
    focal35Mm: null,
    focalMm: null,
    doubts: [],
    resolution: { perMmX: 4, perMmY: 4, sigma: 0.001 },
  },
  lens: 'page',
  believeResolution: true,
  hold: 'free',
  planes: [{ id: 'face', heightMm: 0, plusMinusMm: 0 }],
  references: [],
});
if (!page.ok) throw new Error(page.reason);
const { calibration } = page;
const middle = { uPx: 400, vPx: 300 };
const pick = (uPx: number, vPx: number) => ({ uPx, vPx, sigmaPx: NO_SPREAD, plane: 'face' });
const coordinate = fc.double({ min: -300, max: 300, noNaN: true });
const laids = fc.record({ xMm: coordinate, yMm: coordinate, turnRad: fc.double({ min: -6, max: 6, noNaN: true }) });
const places = fc.tuple(fc.integer({ min: 0, max: 800 }), fc.integer({ min: 0, max: 600 }));

/** The place of a pixel in the part's frame, as a map has it. */
function onPart(datum: Datum, u: number, v: number): [number, number] {
  const map = planeMap(calibration, datum, 'face', middle);
  const world = new Float64Array(2);
  backProject(prepareCamera(calibration.parameters, calibration.lens), u, v, 0, world);
  return placeInFrame(map, world[0]!, world[1]!);
}

/** Turned first, then moved: what is meant by a zero that lies at a place of the part. */
const moved = ([x, y]: readonly [number, number], { xMm, yMm, turnRad }: Laid): [number, number] => [
  Math.cos(turnRad) * x - Math.sin(turnRad) * y + xMm,
  Math.sin(turnRad) * x + Math.cos(turnRad) * y + yMm,
];

describe('a picture that is laid on the part', () => {
  it('has all its places turned about its zero and moved to where that lies, seen from behind as well', () => {
    fc.assert(
      fc.property(laids, places, places, fc.boolean(), (laid, zero, at, flip) => {
        const own: Datum = {
          zero: pick(...zero),
          axis: { from: pick(100, 300), to: pick(700, 360), along: 'x' },
          flip,
        };
        const [x, y] = onPart({ ...own, laid }, ...at);
        const expected = moved(onPart(own, ...at), laid);
        expect(x).toBeCloseTo(expected[0], 6);
        expect(y).toBeCloseTo(expected[1], 6);
      }),
    );
  });

  it('moves with its datum: zero picked elsewhere takes the part along, seen in its own frame', () => {
    fc.assert(
      fc.property(
        laids,
        fc.double({ min: -2, max: 2, noNaN: true }),
        fc.double({ min: -2, max: 2, noNaN: true }),
        (laid, dx, dy) => {
          const datum: Datum = { zero: pick(200, 200), axis: null, laid };
          // Its pick lies off where it was seen by so much along the part's X and Y.
          const { x, y, turn } = datumBy(datum, [laid.xMm + dx, laid.yMm + dy], 0);
          expect([x, y, turn]).toEqual([expect.closeTo(dx, 9), expect.closeTo(dy, 9), 0]);
        },
      ),
    );
  });

  it('turns the part along where its X was picked otherwise', () => {
    const laid = { xMm: 40, yMm: -10, turnRad: 0.7 };
    const datum: Datum = { zero: pick(0, 0), axis: { from: pick(0, 0), to: pick(1, 0), along: 'x' }, laid };
    const by = 0.01;
    const way = laid.turnRad + by;
    const p = [40, -10, 40, -10, 40 + 100 * Math.cos(way), -10 + 100 * Math.sin(way)];
    const { x, y, turn } = datumBy(datum, p, 0);
    expect(turn).toBeCloseTo(by, 9);
    // What was at its zero stays there.
    const [px, py] = [40 - x, -10 - y];
    expect(Math.cos(turn) * px + Math.sin(turn) * py).toBeCloseTo(40, 9);
    expect(Math.cos(turn) * py - Math.sin(turn) * px).toBeCloseTo(-10, 9);
  });
});
