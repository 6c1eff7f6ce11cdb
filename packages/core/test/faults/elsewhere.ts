import { type Master, type Recipe, recipeOf } from '../../src';
import { spoilt } from './board';
import { type Changed, changedCopies } from './changed';
import { routed, stitched } from './machined';
import { Trial } from './trial';

/** A copy that is changed by other hands. */
interface Elsewhere {
  readonly name: string;
  /** Of the file, and of the script that changes it. */
  readonly script: string;
  readonly judges: readonly string[];
  readonly master: Master;
  readonly recipe: Recipe;
}

const SETTLED = { corners: 'rounded', open: 'as they are', crossings: 'united', doubles: 'once' };

/** Copies that are changed by other hands: lxml, ezdxf, and lists of what machines are told. */
export const ELSEWHERE: readonly Elsewhere[] = [
  { name: 'SVG', script: 'svg', judges: ['lxml'], master: spoilt, recipe: recipeOf('svg', {}) },
  { name: 'DXF R12', script: 'dxf', judges: ['ezdxf'], master: spoilt, recipe: recipeOf('dxf', { version: 'R12' }) },
  { name: 'DXF 2000', script: 'dxf', judges: ['ezdxf'], master: spoilt, recipe: recipeOf('dxf', { version: '2000' }) },
  { name: 'HP-GL', script: 'hpgl', judges: [], master: spoilt, recipe: recipeOf('hpgl', {}) },
  {
    name: 'HP-GL for a machine',
    script: 'hpgl',
    judges: [],
    master: spoilt,
    recipe: recipeOf('hpgl', { machine: 'cutter', ...SETTLED }),
  },
  {
    name: 'G-code',
    script: 'gcode',
    judges: [],
    master: routed,
    recipe: recipeOf('gcode', { tabs: 2, entry: 'plunge', ...SETTLED }),
  },
  {
    name: 'G-code with ramps',
    script: 'gcode',
    judges: [],
    master: routed,
    recipe: recipeOf('gcode', { lead: 2, finish: 0.4, tabs: 2, numbers: 'none', ...SETTLED }),
  },
  { name: 'Stitches', script: 'stitches', judges: [], master: stitched, recipe: recipeOf('stitch', {}) },
];

/** How a copy fares that is changed by other hands: faults that nobody noticed, harmless changes that alarmed, and how many there were. */
export async function tryElsewhere(
  { script, master, recipe }: Elsewhere,
  seed: number,
  each: number,
): Promise<{ readonly wrong: string[]; readonly faults: Changed[]; readonly harmless: Changed[] }> {
  const trial = await Trial.of(master, recipe);
  const all = changedCopies(`packages/core/test/faults/${script}.py`, { [script]: trial.bytes }, seed, each);
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
