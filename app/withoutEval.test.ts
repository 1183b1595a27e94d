import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { describe, expect, it } from 'vitest';
import { withoutEval } from './withoutEval';

const require = createRequire(import.meta.url);
const glue = () => readFileSync(require.resolve('replicad-opencascadejs').replace(/\.cjs$/, '.js'), 'utf8');

describe('the kernel without functions made from text', () => {
  it('works: methods, constructors, what is thrown, and values handed to and fro', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'kernel-'));
    const file = join(folder, 'glue.mjs');
    writeFileSync(file, withoutEval(glue()));
    const { default: init } = await import(/* @vite-ignore */ pathToFileURL(file).href);
    const wasmBinary = readFileSync(require.resolve('replicad-opencascadejs/wasm'));
    const oc = await init({ wasmBinary, print() {}, printErr() {} });
    const box = new oc.BRepPrimAPI_MakeBox(10, 20, 30);
    const figures = new oc.GProp_GProps();
    oc.BRepGProp.VolumeProperties(box.Shape(), figures, false, false, false);
    expect(figures.Mass()).toBeCloseTo(6000, 6);
    expect(() => new oc.gp_Dir(0, 0, 0)).toThrow();
    rmSync(folder, { recursive: true });
  }, 60_000);

  it('refuses a version whose text it does not know', () => {
    expect(() => withoutEval('export default 1')).toThrow(/not the version/);
  });
});
