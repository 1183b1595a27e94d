import { describe, expect, it } from 'vitest';
import {
  clippingWords,
  contrastWords,
  doubtWords,
  GOOD_ENOUGH,
  lensWords,
  resolutionWords,
  sharpnessWords,
  statedWords,
} from './words';

const judged = (part: object) => ({ blurPx: 1, edges: 20, white: 0, black: 0, contrast: 0.5, ...part });
const facts = (focal35Mm: number | null) => ({
  widthPx: 4000,
  heightPx: 3000,
  focal35Mm,
  focalMm: null,
  doubts: [],
  resolution: null,
});

describe('what is said of a picture', () => {
  it.each([
    [1, /Sharp\./],
    [GOOD_ENOUGH.sharpPx + 0.1, /soft/],
    [GOOD_ENOUGH.blurredPx + 0.1, /Blurred/],
    [null, /No clear edge/],
  ])('tells a blur of %s px', (blurPx, words) => {
    expect(sharpnessWords(judged({ blurPx }), 'photo')).toMatch(words);
  });

  it('tells flat pictures, blown highlights and blocked shadows', () => {
    expect(contrastWords(judged({}), 'photo')).toMatch(/told apart/);
    expect(contrastWords(judged({ contrast: 0.1 }), 'photo')).toMatch(/^Flat/);
    expect(clippingWords(judged({ white: 0.1 }), 'photo')).toMatch(/Blown highlights in/);
    expect(clippingWords(judged({ black: 0.1 }), 'photo')).toMatch(/Blocked shadows in/);
    expect(clippingWords(judged({}), 'photo')).toMatch(/^No blown highlights/);
  });

  it('speaks to a scan of its glass, not of light and tilt', () => {
    const all = [
      sharpnessWords(judged({ blurPx: 9 }), 'scan'),
      contrastWords(judged({ contrast: 0.1 }), 'scan'),
      clippingWords(judged({ white: 0.1 }), 'scan'),
    ];
    for (const words of all) expect(words).toMatch(/[Ss]can it/);
    for (const words of all) expect(words).not.toMatch(/side|camera|flash|focus/);
  });

  it('says at which resolution an edge would be as fine as a caliper asks', () => {
    expect(resolutionWords(0.02, 1, 'scan')).not.toMatch(/take it/);
    expect(resolutionWords(25.4 / 50, 1, 'scan')).toMatch(/take it at 150 to the inch/);
    expect(resolutionWords(0.5, 3, 'photo')).toMatch(/from nearer, at 9 px\/mm/);
  });

  it('names a wide lens, and no other', () => {
    expect(lensWords(facts(18))).toMatch(/A wide lens: it stands close/);
    expect(lensWords(facts(27))).not.toMatch(/wide/);
    expect(lensWords(facts(null))).toMatch(/does not say/);
  });

  it('tells how far a stated scale is believed', () => {
    const scan = { perMmX: 300 / 25.4, perMmY: 299 / 25.4, sigma: 0.005 };
    expect(statedWords(scan, 'scan', true)).toMatch(/± 1\.0 %.*299 to the inch/);
    expect(statedWords({ ...scan, perMmY: scan.perMmX, sigma: 1e-4 }, 'drawing', true)).toBe("The page's own scale.");
    expect(statedWords(scan, 'photo', true)).toMatch(/no scale of its own/);
    expect(statedWords(scan, 'scan', false)).toMatch(/^Left out/);
    expect(statedWords(null, 'scan', true)).toMatch(/states no scale/);
  });

  it('names what makes a file doubtful', () => {
    expect(doubtWords('zoomed').title).toBe('Digital zoom');
    expect(doubtWords('cropped').text).toMatch(/allowed for/);
  });

  it('says what a pixel is worth once that is known', () => {
    expect(resolutionWords(0.05, 1)).toMatch(/A pixel is 0\.050 mm; an edge can be placed to ± 0\.005 mm/);
    expect(resolutionWords(null, 1)).toMatch(/as soon as/);
  });
});
