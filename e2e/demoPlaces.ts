import type { Page } from 'playwright-core';
import { buildCamera, pictureOf } from '../rig/src/camera';
import { FOCUS_KNOB_SCENE, LAMP_GASKET_SCENE } from '../rig/src/demo';
import { markOf, pixelPlace, press, truthOf } from './harness';

/** Picks with the tool in hand, near enough to an edge that they cling to it. */
export async function pickAll(page: Page, pixels: readonly [number, number][]): Promise<void> {
  for (const at of pixels) {
    await press(page, await pixelPlace(page, at));
    await page.waitForTimeout(300);
  }
}

const knobCamera = buildCamera(FOCUS_KNOB_SCENE.camera);
/** Height of the knob's axis and of the stick's face, mm. */
const AXIS_MM = 15;
const lieOf = (kind: 'turned' | 'plate') => {
  const found = FOCUS_KNOB_SCENE.items.find((i) => i.kind === kind);
  if (!found) throw new Error(`no ${kind}`);
  return found.lie;
};

/** Where the simulated camera pictures a place of the knob or of the stick, in its own mm and over the table. */
export function knobPixel(kind: 'turned' | 'plate', x: number, y: number, z = AXIS_MM): [number, number] {
  const lie = lieOf(kind);
  const [c, s] = [Math.cos(lie.turn), Math.sin(lie.turn)];
  const at = pictureOf(knobCamera, { x: lie.x + c * x - s * y, y: lie.y + s * x + c * y, z });
  if (!at) throw new Error('not pictured');
  return at;
}

/** Where the knob's silhouette is seen, at a place along it where it is a cylinder. */
export function knobSilhouette(along: number, radius: number, side: 1 | -1): [number, number] {
  const lie = lieOf('turned');
  const [c, s] = [Math.cos(lie.turn), Math.sin(lie.turn)];
  const across = c * (knobCamera.lens.y - lie.y) - s * (knobCamera.lens.x - lie.x);
  const up = knobCamera.lens.z - AXIS_MM;
  const angle = Math.atan2(up, across) - side * Math.acos(radius / Math.hypot(across, up));
  return knobPixel('turned', along, radius * Math.cos(angle), AXIS_MM + radius * Math.sin(angle));
}

const gasketCamera = buildCamera(LAMP_GASKET_SCENE.camera);

/** Where a place of the gasket's face, in its own mm, is pictured. */
export function gasketPixel(x: number, y: number): [number, number] {
  const gasket = LAMP_GASKET_SCENE.items.find((i) => i.kind === 'plate');
  if (!gasket) throw new Error('no gasket');
  const { lie, base, thickness } = gasket;
  const [c, s] = [Math.cos(lie.turn), Math.sin(lie.turn)];
  const at = pictureOf(gasketCamera, { x: lie.x + c * x - s * y, y: lie.y + s * x + c * y, z: base + thickness });
  if (!at) throw new Error('not pictured');
  return at;
}

export type Side = 'left' | 'right';

/** Where a mark of the hanger rail or of its rule is pictured. */
function railPixel(side: Side, kind: 'plate' | 'rule', name: string): [number, number] {
  return markOf(truthOf(`hanger-rail-${side}`), kind, name);
}

/** Two readings of the rail's rule, the strokes between them counted, and the heights. */
export async function readRailRule(page: Page, side: Side, from: number, to: number): Promise<void> {
  await page.keyboard.press('q');
  await pickAll(page, [railPixel(side, 'rule', `graduation ${from}`), railPixel(side, 'rule', `graduation ${to}`)]);
  await page.getByRole('heading', { name: /between the two readings/ }).waitFor();
  await page.keyboard.type(`${from} to ${to}`);
  await page.keyboard.press('Enter');
  await page.getByText(/100 mm in the middle are good to/).waitFor();
  await page.getByRole('button', { name: /Count the graduations/ }).click();
  await page.getByTestId('graduations').first().waitFor({ timeout: 20_000 });
  await railHeights(page);
}

/** The rule and the rail as thick as they are. */
export async function railHeights(page: Page): Promise<void> {
  for (const [label, height] of [
    ['Height of the ruler’s top face', '1'],
    ['Height of the traced face (part thickness)', '4'],
  ]) {
    const field = page.getByLabel(label!, { exact: true });
    await field.fill(height!);
    await field.press('Enter');
  }
}

/** A place that the right picture shows and the left one too, picked in both with free hand. */
export async function shareRailPoint(page: Page, first: Side, kind: 'plate' | 'rule', mark: string): Promise<void> {
  const second = first === 'left' ? 'right' : 'left';
  await page.keyboard.down('f');
  await pickAll(page, [railPixel(first, kind, mark)]);
  await page.getByText('Now the same place in this picture.').waitFor();
  await page.waitForTimeout(300);
  await pickAll(page, [railPixel(second, kind, mark)]);
  await page.getByText('Pick a place of the part that the other picture shows as well').waitFor();
  await page.keyboard.up('f');
  await page.waitForTimeout(300);
}
