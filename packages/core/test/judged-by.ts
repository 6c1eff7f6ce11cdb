import { JUDGES } from '../../../scripts/lib/debian.mjs';

/** Whether a judge is here. @param name as in scripts/lib/debian.mjs */
export function hasJudge(name: string): boolean {
  const judge = JUDGES[name];
  if (!judge) throw new Error(`scripts/lib/debian.mjs knows no judge “${name}”.`);
  return judge[1]();
}

/** The parts of Jest that say what is tested, left out where a judge is missing. */
interface Judged {
  readonly it: jest.It;
  readonly describe: jest.Describe;
}

/**
 * Tests that programs or libraries of others judge. A missing judge is an error where CI runs; elsewhere its tests are left out
 * and counted, and the end of the run says so.
 * @param names as in scripts/lib/debian.mjs
 */
export function judgedBy(...names: readonly string[]): Judged {
  const missing = names.filter((name) => !hasJudge(name));
  if (!missing.length) return { it, describe };
  const packages = missing.map((name) => JUDGES[name]![0]).join(' ');
  if (process.env['CI']) throw new Error(`Judges are missing: ${missing.join(', ')}. apt-get install ${packages}`);
  return { it: it.skip as jest.It, describe: describe.skip as unknown as jest.Describe };
}
