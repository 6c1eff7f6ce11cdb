import { existsSync, readdirSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { Failure, houseRules, type HouseRules, type Preset, presetOf } from '@inkwell-twin/core';
import { readBytes } from './files';

const RULES = /^house_rules.*\.json$/i;

/** Settings as a command line has them: all of them words. */
export type Kept = Omit<Preset, 'options'> & { readonly options: Readonly<Record<string, string>> };

/** The file of house rules in the folder of a master, or else in the nearest one above it. */
function rulesFor(master: string): string {
  for (let folder = dirname(resolve(master)); ; folder = dirname(folder)) {
    const [file, another] = existsSync(folder) ? readdirSync(folder).filter((name) => RULES.test(name)) : [];
    if (file && another)
      throw new Failure(
        'usage',
        `There are several files of house rules in ${folder}: ${file}, ${another}. Say which with --rules.`,
      );
    if (file) return join(folder, file);
    if (folder === dirname(folder))
      throw new Failure(
        'usage',
        '--preset takes its settings from the house rules, and there is no file house_rules*.json beside the master or above it. Say which with --rules.',
      );
  }
}

function rulesIn(file: string): HouseRules {
  let value: unknown;
  try {
    value = JSON.parse(new TextDecoder().decode(readBytes(file)));
  } catch (error) {
    if (error instanceof Failure) throw error;
    throw new Failure('rules-invalid', `${file} can’t be read as JSON.`, { file });
  }
  return houseRules(value);
}

/**
 * The settings of copies that the house rules keep under a name.
 * @param rules the file of rules; where it is not said, the nearest to the master
 * @throws Failure `preset-unknown`, `rules-invalid`, `usage`
 */
export function presetFor(name: string, master: string, rules: string | undefined): Kept {
  const { options, ...rest } = presetOf(rulesIn(rules ?? rulesFor(master)), name);
  return { ...rest, options: Object.fromEntries(Object.entries(options).map(([key, value]) => [key, String(value)])) };
}
