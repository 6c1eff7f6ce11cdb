import { type Recipe, recipeOf } from '../../src';
import { type Changed, changedCopies } from './changed';
import type { Trial } from './trial';

/** Copies that are changed by other hands: lxml, ezdxf, and a list of instructions of a plotter. */
export const ELSEWHERE: readonly {
  readonly name: string;
  readonly extension: string;
  readonly judges: readonly string[];
  readonly recipe: Recipe;
}[] = [
  { name: 'SVG', extension: 'svg', judges: ['lxml'], recipe: recipeOf('svg', {}) },
  { name: 'DXF R12', extension: 'dxf', judges: ['ezdxf'], recipe: recipeOf('dxf', { version: 'R12' }) },
  { name: 'DXF 2000', extension: 'dxf', judges: ['ezdxf'], recipe: recipeOf('dxf', { version: '2000' }) },
  { name: 'HP-GL', extension: 'hpgl', judges: [], recipe: recipeOf('hpgl', {}) },
];

/** How a copy fares that is changed by other hands: faults that nobody noticed, harmless changes that alarmed, and how many there were. */
export async function tryElsewhere(
  trial: Trial,
  extension: string,
  seed: number,
  each: number,
): Promise<{ readonly wrong: string[]; readonly faults: Changed[]; readonly harmless: Changed[] }> {
  const all = changedCopies(`packages/core/test/faults/${extension}.py`, { [extension]: trial.bytes }, seed, each);
  const wrong: string[] = [];
  for (const { name, harmless, bytes } of all) {
    const verdict = await trial.verdict(bytes);
    if (harmless && verdict !== 'in step') wrong.push(`alarm: ${name}: ${verdict}, ${await trial.why(bytes)}`);
    if (!harmless && verdict !== 'touched' && verdict !== 'unreadable') wrong.push(`missed: ${name}: ${verdict}`);
  }
  return { wrong, faults: all.filter(({ harmless }) => !harmless), harmless: all.filter(({ harmless }) => harmless) };
}

/** How many kinds of change there are among some. */
export const kindsAmong = (changes: readonly Changed[]): number => new Set(changes.map(({ name }) => name)).size;
