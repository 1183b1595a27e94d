import { shoot } from '../render';
import type { Scene } from '../scene';
import { type ShotFacts, tellTruth, writeJpeg } from '../write';
import { LATCH_PLATE_SCENE } from './latchPlate';

export * from './latchPlate';

/** A demo picture: what the job is called, what kind of picture it is, and how it is taken. */
export interface DemoShot {
  name: string;
  job: string;
  kind: 'photo' | 'scan';
  take(): Promise<{ bytes: Uint8Array; truth: object }>;
}

export const DEMO_SHOTS: readonly DemoShot[] = [
  photo('latch-plate', 'Latch plate', LATCH_PLATE_SCENE, { focal35Mm: 27, focalMm: 5.6 }),
];

/** A photograph of a scene, and the scene's truth. */
function photo(name: string, job: string, scene: Scene, facts: ShotFacts, quality = 92): DemoShot {
  return {
    name,
    job,
    kind: 'photo',
    take: async () => ({ bytes: await writeJpeg(shoot(scene), quality, facts), truth: tellTruth(scene) }),
  };
}
