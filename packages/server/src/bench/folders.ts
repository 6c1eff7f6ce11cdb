import { randomUUID } from 'node:crypto';
import { mkdir, readFile, readdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import * as z from 'zod';
import { BRING_IN_LIMIT } from '@inkwell-twin/api';
import { Failure } from '@inkwell-twin/core';

/** Larger words of a machine are not read, bytes. */
const LONGEST = 2_000_000;
/** A machine that was silent for so long is not there, ms. */
const SILENT = 15_000;

/** What a machine says of a file that it holds or has run. What it says beyond that is left alone. */
export const MachineSays = z.object({
  file: z.string().max(300),
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
  time: z.iso.datetime(),
  runs: z.boolean(),
  alarms: z.array(z.object({ at: z.number(), words: z.string().max(1000) })).max(1000),
  seconds: z.number().nonnegative(),
  worked: z.number().nonnegative(),
});
export type MachineSays = z.infer<typeof MachineSays>;

/** The network folders of machines, one each: what they hold, what they say, what they are asked to run (docs/machines.md). */
export class MachineFolders {
  constructor(private readonly root: string) {}

  private path(machine: string, ...rest: string[]): string {
    if ([machine, ...rest].some((part) => !part || /[\\/\0]|^\./.test(part)))
      throw new Failure('name-unsafe', `“${[machine, ...rest].join('/')}” is no name for the folder of a machine.`);
    return join(this.root, machine, ...rest);
  }

  /** Names of files in a part of the folder of a machine; none where there is no such folder. */
  async names(machine: string, part: 'holds' | 'said' | 'ran'): Promise<string[]> {
    try {
      const all = await readdir(this.path(machine, part), { withFileTypes: true });
      return all.filter((one) => one.isFile() && !one.name.startsWith('.')).map(({ name }) => name);
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code === 'ENOENT') return [];
      throw error;
    }
  }

  /** Whether the machine was there just now. */
  async isThere(machine: string): Promise<boolean> {
    const found = await stat(this.path(machine, 'machine.json')).catch(() => null);
    return found !== null && Date.now() - found.mtimeMs < SILENT;
  }

  /** What a machine says of a file; null where it says nothing that can be understood. */
  async said(machine: string, part: 'said' | 'ran', name: string): Promise<MachineSays | null> {
    const path = this.path(machine, part, `${name}.json`);
    const found = await stat(path).catch(() => null);
    if (!found?.isFile() || found.size > LONGEST) return null;
    try {
      return MachineSays.parse(JSON.parse(await readFile(path, 'utf8')));
    } catch {
      // Half a file, or of a machine that says it otherwise.
      return null;
    }
  }

  /** Where a file lies that a machine holds. @throws Failure `not-found`, `too-large` */
  async heldAt(machine: string, name: string): Promise<string> {
    const path = this.path(machine, 'holds', name);
    const found = await stat(path).catch(() => null);
    if (!found?.isFile()) throw new Failure('not-found', 'The machine does not hold this any more.');
    if (found.size > BRING_IN_LIMIT) throw new Failure('too-large', `“${name}” is too large to be looked at.`);
    return path;
  }

  /** What a machine did or would do with a file, drawn by itself. @throws Failure `not-found` */
  async picture(machine: string, part: 'said' | 'ran', name: string): Promise<Buffer> {
    const path = this.path(machine, part, `${name}.svg`);
    const found = await stat(path).catch(() => null);
    if (!found?.isFile() || found.size > 64 * LONGEST) throw new Failure('not-found', 'The machine has drawn nothing of it.');
    return readFile(path);
  }

  /** Lays a file into a part of the folder of a machine: whole, or not at all. */
  async put(machine: string, part: 'holds' | 'run', name: string, content: AsyncIterable<Uint8Array> | string): Promise<void> {
    const path = this.path(machine, part, name);
    await mkdir(this.path(machine, part), { recursive: true });
    // Two at once have one each.
    const temporary = join(this.root, machine, part, `.${randomUUID()}.part`);
    try {
      await writeFile(temporary, content);
      await rename(temporary, path);
    } finally {
      await rm(temporary, { force: true });
    }
  }

  async remove(machine: string, name: string): Promise<void> {
    await rm(this.path(machine, 'holds', name), { force: true });
  }
}
