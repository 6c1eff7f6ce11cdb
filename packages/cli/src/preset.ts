import { existsSync, readdirSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import {
  Failure,
  type MachineProfile,
  houseRules,
  type HouseRules,
  type Preset,
  machineFrom,
  machineNamed,
  machinesOf,
  presetOf,
} from '@inkwell-twin/core';
import { readBytes } from './files';

const RULES = /^house_rules.*\.json$/i;

/** Settings as a command line has them: all of them words. */
export type Kept = Omit<Preset, 'options'> & { readonly options: Readonly<Record<string, string>> };

/** The file of house rules in the folder of a master, or else in the nearest one above it; null where there is none. */
function rulesNear(master: string): string | null {
  for (let folder = dirname(resolve(master)); ; folder = dirname(folder)) {
    const [file, another] = existsSync(folder) ? readdirSync(folder).filter((name) => RULES.test(name)) : [];
    if (file && another)
      throw new Failure(
        'usage',
        `There are several files of house rules in ${folder}: ${file}, ${another}. Say which with --rules.`,
      );
    if (file) return join(folder, file);
    if (folder === dirname(folder)) return null;
  }
}

/** @throws Failure `usage` where there are none */
function rulesFor(master: string): string {
  const found = rulesNear(master);
  if (found) return found;
  throw new Failure(
    'usage',
    '--preset takes its settings from the house rules, and there is no file house_rules*.json beside the master or above it. Say which with --rules.',
  );
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

/** The machines that a house has: those of its rules, where there are any, and those of the bench. */
export function machinesFor(master: string, rules: string | undefined): MachineProfile[] {
  const file = rules ?? rulesNear(master);
  return machinesOf(file ? rulesIn(file).machines : []);
}

/** A machine by its id or name, or out of a file with its profile. @throws Failure `machine-unknown`, `machine-invalid` */
export function machineAsked(name: string, master: string, rules: string | undefined): MachineProfile {
  if (!name.toLowerCase().endsWith('.json')) return machineNamed(machinesFor(master, rules), name);
  let value: unknown;
  try {
    value = JSON.parse(new TextDecoder().decode(readBytes(name)));
  } catch (error) {
    if (error instanceof Failure) throw error;
    throw new Failure('machine-invalid', `${name} can’t be read as JSON.`, { file: name });
  }
  return machineFrom(value);
}
