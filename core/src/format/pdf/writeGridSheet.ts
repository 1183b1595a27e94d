import { PDFDocument, PrintScaling, rgb, StandardFonts } from 'pdf-lib';

/** The sheet on which a camera is checked, mm: lines 10 apart, leaving a rim that every printer can reach. */
export const GRID_SHEET = {
  pageMm: [210, 297],
  pitchMm: 10,
  columns: 18,
  rows: 25,
  lineMm: 0.35,
  leftMm: 15,
  lowMm: 26,
} as const;

/** Points of a PDF per millimetre. */
const PER_MM = 72 / 25.4;

/** Writes the grid sheet as one A4 page at 100 %, with what to do with it. */
export async function writeGridSheet(): Promise<Uint8Array> {
  const { pageMm, pitchMm, columns, rows, lineMm, leftMm, lowMm } = GRID_SHEET;
  const pdf = await PDFDocument.create();
  pdf.setTitle('Grid for checking a camera');
  pdf.setCreator('Steady Moth');
  pdf.setProducer('Steady Moth');
  pdf.catalog.getOrCreateViewerPreferences().setPrintScaling(PrintScaling.None);
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  const page = pdf.addPage([pageMm[0] * PER_MM, pageMm[1] * PER_MM]);
  const line = (x0: number, y0: number, x1: number, y1: number) =>
    page.drawLine({
      start: { x: x0 * PER_MM, y: y0 * PER_MM },
      end: { x: x1 * PER_MM, y: y1 * PER_MM },
      thickness: lineMm * PER_MM,
      color: rgb(0, 0, 0),
    });
  const [right, top] = [leftMm + columns * pitchMm, lowMm + rows * pitchMm];
  for (let i = 0; i <= columns; i++) line(leftMm + i * pitchMm, lowMm, leftMm + i * pitchMm, top);
  for (let j = 0; j <= rows; j++) line(leftMm, lowMm + j * pitchMm, right, lowMm + j * pitchMm);
  const notes = [
    'Print at 100 %. Measure ten pitches with the caliper, from line to line, and type what it says.',
    'Lay the sheet flat. Take 4 to 8 pictures: one from straight above, the others from all four sides, tilted.',
  ];
  notes.forEach((text, k) => {
    page.drawText(text, { x: leftMm * PER_MM, y: (17 - 5 * k) * PER_MM, size: 8.5, font });
  });
  return pdf.save();
}
