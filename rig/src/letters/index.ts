import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { type ReadText, writeGrayMap } from '@steady-moth/core/read';
import { createWorker, PSM } from 'tesseract.js';

/** What the browser's reader of letters has learned, as a file of its package. */
const LETTERS = join(
  dirname(createRequire(import.meta.url).resolve('@tesseract.js-data/eng/package.json')),
  '4.0.0_best_int',
);

const MODES = { scattered: PSM.SPARSE_TEXT, rows: PSM.SINGLE_BLOCK } as const;

/** The reader of letters that the application has in the browser, without one: for tests and the bench. */
export async function openReader(layout: keyof typeof MODES): Promise<{ read: ReadText; close(): Promise<unknown> }> {
  const reader = await createWorker(
    'eng',
    1,
    { langPath: LETTERS, cacheMethod: 'none', gzip: true },
    { load_system_dawg: '0', load_freq_dawg: '0' },
  );
  await reader.setParameters({ tessedit_pageseg_mode: MODES[layout], user_defined_dpi: '300' });
  return {
    async read(image) {
      const { data } = await reader.recognize(Buffer.from(writeGrayMap(image)), {}, { blocks: true, text: false });
      return (data.blocks ?? []).flatMap((b) =>
        b.paragraphs.flatMap((p) =>
          p.lines.flatMap((l) => l.words.map(({ text, confidence, bbox }) => ({ text, confidence, box: bbox }))),
        ),
      );
    },
    close: () => reader.terminate(),
  };
}
