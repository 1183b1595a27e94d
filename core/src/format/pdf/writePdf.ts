import { PDFDocument, type PDFFont, type PDFPage, PrintScaling, rgb, StandardFonts } from 'pdf-lib';
import { type Form, formsBounds, pathData, type Vec2 } from '../../geometry';
import type { DimensionDrawing } from '../../sketch';
import { DASHES } from '../profile/dashes';
import { type FlatLayout, type FlatProfile, layOutProfile, NOTE_MM } from '../profile/flatProfile';
import { curvesOnly } from './curvesOnly';

/** Points of a PDF per millimetre. */
export const PER_MM = 72 / 25.4;
/** What printers leave white at the rim, mm. */
const PAGE_MARGIN_MM = 10;
/** ISO 216, narrow side first, mm. */
const PAGES: readonly (readonly [number, number])[] = [
  [210, 297],
  [297, 420],
  [420, 594],
  [594, 841],
  [841, 1189],
];
export const LINE_MM = 0.15;

/**
 * Writes a profile as one PDF page at 100 %: the smallest ISO sheet that holds it, upright or across, or a page of its
 * own size beyond A0. The viewer is asked not to scale it. Null when there is nothing to write.
 */
export async function writePdf(profile: FlatProfile): Promise<Uint8Array | null> {
  const sizes = profile.sizes ?? [];
  const layout = layOutProfile(profile, sizes);
  if (!layout) return null;
  const { outer } = layout;
  const width = outer.max.x - outer.min.x;
  const height = outer.max.y - outer.min.y;
  const [pageWidth, pageHeight] = choosePage(width + 2 * PAGE_MARGIN_MM, height + 2 * PAGE_MARGIN_MM);
  const pdf = await newDocument(profile);
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  const page = pdf.addPage([pageWidth * PER_MM, pageHeight * PER_MM]);
  // The drawing's top left corner on the page.
  const left = (pageWidth - width) / 2;
  const top = pageHeight - (pageHeight - height) / 2;
  drawProfile(page, font, profile, layout, { leftMm: left, topMm: top, grow: 1 });
  return pdf.save();
}

/** A document that says whose it is and when it was made, and asks not to be scaled. */
export async function newDocument(profile: FlatProfile): Promise<PDFDocument> {
  const pdf = await PDFDocument.create();
  pdf.setTitle(profile.title);
  if (profile.remark) pdf.setSubject(profile.remark);
  pdf.setCreator('Steady Moth');
  pdf.setProducer('Steady Moth');
  // The profile's own day, so that the same profile is the same file.
  const day = new Date(`${profile.date}T00:00:00Z`);
  if (Number.isFinite(day.getTime())) {
    pdf.setCreationDate(day);
    pdf.setModificationDate(day);
  }
  pdf.catalog.getOrCreateViewerPreferences().setPrintScaling(PrintScaling.None);
  return pdf;
}

/** Where a drawing's top left corner lies on a page, mm from the page's left and lower edges, and by how much it is larger. */
export interface Onto {
  leftMm: number;
  topMm: number;
  grow: number;
}

/** Draws a profile onto a page, with its sizes, check bar and notes where it has them. `within`: only what reaches into that box. */
export function drawProfile(
  page: PDFPage,
  font: PDFFont,
  profile: FlatProfile,
  { outer, bar, notes }: FlatLayout,
  { leftMm: left, topMm: top, grow }: Onto,
  within: { min: Vec2; max: Vec2 } | null = null,
): void {
  const sizes = profile.sizes ?? [];
  // Paths are given in mm, y down, from the corner.
  const flip = (p: Vec2) => ({ x: (p.x - outer.min.x) * grow, y: (outer.max.y - p.y) * grow });
  const draw = (path: string, dash: readonly number[]) =>
    page.drawSvgPath(path, {
      x: round(left * PER_MM),
      y: round(top * PER_MM),
      scale: PER_MM,
      borderColor: rgb(0, 0, 0),
      borderWidth: LINE_MM,
      ...(dash.length ? { borderDashArray: [...dash] } : {}),
    });
  const figures = sizes.map(({ drawing, text }) => {
    const said = encodable(text);
    return { drawing, said, wide: font.widthOfTextAtSize(said, NOTE_MM * PER_MM) / PER_MM };
  });
  // Sizes lie under the part: a line of theirs is broken for its figure, an edge of the part never.
  for (const { drawing } of sizes) for (const path of sizePaths(drawing, flip)) draw(path, []);
  for (const { wide, drawing } of figures) {
    const { x, y } = flip(drawing.label);
    page.drawRectangle({
      x: round((left + x - wide / 2 - 0.6) * PER_MM),
      y: round((top - y - NOTE_MM * 0.55) * PER_MM),
      width: round((wide + 1.2) * PER_MM),
      height: round(NOTE_MM * 1.1 * PER_MM),
      color: rgb(1, 1, 1),
    });
  }
  for (const { form, role } of profile.forms)
    if (reaches(form, within)) draw(pathData(curvesOnly(form), flip), DASHES[role]);
  for (const { said, wide, drawing } of figures)
    page.drawText(said, {
      x: round((left + flip(drawing.label).x - wide / 2) * PER_MM),
      y: round((top - flip(drawing.label).y - NOTE_MM * 0.36) * PER_MM),
      size: NOTE_MM * PER_MM,
      font,
    });
  if (bar) draw(barPath(flip(bar.from), flip(bar.to)), []);
  for (const { at, text } of notes) {
    const place = flip(at);
    page.drawText(encodable(text), {
      x: round((left + place.x) * PER_MM),
      y: round((top - place.y) * PER_MM),
      size: NOTE_MM * PER_MM,
      font,
    });
  }
}

