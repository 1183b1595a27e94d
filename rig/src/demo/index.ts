import { shoot } from '../render';
import { scannedAt, scanPage } from '../scan';
import type { Scene } from '../scene';
import { type ShotFacts, tellTruth, writeJpeg, writeScan } from '../write';
import { BAFFLE_PATTERN_SCENE } from './bafflePattern';
import { FOCUS_KNOB_SCENE } from './focusKnob';
import { drawFunnelBracket, FUNNEL_BRACKET_MARKS, FUNNEL_BRACKET_SCAN } from './funnelBracket';
import { HANGER_RAIL_LEFT_SCENE, HANGER_RAIL_RIGHT_SCENE } from './hangerRail';
import { LAMP_GASKET_SCENE } from './lampGasket';
import { LATCH_PLATE_SCENE } from './latchPlate';
import { PLYWOOD_OFFCUT_SCENE } from './plywoodOffcut';

export * from './bafflePattern';
export * from './focusKnob';
export * from './funnelBracket';
export * from './hangerRail';
export * from './lampGasket';
export * from './latchPlate';
export * from './plywoodOffcut';

/** A demo picture: what its job is called, what kind of picture it is, how it is taken. One job may have several. */
export interface DemoShot {
  name: string;
  job: string;
  kind: 'photo' | 'scan';
  take(): Promise<{ bytes: Uint8Array; truth: object }>;
}

const PHONE: ShotFacts = { focal35Mm: 27, focalMm: 5.6 };
const PHONE_LONG: ShotFacts = { focal35Mm: 54, focalMm: 9.1 };

export const DEMO_SHOTS: readonly DemoShot[] = [
  photo('latch-plate', 'Latch plate', LATCH_PLATE_SCENE, PHONE),
  photo('lamp-gasket', 'Lamp gasket', LAMP_GASKET_SCENE, PHONE, 88),
  photo('baffle-pattern', 'Baffle pattern', BAFFLE_PATTERN_SCENE, PHONE, 88),
  {
    name: 'funnel-bracket',
    job: 'Funnel bracket',
    kind: 'scan',
    take: async () => {
      const page = drawFunnelBracket();
      const marks = Object.entries(FUNNEL_BRACKET_MARKS).map(([name, own]) => ({
        name,
        own,
        picture: scannedAt(FUNNEL_BRACKET_SCAN, ...own),
      }));
      const bytes = await writeScan(scanPage(page, FUNNEL_BRACKET_SCAN), 300, 85);
      return { bytes, truth: { scanner: FUNNEL_BRACKET_SCAN, marks } };
    },
  },
  photo('focus-knob', 'Focus knob', FOCUS_KNOB_SCENE, PHONE_LONG, 88),
  photo('plywood-offcut', 'Plywood offcut', PLYWOOD_OFFCUT_SCENE, PHONE, 88),
  photo('hanger-rail-left', 'Hanger rail', HANGER_RAIL_LEFT_SCENE, PHONE, 88),
  photo('hanger-rail-right', 'Hanger rail', HANGER_RAIL_RIGHT_SCENE, PHONE, 88),
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
