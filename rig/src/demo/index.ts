import type { Scene } from '../scene';
import type { ShotFacts } from '../write';
import { LATCH_PLATE_SCENE } from './latchPlate';

export * from './latchPlate';

/** A demo picture: its scene, and what the file says of the camera. */
export interface DemoShot {
  name: string;
  scene: Scene;
  facts: ShotFacts;
  quality: number;
}

export const DEMO_SHOTS: readonly DemoShot[] = [
  { name: 'latch-plate', scene: LATCH_PLATE_SCENE, facts: { focal35Mm: 27, focalMm: 5.6 }, quality: 92 },
];
