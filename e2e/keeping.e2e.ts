import { afterAll, beforeAll, it } from 'vitest';
import {
  type Bench,
  goTo,
  openBench,
  openDemo,
  openPage,
  pictureShown,
  pressPlate,
  takeReadings,
  truthOf,
} from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const truth = truthOf('latch-plate');

/** A disk that takes its time: whatever is put away from now on is not done for ten seconds. */
function keepStorageBusy() {
  const put = IDBObjectStore.prototype.put;
  IDBObjectStore.prototype.put = function (...given) {
    const until = Date.now() + 10_000;
    // A transaction lasts as long as it is asked for something.
    const ask = () => {
      if (Date.now() < until) this.get('nothing').onsuccess = ask;
    };
    ask();
    return put.apply(this, given);
  };
}

it('undoes and redoes everything, also after a reload, and loses nothing when the tab is closed in the middle', async () => {
  const { page, context } = await openPage(bench);
  await openDemo(bench, page, 'true');
  await takeReadings(page, truth);
  await goTo(page, 'Trace');
  await pictureShown(page);
  await page.keyboard.press('q');
  await pressPlate(page, truth, [
    [4, 0],
    [76, 0],
  ]);
  await page.getByText(/^Saved/).waitFor();
  await page.evaluate(keepStorageBusy);
  await pressPlate(page, truth, [[90, 14]]);
  await page.getByText('2 lines').waitFor();
  const url = page.url();
  // In the middle of a run, and before the disk has answered: no save button, no question.
  await page.close();

  const again = await context.newPage();
  await again.goto(url);
  await pictureShown(again);
  await again.getByText('2 lines').waitFor();
  await again.getByText('open', { exact: true }).waitFor();
  await again.keyboard.press('Control+z');
  await again.getByText('1 line').waitFor();
  await again.getByText(/^Saved/).waitFor();
  await again.reload();
  await again.getByText('1 line').waitFor();
  await again.keyboard.press('Control+z');
  await again.getByRole('button', { name: 'Undo: add a known length' }).click();
  await again.getByText(/The picture is not true yet/).waitFor();
  for (let k = 0; k < 3; k++) await again.keyboard.press('Control+Shift+z');
  await again.getByText('2 lines').waitFor();
  await again.getByRole('button', { name: 'Nothing to redo' }).waitFor();
  await context.close();
});

it('lets one tab write, and the other take over', async () => {
  const { page, context } = await openPage(bench);
  await openDemo(bench, page, 'true');
  const second = await context.newPage();
  await second.goto(page.url());
  await second.getByText(/open in another tab/).waitFor();
  await second
    .getByRole('button', { name: 'in', exact: true })
    .or(second.getByRole('radio', { name: 'in' }))
    .click();
  await second.getByRole('button', { name: 'Nothing to undo' }).waitFor();
  await second.getByRole('button', { name: 'Work here instead' }).click();
  await page.getByText(/open in another tab/).waitFor();
  await second.getByRole('radio', { name: 'in', exact: true }).click();
  await second.getByRole('button', { name: 'Undo: change the unit' }).waitFor();
  await context.close();
});

it('says when the storage is full, keeps the work on screen, and stores it when there is room', async () => {
  const { page, context } = await openPage(bench);
  await openDemo(bench, page, 'true');
  await page.evaluate(() => {
    const own = IDBObjectStore.prototype.put;
    Object.assign(window, { makeRoom: () => (IDBObjectStore.prototype.put = own) });
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('full', 'QuotaExceededError');
    };
  });
  await page.getByRole('radio', { name: 'in', exact: true }).click();
  await page.getByText(/disk is full/).waitFor();
  await page.getByRole('button', { name: 'Undo: change the unit' }).waitFor();
  await page.evaluate(() => (window as unknown as { makeRoom(): void }).makeRoom());
  await page.getByRole('button', { name: 'Try again' }).click();
  await page.getByText(/^Saved/).waitFor();
  await page.reload();
  await page.getByRole('button', { name: 'Undo: change the unit' }).waitFor();
  await context.close();
});
