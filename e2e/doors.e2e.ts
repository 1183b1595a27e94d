import { PDFDocument, rgb } from 'pdf-lib';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Bench, goTo, openBareRack, openBench, openPage, openRackWith, pictureShown } from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const MM = 72 / 25.4;
/** A page of 120 × 80 mm with a frame of 100 × 60 mm on it, and its number as so many bars. */
async function drawing(pages: number): Promise<Buffer> {
  const pdf = await PDFDocument.create();
  for (let k = 0; k < pages; k++) {
    const page = pdf.addPage([120 * MM, 80 * MM]);
    page.drawRectangle({
      x: 10 * MM,
      y: 10 * MM,
      width: 100 * MM,
      height: 60 * MM,
      borderWidth: 0.8,
      borderColor: rgb(0, 0, 0),
    });
    page.drawText(`Page ${k + 1}`, { x: 20 * MM, y: 40 * MM, size: 18 });
  }
  return Buffer.from(await pdf.save());
}

const give = (page: Page, name: string, buffer: Buffer) =>
  page.getByLabel('Picture or job file').setInputFiles({ name, mimeType: 'application/octet-stream', buffer });

/** A locked document: what its dictionary asks for fits no empty password. */
const LOCKED = Buffer.from(
  `%PDF-1.4
1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj
2 0 obj<</Type/Pages/Kids[3 0 R]/Count 1>>endobj
3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 200 200]>>endobj
4 0 obj<</Filter/Standard/V 1/R 2/P -4/O<${'41'.repeat(32)}>/U<${'42'.repeat(32)}>>>endobj
trailer<</Root 1 0 R/Encrypt 4 0 R/ID[<01><02>]/Size 5>>
%%EOF`,
);

it('brings in a page of a PDF chosen by its picture, at its own scale', async () => {
  const { page, context, faults } = await openPage(bench);
  await openBareRack(bench, page);
  await give(page, 'bracket.pdf', await drawing(12));
  const dialog = page.getByRole('dialog', { name: 'Which page of bracket.pdf?' });
  await dialog.getByText('It has 12 pages').waitFor();
  await expect.poll(() => dialog.locator('canvas[data-drawn=true]').count(), { timeout: 20_000 }).toBe(8);
  await dialog.getByRole('button', { name: 'Later pages' }).click();
  await dialog.getByRole('button', { name: 'Page 11', exact: true }).click();
  await dialog.getByRole('button', { name: 'Page 1', exact: true }).waitFor({ state: 'detached' });
  await dialog.getByRole('button', { name: 'Earlier pages' }).click();
  await dialog.getByRole('button', { name: 'Page 1', exact: true, pressed: true }).click();
  await dialog.getByRole('radio', { name: '600' }).click();
  await dialog.getByText('120 × 80 mm, 2835 × 1890 pixels').waitFor();
  await dialog.getByRole('radio', { name: '300' }).click();
  await dialog.getByRole('button', { name: 'Bring in the page' }).click();
  await page.getByRole('navigation', { name: 'Steps' }).waitFor();
  await pictureShown(page);
  // The page's own scale is known: it is true without anything said.
  await page.locator('[role=application][data-map]').waitFor();
  await goTo(page, 'Picture');
  await page.getByText("The page's own scale.").waitFor();
  await page.getByText('1418 × 945').waitFor();
  expect(faults).toEqual([]);
  await context.close();
});

it('leafs through a PDF of 5,000 pages, and leaves it when told', async () => {
  const { page, context } = await openPage(bench);
  await openBareRack(bench, page);
  await give(page, 'catalogue.pdf', await drawing(5000));
  const dialog = page.getByRole('dialog', { name: /Which page of catalogue/ });
  await dialog.getByText('It has 5000 pages').waitFor({ timeout: 30_000 });
  await dialog.getByLabel(/from page/).fill('4990');
  await dialog.getByRole('button', { name: 'Page 4990' }).waitFor();
  await dialog.getByRole('button', { name: 'Leave it' }).click();
  await dialog.waitFor({ state: 'detached' });
  expect(await page.getByRole('heading', { name: 'Catalogue' }).count()).toBe(0);
  await context.close();
});

const OUTLINE = `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="50mm" viewBox="0 0 80 50">
<script>window.ran = true</script>
<g id="Body"><path d="M10 10H70V40H10Z"/></g><g id="Fold marks"><path d="M40 10V40"/></g>
<image href="https://example.invalid/x.png"/><circle cx="20" cy="25" r="4" onload="window.ran = true"/></svg>`;

const DXF = [0, 'SECTION', 2, 'HEADER', 9, '$INSUNITS', 70, 4, 0, 'ENDSEC', 0, 'SECTION', 2, 'ENTITIES']
  .concat(
    [
      [0, 0, 60, 0],
      [60, 0, 60, 25],
      [60, 25, 0, 25],
      [0, 25, 0, 0],
    ].flatMap(([x0, y0, x1, y1]) => [0, 'LINE', 8, 'PLATE', 10, x0!, 20, y0!, 11, x1!, 21, y1!]),
    [0, 'CIRCLE', 8, 'HOLES', 10, 20, 20, 12, 40, 3.25, 0, 'ENDSEC', 0, 'EOF'],
  )
  .join('\n');

