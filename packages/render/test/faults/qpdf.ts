// Re-writes PDF files with qpdf, which shares nothing with our writer and reader.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Runs programs over files in a folder of their own. */
export function inFolder<T>(work: (at: (name: string) => string, run: (program: string, ...args: string[]) => string) => T): T {
  const folder = mkdtempSync(join(tmpdir(), 'inkwell-pdf-'));
  const run = (program: string, ...args: string[]) => {
    const { status, stdout, stderr } = spawnSync(program, args, { cwd: folder, encoding: 'utf8', maxBuffer: 1 << 28 });
    // qpdf says 3 where it only warns.
    if (status !== 0 && status !== 3) throw new Error(`${program} ${args.join(' ')}: ${stderr}`);
    return stdout;
  };
  try {
    return work((name) => join(folder, name), run);
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** A PDF as qpdf re-writes it. @param how its arguments, without the file that comes out */
export const rewritten = (bytes: Uint8Array, ...how: string[]): Uint8Array =>
  inFolder((at, run) => {
    writeFileSync(at('in.pdf'), bytes);
    run('qpdf', ...how, 'out.pdf');
    return readFileSync(at('out.pdf'));
  });

/** A PDF with its streams open, changed as text, and put together again; undefined where nothing was changed. */
export const changed = (bytes: Uint8Array, change: (opened: string) => string | undefined): Uint8Array | undefined =>
  inFolder((at, run) => {
    writeFileSync(at('in.pdf'), bytes);
    run('qpdf', '--qdf', '--object-streams=disable', '--stream-data=uncompress', 'in.pdf', 'open.pdf');
    const before = readFileSync(at('open.pdf'), 'latin1');
    const after = change(before);
    if (after === undefined || after === before) return undefined;
    writeFileSync(at('changed.pdf'), after, 'latin1');
    writeFileSync(at('mended.pdf'), spawnSync('fix-qdf', [at('changed.pdf')], { maxBuffer: 1 << 28 }).stdout);
    run('qpdf', '--stream-data=compress', 'mended.pdf', 'out.pdf');
    return readFileSync(at('out.pdf'));
  });
