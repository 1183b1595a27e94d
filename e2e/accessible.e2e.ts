import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import {
  type Bench,
  goTo,
  openBareRack,
  openBench,
  openDemo,
  openPage,
  openRack,
  takeReadings,
  truthOf,
} from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

interface Violation {
  id: string;
  nodes: { html: string; failureSummary: string }[];
}

/** What an accessibility checker of another house finds wrong on the page as it stands. */
async function wrong(page: Page): Promise<string[]> {
  // Run by the test, not by the page: the content policy forbids it to load scripts from elsewhere.
  const found = (await page.evaluate(`${AXE}; axe.run(document, { resultTypes: ['violations'] })`)) as {
    violations: Violation[];
  };
  return found.violations.map(
    ({ id, nodes }) =>
      `${id}: ${nodes
        .map((n) => `${n.html.slice(0, 160)} ${n.failureSummary}`)
        .join(' | ')
        .slice(0, 900)}`,
  );
}

it.each(['light', 'dark'] as const)('axe finds nothing wrong in any step, %s', async (colorScheme) => {
  const context = await bench.browser.newContext({ viewport: { width: 1280, height: 800 }, colorScheme });
  const { page } = await openPage(bench, context);
  await openRack(bench, page);
  expect.soft(await wrong(page), 'rack').toEqual([]);
  await openDemo(bench, page, 'picture');
  expect.soft(await wrong(page), 'picture').toEqual([]);
  await goTo(page, 'True');
  expect.soft(await wrong(page), 'true, nothing known').toEqual([]);
  await takeReadings(page, truthOf('latch-plate'));
  await page.waitForTimeout(500);
  expect.soft(await wrong(page), 'true').toEqual([]);
  await goTo(page, 'Trace');
  expect.soft(await wrong(page), 'trace').toEqual([]);
  await page.keyboard.press('?');
  expect.soft(await wrong(page), 'keys').toEqual([]);
  await page.keyboard.press('Escape');
  await goTo(page, 'Hand over');
  expect.soft(await wrong(page), 'hand over').toEqual([]);
  await openBareRack(bench, page);
  await page.getByRole('button', { name: 'Latch plate', exact: true }).click();
  await page.getByRole('navigation', { name: 'Steps' }).waitFor();
  await goTo(page, 'Solid');
  await page.getByText('Centre of mass').waitFor({ timeout: 60_000 });
  expect.soft(await wrong(page), 'solid').toEqual([]);
  await page.keyboard.press('t');
  expect.soft(await wrong(page), 'solid, a new feature').toEqual([]);
  await goTo(page, 'Hand over');
  expect.soft(await wrong(page), 'hand over, with a body').toEqual([]);
  await context.close();
});
