import { writeJpeg, writePng } from '@steady-moth/rig/write';
import { describe, expect, it } from 'vitest';
import { readFacts } from './readFacts';
import { sniffPicture } from './sniffPicture';

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

  it('never throws on a spoilt header', () => {
    for (let at = 0; at < 400; at++) {
      const spoilt = jpeg.slice();
      spoilt[at] ^= 0xff;
      expect(() => sniffPicture(spoilt)).not.toThrow();
    }
  });
});

describe('readFacts', () => {
  it('reads the lens, and turns the size upright', async () => {
    expect(await readFacts(jpeg, 64, 48)).toEqual({
      orientation: 6,
      facts: { widthPx: 48, heightPx: 64, focal35Mm: 27, focalMm: 5.6, cropped: false },
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
