import {
  clip,
  endPath,
  type PDFFont,
  type PDFPage,
  popGraphicsState,
  pushGraphicsState,
  rectangle,
  rgb,
  StandardFonts,
} from 'pdf-lib';
import type { Vec2 } from '../../geometry';
import { NO_SHARE } from '../../geometry';
import { CHECK_BAR_MM, type FlatProfile, layOutProfile, NOTE_MM } from '../profile/flatProfile';
import { barPath, drawProfile, encodable, LINE_MM, newDocument, PER_MM, round } from './writePdf';

/** Sheets of printers at home, narrow side first, mm (ISO 216; ANSI/ASME Y14.1). */
export const PAPERS = {
  A4: [210, 297],
  A3: [297, 420],
  Letter: [215.9, 279.4],
  Legal: [215.9, 355.6],
} as const satisfies Record<string, readonly [number, number]>;
export type Paper = keyof typeof PAPERS;

export interface Tiling {
  paper: Paper;
  /** What the printer leaves white at each rim, mm. */
  marginMm: number;
  /** By how much neighbouring pages show the same, mm. */
  overlapMm: number;
}

export const TILING = { margin: { least: 3, most: 30 }, overlap: { least: 5, most: 60 } } as const;

/** How a drawing is laid over pages; columns from the left, rows from the top. */
export interface TilePlan {
  widthMm: number;
  heightMm: number;
  columns: number;
  rows: number;
  /** What a page shows of the drawing, and from one page to the next, mm. */
  tile: { widthMm: number; heightMm: number };
  step: { xMm: number; yMm: number };
}

/** Kept free on each page for the check bars and the page's name, at the left and below, mm. */
const LEFT_MM = 9;
const FOOT_MM = 13;
/** More pages than this are a mistake in the scale. */
export const MOST_PAGES = 400;

/** How a drawing of a size is laid over pages, upright or across, whichever takes fewer; null where no page holds any of it. */
export function planTiles(widthMm: number, heightMm: number, { paper, marginMm, overlapMm }: Tiling): TilePlan | null {
  const [narrow, long] = PAPERS[paper];
  const plans = [
    [narrow, long],
    [long, narrow],
  ].flatMap(([w, h]): TilePlan[] => {
    const tile = { widthMm: w! - 2 * marginMm - LEFT_MM, heightMm: h! - 2 * marginMm - FOOT_MM };
    const step = { xMm: tile.widthMm - overlapMm, yMm: tile.heightMm - overlapMm };
    if (step.xMm < 20 || step.yMm < 20) return [];
    const columns = Math.max(1, Math.ceil((widthMm - overlapMm) / step.xMm - NO_SHARE));
    const rows = Math.max(1, Math.ceil((heightMm - overlapMm) / step.yMm - NO_SHARE));
    return [{ widthMm: w!, heightMm: h!, columns, rows, tile, step }];
  });
  return plans.reduce<TilePlan | null>(
    (best, plan) => (best && best.columns * best.rows <= plan.columns * plan.rows ? best : plan),
    null,
  );
}

/** What pages are called: a letter for the column, a number for the row. */
const nameOf = (column: number, row: number): string => `${String.fromCharCode(65 + (column % 26))}${row + 1}`;

/**
 * Writes a profile over as many pages as it takes, at 100 %: an overview first, then each page with crossing marks that lie on one
 * another when pages are laid together, its name, and a check bar along each side.
 *
 * Null when there is nothing to write, and where the paper leaves no room or it would be too many pages.
 */
