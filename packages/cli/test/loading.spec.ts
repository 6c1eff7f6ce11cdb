import { readFileSync, statSync } from 'node:fs';
import { builtinModules } from 'node:module';
import { join } from 'node:path';

const built = join(__dirname, '../../../dist/node');

/** Whatever is loaded with a program before it does anything: its own parts, and packages by name. */
function loadedWith(program: string): { bytes: number; packages: string[] } {
  const parts = new Set<string>();
  const packages = new Set<string>();
  const follow = (part: string): void => {
    if (parts.has(part)) return;
    parts.add(part);
    const text = readFileSync(join(built, part), 'utf8');
    for (const [, from] of text.matchAll(/(?:^|[;}\n])(?:import|export)(?:[\w*{}\s$,]*from)?\s*["']([^"']+)["']/g))
      if (from!.startsWith('./')) follow(from!.slice(2));
      else if (!from!.startsWith('node:') && !builtinModules.includes(from!)) packages.add(from!);
  };
  follow(program);
  const bytes = [...parts].reduce((sum, part) => sum + statSync(join(built, part)).size, 0);
  return { bytes, packages: [...packages] };
}

describe('what is loaded before anything is done', () => {
  it('is little for the command line, and no library for pictures, pages, solids, charts or letters', () => {
    const { bytes, packages } = loadedWith('twin.mjs');
    expect(packages).toEqual([]);
    // As a bundle of all it was 5.3 MB; a command loads what it needs.
    expect(bytes).toBeLessThan(1_900_000);
  });
  it('is no reader or writer for what migrates the database', () =>
    expect(loadedWith('migrate.mjs').packages.sort()).toEqual(['pg', 'pg-boss']));
});
