import type { Coin, Film, Rgb, Scene } from '../scene';
import { steadyShot } from './steadyShot';

/** Kinds of coins and tables that mislead whoever looks for the rim by brightness, or for the clearest circle. */
export const COIN_KINDS = [
  'two metals, light ring, on blue-gray',
  'two metals, gold ring, on oak',
  'gold on blue-gray',
  'copper on oak',
  'worn silver on white',
  'bronze on slate',
  'gray on gray, a hard shadow beside it',
  'engraved ring and milled rim, on wood',
] as const;
export type CoinKind = (typeof COIN_KINDS)[number];

const SILVER: Rgb = [0.52, 0.51, 0.48];
const GOLD: Rgb = [0.46, 0.34, 0.13];
const COPPER: Rgb = [0.36, 0.2, 0.12];
const BRONZE: Rgb = [0.09, 0.07, 0.05];
const BLUE_GRAY: Rgb = [0.27, 0.33, 0.42];
const OAK: Rgb = [0.38, 0.25, 0.15];
const WHITE: Rgb = [0.72, 0.71, 0.68];
const SLATE: Rgb = [0.06, 0.065, 0.07];
const GRAY: Rgb = [0.3, 0.3, 0.3];

interface Look {
  coin: Pick<Coin, 'colour' | 'core' | 'ringMm' | 'isMilled'>;
  table: Scene['table'];
  shadow?: Scene['shadow'];
}

function lookOf(kind: CoinKind, diameterMm: number): Look {
  switch (kind) {
    case 'two metals, light ring, on blue-gray':
      return {
        coin: { colour: SILVER, core: { diameterMm: 0.68 * diameterMm, colour: GOLD } },
        table: { colour: BLUE_GRAY, grain: 0.05 },
      };
    case 'two metals, gold ring, on oak':
      return {
        coin: { colour: GOLD, core: { diameterMm: 0.7 * diameterMm, colour: SILVER } },
        table: { colour: OAK, grain: 0.12 },
      };
    case 'gold on blue-gray':
      return { coin: { colour: GOLD }, table: { colour: BLUE_GRAY, grain: 0.05 } };
    case 'copper on oak':
      return { coin: { colour: COPPER }, table: { colour: OAK, grain: 0.12 } };
    case 'worn silver on white':
      return { coin: { colour: [0.66, 0.65, 0.61] }, table: { colour: WHITE, grain: 0.02 } };
    case 'bronze on slate':
      return { coin: { colour: BRONZE }, table: { colour: SLATE, grain: 0.1 } };
    case 'gray on gray, a hard shadow beside it':
      return {
        coin: { colour: [0.34, 0.34, 0.33] },
        table: { colour: GRAY, grain: 0.05 },
        shadow: { dark: 0.75, softMm: 0.12 },
      };
    case 'engraved ring and milled rim, on wood':
      return { coin: { colour: SILVER, ringMm: 0.86 * diameterMm, isMilled: true }, table: undefined };
  }
}

/** One coin of a kind on its table, photographed by hand; the same for the same seed. */
export function harderCoin(kind: CoinKind, seed: number, film: Partial<Film> = {}): { scene: Scene; coin: Coin } {
  const { next, ...shot } = steadyShot(seed, film);
  const diameterMm = 18 + 10 * next();
  const { coin: look, table, shadow } = lookOf(kind, diameterMm);
  const coin: Coin = {
    kind: 'coin',
    lie: { x: 10 * (next() - 0.5), y: 8 * (next() - 0.5), turn: 6 * next() },
    base: 0,
    thickness: 1.6 + 0.8 * next(),
    diameterMm,
    ...look,
  };
  return { coin, scene: { ...shot, items: [coin], ...(table && { table }), ...(shadow && { shadow }) } };
}
