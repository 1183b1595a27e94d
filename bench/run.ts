// npm run bench [-- --scenes N] [--slow N] [--only accuracy|coins|holes|lying|reading|settling|solid|times]:
// measures the figures of docs/measurement.md, prints them as a table, and writes docs/bench.md. With --only the other
// rows stay; `harder` is all from coins to reading.
import { readFileSync, writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { fileURLToPath } from 'node:url';
import { measureAccuracy } from './accuracy';
import type { AddRow } from './addRow';
import {
  measureCoinsDrawnElsewhere,
  measureHarderCoins,
  measureHarderHoles,
  measureLying,
  measureReading,
} from './harder';
import { measureSettling } from './settling';
import { measureSolid } from './solid';
import { measureTimes } from './times';

const after = (name: string): string | undefined => {
  const at = process.argv.indexOf(name);
  return at > 0 ? process.argv[at + 1] : undefined;
};
const scenes = Number(after('--scenes') ?? 200);
// Of ways that take long, fewer if wanted.
const slow = Number(after('--slow') ?? scenes);
const only = after('--only');
const path = fileURLToPath(new URL('../docs/bench.md', import.meta.url));
const before = readFileSync(path, 'utf8').split('\n');
const today = new Date().toISOString().slice(0, 10);

interface Part {
  name: string;
  /** What it is called over the table, and how it was measured. */
  title: string;
  args?: string;
  /** Whether the machine it ran on is said. */
  isTimed?: boolean;
  /** A row that it wrote: what it measured, and its seeds. */
  isMine(what: string, seeds: string): boolean;
  measure(row: AddRow): Promise<void>;
}

const isHarder = (pattern: RegExp) => (what: string, seeds: string) => seeds === 'harder' && pattern.test(what);
const PARTS: readonly Part[] = [
  {
    name: 'accuracy',
    title: 'Accuracy',
    args: ` --scenes ${scenes} --slow ${slow}`,
    isMine: (_, seeds) => seeds === 'fixed' || seeds === 'fresh',
    measure: (row) => measureAccuracy(row, scenes, slow),
  },
  {
    name: 'coins',
    title: 'Coins that mislead',
    isMine: isHarder(/^a coin/),
    measure: async (row) => {
      await measureHarderCoins(row);
      await measureCoinsDrawnElsewhere(row);
    },
  },
  { name: 'holes', title: 'Holes that mislead', isMine: isHarder(/^diameter of a hole/), measure: measureHarderHoles },
  {
    name: 'lying',
    title: 'Rulers, grids and sheets that mislead',
    isMine: isHarder(/^a (ruler|printed grid|sheet), /),
    measure: measureLying,
  },
  {
    name: 'reading',
    title: 'Figures read',
    isMine: isHarder(/^(a ruler: |printed dimensions)/),
    measure: measureReading,
  },
  {
    name: 'settling',
    title: 'Settling',
    isTimed: true,
    isMine: (_, seeds) => seeds === 'settling',
    measure: measureSettling,
  },
  { name: 'solid', title: 'Bodies', isTimed: true, isMine: (_, seeds) => seeds === 'solid', measure: measureSolid },
  { name: 'times', title: 'Times', isTimed: true, isMine: (_, seeds) => seeds === '', measure: measureTimes },
];
const HARDER = ['coins', 'holes', 'lying', 'reading'];
const isWanted = ({ name }: Part): boolean =>
  only === undefined || only === name || (only === 'harder' && HARDER.includes(name));

const rows: string[] = [];
const measured: string[] = [];
for (const part of PARTS) {
  // The heading's cells are no part's.
  const own = before.filter((line) => {
    const [what = '', seeds = ''] = line.slice(2).split(' | ');
    return line.startsWith('| ') && part.isMine(what, seeds.trim());
  });
  const heading = before.find((line) => line.startsWith(`${part.title}: `));
  if (!isWanted(part)) {
    rows.push(...own);
    if (heading) measured.push(heading);
    continue;
  }
  await part.measure((...cells) => {
    rows.push(`| ${cells.join(' | ')} |`);
    console.log(cells.join(' | '));
  });
  const machine = part.isTimed
    ? `, Node ${process.versions.node}, ${cpus().length} cores (${cpus()[0]?.model.trim()})`
    : '';
  const varies = part.name === 'times' ? ' They vary two- to threefold between machines: the ratios say more.' : '';
  measured.push(
    `${part.title}: \`npm run bench -- --only ${part.name}${part.args ?? ''}\`, ${today}${machine}.${varies}`,
  );
}
writeFileSync(
  path,
  `# Figures

${measured.join('\n\n')}

| what | seeds | scenes | measured | wanted |
| --- | --- | --- | --- | --- |
${rows.join('\n')}

How each row is made stands in \`bench/rows/\`. Scenes by geometry alone draw the camera from the priors of docs/measurement.md (tilt cut off at 40°) and add what the estimator does not model: a third radial term and decentring. Rows that name a tilt draw it evenly up to that, any way round, and the distortion evenly up to ± 0.12 for the grid and the paper; of several poses shown the true one counts there. One ruler is measured within 100 mm of it, everything else over all of the part. Random sketches that are not settled have a rounded corner whose ends were disturbed by as much as its radius: it is seen bowing the other way, and is taken so. "Held" is the share of scenes in which the ± of 95 % holds the truth, with the interval of that share.

## What it costs as the work grows

- A pointer move costs one look in the pixels' worker (a patch of at most 140 × 140 px, 10 to 20 ms; up to 100 ms where two edges lie within two pixels of each other and are fitted together) and one small picture back; moves that come faster are dropped but for the last.
- A changed view redraws what is visible: proportional to the board's pixels, not to the picture's. The whole picture is drawn once, at most 900 px wide, as a stand-in.
- A picture is held once at full size and a third more in halved copies: 64 MB for 12 megapixels, 270 MB for 50. Up to 900 MB are held; what was not looked at longest is dropped and decoded again when it is wanted. More than 150 megapixels are not drawn on one board at once.
- Tones and the cleared background are put over the visible part as it was drawn last: two passes over the board's pixels, none over the picture's. The table of what is cleared, a quarter million colours, is worked out once for each colour and tolerance.
- Every further picture on the board is one more redrawing of the visible part when the view changes.
- The estimate has eight unknowns, one for each uncertain height and up to ten for each yardstick; one observation for each known length, and one or two for each place of the others. A step of its descent costs 2 to 4 µs a place; the rough descents and the draws use 32 places of a yardstick at most. Where the tilt is barely seen 400 truings are drawn, each a descent of its own; with more known lengths fewer are needed, and none once the tilt is known to 0.6°.
- Joined pictures are one estimate of all their unknowns and three more for each further picture. Each is estimated alone first, and kept while another one is changed; then all together, from at most six combinations of their poses, and with 200 draws where a tilt is barely seen. The normal equations grow with the square of the unknowns: two pictures, each of a ruler, have 29, ten have 157.
- A picture's straight lines are looked for once, in a copy of 400 px: 0.15 to 0.4 s for 2,550 to 4,032 px; the sheets that they close cost up to 0.15 s more. Strokes are looked for on both sides of each long edge: 0.7 to 1.2 s altogether for 2 to 12 such edges.
- A disc costs 0.3 to 0.9 s from one click: 120 directions looked along, and four thousand ellipses voted on, each given up as soon as it cannot win. One whose rim is uneven is looked at from up to three places and costs as many times that.
- What relations and sizes tie together is settled as one: some twenty factorings of its equations, each about 1 ms at 300 pieces and in proportion beyond; the order of elimination is kept as long as the conditions stay. A frame of a drag goes on from the last one with three to six factorings. What nothing ties costs nothing. A ± costs one solve for each number that the path hangs on.
- A body is worked in a worker, feature by feature; each keeps what came out of it, so that a changed figure costs its own feature and those after it. The modelling kernel is 23 MB (7 MB on the way), fetched when a body is first looked at and never before. Rounded edges cost most. What the screen shows is meshed to 1/2000 of the body's size.
- A change writes the job and its history (up to 1,000 changes) as text in one transaction, made in stretches of 8 ms; pictures are written once.
- A figure of a path costs what its own points cost, and the length and the area one derivative for each piece's own points: 0.05 ms a piece by the covariance, 1 ms by 400 draws. The slip asks for the figures of the path that is chosen, 60 pieces at a time, and for the diameters of circles in sight.
- Up to 600 points are elements of the page. Of more, the path in hand is, and all others are one picture: a pan or a zoom moves it, and it is painted anew in a worker once the view is still. A drag works out again the path in hand alone.
`,
);
