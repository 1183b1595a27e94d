import { COIN_KINDS } from '../rig/src/harder';
import type { AddRow } from './addRow';
import { HOLE_STEPS, measureCoins, measureHoles } from './rows/harder';

/** Scenes of each kind. */
const COIN_SCENES = 8;
const HOLE_SCENES = 5;
/** Seeds that no threshold was chosen by. */
const FIRST_SEED = 700;

/** Pictures that mislead: coins by their tables and shadows, holes whose rims brightness hardly shows. */
export async function measureHarder(row: AddRow): Promise<void> {
  for (const kind of COIN_KINDS) {
    const { scenes, right, doubted, wrong, refused } = await measureCoins(kind, FIRST_SEED, COIN_SCENES);
    row(
      `a coin from one click: ${kind}`,
      'harder',
      String(scenes),
      `${right} right, ${doubted} wrong and said to be in doubt, ${wrong} wrong and silent, ${refused} refused`,
      '≥ 95 % right, none wrong and silent',
    );
  }
  for (const step of HOLE_STEPS) {
    const { holes, found, held, within95Mm, plusMinusMm } = await measureHoles(step, FIRST_SEED, HOLE_SCENES);
    row(
      `diameter of a hole ${step.depthMm ?? 0.1} mm deep by 20 places, a step of ${step.light} in brightness and ${step.colour} in colour`,
      'harder',
      `${holes} holes`,
      `${found} found; 95 % within ${within95Mm.toFixed(3)} mm; ± told ${plusMinusMm.toFixed(3)}; held ${(100 * held).toFixed(0)} %`,
      '95 % ≤ 0.03 mm at 20 px/mm, held 94 to 97 %',
    );
  }
}
