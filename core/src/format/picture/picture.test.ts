import { writeJpeg, writePng } from '@steady-moth/rig/write';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sniffPicture } from '../sniff/sniffPicture';
import { decodeHeic } from './decodeHeic';
import { decodeTiff } from './decodeTiff';
import { readFacts } from './readFacts';

const shot = {
  left: 0,
  top: 0,
  width: 64,
  height: 48,
  pixels: Uint8Array.from({ length: 64 * 48 * 3 }, (_, k) => k % 255),
};
const jpeg = await writeJpeg(shot, 90, { focal35Mm: 27, focalMm: 5.6, orientation: 6 });
const plain = await writeJpeg(shot, 90);
const png = await writePng(shot);

describe('sniffPicture', () => {
  it('tells JPEG and PNG by their bytes, and their size', () => {
    expect(sniffPicture(jpeg)).toEqual({ ok: true, mime: 'image/jpeg', widthPx: 64, heightPx: 48 });
    expect(sniffPicture(png)).toEqual({ ok: true, mime: 'image/png', widthPx: 64, heightPx: 48 });
  });

  it('is not put off by what stands behind the end', () => {
    expect(sniffPicture(Uint8Array.from([...jpeg, 1, 2, 3]))).toMatchObject({ ok: true });
  });

  it.each([
    ['0 bytes', new Uint8Array(0), { reason: 'empty' }],
    ['text called .png', new TextEncoder().encode('not a picture at all'), { reason: 'not-a-picture' }],
    ['a program', Uint8Array.from([0x4d, 0x5a, 0x90, 0]), { reason: 'not-a-picture' }],
    ['half a JPEG', jpeg.subarray(0, jpeg.length >> 1), { reason: 'truncated' }],
    ['a JPEG without its last bytes', jpeg.subarray(0, jpeg.length - 2), { reason: 'truncated' }],
    ['half a PNG', png.subarray(0, png.length >> 1), { reason: 'truncated' }],
    ['a PNG of 300 megapixels', withPngSize(png, 20_000, 15_000), { reason: 'too-many-pixels', megapixels: 300 }],
    ['a PNG without width', withPngSize(png, 0, 10), { reason: 'broken' }],
  ])('refuses %s', (_, bytes, fault) => {
    expect(sniffPicture(bytes)).toEqual({ ok: false, ...fault });
  });

  it('takes no picture that a job could not hold', () => {
    const long = png.slice();
    new DataView(long.buffer).setUint32(16, 60_001);
    new DataView(long.buffer).setUint32(20, 1);
    expect(sniffPicture(long)).toEqual({ ok: false, reason: 'too-long', mostPx: 60_000 });
    new DataView(long.buffer).setUint32(16, 60_000);
    expect(sniffPicture(long)).toMatchObject({ ok: true });
    new DataView(long.buffer).setUint32(20, 60_000);
    expect(sniffPicture(long)).toEqual({ ok: false, reason: 'too-many-pixels', megapixels: 3600 });
  });

  it.each([4, 5, 6, 7, 8, 9])('refuses a TIFF of %i bytes', (length) => {
    const start = Uint8Array.from([0x49, 0x49, 42, 0, 8, 0, 0, 0, 1]).subarray(0, length);
    expect(sniffPicture(start)).toEqual({ ok: false, reason: 'truncated' });
    expect(() => decodeTiff(start)).toThrow('decodeTiff');
  });

  it('never throws on a spoilt header', () => {
    for (let at = 0; at < 400; at++) {
      const spoilt = jpeg.slice();
      spoilt[at]! ^= 0xff;
      expect(() => sniffPicture(spoilt)).not.toThrow();
    }
  });
});