it('takes an SVG and a DXF as known outlines on their layers, at true size, and runs nothing', async () => {
  const { page, context, faults } = await openPage(bench);
  const asked: string[] = [];
  page.on('request', (r) => void asked.push(r.url()));
  await openBareRack(bench, page);
  await give(page, 'plate.svg', Buffer.from(OUTLINE));
  await page.getByRole('navigation', { name: 'Steps' }).waitFor();
  await goTo(page, 'Trace');
  await page.getByRole('button', { name: 'Body, path 1' }).click();
  await page
    .getByRole('definition')
    .filter({ hasText: /^180\.00/ })
    .waitFor();
  await page.getByRole('button', { name: 'Fold marks, path 2' }).waitFor();
  await page.getByText(/Ø 8\.000?/).waitFor();
  expect(await page.evaluate(() => 'ran' in window)).toBe(false);
  expect(asked.filter((url) => url.includes('example.invalid'))).toEqual([]);
  // A second file joins the same job, with its own layers.
  await page.evaluate((text) => {
    const transfer = new DataTransfer();
    transfer.items.add(new File([text], 'lid.dxf'));
    document
      .querySelector('[role=application]')
      ?.dispatchEvent(new DragEvent('drop', { dataTransfer: transfer, bubbles: true }));
  }, DXF);
  await page.getByRole('button', { name: 'PLATE, path 2' }).waitFor();
  await page.getByRole('button', { name: 'PLATE, path 2' }).click();
  await page
    .getByRole('definition')
    .filter({ hasText: /^170\.00/ })
    .waitFor();
  expect(faults).toEqual([]);
  await context.close();
});

it('pastes a picture', async () => {
  const { page, context } = await openPage(bench);
  await openBareRack(bench, page);
  const png = await sharp({ create: { width: 200, height: 120, channels: 3, background: '#987' } })
    .png()
    .toBuffer();
  await page.evaluate(
    (bytes) => {
      const data = new DataTransfer();
      data.items.add(new File([new Uint8Array(bytes)], 'clip.png', { type: 'image/png' }));
      window.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data }));
    },
    [...png],
  );
  await page.getByRole('navigation', { name: 'Steps' }).waitFor();
  await expect.poll(() => page.getByLabel('Name of the job').inputValue()).toBe('Clip');
  await context.close();
});

const deep = `<svg xmlns="http://www.w3.org/2000/svg">${'<g>'.repeat(1_000_000)}`;
const endless = [
  0,
  'SECTION',
  2,
  'BLOCKS',
  0,
  'BLOCK',
  2,
  'A',
  10,
  0,
  20,
  0,
  0,
  'INSERT',
  2,
  'A',
  10,
  1,
  20,
  1,
  0,
  'ENDBLK',
  0,
  'ENDSEC',
]
  .concat([0, 'SECTION', 2, 'ENTITIES', 0, 'INSERT', 2, 'A', 10, 0, 20, 0, 0, 'ENDSEC', 0, 'EOF'])
  .join('\n');

it('refuses what is locked, broken, endless or no picture with a sentence, and keeps what is there', async () => {
  const { page, context } = await openPage(bench);
  await openRackWith(bench, page, /Latch plate/);
  const tiff = await sharp({ create: { width: 60, height: 40, channels: 3, background: '#888' } })
    .tiff()
    .toBuffer();
  const brokenTiff = Buffer.from(tiff);
  brokenTiff.writeUInt32LE(0x7fffffff, 4);
  const heic = await import('node:fs').then((fs) =>
    fs.readFileSync(new URL('../core/src/format/picture/samples/small.heic', import.meta.url)),
  );
  for (const [name, bytes, sentence] of [
    ['locked.pdf', LOCKED, /locked with a password/],
    ['half.pdf', (await drawing(2)).subarray(0, 300), /damaged or breaks off/],
    ['deep.svg', Buffer.from(deep), /nests its groups without end/],
    ['empty.svg', Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'), /no outline in this drawing/],
    ['endless.dxf', Buffer.from(endless), /hold one another without end/],
    ['directory.tif', brokenTiff, /damaged|breaks off/],
    ['half.heic', heic.subarray(0, heic.length >> 1), /damaged|breaks off/],
    ['program.jpg', Buffer.concat([Buffer.from('MZ'), Buffer.alloc(3000, 7)]), /not a picture that can be read here/],
  ] as const) {
    await give(page, name, Buffer.from(bytes));
    await page.getByRole('alert').getByText(sentence).waitFor({ timeout: 20_000 });
    await page.getByRole('button', { name: 'Understood' }).click();
  }
  expect(await page.getByRole('link', { name: /Latch plate/ }).count()).toBe(1);
  await context.close();
});

it('takes the first 40 of 10,000 files dropped at once, and says so', async () => {
  const { page, context } = await openPage(bench);
  await openRackWith(bench, page, /Latch plate/);
  await page.evaluate(() => {
    const transfer = new DataTransfer();
    for (let k = 0; k < 10_000; k++) transfer.items.add(new File(['x'], `${k}.jpg`));
    document.querySelector('main')?.dispatchEvent(new DragEvent('drop', { dataTransfer: transfer, bubbles: true }));
  });
  await page
    .getByRole('alert')
    .getByText(/10000 files were dropped; the first 40 are taken/)
    .waitFor({ timeout: 30_000 });
  expect(await page.getByRole('link', { name: /Latch plate/ }).count()).toBe(1);
  await context.close();
});
