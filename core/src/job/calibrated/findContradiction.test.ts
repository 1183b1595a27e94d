import { describe, expect, it } from 'vitest';
import type { PickRecord } from '../../sketch';
import { type KnownLengthRecord, newPicture } from '../document/document';
import { createCalibrator } from '.';

const FILE = {
  blob: 'a'.repeat(64),
  fileName: 'section.png',
  mime: 'image/png' as const,
  facts: { widthPx: 2400, heightPx: 1800, focal35Mm: null, focalMm: null, doubts: [], resolution: null },
};
const pick = (uPx: number, vPx: number): PickRecord => ({ uPx, vPx, sigmaPx: 0.3 });
const known = (id: string, from: PickRecord, to: PickRecord, lengthMm: number): KnownLengthRecord => ({
  id,
  kind: 'known-length',
  plane: 'face',
  from,
  to,
  lengthMm,
  plusMinusMm: null,
  typed: String(lengthMm),
  graduations: null,
  width: null,
});
/** A drawing of which nothing is stated, with known lengths; pixels to the millimetre along X and along Y. */
const drawing = (alongX: number, alongY: number, ...more: KnownLengthRecord[]) => {
  const picture = newPicture('page', FILE, 'drawing');
  picture.calibration.references = [
    known('x', pick(200, 900), pick(200 + 100 * alongX, 900), 100),
    known('y', pick(300, 300), pick(300, 300 + 80 * alongY), 80),
    ...more,
  ];
  return picture;
};

describe('known lengths of a drawing that contradict each other', () => {
  it('are explained by scales that differ, which then fit', () => {
    const calibrator = createCalibrator();
    const told = calibrator.certainty(drawing(10, 12), null);
    expect(told?.contradiction?.share).toBeGreaterThan(0.15);
    expect(told?.contradiction?.scalesDiffer).toBeCloseTo(0.2, 3);
    const solved = drawing(10, 12);
    solved.calibration.freeRatio = true;
    expect(calibrator.certainty(solved, null)?.contradiction).toBeNull();
    const map = calibrator.settle(solved, null);
    expect(map.ok).toBe(true);
  });

  it('are not where one of them is simply wrong', () => {
    const wrong = drawing(10, 12, known('z', pick(300, 1200), pick(1300, 1200), 80));
    const told = createCalibrator().certainty(wrong, null);
    expect(told?.contradiction?.share).toBeGreaterThan(0.1);
    expect(told?.contradiction?.scalesDiffer).toBeNull();
  });

  it('are nothing where they agree', () => {
    expect(createCalibrator().certainty(drawing(10, 10), null)?.contradiction).toBeNull();
  });
});

describe('a length on a scan whose file states another scale', () => {
  const scan = (perMm: number, lengthPx: number) => {
    const resolution = { perMmX: perMm, perMmY: perMm, sigma: 0.0025 };
    const picture = newPicture('page', { ...FILE, facts: { ...FILE.facts, resolution } }, 'scan');
    picture.calibration.references = [known('x', pick(200, 900), pick(200 + lengthPx, 900), 100)];
    return picture;
  };

  it('is held against that, and the stated scale is named as what can be left out', () => {
    const told = createCalibrator().certainty(scan(12, 1.02 * 1200), null);
    expect(told?.references.x?.deviationShare).toBeCloseTo(0.02, 4);
    expect(told?.contradiction).toMatchObject({ statedAlone: true, scalesDiffer: null });
    const left = scan(12, 1.02 * 1200);
    left.calibration.believeResolution = false;
    expect(createCalibrator().certainty(left, null)?.contradiction).toBeNull();
  });

  it('agrees with it within what scanners keep', () => {
    const told = createCalibrator().certainty(scan(12, 1.002 * 1200), null);
    expect(told?.references.x?.fits).toBe(true);
    expect(told?.contradiction).toBeNull();
  });

  it('that was typed in inches is found as much too small', () => {
    const inches = scan(12, 1200);
    inches.calibration.references = [{ ...known('x', pick(200, 900), pick(1400, 900), 3.937) }];
    expect(createCalibrator().certainty(inches, null)?.references.x?.deviationShare).toBeCloseTo(24.4, 1);
  });
});