describe('the further kinds of picture', async () => {
  const { readFileSync } = await import('node:fs');
  const sharp = (await import('sharp')).default;
  const raw = sharp(shot.pixels, { raw: { width: 64, height: 48, channels: 3 } });
  const webp = new Uint8Array(await raw.clone().webp({ lossless: true }).toBuffer());
  const lossy = new Uint8Array(await raw.clone().webp().toBuffer());
  const lzw = new Uint8Array(await raw.clone().tiff({ compression: 'lzw' }).toBuffer());
  const heic = new Uint8Array(readFileSync(new URL('./samples/small.heic', import.meta.url)));

  it.each([
    ['WebP without loss', webp, 'image/webp', 64, 48],
    ['WebP with loss', lossy, 'image/webp', 64, 48],
    ['TIFF', lzw, 'image/tiff', 64, 48],
    ['HEIC', heic, 'image/heic', 480, 360],
  ])('are told by their bytes: %s', (_, bytes, mime, widthPx, heightPx) => {
    expect(sniffPicture(bytes)).toEqual({ ok: true, mime, widthPx, heightPx });
    expect(sniffPicture(bytes.subarray(0, bytes.length >> 1))).toMatchObject({ ok: false });
    // The end of a TIFF may hold nothing but its resolution: without that it is still a picture.
    if (mime !== 'image/tiff')
      expect(sniffPicture(bytes.subarray(0, bytes.length - 30))).toMatchObject({ ok: false, reason: 'truncated' });
  });

  it('are refused as HEIC of no size', async () => {
    const none = heic.slice();
    const text = new TextDecoder('latin1').decode(none);
    for (let at = text.indexOf('ispe'); at >= 0; at = text.indexOf('ispe', at + 4)) none.fill(0, at + 8, at + 16);
    expect(sniffPicture(none)).toEqual({ ok: false, reason: 'broken' });
    await expect(decodeHeic(none)).rejects.toThrow(/^decodeHeic: /);
  });

  it('are not believed when a directory is broken', () => {
    for (let at = 4; at < 60; at++) {
      for (const bytes of [lzw, webp, heic]) {
        const spoilt = bytes.slice();
        spoilt[at]! ^= 0xff;
        expect(() => sniffPicture(spoilt)).not.toThrow();
      }
    }
    const entries = lzw.slice();
    const view = new DataView(entries.buffer);
    view.setUint16(view.getUint32(4, true), 60_000, true);
    expect(sniffPicture(entries)).toMatchObject({ ok: false, reason: 'broken' });
  });

  it.each([
    ['LZW', { compression: 'lzw' }, 3],
    ['deflate', { compression: 'deflate' }, 3],
    ['none', { compression: 'none' }, 3],
    ['gray', { compression: 'lzw' }, 1],
  ] as const)('decode TIFF pixel by pixel: %s', async (_, options, channels) => {
    const base = channels === 1 ? raw.clone().grayscale() : raw.clone();
    const wanted = await sharp(await base.clone().png().toBuffer())
      .ensureAlpha()
      .toColourspace('srgb')
      .raw()
      .toBuffer();
    const found = decodeTiff(new Uint8Array(await base.clone().tiff(options).toBuffer()));
    expect([found.width, found.height]).toEqual([64, 48]);
    expect(Buffer.from(found.data.buffer).equals(wanted)).toBe(true);
  });

  it('end with TIFFs that lead in circles, count to four thousand million, or are changed anywhere', async () => {
    const whole = new Uint8Array(await raw.clone().tiff({ compression: 'lzw' }).toBuffer());
    const view = new DataView(whole.buffer, whole.byteOffset);
    const at = view.getUint32(4, true);
    const count = view.getUint16(at, true);
    const circle = whole.slice();
    new DataView(circle.buffer).setUint32(at + 2 + 12 * count, at, true);
    expect(decodeTiff(circle).width).toBe(64);
    const endless = whole.slice();
    const entry = Array.from({ length: count }, (_, k) => at + 2 + 12 * k).find((e) => view.getUint16(e, true) === 282);
    new DataView(endless.buffer).setUint32((entry ?? 0) + 4, 0xffffffff, true);
    expect(decodeTiff(endless).width).toBe(64);
    fc.assert(
      fc.property(fc.integer({ min: 8, max: whole.length - 1 }), fc.integer({ min: 1, max: 255 }), (place, by) => {
        const changed = whole.slice();
        changed[place]! ^= by;
        try {
          const { width, height, data } = decodeTiff(changed);
          expect(data.length).toBe(width * height * 4);
        } catch (error) {
          expect(error).toBeInstanceOf(Error);
        }
      }),
      { numRuns: 300 },
    );
  });

  it('decode 16-bit TIFF to eight bits', async () => {
    const found = decodeTiff(
      new Uint8Array(await raw.clone().toColourspace('rgb16').tiff({ compression: 'lzw' }).toBuffer()),
    );
    let most = 0;
    for (let k = 0; k < 64 * 48; k++)
      for (let c = 0; c < 3; c++) most = Math.max(most, Math.abs(found.data[4 * k + c]! - shot.pixels[3 * k + c]!));
    expect(most).toBeLessThanOrEqual(1);
  });

  it('decode HEIC, and refuse a broken one', async () => {
    const found = await decodeHeic(heic);
    expect([found.width, found.height]).toEqual([480, 360]);
    const demo = new URL('../../../../demo/pictures/latch-plate.jpg', import.meta.url);
    const wanted = await sharp(readFileSync(demo)).resize(480, 360).ensureAlpha().raw().toBuffer();
    let sum = 0;
    for (let k = 0; k < wanted.length; k++) sum += Math.abs(wanted[k]! - found.data[k]!);
    expect(sum / wanted.length).toBeLessThan(4);
    const spoilt = heic.slice();
    spoilt.fill(0, 100, 400);
    await expect(decodeHeic(spoilt)).rejects.toThrow();
  });
});

describe('readFacts', () => {
  it('reads the lens, and turns the size upright', async () => {
    expect(await readFacts(jpeg, 64, 48)).toEqual({
      orientation: 6,
      facts: { widthPx: 48, heightPx: 64, focal35Mm: 27, focalMm: 5.6, doubts: [], resolution: null },
    });
  });

  it('says nothing where the file says nothing, or nonsense', async () => {
    expect(await readFacts(plain, 64, 48)).toMatchObject({ orientation: 1, facts: { focal35Mm: null, focalMm: null } });
    expect(await readFacts(new Uint8Array(40), 64, 48)).toMatchObject({ orientation: 1 });
  });
});

function withPngSize(bytes: Uint8Array, width: number, height: number): Uint8Array {
  const changed = bytes.slice();
  const view = new DataView(changed.buffer);
  view.setUint32(16, width);
  view.setUint32(20, height);
  return changed;
}
