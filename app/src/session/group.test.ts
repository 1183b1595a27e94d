import { type JoinRecord, type KnownLengthRecord, newPicture, type Picture } from '@steady-moth/core/job';
import { describe, expect, it } from 'vitest';
import { mapKey, ownKey } from './group';

const facts = { widthPx: 4032, heightPx: 3024, focal35Mm: 27, focalMm: 5.6, doubts: [], resolution: null };
const plain = (id: string): Picture =>
  newPicture(id, { blob: id, fileName: `${id}.jpg`, mime: 'image/jpeg', facts }, 'photo');
const pick = (uPx: number) => ({ uPx, vPx: 900, sigmaPx: 0.2 });
const readings = (toPx: number, typed = '150'): KnownLengthRecord => ({
  id: 'rule',
  kind: 'known-length',
  plane: 'reference',
  from: pick(100),
  to: pick(toPx),
  lengthMm: 150,
  plusMinusMm: null,
  typed,
  graduations: null,
  width: null,
});
const saying = (picture: Picture, calibration: Partial<Picture['calibration']>): Picture => ({
  ...picture,
  calibration: { ...picture.calibration, ...calibration },
});

describe('what a picture’s map is kept under', () => {
  const known = saying(plain('a'), { references: [readings(3000)] });

  it('is another one as soon as anything is said that moves the map', () => {
    const changed = [
      saying(known, { references: [readings(3000.001)] }),
      saying(known, { hold: 'flat-on' }),
      saying(known, { heights: { ...known.calibration.heights, face: { heightMm: 2, plusMinusMm: 0.1 } } }),
      saying(known, { axis: { along: 'y', reference: 'rule' } }),
      saying(known, { zero: { reference: 'rule', end: 'to' } }),
      saying(known, { laid: { xMm: 1, yMm: 0, turnRad: 0 } }),
      { ...known, preparation: { ...known.preparation, turns: 1 as const } },
    ];
    expect(new Set([known, ...changed].map(ownKey)).size).toBe(changed.length + 1);
  });

  it('is the same one whatever was typed and checked', () => {
    expect(ownKey(saying(known, { references: [readings(3000, '0 to 150')] }))).toBe(ownKey(known));
    const spot = { id: 's', from: pick(10), to: pick(90), plane: 'face' as const, lengthMm: 3, plusMinusMm: 0.03 };
    expect(ownKey(saying(known, { spotChecks: [spot] as Picture['calibration']['spotChecks'] }))).toBe(ownKey(known));
  });

  it('of a joined picture goes by all of them and by what joins them', () => {
    const other = plain('b');
    const join: JoinRecord = {
      id: 'p',
      kind: 'point',
      seen: ['a', 'b'].map((picture) => ({ picture, plane: 'face', pick: pick(500) })),
    };
    const group = (pictures: Picture[], joins = [join]) => ({ unit: 'mm' as const, pictures, joins });
    const key = (...of: Parameters<typeof group>) => JSON.stringify(mapKey(known, group(...of)));
    expect(key([known, other])).toBe(key([known, { ...other }]));
    expect(key([known, other])).not.toBe(key([known, saying(other, { hold: 'flat-on' })]));
    expect(key([known, other])).not.toBe(key([known, other], [{ ...join, id: 'q' }]));
    // From 20 to 170 a shared ruler shows other graduations than from 0 to 150, though both are 150 long.
    const counted = (typed: string) =>
      saying(known, {
        references: [{ ...readings(3000, typed), graduations: { spacingMm: 1, graduations: [], edge: [], far: [] } }],
      });
    expect(key([counted('0 to 150'), other])).not.toBe(key([counted('20 to 170'), other]));
    expect(JSON.stringify(mapKey(known, null))).not.toBe(key([known, other]));
  });
});
