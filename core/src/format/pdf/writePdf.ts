import { PDFDocument, PrintScaling, rgb, StandardFonts } from 'pdf-lib';
import { pathData, type Vec2 } from '../../geometry';
import { DASHES } from '../profile/dashes';
import { type FlatProfile, layOutProfile, NOTE_MM } from '../profile/flatProfile';
import { curvesOnly } from './curvesOnly';

/** Points of a PDF per millimetre. */
const PER_MM = 72 / 25.4;
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
const LINE_MM = 0.15;

/**
 * Writes a profile as one PDF page at 100 %: the smallest ISO sheet that holds it, upright or across, or a page of its
 * own size beyond A0. The viewer is asked not to scale it. Null when there is nothing to write.
 */
export async function writePdf(profile: FlatProfile): Promise<Uint8Array | null> {
  const layout = layOutProfile(profile);
  if (!layout) return null;
  const { outer, bar, notes } = layout;
  const width = outer.max.x - outer.min.x;
  const height = outer.max.y - outer.min.y;
  const [pageWidth, pageHeight] = choosePage(width + 2 * PAGE_MARGIN_MM, height + 2 * PAGE_MARGIN_MM);
  const pdf = await PDFDocument.create();
  pdf.setTitle(profile.title);
  pdf.setCreator('Steady Moth');
  pdf.setProducer('Steady Moth');
  // The profile's own day, so that the same profile is the same file.
  const day = new Date(`${profile.date}T00:00:00Z`);
  if (Number.isFinite(day.getTime())) {
    pdf.setCreationDate(day);
    pdf.setModificationDate(day);
  }
  pdf.catalog.getOrCreateViewerPreferences().setPrintScaling(PrintScaling.None);
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  const page = pdf.addPage([pageWidth * PER_MM, pageHeight * PER_MM]);
  // The drawing's top left corner on the page; paths are given in mm, y down, from there.
  const left = (pageWidth - width) / 2;
  const top = pageHeight - (pageHeight - height) / 2;
  const flip = (p: { x: number; y: number }) => ({ x: p.x - outer.min.x, y: outer.max.y - p.y });
  const draw = (path: string, dash: readonly number[]) =>
    page.drawSvgPath(path, {
      x: round(left * PER_MM),
      y: round(top * PER_MM),
      scale: PER_MM,
      borderColor: rgb(0, 0, 0),
      borderWidth: LINE_MM,
      ...(dash.length ? { borderDashArray: [...dash] } : {}),
    });
  for (const { form, role } of profile.forms) draw(pathData(curvesOnly(form), flip), DASHES[role]);
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
  return pdf.save();
}

/** As many decimals as path data has: what machines compute differently is not written. */
const round = (value: number): number => Number(value.toFixed(4));

function barPath(from: Vec2, to: Vec2): string {
  const at = (x: number, y: number) => `${round(x)} ${round(y)}`;
  const tick = ({ x, y }: Vec2) => `M ${at(x, y - 1.5)} L ${at(x, y + 1.5)}`;
  return `${tick(from)} M ${at(from.x, from.y)} L ${at(to.x, to.y)} ${tick(to)}`;
}

function choosePage(width: number, height: number): [number, number] {
  for (const [narrow, wide] of PAGES) {
    if (width <= narrow && height <= wide) return [narrow, wide];
    if (width <= wide && height <= narrow) return [wide, narrow];
  }
  return [width, height];
}

/** The built-in font holds the letters of Western Europe only; others become a question mark rather than a fault. */
function encodable(text: string): string {
  return [...text].map((c) => (/[\u0020-\u007e\u00a0-\u00ff]/.test(c) ? c : '?')).join('');
}