/** Whether a form has anything in a box; any has, in none. */
function reaches(form: Form, within: { min: Vec2; max: Vec2 } | null): boolean {
  const own = within && formsBounds([form]);
  if (!own) return true;
  return (
    own.max.x >= within.min.x && own.min.x <= within.max.x && own.max.y >= within.min.y && own.min.y <= within.max.y
  );
}

const HEAD_MM = 2.5;
/** Half the angle of an arrow head, rad (ISO 129-1: 15 to 30 degrees in all). */
const HEAD_RAD = 0.17;
/** How far extension lines run beyond the dimension line, mm. */
const BEYOND_MM = 1.5;

/** A size as paths, mm, y down. */
function sizePaths({ line, arc, thin }: DimensionDrawing, flip: (p: Vec2) => Vec2): string[] {
  const at = (p: Vec2) => `${round(p.x)} ${round(p.y)}`;
  const stroke = (a: Vec2, b: Vec2) => `M ${at(a)} L ${at(b)}`;
  const head = (tip: Vec2, way: number) => {
    const arm = (turn: number) => ({
      x: tip.x - HEAD_MM * Math.cos(way + turn),
      y: tip.y - HEAD_MM * Math.sin(way + turn),
    });
    return `M ${at(arm(HEAD_RAD))} L ${at(tip)} L ${at(arm(-HEAD_RAD))}`;
  };
  const paths = thin.map(([from, to]) => {
    const [a, b] = [flip(from), flip(to)];
    const length = Math.hypot(b.x - a.x, b.y - a.y) || 1;
    const isExtension = line !== null && [line.from, line.to].some((end) => end.x === to.x && end.y === to.y);
    const more = isExtension ? BEYOND_MM / length : 0;
    return stroke(a, { x: b.x + (b.x - a.x) * more, y: b.y + (b.y - a.y) * more });
  });
  if (line) {
    const [a, b] = [flip(line.from), flip(line.to)];
    const way = Math.atan2(b.y - a.y, b.x - a.x);
    const isTight = Math.hypot(b.x - a.x, b.y - a.y) < 3 * HEAD_MM;
    paths.push(stroke(a, b), head(b, isTight ? way + Math.PI : way));
    if (line.heads === 'both') paths.push(head(a, isTight ? way : way + Math.PI));
  }
  if (arc) {
    const count = Math.max(4, Math.ceil(Math.abs(arc.sweep) / 0.05));
    const places = Array.from({ length: count + 1 }, (_, k) => {
      const t = arc.startAngle + (arc.sweep * k) / count;
      return flip({ x: arc.centre.x + arc.radius * Math.cos(t), y: arc.centre.y + arc.radius * Math.sin(t) });
    });
    const way = (from: Vec2, to: Vec2) => Math.atan2(to.y - from.y, to.x - from.x);
    paths.push(places.map((p, k) => `${k ? 'L' : 'M'} ${at(p)}`).join(' '));
    paths.push(
      head(places[count]!, way(places[count - 1]!, places[count]!)),
      head(places[0]!, way(places[1]!, places[0]!)),
    );
  }
  return paths;
}

/** As many decimals as path data has: what machines compute differently is not written. */
export const round = (value: number): number => Number(value.toFixed(4));

export function barPath(from: Vec2, to: Vec2): string {
  const at = (x: number, y: number) => `${round(x)} ${round(y)}`;
  const tick = ({ x, y }: Vec2) => `M ${at(x, y - 1.5)} L ${at(x, y + 1.5)}`;
  return `${tick(from)} M ${at(from.x, from.y)} L ${at(to.x, to.y)} ${tick(to)}`;
}

export function choosePage(width: number, height: number): [number, number] {
  for (const [narrow, wide] of PAGES) {
    if (width <= narrow && height <= wide) return [narrow, wide];
    if (width <= wide && height <= narrow) return [wide, narrow];
  }
  return [width, height];
}

/** The built-in font holds the letters of Western Europe only; others become a question mark rather than a fault. */
export function encodable(text: string): string {
  return [...text].map((c) => (/[\u0020-\u007e\u00a0-\u00ff]/.test(c) ? c : '?')).join('');
}
