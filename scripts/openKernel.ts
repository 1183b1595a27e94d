import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import init from 'replicad-opencascadejs';
import type { Kernel } from '../core/src/solid/kernel';

/** Starts the modelling kernel outside a browser. */
export function openKernel(): Promise<Kernel> {
  const wasmBinary = readFileSync(createRequire(import.meta.url).resolve('replicad-opencascadejs/wasm'));
  return init({ wasmBinary, print() {}, printErr() {} });
}
