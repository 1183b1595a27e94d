import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { get, createServer as listen, type Server } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { CONTENT_POLICY, createServer, isAway } from '.';

let server: Server;
let url: string;
/** As if whoever asks were on another machine. */
let seemsAway = false;
const faults: unknown[] = [];

beforeAll(async () => {
  const root = mkdtempSync(join(tmpdir(), 'moth-server-'));
  mkdirSync(join(root, 'app/assets'), { recursive: true });
  mkdirSync(join(root, 'demo'));
  writeFileSync(join(root, 'app/index.html'), '<p>Steady Moth</p>');
  writeFileSync(join(root, 'app/assets/a-1234.js'), '1');
  writeFileSync(join(root, 'demo/latch-plate.jpg'), 'jpeg'.repeat(1000));
  writeFileSync(join(root, 'demo/latch-plate.truth.json'), '{}');
  writeFileSync(join(root, 'app/assets/b-1234.js'), '/* many words */'.repeat(1000));
  writeFileSync(join(root, 'app/assets/c-1234.wasm'), 'many bytes'.repeat(1000));
  writeFileSync(join(root, 'app/assets/d-1234.wasm'), new Uint8Array(30_000_000));
  writeFileSync(join(root, 'secret.txt'), 'secret');
  server = listen(
    createServer({
      appFolder: join(root, 'app'),
      demoFolder: join(root, 'demo'),
      jobsFolder: join(root, 'jobs'),
      onFault: (error) => faults.push(error),
      packsFor: (address) => seemsAway || isAway(address),
    }).callback(),
  );
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const address = server.address();
  url = `http://127.0.0.1:${typeof address === 'object' ? address?.port : 0}`;
});
afterAll(() => server.close());

describe('the server', () => {
  it.each(['/', '/job/abc/trace'])('answers %s with the application', async (path) => {
    const response = await fetch(url + path);
    expect(response.status).toBe(200);
    expect(await response.text()).toContain('Steady Moth');
    expect(response.headers.get('cache-control')).toBe('no-cache');
  });

  it('keeps files that are named by their content', async () => {
    const response = await fetch(`${url}/assets/a-1234.js`);
    expect(response.headers.get('cache-control')).toContain('immutable');
    expect(response.headers.get('content-type')).toContain('javascript');
  });

  it('hands out the demo picture, and nothing else that lies beside it', async () => {
    expect((await fetch(`${url}/demo/latch-plate.jpg`)).status).toBe(200);
    expect((await fetch(`${url}/demo/latch-plate.truth.json`)).status).toBe(404);
  });

  it.each(['/../secret.txt', '/%2e%2e/secret.txt', '/assets/..%2f..%2fsecret.txt', '/.hidden', '/nothing.js'])(
    'gives nothing away for %s',
    async (path) => {
      const response = await fetch(url + path);
      expect(response.status).toBeGreaterThanOrEqual(400);
      expect(response.status).toBeLessThan(500);
      expect(await response.text()).not.toContain('secret');
    },
  );

  it.each(['/', '/assets/a-1234.js', '/demo/latch-plate.jpg'])('answers that %s has not changed', async (path) => {
    const first = await fetch(url + path);
    const tag = first.headers.get('etag');
    expect(tag).toBeTruthy();
    const again = await raw(path, { 'If-None-Match': tag ?? '' });
    expect([again.status, again.size]).toEqual([304, 0]);
    expect((await raw(path, { 'If-None-Match': '"other"' })).status).toBe(200);
  });

  it('packs what packs well, for whoever can unpack it', async () => {
    const accepting = (path: string, how: string) => raw(path, { 'Accept-Encoding': how });
    expect(await accepting('/assets/b-1234.js', 'br, gzip')).toMatchObject({ encoding: undefined, size: 16_000 });
    seemsAway = true;
    const { size, encoding } = await accepting('/assets/b-1234.js', 'br, gzip');
    expect(encoding).toBe('br');
    expect(size).toBeLessThan(1000);
    expect((await accepting('/assets/b-1234.js', 'gzip')).encoding).toBe('gzip');
    expect(await accepting('/assets/b-1234.js', 'identity')).toMatchObject({ encoding: undefined, size: 16_000 });
    // A picture is packed already.
    expect((await accepting('/demo/latch-plate.jpg', 'br, gzip')).encoding).toBeUndefined();
    // Packing a compiled program takes longer than sending it.
    expect(await accepting('/assets/c-1234.wasm', 'br, gzip')).toMatchObject({ encoding: undefined, size: 10_000 });
    expect((await fetch(`${url}/assets/b-1234.js`)).headers.get('vary')).toContain('Accept-Encoding');
    seemsAway = false;
  });

  it.each([
    ['127.0.0.1', false],
    ['::1', false],
    ['::ffff:127.0.0.1', false],
    ['192.168.1.27', true],
    ['::ffff:192.168.1.127', true],
    ['fe80::1', true],
  ])('knows whether %s is another machine', (address, away) => expect(isAway(address)).toBe(away));

  it('takes nobody to task who leaves in the middle of a file', async () => {
    await new Promise<void>((resolve) => {
      const asked = get(`${url}/assets/d-1234.wasm`, (answer) => {
        answer.once('data', () => asked.destroy());
        answer.on('close', resolve).on('error', () => {});
      });
      asked.on('error', () => {});
    });
    await new Promise((resolve) => setTimeout(resolve, 300));
    expect((await fetch(url)).status).toBe(200);
    expect(faults).toEqual([]);
  });

  it('only reads', async () => {
    for (const method of ['POST', 'PUT', 'DELETE']) expect((await fetch(url, { method })).status).toBe(405);
  });

  it('sends strict headers with everything', async () => {
    for (const path of ['/', '/nothing.js']) {
      const { headers } = await fetch(url + path);
      expect(headers.get('content-security-policy')).toBe(CONTENT_POLICY);
      expect(headers.get('x-content-type-options')).toBe('nosniff');
      expect(headers.get('referrer-policy')).toBe('no-referrer');
      expect(headers.get('cross-origin-opener-policy')).toBe('same-origin');
    }
    expect(CONTENT_POLICY.replace("'wasm-unsafe-eval'", '')).not.toMatch(/unsafe|https?:|\*/);
  });
});

/** An answer as it comes over the wire: fetch unpacks it, and adds headers of its own to a conditional request. */
function raw(path: string, headers: Record<string, string>) {
  return new Promise<{ status: number | undefined; encoding: string | undefined; size: number }>((resolve, reject) => {
    get(url + path, { headers }, (response) => {
      let size = 0;
      response.on('data', (part: Buffer) => {
        size += part.length;
      });
      response.on('end', () =>
        resolve({ status: response.statusCode, encoding: response.headers['content-encoding'], size }),
      );
    }).on('error', reject);
  });
}
