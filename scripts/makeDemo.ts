// Takes the demo pictures with the simulated camera, and writes the truth beside each. The same bytes every time.
import { mkdirSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { DEMO_SHOTS } from '../rig/src/demo';
import { shoot } from '../rig/src/render';
import { tellTruth, writeJpeg } from '../rig/src/write';

const folder = fileURLToPath(new URL('../demo/pictures/', import.meta.url));
mkdirSync(folder, { recursive: true });
for (const { name, scene, facts, quality } of DEMO_SHOTS) {
  console.log(`Taking ${name} …`);
  writeFileSync(`${folder}${name}.jpg`, await writeJpeg(shoot(scene), quality, facts));
  writeFileSync(`${folder}${name}.truth.json`, `${JSON.stringify(tellTruth(scene), null, 1)}\n`);
}
