import { openBench, openDemo, openPage, openRack, pictureShown, pixelPlace, press } from './harness';

const bench = await openBench();
const { page, faults } = await openPage(bench);
const shot = async (n: string) => {
  await page.waitForTimeout(700);
  await page.screenshot({ path: `/tmp/s-${n}.png` });
};
const what = process.argv[2];
try {
  if (what === 'latch') {
    await openDemo(bench, page, 'true');
    await shot('start');
    await page.keyboard.press('w');
    await press(page, await pixelPlace(page, [1700, 1890]));
    await page.getByText(/spacings were counted/).waitFor({ timeout: 15000 });
    await shot('ruler');
    await page.getByRole('button', { name: /It is 150 mm/ }).click();
    await page.getByText(/100 mm in the middle are good to/).waitFor({ timeout: 15000 });
    await page.waitForTimeout(3000);
    await page.getByRole('button', { name: /Show the ± over the picture/ }).click();
    await page.waitForTimeout(4000);
    await shot('ruled');
    await page.getByLabel('How far to trust it').scrollIntoViewIfNeeded();
    await shot('trust');
  } else {
    await openRack(bench, page);
    await shot('rack');
    await page.getByRole('link', { name: what === 'gasket' ? /Lamp gasket/ : /Baffle pattern/ }).click();
    await page.getByRole('navigation', { name: 'Steps' }).waitFor();
    await page
      .getByRole('link', { name: /^True/ })
      .click()
      .catch(() => {});
    await pictureShown(page);
    if (what === 'gasket') {
      await page.keyboard.press('r');
      await press(page, await pixelPlace(page, [1000, 2200]));
      await page.getByText('Which sheet is it?').waitFor({ timeout: 15000 });
      await page.getByLabel('Which sheet').selectOption('A6');
      await shot('sheet');
      await page.getByRole('button', { name: 'Take it' }).click();
      await page.getByText(/100 mm in the middle are good to/).waitFor({ timeout: 15000 });
      await page.keyboard.press('e');
      await press(page, await pixelPlace(page, [2890, 1900]));
      await page.getByText('Which coin or disc is it?').waitFor({ timeout: 15000 });
      await page.getByLabel('Which coin').selectOption('20 euro cent');
      await shot('coin');
      await page.getByRole('button', { name: 'Take it' }).click();
      await page.waitForTimeout(4000);
      await shot('both');
    } else {
      await page.keyboard.press('t');
      await press(page, await pixelPlace(page, [800, 800]));
      await page.getByText('How far apart are its lines?').waitFor({ timeout: 15000 });
      await shot('grid');
      await page.getByRole('button', { name: 'Take it' }).click();
      await page.getByText(/100 mm in the middle are good to/).waitFor({ timeout: 15000 });
      await page.waitForTimeout(3000);
      await shot('gridded');
    }
  }
} catch (e) {
  console.log(String(e).slice(0, 600));
  await shot('fault');
}
console.log(faults);
await bench.close();
