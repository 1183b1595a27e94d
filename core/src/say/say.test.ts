import { describe, expect, it } from 'vitest';
import { measureSentence } from '.';

describe('what a script cannot measure', () => {
  it.each([
    [
      { reason: 'not-found', at: 'coin (not-round)' },
      'Nothing of the kind is found at the click of coin (no round edge).',
    ],
    [{ reason: 'unknown-point', at: 'left' }, 'A distance names the point left, which is not listed.'],
    [{ reason: 'bad-length', at: 'rule' }, 'A length of rule is missing, or is none.'],
    [{ reason: 'no-agreement' }, 'What is said contradicts itself.'],
  ])('is said in a sentence: %o', (fault, sentence) => {
    expect(measureSentence(fault)).toBe(sentence);
  });
});
