import { type ReadText, writeGrayMap } from '@steady-moth/core/read';
import letters from '@tesseract.js-data/eng/4.0.0_best_int/eng.traineddata.gz?url';
import { createWorker, PSM } from 'tesseract.js';
import readerUrl from 'tesseract.js/dist/worker.min.js?url';
import engineUrl from 'tesseract.js-core/tesseract-core-simd-lstm.wasm.js?url';

/** How words stand on what is read: here and there on it, or in rows under one another. */
export type Layout = 'scattered' | 'rows';

const MODES: Record<Layout, PSM> = { scattered: PSM.SPARSE_TEXT, rows: PSM.SINGLE_BLOCK };
/** Figures and names are no dictionary's words. */
const NO_DICTIONARY = { load_system_dawg: '0', load_freq_dawg: '0' } as const;

/**
 * A reader of letters: its engine and what it has learned are files of this application, and nothing is fetched from
 * elsewhere. Whoever opened it closes it.
 */
export async function openReader(layout: Layout): Promise<{ read: ReadText; close(): Promise<unknown> }> {
  const reader = await createWorker(
    'eng',
    1,
    {
      workerPath: new URL(readerUrl, self.location.origin).href,
      corePath: new URL(engineUrl, self.location.origin).href,
      langPath: new URL('.', new URL(letters, self.location.origin)).href,
      workerBlobURL: false,
      cacheMethod: 'none',
    },
    NO_DICTIONARY,
  );
  await reader.setParameters({ tessedit_pageseg_mode: MODES[layout], user_defined_dpi: '300' });
  return {
    async read(image) {
      const { data } = await reader.recognize(new Blob([writeGrayMap(image)]), {}, { blocks: true, text: false });
      return wordsOf(data.blocks);
    },
    close: () => reader.terminate(),
  };
}

type Blocks = Awaited<ReturnType<Awaited<ReturnType<typeof createWorker>>['recognize']>>['data']['blocks'];

const wordsOf = (blocks: Blocks) =>
  (blocks ?? []).flatMap((b) =>
    b.paragraphs.flatMap((p) =>
      p.lines.flatMap((l) => l.words.map(({ text, confidence, bbox }) => ({ text, confidence, box: bbox }))),
    ),
  );
