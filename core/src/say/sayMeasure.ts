/** Why a request from a script cannot be answered, by its reason; `at` says which yardstick, point or picture is meant. */
const REASONS: Readonly<Record<string, (at: string) => string>> = {
  'no-yardstick': () => 'Nothing of a known size is said of the picture.',
  'picks-coincide': (at) => `All places of ${at || 'a yardstick'} lie in one place, or on one line.`,
  'unknown-plane': (at) => `A plane is named that "heights" does not have${at && `, at ${at}`}.`,
  'outside-model': () => 'No camera could have seen these lengths together: one of them is wrong by far.',
  'no-agreement': () => 'What is said contradicts itself.',
  'bad-length': (at) => `A length of ${at || 'a yardstick'} is missing, or is none.`,
  'strokes-not-counted': (at) =>
    `The graduations of ${at} could not be counted, or do not make the length that is said.`,
  'not-found': (at) => `Nothing of the kind is found at the click of ${at}.`,
  'no-pixels': (at) => `${at} has a click, and the picture has no pixels to look at.`,
  'unknown-point': (at) => `A distance names the point ${at}, which is not listed.`,
  'without-bound': (at) =>
    `The ± of ${at} would have no bound: it lies at or beyond the horizon of a camera that the yardsticks allow.`,
  'too-little-joins': (at) =>
    `Too little joins ${at} with the others: two common points far apart are needed, or a ruler.`,
  'which-is-which': (at) => `In ${at} it is not clear which crossing of the grid is which: one common point tells.`,
  'pictures-missing': () => 'The request speaks of another number of pictures than were given.',
  'picture-twice': (at) => `Two pictures are called ${at}.`,
  'unknown-picture': (at) => `A join or a distance names the picture ${at}, which is not listed.`,
  'unknown-yardstick': (at) => `A join names the yardstick ${at}, which is not listed.`,
  'not-numbered': (at) => `Of ${at} both readings are needed, as "20 to 210", so that it can be joined.`,
};

/** What a finder saw instead, in words. */
const DETAILS: Readonly<Record<string, string>> = {
  'no-strokes': 'no even graduations',
  'too-fine': 'graduations or lines too fine to be told apart',
  'too-few': 'too few graduations',
  hidden: 'too much of it is hidden',
  'not-round': 'no round edge',
  covered: 'too little of the rim is seen',
  'runs-out': 'it runs out of the picture',
  'no-sheet': 'nothing stands out against its ground',
  'not-four-sides': 'not four straight edges',
  'no-grid': 'no two rows of lines, and no checkerboard',
  'not-on-strokes': 'a reading is on no graduation',
  'not-even': 'no even graduations between the readings',
  'another-length': 'as many as were counted do not make that length',
};

export function measureSentence({ reason, at = '' }: { reason: string; at?: string }): string {
  const worded = at.replace(/\(([a-z-]+)\)$/, (whole, code: string) => (DETAILS[code] ? `(${DETAILS[code]})` : whole));
  return REASONS[reason]?.(worded) ?? `This cannot be measured: ${reason}${at && `, at ${worded}`}.`;
}
