import { type PDFFont, type PDFPage, rgb, StandardFonts } from 'pdf-lib';
import { CHECK_BAR_MM, type FlatLayout, type FlatProfile, layOutProfile, NOTE_MM } from '../profile/flatProfile';
import type { Sheet } from '../profile/sheetOf';
import { barPath, choosePage, drawProfile, encodable, LINE_MM, newDocument, PER_MM, round } from './writePdf';

/** The frame's distance from the sheet's edges: wider on the left, where it is filed (ISO 5457), mm. */
const FRAME = { left: 20, other: 10 } as const;
const FRAME_LINE_MM = 0.7;
/** The title block (ISO 7200 allows 180 mm), in two rows, mm. */
const BLOCK = { width: 180, row: 11 } as const;
/** Between views, under the name of one, and round all of them, mm. */
const BETWEEN_MM = 14;
const NAME_MM = 7;
const ROUND_MM = 8;
/** The row of the check bar over the title block, mm. */
const BAR_ROW_MM = 10;

interface Placed {
  name: string;
  profile: FlatProfile;
  layout: FlatLayout;
  width: number;
  height: number;
}

/**
 * A drawing at 1 : 1 on the smallest ISO sheet that holds it: every view with its name and sizes, a frame (ISO 5457), a title block
 * (ISO 7200), and a check bar. Views stand under each other, or beside each other where that takes a smaller sheet.
 *
 * In: the sheet; out: the file's bytes, null where there is nothing to draw.
 */
export async function writeSheetPdf(sheet: Sheet): Promise<Uint8Array | null> {
  const placed = sheet.views.flatMap(({ name, profile }): Placed[] => {
    const layout = layOutProfile({ ...profile, notes: false }, profile.sizes);
    if (!layout) return [];
    const { min, max } = layout.outer;
    return [{ name, profile, layout, width: max.x - min.x, height: max.y - min.y + (name ? NAME_MM : 0) }];
  });
  if (placed.length === 0) return null;
  const sum = (of: (p: Placed) => number) => placed.reduce((s, p) => s + of(p), BETWEEN_MM * (placed.length - 1));
  const most = (of: (p: Placed) => number) => Math.max(...placed.map(of));
  const ways = [
    { isColumn: true, width: most((p) => p.width), height: sum((p) => p.height) },
    { isColumn: false, width: sum((p) => p.width), height: most((p) => p.height) },
  ].map((way) => {
    const width = Math.max(way.width + 2 * ROUND_MM, BLOCK.width) + FRAME.left + FRAME.other;
    const height = way.height + 2 * ROUND_MM + BAR_ROW_MM + 2 * BLOCK.row + 2 * FRAME.other;
    return { ...way, page: choosePage(width, height) };
  });
  const area = ({ page }: (typeof ways)[number]) => page[0] * page[1];
  const [column, row] = ways as [(typeof ways)[number], (typeof ways)[number]];
  const way = area(row) < area(column) ? row : column;
  const [pageWidth, pageHeight] = way.page;
  const first = placed[0]!.profile;
  const pdf = await newDocument({ ...first, title: sheet.title, date: sheet.date, remark: sheet.remark });
  const [font, strong] = await Promise.all([
    pdf.embedFont(StandardFonts.Helvetica),
    pdf.embedFont(StandardFonts.HelveticaBold),
  ]);
  const page = pdf.addPage([pageWidth * PER_MM, pageHeight * PER_MM]);
  // The field within the frame, over the title block, mm from the sheet's lower left corner.
  const field = {
    left: FRAME.left,
    right: pageWidth - FRAME.other,
    bottom: FRAME.other + 2 * BLOCK.row + BAR_ROW_MM,
    top: pageHeight - FRAME.other,
  };
  let x = (field.left + field.right - way.width) / 2;
  let y = (field.top + field.bottom + way.height) / 2;
  for (const one of placed) {
    const left = way.isColumn ? (field.left + field.right - one.width) / 2 : x;
    const top = way.isColumn ? y : (field.top + field.bottom + one.height) / 2;
    drawProfile(
      page,
      font,
      one.profile,
      { ...one.layout, bar: null, notes: [] },
      { leftMm: left, topMm: top, grow: 1 },
    );
    const under = top - (one.layout.outer.max.y - one.layout.outer.min.y) - NAME_MM + 2;
    if (one.name) write(page, font, one.name, left, under, one.width);
    x += one.width + BETWEEN_MM;
    y -= one.height + BETWEEN_MM;
  }
  drawFrame(page, pageWidth, pageHeight);
  drawBlock(
    page,
    { font, strong },
    sheet,
    { right: field.right, bottom: FRAME.other },
    paperName(pageWidth, pageHeight),
  );
  drawBar(page, font, sheet, field.left + 6, FRAME.other + 2 * BLOCK.row + BAR_ROW_MM / 2);
  return pdf.save();
}

