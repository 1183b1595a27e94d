import * as Comlink from 'comlink';
// Its own counterpart, in this same worker: a page is read and drawn here, away from the interface.
import 'pdfjs-dist/build/pdf.worker.mjs';
import { getDocument, OPS, type PDFDocumentProxy, type PDFPageProxy, VerbosityLevel } from 'pdfjs-dist';
import { MOST_PAGE_PX } from './pageBounds';
import { CanvasFactory, FilterFactory, ShippedData } from './pdfSurroundings';
import { serve } from './serve';

/** A document that was opened, or why it was not. */
export type OpenedPages = { ok: true; pages: number } | { ok: false; reason: 'password' | 'not-readable' | 'too-many' };

export interface PageSize {
  widthMm: number;
  heightMm: number;
}

/** A page drawn as a picture. */
interface DrawnPage {
  png: Uint8Array;
  perMm: number;
  /** The page is one picture, as a scanner's software wraps it: its scale is what that software believed. */
  isScan: boolean;
}

const MOST_PAGES = 20_000;
/** A picture within a page that is larger than this is left out rather than unpacked, px. */
const MOST_IMAGE_PX = 150e6;
const POINTS_PER_MM = 72 / 25.4;

let open: PDFDocumentProxy | null = null;

const calls = {
  /** Opens a document in place of the one before. Its scripts, forms and links are not run or followed. */
  async open(bytes: Uint8Array): Promise<OpenedPages> {
    await calls.close();
    try {
      open = await getDocument({
        data: bytes,
        CanvasFactory,
        FilterFactory,
        BinaryDataFactory: ShippedData,
        useWorkerFetch: false,
        cMapUrl: '/',
        standardFontDataUrl: '/',
        wasmUrl: '/',
        // Letters are drawn as paths: a worker has no document to load fonts into, and nothing is compiled from a file.
        disableFontFace: true,
        isEvalSupported: false,
        enableXfa: false,
        maxImageSize: MOST_IMAGE_PX,
        verbosity: VerbosityLevel.ERRORS,
      }).promise;
    } catch (error) {
      return { ok: false, reason: (error as Error)?.name === 'PasswordException' ? 'password' : 'not-readable' };
    }
    if (open.numPages > MOST_PAGES) {
      await calls.close();
      return { ok: false, reason: 'too-many' };
    }
    return { ok: true, pages: open.numPages };
  },

  async size(page: number): Promise<PageSize | null> {
    const found = await pageOf(page);
    return found && sizeOf(found);
  },

  /** The page small, to choose it by. */
  async thumb(page: number, longestPx: number): Promise<ImageBitmap | null> {
    const found = await pageOf(page);
    if (!found) return null;
    const { widthMm, heightMm } = sizeOf(found);
    const canvas = await drawn(found, longestPx / Math.max(widthMm, heightMm));
    const bitmap = canvas.transferToImageBitmap();
    return Comlink.transfer(bitmap, [bitmap]);
  },

  /** The page as a picture at a given number of pixels per millimetre; null where that is too large or the page is broken. */
  async draw(page: number, perMm: number): Promise<DrawnPage | null> {
    const found = await pageOf(page);
    if (!found) return null;
    const { widthMm, heightMm } = sizeOf(found);
    if (widthMm * heightMm * perMm ** 2 > MOST_PAGE_PX) return null;
    const isScan = await isOnePicture(found);
    const canvas = await drawn(found, perMm);
    const blob = await canvas.convertToBlob({ type: 'image/png' });
    canvas.width = 0;
    const png = new Uint8Array(await blob.arrayBuffer());
    return Comlink.transfer({ png, perMm, isScan }, [png.buffer]);
  },

  async close(): Promise<void> {
    const before = open;
    open = null;
    await before?.loadingTask.destroy();
  },
};

export type PagesCalls = typeof calls;

async function pageOf(page: number): Promise<PDFPageProxy | null> {
  try {
    return (await open?.getPage(page)) ?? null;
  } catch {
    return null;
  }
}

function sizeOf(page: PDFPageProxy): PageSize {
  const { width, height } = page.getViewport({ scale: 1 });
  return { widthMm: width / POINTS_PER_MM, heightMm: height / POINTS_PER_MM };
}

async function drawn(page: PDFPageProxy, perMm: number): Promise<OffscreenCanvas> {
  const viewport = page.getViewport({ scale: perMm / POINTS_PER_MM });
  const canvas = new OffscreenCanvas(Math.max(1, Math.ceil(viewport.width)), Math.max(1, Math.ceil(viewport.height)));
  await page.render({ canvas: canvas as unknown as HTMLCanvasElement, viewport, background: '#ffffff' }).promise;
  page.cleanup();
  return canvas;
}

/** Lines and letters on a page from which it is no mere scan. */
const FEW_GRADUATIONS = 20;

async function isOnePicture(page: PDFPageProxy): Promise<boolean> {
  const { fnArray } = await page.getOperatorList();
  const pictures = fnArray.filter((f) => f === OPS.paintImageXObject || f === OPS.paintInlineImageXObject).length;
  const graduations = fnArray.filter((f) => f === OPS.constructPath).length;
  return pictures >= 1 && graduations < FEW_GRADUATIONS;
}

serve(calls);
