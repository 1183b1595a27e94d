import { agreementSentence } from '@steady-moth/core/say';
import { describe, expect, it } from 'vitest';
import {
  adviceSentence,
  curlSentence,
  distanceDoubt,
  joinAdviceSentence,
  verdictSentence,
  widthSentence,
} from './words';

const plain = (text: string) => text.replaceAll('\u00a0', ' ');
const agreement = (deviationMm: number, plusMinusMm: number) => ({
  found: { value: 150 + deviationMm, plusMinus: plusMinusMm },
  deviationMm,
  deviationShare: deviationMm / 150,
  plusMinusMm,
  fits: Math.abs(deviationMm) <= plusMinusMm,
});
const certainty = (alongX: number, alongY: number) =>
  ({ hundred: { alongX, alongY } }) as Parameters<typeof verdictSentence>[0];

describe('what is said of a truing', () => {
  it('tells agreement and disagreement in figures', () => {
    expect(plain(agreementSentence(agreement(0.02, 0.06), 'mm'))).toBe('agrees with the rest: +0.020 ± 0.060');
    expect(plain(agreementSentence(agreement(4.65, 0.3), 'mm'))).toMatch(
      /^the rest finds it 3\.1 % larger \(\+4\.65 ± 0\.30\)/,
    );
    expect(agreementSentence(agreement(-4.65, 0.3), 'mm')).toMatch(/smaller/);
    expect(agreementSentence(null, 'mm')).toBe('');
  });

  it('says once what is the same both ways, and inches in inches', () => {
    expect(plain(verdictSentence(certainty(0.06, 0.06), 'mm'))).toBe('100 mm in the middle are good to ± 0.060 mm.');
    expect(plain(verdictSentence(certainty(0.06, 0.19), 'mm'))).toMatch(/± 0\.060 mm along X and ± 0\.19 mm along Y/);
    expect(plain(verdictSentence(certainty(0.1, 0.1), 'in'))).toMatch(/^4 in in the middle are good to ± 0\.0040 in/);
  });

  it('says what would help, and by how much', () => {
    const said = plain(
      adviceSentence(
        {
          nowMm: 26,
          options: [
            { what: 'across', wouldBeMm: 4.9 },
            { what: 'flat-on', wouldBeMm: 7.1 },
          ],
        },
        'mm',
        false,
      ),
    );
    expect(said).toMatch(/± 26 mm, since these readings do not see/);
    // The one thing that would improve it most.
    expect(said).toMatch(/across this one.*± 4\.9 mm\.$/);
    expect(plain(adviceSentence({ nowMm: 0.3, options: [] }, 'mm', true))).toBe('In the corners it is ± 0.30 mm.');
  });

  it('asks of each kind what would explain a disagreement, and notices the wrong unit', () => {
    expect(agreementSentence(agreement(4.65, 0.3), 'mm', 'disc')).toMatch(/another coin/);
    expect(agreementSentence(agreement(4.65, 0.3), 'mm', 'square-lines')).toMatch(/really square/);
    expect(agreementSentence(agreement(150 * 24.4, 0.3), 'mm')).toMatch(/25\.4 times too small: is it in inches/);
    expect(agreementSentence(agreement(150 / 25.4 - 150, 0.3), 'mm')).toMatch(/25\.4 times too large/);
    expect(distanceDoubt(13)).toMatch(/13 mm above the table: is it in inches/);
    expect(distanceDoubt(9000)).toMatch(/9\.0 m above the table: is it in millimetres/);
    expect(distanceDoubt(300)).toBe('');
  });
});

describe('what is said of joined pictures', () => {
  it('names what would help, with figures', () => {
    const options = [
      { what: 'point' as const, wouldBeMm: 0.21 },
      { what: 'length' as const, wouldBeMm: 0.3 },
    ];
    expect(plain(joinAdviceSentence({ picture: 'b', nowMm: 0.45, options }, 'mm', () => 'right.jpg'))).toBe(
      'One more common point, as far from the others as both pictures reach, would bring that to ± 0.21 mm; a known length across right.jpg would bring that to ± 0.30 mm.',
    );
  });
});

describe('what is said of the width of a ruler', () => {
  const found = { value: 19.62, plusMinus: 0.21 };
  const measured = (deviationMm: number) =>
    ({
      found,
      deviationMm,
      deviationShare: deviationMm / 19,
      plusMinusMm: 0.22,
      fits: Math.abs(deviationMm) < 0.22,
    }) as const;

  it('is what all else finds, and whether that is what was measured', () => {
    const say = (width: Parameters<typeof widthSentence>[0], isMeasured: boolean) => {
      const { words, doubtful } = widthSentence(width, isMeasured, 'mm');
      return { words: plain(words), doubtful };
    };
    expect(say({ found, measured: null }, false)).toEqual({
      words: 'The rest gives 19.62 ± 0.21 mm.',
      doubtful: false,
    });
    expect(say({ found, measured: measured(0.1) }, true)).toEqual({
      words: 'Agrees with all else, which makes it 19.62 ± 0.21 mm.',
      doubtful: false,
    });
    const wrong = say({ found, measured: measured(0.62) }, true);
    expect(wrong.doubtful).toBe(true);
    expect(wrong.words).toMatch(
      /^The rest gives 19\.62 ± 0\.21 mm: was it measured over both edges .* So far off it counts for little\.$/,
    );
    const inches = say({ found, measured: { ...measured(-463), deviationShare: 19.62 / (19 * 25.4) - 1 } }, true);
    expect(inches.words).toMatch(/as typed it is 25\.4 times too large: is it in millimetres\?/);
    expect(say(null, true)).toEqual({ words: '', doubtful: false });
  });
});

describe('what is said of a curled sheet', () => {
  const along = (from: [number, number], to: [number, number]) =>
    [0.1, 0.5, 0.9].map((t) => ({
      uPx: from[0] + t * (to[0] - from[0]),
      vPx: from[1] + t * (to[1] - from[1]),
      sigmaPx: 0.1,
    }));
  const [a, b, c, d]: [number, number][] = [
    [100, 900],
    [1300, 920],
    [1290, 80],
    [110, 70],
  ];
  const sheet = { edges: [along(a!, b!), along(b!, c!), along(c!, d!), along(d!, a!)] } as Parameters<
    typeof curlSentence
  >[0];

  it('names its edges as they lie in the picture, with figures', () => {
    const bowed = [
      { reference: 's', edge: 1, outMm: 0.61, plusMinusMm: 0.08 },
      { reference: 's', edge: 2, outMm: -0.2, plusMinusMm: 0.05 },
    ];
    expect(plain(curlSentence(sheet, bowed, 'mm'))).toMatch(
      /^Its right edge bulges out by 0\.610 ± 0\.080 mm, its upper edge is hollow by 0\.200 ± 0\.050 mm: is it curled\?/,
    );
    expect(curlSentence(sheet, [], 'mm')).toBe('');
  });
});
