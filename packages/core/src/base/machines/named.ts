import { Failure } from '../failure/failure';
import { machineFrom, type MachineProfile } from './profile';
import { SHIPPED_MACHINES } from './shipped';

const known = new Map<string, MachineProfile>();

/**
 * The machine that an option of a copy names: one of the bench by its id, or any other as JSON, all of it, so that a copy can be
 * checked wherever it is. The same words give the same object.
 * @throws Failure `machine-unknown`, `machine-invalid`
 */
export function machineOf(words: string): MachineProfile {
  const shipped = SHIPPED_MACHINES.find(({ id }) => id === words);
  if (shipped) return shipped;
  let found = known.get(words);
  if (!found) {
    if (!words.trimStart().startsWith('{')) throw unknown(words, SHIPPED_MACHINES);
    let value: unknown;
    try {
      value = JSON.parse(words);
    } catch {
      throw new Failure('machine-invalid', 'The machine is no JSON. Give a profile as it was exported.');
    }
    found = machineFrom(value);
    if (known.size > 100) known.clear();
    known.set(words, found);
  }
  return found;
}

/** How an option names a machine. */
export const machineWord = (machine: MachineProfile): string =>
  SHIPPED_MACHINES.some((one) => JSON.stringify(one) === JSON.stringify(machine)) ? machine.id : JSON.stringify(machine);

/** The machines that a house has: its own, and those of the bench that it has no other of that id for. */
export const machinesOf = (own: readonly MachineProfile[]): MachineProfile[] => [
  ...own,
  ...SHIPPED_MACHINES.filter(({ id }) => !own.some((one) => one.id === id)),
];

/** The machine of that id or name. @throws Failure `machine-unknown` that lists those there are */
export function machineNamed(machines: readonly MachineProfile[], name: string): MachineProfile {
  const same = (word: string) => word.toLowerCase() === name.trim().toLowerCase();
  const found = machines.find((one) => same(one.id) || same(one.name));
  if (!found) throw unknown(name, machines);
  return found;
}

const unknown = (name: string, machines: readonly MachineProfile[]): Failure =>
  new Failure(
    'machine-unknown',
    `There is no machine “${name.slice(0, 60)}”. Known: ${machines.map(({ id }) => id).join(', ')}.`,
  );
