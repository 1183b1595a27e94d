/* What the PDF reader takes from its surroundings: canvases of a worker, and data that ships with the application. */

interface CanvasAndContext {
  canvas: OffscreenCanvas | null;
  context: OffscreenCanvasRenderingContext2D | null;
}

export class CanvasFactory {
  create(width: number, height: number): CanvasAndContext {
    const canvas = new OffscreenCanvas(Math.max(1, width), Math.max(1, height));
    return { canvas, context: canvas.getContext('2d') };
  }

  reset({ canvas }: CanvasAndContext, width: number, height: number): void {
    if (!canvas) return;
    canvas.width = Math.max(1, width);
    canvas.height = Math.max(1, height);
  }

  destroy(pair: CanvasAndContext): void {
    if (pair.canvas) pair.canvas.width = 0;
    pair.canvas = null;
    pair.context = null;
  }
}

/** Filters of a page's own need a document; without them it is drawn plainly. */
export class FilterFactory {
  addFilter = (): string => 'none';
  addHCMFilter = (): string => 'none';
  addAlphaFilter = (): string => 'none';
  addLuminosityFilter = (): string => 'none';
  addHighlightHCMFilter = (): string => 'none';
  destroy(): void {}
}

const URLS = import.meta.glob<string>(
  [
    '/../node_modules/pdfjs-dist/standard_fonts/*.{pfb,ttf}',
    '/../node_modules/pdfjs-dist/cmaps/*.bcmap',
    '/../node_modules/pdfjs-dist/wasm/*.wasm',
  ],
  { query: '?url&no-inline', import: 'default', eager: true },
);
const byName = new Map(Object.entries(URLS).map(([path, url]) => [path.replace(/^.*\//, ''), url]));

/** Hands out what ships with the application by its file name; nothing else can be asked for. */
export class ShippedData {
  async fetch({ filename }: { kind: string; filename: string }): Promise<Uint8Array> {
    const url = byName.get(filename);
    if (!url) throw new Error(`No ${filename} ships with this application.`);
    const answer = await fetch(url);
    if (!answer.ok) throw new Error(`${filename} could not be read.`);
    return new Uint8Array(await answer.arrayBuffer());
  }
}
