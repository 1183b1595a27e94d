// Takes the demo pictures with the simulated camera and scanner, writes the truth beside each, and lists them. The same
// bytes every time. Names after it take only those again: `npx tsx scripts/makeDemo.ts latch-plate`.
import { mkdirSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { DEMO_SHOTS } from '../rig/src/demo';

const folder = fileURLToPath(new URL('../demo/pictures/', import.meta.url));
const THUMB_PX = 540;
const wanted = process.argv.slice(2);
mkdirSync(folder, { recursive: true });
for (const shot of DEMO_SHOTS) {
  if (wanted.length && !wanted.includes(shot.name)) continue;
  console.log(`Taking ${shot.name} …`);
  const { bytes, truth } = await shot.take();
  writeFileSync(`${folder}${shot.name}.jpg`, bytes);
  writeFileSync(`${folder}${shot.name}.truth.json`, `${JSON.stringify(truth, null, 1)}\n`);
  const thumb = await sharp(bytes).resize(THUMB_PX, THUMB_PX, { fit: 'inside' }).jpeg({ quality: 80 }).toBuffer();
  writeFileSync(`${folder}${shot.name}-small.jpg`, thumb);
}
const index = DEMO_SHOTS.map(({ name, job, kind }) => ({ file: `${name}.jpg`, thumb: `${name}-small.jpg`, job, kind }));
writeFileSync(`${folder}index.json`, `${JSON.stringify(index, null, 1)}\n`);
