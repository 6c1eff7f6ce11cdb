import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { OpenCascadeInstance } from 'replicad-opencascadejs';
import { Failure } from '@inkwell-twin/core';

export type Replicad = typeof import('replicad');

/** The Open CASCADE kernel, compiled to WebAssembly, and the library that speaks to it. */
export interface Kernel {
  readonly r: Replicad;
  readonly oc: OpenCascadeInstance;
}

let started: Promise<Kernel> | undefined;

async function start(): Promise<Kernel> {
  const [{ default: init }, r] = await Promise.all([import('replicad-opencascadejs'), import('replicad')]);
  const wasmBinary = readFileSync(createRequire(import.meta.url).resolve('replicad-opencascadejs/wasm'));
  // What the kernel prints while it works is for its own developers.
  const quiet = () => undefined;
  const make = init as (settings: object) => Promise<OpenCascadeInstance>;
  const oc = await make({ wasmBinary, print: quiet, printErr: quiet });
  r.setOC(oc);
  return { r, oc };
}

/** The kernel, started when it is first asked for: half a second and some 150 MB. */
const kernel = (): Promise<Kernel> => (started ??= start());

/** Leaves a kernel that lost its footing behind: the next one who asks gets a new one. */
export function dropKernel(): void {
  started = undefined;
}

/** What the kernel has to say of what went wrong, in words. */
export function kernelWords(error: unknown): string {
  if (error instanceof Error) return error.message;
  return typeof error === 'string' ? error : 'the kernel gave up';
}

/** Runs work of the kernel; what it throws becomes a failure that says where. */
export async function withKernel<T>(work: (kernel: Kernel) => T | Promise<T>): Promise<T> {
  const own = await kernel();
  try {
    return await work(own);
  } catch (error) {
    // After a trap in WebAssembly its memory is not to be trusted.
    if (error instanceof WebAssembly.RuntimeError) dropKernel();
    if (error instanceof Failure) throw error;
    throw new Failure('solid-invalid', `This solid can’t be made: ${kernelWords(error)}.`);
  }
}
