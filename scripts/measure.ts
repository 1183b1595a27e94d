// npm run measure -- PICTURE... REQUEST.json : what docs/core.md describes. Prints JSON; a fault goes to the error output.
import { readFileSync } from 'node:fs';
import { Worker } from 'node:worker_threads';
import Ajv from 'ajv';
import sharp from 'sharp';
import type { PictureFacts } from '../core/src/calibration';
import { decodeHeic, readFacts, sniffPicture } from '../core/src/format/picture';
import type { Pixels } from '../core/src/raster';
import { measureSentence } from '../core/src/say';
import {
  asksForFigures,
  JOINED_SCHEMA,
  type JoinedRequest,
  type MeasureRequest,
  measureJoined,
  measurePicture,
  REQUEST_SCHEMA,
  withRulersRead,
} from '../core/src/script';
import { openReader } from '../rig/src/letters';

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

/** What was asked, checked: of one picture, or of several that are joined. */
function readRequest(path: string): MeasureRequest | JoinedRequest {
  let request: unknown;
  try {
    request = JSON.parse(read(path).toString('utf8'));
  } catch {
    stop(`${path} is not JSON.`);
  }
  const schema =
    request !== null && typeof request === 'object' && 'pictures' in request ? JOINED_SCHEMA : REQUEST_SCHEMA;
  const ajv = new Ajv({ strict: true });
  const fits: boolean = ajv.validate(schema, request);
  if (!fits) stop(`${path}: ${ajv.errorsText(ajv.errors, { dataVar: '' })}`);
  return request as MeasureRequest | JoinedRequest;
}

/** A picture's pixels upright, as its coordinates are, and what its file tells. */
async function readPicture(path: string): Promise<{ facts: PictureFacts; pixels: Pixels }> {
  const bytes = new Uint8Array(read(path));
  const found = sniffPicture(bytes);
  if (!found.ok) stop(`${path} cannot be used as a picture: ${found.reason}.`);
  const { facts } = await readFacts(bytes, found.widthPx, found.heightPx);
  const decode = async (): Promise<Pixels> => {
    if (found.mime === 'image/heic') return decodeHeic(bytes);
    const { data, info } = await sharp(bytes)
      .rotate()
      .ensureAlpha()
      .toColourspace('srgb')
      .raw()
      .toBuffer({ resolveWithObject: true });
    return { width: info.width, height: info.height, data };
  };
  const pixels = await decode().catch(() => stop(`${path} is damaged and cannot be decoded.`));
  return { facts: { ...facts, widthPx: pixels.width, heightPx: pixels.height }, pixels };
}

/** Longer than this nobody waits for an answer without a word, s. */
const MOST_SECONDS = 120;

/** Ends this process when it takes too long: on a thread of its own, since measuring does not look up. */
function watch(): void {
  const sentence = `This takes longer than ${MOST_SECONDS} s. Ask for fewer points, or say less that contradicts itself.\n`;
  const code = `setTimeout(() => {
    require('node:fs').writeSync(2, ${JSON.stringify(sentence)});
    process.kill(process.pid);
  }, ${MOST_SECONDS * 1000})`;
  new Worker(code, { eval: true }).unref();
}

watch();
const paths = process.argv.slice(2);
const requestPath = paths.pop();
if (!requestPath || paths.length === 0) stop('Say which: npm run measure -- PICTURE... REQUEST.json');
const request = readRequest(requestPath);
const asked = 'pictures' in request ? request.pictures.length : 1;
if (paths.length !== asked) stop(`${requestPath} speaks of ${asked} pictures, ${paths.length} were given.`);
const pictures = [];
for (const path of paths) pictures.push(await readPicture(path));
/** Rulers without a length are read by their figures; the reader of letters is opened for them alone. */
async function readRulers(own: Pick<MeasureRequest, 'yardsticks'>, pixels: Pixels): Promise<void> {
  if (!own.yardsticks?.some(asksForFigures)) return;
  const reader = await openReader('scattered');
  own.yardsticks = await withRulersRead(own.yardsticks, pixels, (image) => reader.read(image));
  await reader.close();
}
const each = 'pictures' in request ? request.pictures : [request];
for (const [k, own] of each.entries()) await readRulers(own, pictures[k]!.pixels);
const result =
  'pictures' in request
    ? measureJoined(request, pictures)
    : measurePicture(request, pictures[0]!.facts, pictures[0]!.pixels);
if (!result.ok) stop(measureSentence(result));
console.log(JSON.stringify(result.answer, null, 2));
