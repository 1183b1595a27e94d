import sharp from 'sharp';
import { findAll, findRuler, type RulerResult } from '../../core/src/find';
import { seededRandom } from '../../core/src/numeric';
import type { Pixels } from '../../core/src/raster';
import { type ReadDimension, type ReadText, readDrawing, readRulerFigures } from '../../core/src/read';
import { type DrawnRuler, drawDimensioned, drawRuler, type RulerKind } from '../../rig/src/harder';

/** An SVG as a scanner's or a camera's file has it: blurred, grainy, JPEG; turned by so many degrees. */
async function pictured(svg: string, seed: number, turn: number, grain: number): Promise<Pixels> {
  const random = seededRandom(seed);
  const { data, info } = await sharp(Buffer.from(svg))
    .flatten({ background: '#fff' })
    .rotate(turn, { background: '#ccc' })
    .blur(0.6 + 0.5 * random())
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const { width, height } = info;
  const grainy = Buffer.from(data.map((v) => Math.max(0, Math.min(255, v + grain * (random() + random() - 1)))));
  const jpeg = await sharp(grainy, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 88 })
    .toBuffer();
  return { width, height, data: await sharp(jpeg).ensureAlpha().raw().toBuffer() };
}

export interface RulerRow {
  scenes: number;
  /** Without a click, and with one. */
  foundAlone: number;
  found: number;
  counted: number;
  /** What the lengths of the strokes say: the right scale alone, among others, another one only, nothing. */
  families: { right: number; offered: number; wrong: number; none: number };
  /** What the figures say: the right scale and both ends; the right scale; wrong with a doubt said; wrong; nothing. */
  figures: { right: number; scale: number; doubted: number; wrong: number; none: number };
}

const MM = { mm: 1, cm: 10, in: 25.4 } as const;

export async function measureRulers(
  kind: RulerKind,
  firstSeed: number,
  scenes: number,
  read: ReadText,
): Promise<RulerRow> {
  const row: RulerRow = {
    scenes,
    foundAlone: 0,
    found: 0,
    counted: 0,
    families: { right: 0, offered: 0, wrong: 0, none: 0 },
    figures: { right: 0, scale: 0, doubted: 0, wrong: 0, none: 0 },
  };
  for (let seed = firstSeed; seed < firstSeed + scenes; seed++) {
    const drawn = drawRuler(kind, seed);
    const random = seededRandom(seed + 5);
    const perMm = kind.spacingMm < 0.9 ? 13 + 5 * random() : 8 + 6 * random();
    const pixels = await pictured(drawn.svg(perMm), seed, 0, 10);
    const alone = findAll(pixels).find((thing) => thing.kind === 'ruler')?.found;
    const clicked = alone ?? findRuler(pixels, clickOn(drawn, perMm));
    if (alone) row.foundAlone += 1;
    if (!clicked.ok) continue;
    const ruler: Extract<RulerResult, { ok: true }> = clicked;
    row.found += 1;
    const [a, b] = [ruler.from, ruler.to].map((p) => nearestStroke(drawn, p.uPx / perMm, p.vPx / perMm)) as [
      number,
      number,
    ];
    if (Math.abs(a - b) === ruler.count) row.counted += 1;
    const isRight = (mm: number): boolean => Math.abs(mm / kind.spacingMm - 1) < 1e-6;
    const { families } = ruler;
    if (families.length === 0) row.families.none += 1;
    else if (!families.some((f) => isRight(f.spacingMm))) row.families.wrong += 1;
    else row.families[families.length === 1 ? 'right' : 'offered'] += 1;
    const said = await readRulerFigures(pixels, ruler, read);
    if (!said) row.figures.none += 1;
    else if (isRight(said.spacingMm)) {
      const readingMm = (n: number) => MM[kind.unit] * (drawn.firstReading + (n * kind.figureStep) / kind.figureEvery);
      const ends = [said.first * MM[said.unit] - readingMm(a), said.last * MM[said.unit] - readingMm(b)];
      row.figures[ends.every((off) => Math.abs(off) < 1e-6) ? 'right' : 'scale'] += 1;
    } else row.figures[said.doubt || said.orUnit === kind.unit ? 'doubted' : 'wrong'] += 1;
  }
  return row;
}