function drawFrame(page: PDFPage, width: number, height: number): void {
  page.drawRectangle({
    x: round(FRAME.left * PER_MM),
    y: round(FRAME.other * PER_MM),
    width: round((width - FRAME.left - FRAME.other) * PER_MM),
    height: round((height - 2 * FRAME.other) * PER_MM),
    borderColor: rgb(0, 0, 0),
    borderWidth: FRAME_LINE_MM,
  });
}

function drawBlock(
  page: PDFPage,
  { font, strong }: { font: PDFFont; strong: PDFFont },
  { title, date, unit, material, remark, views }: Sheet,
  { right, bottom }: { right: number; bottom: number },
  paper: string,
): void {
  const left = right - BLOCK.width;
  const hasSizes = views.some((v) => (v.profile.sizes?.length ?? 0) > 0);
  const rows: readonly (readonly { says: string; text: string; wide: number }[])[] = [
    [
      { says: 'Title', text: title, wide: 110 },
      { says: 'Date', text: date, wide: 30 },
      { says: 'Sheet', text: paper, wide: 40 },
    ],
    [
      { says: 'Scale', text: '1 : 1', wide: 20 },
      { says: 'Sizes in', text: unit === 'in' ? 'inches' : 'mm', wide: 24 },
      { says: 'Material', text: material ?? '-', wide: 46 },
      {
        says: 'Remarks',
        text:
          [remark, hasSizes ? 'sizes in brackets are measured, not asked for' : ''].filter(Boolean).join('; ') || '-',
        wide: 90,
      },
    ],
  ];
  rows.forEach((cells, k) => {
    let x = left;
    const y = bottom + (1 - k) * BLOCK.row;
    for (const { says, text, wide } of cells) {
      page.drawRectangle({
        x: round(x * PER_MM),
        y: round(y * PER_MM),
        width: round(wide * PER_MM),
        height: round(BLOCK.row * PER_MM),
        borderColor: rgb(0, 0, 0),
        borderWidth: LINE_MM * 2,
      });
      write(page, font, says, x + 1.5, y + BLOCK.row - 3, wide - 3, SMALL_MM);
      write(page, k === 0 && cells[0]!.text === text ? strong : font, text, x + 1.5, y + 2.2, wide - 3);
      x += wide;
    }
  });
}

function drawBar(page: PDFPage, font: PDFFont, { unit }: Sheet, left: number, up: number): void {
  page.drawSvgPath(barPath({ x: 0, y: 0 }, { x: CHECK_BAR_MM, y: 0 }), {
    x: round(left * PER_MM),
    y: round(up * PER_MM),
    scale: PER_MM,
    borderColor: rgb(0, 0, 0),
    borderWidth: LINE_MM,
  });
  const says = unit === 'in' ? `check bar ${(CHECK_BAR_MM / 25.4).toFixed(3)} in` : `check bar ${CHECK_BAR_MM} mm`;
  write(page, font, says, left + CHECK_BAR_MM + 3, up - 1, 60);
}

const SMALL_MM = 2;

/** Words from a place on, cut off where there is no room for them, mm. */
function write(page: PDFPage, font: PDFFont, text: string, x: number, y: number, wide: number, sizeMm = NOTE_MM): void {
  const size = sizeMm * PER_MM;
  let said = encodable(text);
  if (font.widthOfTextAtSize(said, size) > wide * PER_MM) {
    while (said.length > 1 && font.widthOfTextAtSize(`${said}...`, size) > wide * PER_MM) said = said.slice(0, -1);
    said = `${said.trimEnd()}...`;
  }
  page.drawText(said, { x: round(x * PER_MM), y: round(y * PER_MM), size, font });
}

const PAPER_NAMES: readonly (readonly [string, number])[] = [
  ['A4', 297],
  ['A3', 420],
  ['A2', 594],
  ['A1', 841],
  ['A0', 1189],
];

function paperName(width: number, height: number): string {
  const long = Math.max(width, height);
  return (
    PAPER_NAMES.find(([, mm]) => Math.abs(mm - long) < 0.5)?.[0] ?? `${Math.ceil(width)} x ${Math.ceil(height)} mm`
  );
}