export async function writeTiledPdf(profile: FlatProfile, tiling: Tiling): Promise<Uint8Array | null> {
  const plain: FlatProfile = { ...profile, notes: false };
  const layout = layOutProfile(plain, profile.sizes ?? []);
  if (!layout) return null;
  const { outer } = layout;
  const [width, height] = [outer.max.x - outer.min.x, outer.max.y - outer.min.y];
  const plan = planTiles(width, height, tiling);
  if (!plan || plan.columns * plan.rows > MOST_PAGES) return null;
  const pdf = await newDocument(profile);
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  const { columns, rows, tile, step } = plan;
  const size: [number, number] = [plan.widthMm * PER_MM, plan.heightMm * PER_MM];
  overview(pdf.addPage(size), font, plain, layout, plan, tiling);
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const page = pdf.addPage(size);
      // Where this page's own part of the drawing begins, from the drawing's top left corner.
      const from = { x: column * step.xMm, y: row * step.yMm };
      const left = tiling.marginMm + LEFT_MM;
      const top = plan.heightMm - tiling.marginMm;
      const box = { x: left, y: top - tile.heightMm, widthMm: tile.widthMm, heightMm: tile.heightMm };
      within(page, box, () =>
        drawProfile(
          page,
          font,
          plain,
          layout,
          { leftMm: left - from.x, topMm: top + from.y, grow: 1 },
          {
            min: { x: outer.min.x + from.x, y: outer.max.y - from.y - tile.heightMm },
            max: { x: outer.min.x + from.x + tile.widthMm, y: outer.max.y - from.y },
          },
        ),
      );
      frame(page, box);
      for (const mark of marksOn(plan, column, row, tiling.overlapMm))
        cross(page, left + mark.x - from.x, top - mark.y + from.y);
      checkBars(page, font, box, profile.stretch ?? { x: 1, y: 1 });
      const name = nameOf(column, row);
      const count = row * columns + column + 1;
      write(
        page,
        font,
        `${name}, page ${count} of ${columns * rows}: ${profile.title}, ${profile.date}`,
        left + CHECK_BAR_MM + 8,
        box.y - 9,
      );
    }
  return pdf.save();
}

interface Place {
  x: number;
  y: number;
  widthMm: number;
  heightMm: number;
}

function within(page: PDFPage, { x, y, widthMm, heightMm }: Place, draw: () => void): void {
  page.pushOperators(
    pushGraphicsState(),
    rectangle(round(x * PER_MM), round(y * PER_MM), round(widthMm * PER_MM), round(heightMm * PER_MM)),
    clip(),
    endPath(),
  );
  draw();
  page.pushOperators(popGraphicsState());
}

const GREY = rgb(0.6, 0.6, 0.6);

function frame(page: PDFPage, { x, y, widthMm, heightMm }: Place): void {
  page.drawRectangle({
    x: round(x * PER_MM),
    y: round(y * PER_MM),
    width: round(widthMm * PER_MM),
    height: round(heightMm * PER_MM),
    borderColor: GREY,
    borderWidth: LINE_MM * PER_MM,
    borderDashArray: [2 * PER_MM, 2 * PER_MM],
  });
}

/**
 * Crossing marks that a page shows, from the drawing's top left corner, mm: in the middle of each overlap with a neighbour, at a
 * quarter and three quarters of the side. The neighbour has the same ones.
 */
export function marksOn(
  { columns, rows, tile, step }: TilePlan,
  column: number,
  row: number,
  overlapMm: number,
): Vec2[] {
  const at = (k: number, own: number, stepMm: number) => k * stepMm + own;
  const middle = (k: number, stepMm: number) => k * stepMm + overlapMm / 2;
  const shares = [0.25, 0.75];
  const upright = [column, column + 1].filter((k) => k > 0 && k < columns);
  const level = [row, row + 1].filter((k) => k > 0 && k < rows);
  return [
    ...upright.flatMap((k) => shares.map((s) => ({ x: middle(k, step.xMm), y: at(row, s * tile.heightMm, step.yMm) }))),
    ...level.flatMap((k) => shares.map((s) => ({ x: at(column, s * tile.widthMm, step.xMm), y: middle(k, step.yMm) }))),
  ];
}

const ARM_MM = 3;

