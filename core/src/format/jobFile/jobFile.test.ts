import { writeJpeg } from '@steady-moth/rig/write';
import { zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { act, NO_HISTORY, setUnit } from '../../job';
import { sampleJob } from '../../job/sample.test-data';
import { digest } from '../digest';
import { readJobFile, writeJobFile } from './jobFile';

const shot = {
  left: 0,
  top: 0,
  width: 64,
  height: 48,
  pixels: Uint8Array.from({ length: 64 * 48 * 3 }, (_, k) => k % 251),
};
const picture = await writeJpeg(shot, 90);
const blob = digest(picture);
const small = () => {
  const job = sampleJob(blob);
  Object.assign(job.pictures[0]!.facts, { widthPx: 64, heightPx: 48 });
  return job;
};
const packed = () => {
  const state = act({ job: small(), history: NO_HISTORY }, setUnit('in'));
  return { ...state, blobs: new Map([[blob, picture]]) };
};
/** An archive whose pictures lie in it as they are. */
const pack = (entries: Record<string, Uint8Array>) =>
  seal(
    zipSync(
      Object.fromEntries(
        Object.entries(entries).map(([name, data]) => [name, [data, { level: name.endsWith('.json') ? 6 : 0 }]]),
      ),
    ),
  );

/** Seals an archive as a stranger could who knows how. */
function seal(zip: Uint8Array): Uint8Array {
  const sealed = new Uint8Array(zip.length + 64);
  sealed.set(zip);
  sealed[zip.length - 2] = 64;
  sealed.set(new TextEncoder().encode(digest(sealed.subarray(0, zip.length))), zip.length);
  return sealed;
}
const text = (value: unknown) => new TextEncoder().encode(typeof value === 'string' ? value : JSON.stringify(value));

describe('job file', () => {
  it('knows the published digest of "abc"', () => {
    expect(digest(text('abc'))).toBe('ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad');
  });

  it('gives everything back as it was', () => {
    const before = packed();
    expect(readJobFile(writeJobFile(before))).toEqual({
      ok: true,
      ...before,
      mimes: new Map([[blob, 'image/jpeg']]),
    });
  });

  it('is the same file for the same job', () => {
    expect(digest(writeJobFile(packed()))).toBe(digest(writeJobFile(packed())));
  });

  it('notices a changed byte wherever it is', () => {
    const file = writeJobFile(packed());
    for (let at = 4; at < file.length; at += 97) {
      const spoilt = file.slice();
      spoilt[at]! ^= 0x10;
      const read = readJobFile(spoilt);
      expect(read.ok, `byte ${at}`).toBe(false);
      if (!read.ok) expect(['changed', 'not-a-job-file'], `byte ${at}`).toContain(read.reason);
    }
  });

  it.each([
    ['nothing', new Uint8Array(0), 'empty'],
    [
      'text',
      text('hello there, this is no archive but a long enough line of plain text to be looked at'),
      'not-a-job-file',
    ],
    ['a plain archive', zipSync({ 'job.json': text({}) }), 'not-a-job-file'],
    ['a cut-off file', writeJobFile(packed()).subarray(0, 2000), 'not-a-job-file'],
    [
      'a job from the future',
      seal(zipSync({ 'job.json': text({ ...sampleJob(blob), version: 99 }) })),
      'from-the-future',
    ],
    ['a file without its picture', seal(zipSync({ 'job.json': text(sampleJob(blob)) })), 'picture-missing'],
    [
      'another picture under its name',
      pack({ 'job.json': text(small()), [`pictures/${blob}`]: text('x') }),
      'picture-missing',
    ],
    [
      'a path that climbs out',
      seal(zipSync({ 'job.json': text(sampleJob(blob)), '../../evil': text('x') })),
      'not-a-job-file',
    ],
    [
      'a picture that would grow when it is unpacked',
      seal(zipSync({ 'job.json': text(small()), [`pictures/${blob}`]: [new Uint8Array(5e6), { level: 9 }] })),
      'not-a-job-file',
    ],
    [
      'a program under a picture’s name',
      (() => {
        const program = Uint8Array.from({ length: 500 }, (_, k) => (k * 37) % 251);
        const job = small();
        job.pictures[0]!.blob = digest(program);
        return pack({ 'job.json': text(job), [`pictures/${digest(program)}`]: program });
      })(),
      'picture-refused',
    ],
    [
      'a picture of another kind than stated',
      pack({
        'job.json': text({ ...small(), pictures: small().pictures.map((p) => ({ ...p, mime: 'image/png' })) }),
        [`pictures/${blob}`]: picture,
      }),
      'picture-refused',
    ],
    [
      'a picture of another size than stated',
      pack({ 'job.json': text(sampleJob(blob)), [`pictures/${blob}`]: picture }),
      'picture-refused',
    ],
    ['broken JSON', seal(zipSync({ 'job.json': text('{') })), 'not-a-job-file'],
    ['a bomb', seal(zipSync({ 'job.json': new Uint8Array(70e6) }, { level: 9 })), 'too-large'],
  ])('refuses %s', (_, bytes, reason) => {
    expect(readJobFile(bytes)).toMatchObject({ ok: false, reason });
  });

  it('holds a bomb that lies about its size to what it stated', () => {
    const zip = zipSync({ 'job.json': new Uint8Array(20e6) }, { level: 9 });
    const view = new DataView(zip.buffer);
    // Uncompressed size in the local and the central header.
    view.setUint32(22, 100, true);
    const central = zip.length - 22 - 46 - 'job.json'.length;
    view.setUint32(central + 24, 100, true);
    expect(readJobFile(seal(zip))).toMatchObject({ ok: false, reason: 'not-a-job-file' });
  });

  it('unpacks only the pictures that the job names', () => {
    const other = Uint8Array.from([...picture, 0]);
    const file = pack({
      'job.json': text(small()),
      [`pictures/${blob}`]: picture,
      [`pictures/${digest(other)}`]: other,
    });
    const read = readJobFile(file);
    expect(read.ok && [...read.blobs.keys()]).toEqual([blob]);
  });

  it('opens a job whose history does not fit, without it', () => {
    const file = pack({
      'job.json': text(small()),
      'history.json': text({
        past: [{ label: 'x', patches: [], inverse: [{ op: 'remove', path: ['no', 'such', 'place'] }] }],
        future: [],
      }),
      [`pictures/${blob}`]: picture,
    });
    expect(readJobFile(file)).toMatchObject({ ok: true, history: NO_HISTORY });
  });
});