/** Beside the middle of its strokes, two millimetres into it. */
function clickOn({ feet }: DrawnRuler, perMm: number): { uPx: number; vPx: number } {
  const [p, q] = [feet[feet.length >> 1]!, feet[(feet.length >> 1) + 1]!];
  const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
  return { uPx: perMm * (p[0] - (2 * (q[1] - p[1])) / length), vPx: perMm * (p[1] + (2 * (q[0] - p[0])) / length) };
}

function nearestStroke({ feet }: DrawnRuler, x: number, y: number): number {
  const [p, q] = [feet[0]!, feet[1]!];
  const [wx, wy] = [q[0] - p[0], q[1] - p[1]];
  return Math.round(((x - p[0]) * wx + (y - p[1]) * wy) / (wx * wx + wy * wy));
}

export interface DrawingRow {
  drawings: number;
  dimensions: number;
  /** Between the right lines, with the right figure. */
  right: number;
  /** Of those, said to agree with the rest. */
  agreeing: number;
  /** A wrong figure, or one between lines where none stands: said to be in doubt, or not. */
  wrongSaid: number;
  wrongSilent: number;
  missing: number;
}

const RESOLUTIONS = [200, 300, 300, 400] as const;

export async function measureDrawings(firstSeed: number, drawings: number, read: ReadText): Promise<DrawingRow> {
  const row: DrawingRow = { drawings, dimensions: 0, right: 0, agreeing: 0, wrongSaid: 0, wrongSilent: 0, missing: 0 };
  for (let seed = firstSeed; seed < firstSeed + drawings; seed++) {
    const drawn = drawDimensioned(seed);
    const perMm = RESOLUTIONS[seed % RESOLUTIONS.length]! / 25.4;
    const turn = 8 * (seededRandom(seed)() - 0.5);
    const pixels = await pictured(drawn.svg(perMm), seed, turn, 8);
    const left = new Set(await readDrawing(pixels, read));
    const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
    const at = ([x, y]: readonly [number, number]): [number, number] => {
      const [dx, dy] = [perMm * (x - drawn.widthMm / 2), perMm * (y - drawn.heightMm / 2)];
      return [pixels.width / 2 + c * dx - s * dy, pixels.height / 2 + s * dx + c * dy];
    };
    for (const { value, from, to } of drawn.dimensions) {
      row.dimensions += 1;
      const found = [...left].find((d) => isBetween(d, at(from), at(to)));
      if (!found) {
        row.missing += 1;
        continue;
      }
      left.delete(found);
      if (Math.abs(found.value - value) < 1e-9) {
        row.right += 1;
        if (found.check === 'agrees') row.agreeing += 1;
      } else row[found.check === 'agrees' ? 'wrongSilent' : 'wrongSaid'] += 1;
    }
    for (const extra of left) row[extra.check === 'agrees' ? 'wrongSilent' : 'wrongSaid'] += 1;
  }
  return row;
}

/** How far both picks may stand off along the dimension's way, and off its line, px. */
const NEAR = { along: 8, aside: 80 } as const;

function isBetween({ from, to }: ReadDimension, p: [number, number], q: [number, number]): boolean {
  const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
  const [ux, uy] = [(q[0] - p[0]) / length, (q[1] - p[1]) / length];
  const isNear = (pick: { uPx: number; vPx: number }, end: [number, number]): boolean => {
    const [dx, dy] = [pick.uPx - end[0], pick.vPx - end[1]];
    return Math.abs(dx * ux + dy * uy) < NEAR.along && Math.abs(dx * uy - dy * ux) < NEAR.aside;
  };
  return (isNear(from, p) && isNear(to, q)) || (isNear(from, q) && isNear(to, p));
}
