import { drawRuler, RULER_KINDS } from '@steady-moth/rig/harder';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Bench, openBareRack, openBench, openJob, openPage, pictureShown } from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

it('reads an inch ruler: what it shows from end to end is offered, one key takes it', async () => {
  const kind = RULER_KINDS.find((k) => k.name === 'inch, sixteenths')!;
  const drawn = drawRuler(kind, 705);
  const buffer = await sharp(Buffer.from(drawn.svg(12)))
    .flatten()
    .blur(0.8)
    .jpeg({ quality: 92 })
    .toBuffer();
  const { page, context } = await openPage(bench);
  await openBareRack(bench, page);
  await page
    .getByLabel(/picture/i)
    .first()
    .setInputFiles({ name: 'inch-ruler.jpg', mimeType: 'image/jpeg', buffer });
  await page.getByRole('navigation', { name: 'Steps' }).waitFor();
  await pictureShown(page);
  await page.getByRole('link', { name: /^True/ }).click();
  const found = page.getByRole('region', { name: 'Found in the picture' });
  const last = drawn.firstReading + (drawn.feet.length - 1) / 16;
  const reads = `${drawn.firstReading} to ${last} in`;
  await found.getByText(`A ruler, ${reads}`).waitFor({ timeout: 40_000 });
  await found.getByText(/divisions are 1\/16 in each/).waitFor();
  await page.keyboard.press('Enter');
  await page.getByText(/in the middle are good to/).waitFor();
  await expect
    .poll(() =>
      page
        .getByRole('textbox', { name: /^Known length/ })
        .first()
        .inputValue(),
    )
    .toBe(reads);
  await context.close();
});

it('reads the dimensions of a drawing, says which contradicts, takes the corrected ones, and undoes it in one', async () => {
  const { page, context } = await openPage(bench);
  await openJob(bench, page, /Funnel bracket/);
  await page.getByRole('link', { name: /^True/ }).click();
  const read = page.getByRole('region', { name: 'Dimensions read' });
  await read.waitFor({ timeout: 40_000 });
  const fields = read.getByRole('textbox');
  const values = async () => Promise.all((await fields.all()).map((f) => f.inputValue()));
  expect((await values()).map(Number)).toEqual(expect.arrayContaining([80, 64, 50, 32]));
  // The wrong ones are said, with what they would be: each is put right in its field, or left out.
  const wrong = read.getByText(/^by the others/);
  const before = await wrong.count();
  await fields.first().fill('46');
  await fields.first().press('Enter');
  await expect.poll(() => wrong.count()).toBe(before + 1);
  await read.getByRole('button', { name: 'Leave out dimension 1' }).click();
  await expect.poll(() => wrong.count()).toBe(before);
  const use = read.getByRole('button', { name: /^Use these \d that agree$/ });
  const count = Number(/\d/.exec((await use.textContent()) ?? '')?.[0]);
  await page.keyboard.press('Enter');
  await read.waitFor({ state: 'detached' });
  await page.getByText(/in the middle are good to/).waitFor();
  expect(await page.getByRole('textbox', { name: /^Known length/ }).count()).toBe(count);
  await page.getByRole('button', { name: 'Undo' }).click();
  await read.waitFor();
  await context.close();
});
