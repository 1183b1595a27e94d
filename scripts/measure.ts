// npm run measure -- PICTURE REQUEST.json : what docs/core.md describes. Prints JSON; a fault goes to the error output.
import { readFileSync } from 'node:fs';
import Ajv from 'ajv';
import sharp from 'sharp';
import { decodeHeic, readFacts, sniffPicture } from '../core/src/format/picture';
import type { Pixels } from '../core/src/raster';
import { type MeasureRequest, measurePicture, REQUEST_SCHEMA } from '../core/src/script';

function stop(sentence: string): never {
  console.error(sentence);
  process.exit(1);
}

function read(path: string): Buffer {
  try {
    return readFileSync(path);
  } catch {
    return stop(`${path} cannot be read.`);
  }
}

const [picturePath, requestPath] = process.argv.slice(2);
if (!picturePath || !requestPath) stop('Say which: npm run measure -- PICTURE REQUEST.json');
let request: MeasureRequest;
try {
  request = JSON.parse(read(requestPath).toString('utf8'));
} catch {
  stop(`${requestPath} is not JSON.`);
}
const ajv = new Ajv({ strict: true });
if (!ajv.validate(REQUEST_SCHEMA, request)) stop(`${requestPath}: ${ajv.errorsText(ajv.errors, { dataVar: '' })}`);
const bytes = new Uint8Array(read(picturePath));
const found = sniffPicture(bytes);
if (!found.ok) stop(`${picturePath} cannot be used as a picture: ${found.reason}.`);
const { facts } = await readFacts(bytes, found.widthPx, found.heightPx);
// Upright, as the picture's coordinates are.
async function readPixels(mime: string): Promise<Pixels> {
  if (mime === 'image/heic') return decodeHeic(bytes);
  const { data, info } = await sharp(bytes)
    .rotate()
    .ensureAlpha()
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data };
}
const pixels = await readPixels(found.mime).catch(() => stop(`${picturePath} is damaged and cannot be decoded.`));
const result = measurePicture(request, { ...facts, widthPx: pixels.width, heightPx: pixels.height }, pixels);
if (!result.ok) stop(`The picture cannot be measured: ${result.reason}${result.at ? `, at ${result.at}` : ''}.`);
console.log(JSON.stringify(result.answer, null, 2));