function cross(page: PDFPage, x: number, y: number): void {
  const at = (dx: number, dy: number) => ({ x: round((x + dx) * PER_MM), y: round((y + dy) * PER_MM) });
  const line = { thickness: LINE_MM * PER_MM, color: rgb(0, 0, 0) };
  page.drawLine({ start: at(-ARM_MM, 0), end: at(ARM_MM, 0), ...line });
  page.drawLine({ start: at(0, -ARM_MM), end: at(0, ARM_MM), ...line });
  page.drawCircle({
    ...at(0, 0),
    size: (ARM_MM / 2) * PER_MM,
    borderColor: rgb(0, 0, 0),
    borderWidth: LINE_MM * PER_MM,
  });
}

/** A bar of 100 mm along X below, and one along Y at the left: a printer may stretch either. */
function checkBars(page: PDFPage, font: PDFFont, { x, y }: Place, stretch: Vec2): void {
  const draw = (path: string) =>
    page.drawSvgPath(path, { x: 0, y: 0, scale: PER_MM, borderColor: rgb(0, 0, 0), borderWidth: LINE_MM });
  draw(barPath({ x, y: -(y - 4) }, { x: x + CHECK_BAR_MM * stretch.x, y: -(y - 4) }));
  write(page, font, `check bars: ${CHECK_BAR_MM} mm along each`, x, y - 9);
  const [from, to] = [y, y + CHECK_BAR_MM * stretch.y];
  const bar = (h: number) => `M ${round(x - 5.5)} ${round(-h)} L ${round(x - 2.5)} ${round(-h)}`;
  draw(`${bar(from)} M ${round(x - 4)} ${round(-from)} L ${round(x - 4)} ${round(-to)} ${bar(to)}`);
}

function write(page: PDFPage, font: PDFFont, text: string, x: number, y: number): void {
  page.drawText(encodable(text), { x: round(x * PER_MM), y: round(y * PER_MM), size: NOTE_MM * PER_MM, font });
}

/** All of the drawing, small, with the pages over it. */
function overview(
  page: PDFPage,
  font: PDFFont,
  profile: FlatProfile,
  layout: NonNullable<ReturnType<typeof layOutProfile>>,
  plan: TilePlan,
  { marginMm, overlapMm }: Tiling,
): void {
  const { columns, rows, tile, step } = plan;
  const whole = { x: (columns - 1) * step.xMm + tile.widthMm, y: (rows - 1) * step.yMm + tile.heightMm };
  const room = { x: plan.widthMm - 2 * marginMm, y: plan.heightMm - 2 * marginMm - 30 };
  const grow = Math.min(room.x / whole.x, room.y / whole.y, 1);
  const [left, top] = [marginMm, plan.heightMm - marginMm - 26];
  const lines = [
    columns * rows === 1
      ? `${profile.title}, ${profile.date}: one page at 100 %`
      : `${profile.title}, ${profile.date}: ${columns * rows} pages at 100 %, ${columns} across and ${rows} down`,
    ...(profile.remark ? [profile.remark] : []),
    'Print without fitting to the page, then measure both check bars: they are 100 mm long.',
    columns * rows === 1
      ? ''
      : `Pages overlap by ${round(overlapMm)} mm: lay the crossing marks on one another, and cut or glue along them.`,
  ];
  lines.forEach((line, k) => {
    write(page, font, line, marginMm, plan.heightMm - marginMm - 5 - k * 1.7 * NOTE_MM);
  });
  drawProfile(page, font, { ...profile, sizes: [] }, layout, { leftMm: left, topMm: top, grow });
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const x = left + grow * column * step.xMm;
      const y = top - grow * (row * step.yMm + tile.heightMm);
      frame(page, { x, y, widthMm: grow * tile.widthMm, heightMm: grow * tile.heightMm });
      write(page, font, nameOf(column, row), x + 2, y + grow * tile.heightMm - 2 - NOTE_MM);
    }
}
