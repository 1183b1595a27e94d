import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { createWorker, PSM } from 'tesseract.js';

/** What the browser's reader of letters has learned, as a file of its package. */
const LETTERS = join(
  dirname(createRequire(import.meta.url).resolve('@tesseract.js-data/eng/package.json')),
  '4.0.0_best_int',
);

const MODES = { scattered: PSM.SPARSE_TEXT, rows: PSM.SINGLE_BLOCK } as const;

interface Gray {
  width: number;
  height: number;
  light: Uint8Array;
}

interface Word {
  text: string;
  confidence: number;
  box: { x0: number; y0: number; x1: number; y1: number };
}

/** The reader of letters that the application has in the browser, without one: for tests and the bench. */
export async function openReader(
  layout: keyof typeof MODES,
): Promise<{ read(image: Gray): Promise<Word[]>; close(): Promise<unknown> }> {
  const reader = await createWorker(
    'eng',
    1,
    { langPath: LETTERS, cacheMethod: 'none', gzip: true },
    { load_system_dawg: '0', load_freq_dawg: '0' },
  );
  await reader.setParameters({ tessedit_pageseg_mode: MODES[layout], user_defined_dpi: '300' });
  return {
    async read({ width, height, light }) {
      const map = Buffer.concat([Buffer.from(`P5\n${width} ${height}\n255\n`), light]);
      const { data } = await reader.recognize(map, {}, { blocks: true, text: false });
      return (data.blocks ?? []).flatMap((b) =>
        b.paragraphs.flatMap((p) =>
          p.lines.flatMap((l) => l.words.map(({ text, confidence, bbox }) => ({ text, confidence, box: bbox }))),
        ),
      );
    },
    close: () => reader.terminate(),
  };
}
