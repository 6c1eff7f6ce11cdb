import type * as Core from '../../src';
import { changedCopies } from './changed';

const time = '2026-11-20T10:00:00.000Z';

interface Asked {
  /** From the root of the project, as for `changedCopies`. */
  readonly script: string;
  readonly targets: readonly string[];
  readonly master: Core.Master;
  readonly services: Core.Services;
  readonly scope?: Core.Scope;
  /** Of each target, where they are not the usual ones. */
  readonly options?: Readonly<Record<string, Readonly<Record<string, unknown>>>>;
  readonly seed: number;
  /** How often each fault is made. */
  readonly each: number;
  /** Which share of the changes is tried in the usual run: each third, say. */
  readonly every?: number;
  /** Of each target, where it is not its name. */
  readonly extensions?: Readonly<Record<string, string>>;
}

/**
 * Derives a copy for each target, has a script change them, and checks what came of it.
 * @param core as the test that asks sees it
 * @returns what was wrongly judged, in words; and by target how many kinds of fault and of harmless change were tried
 */
export async function misjudged(
  { checkCopy, derive, recipeOf }: Pick<typeof Core, 'checkCopy' | 'derive' | 'recipeOf'>,
  { script, targets, master, services, scope, options, seed, each, every, extensions = {} }: Asked,
): Promise<{ wrong: string[]; kinds: Record<string, { faults: number; harmless: number }> }> {
  const made = new Map<string, Awaited<ReturnType<typeof derive>>>();
  const recipe = (target: string) => recipeOf(target, options?.[target] ?? {}, scope);
  for (const target of targets) made.set(target, await derive({ master, rev: 1, time }, recipe(target), services));
  const extensionOf = (target: string) => extensions[target] ?? target;
  const copies = Object.fromEntries(targets.map((target) => [extensionOf(target), made.get(target)!.files[0]!.bytes]));
  const wrong: string[] = [];
  const tried = new Set<string>();
  for (const { extension, name, harmless, bytes } of changedCopies(script, copies, seed, each, 1, every)) {
    const target = targets.find((one) => extensionOf(one) === extension)!;
    tried.add(`${target} ${harmless ? 'harmless' : 'faults'} ${name}`);
    const { says } = made.get(target)!;
    const input = {
      files: [{ part: '', bytes }],
      intact: false,
      says,
      recipe: recipe(target),
      current: master,
      baseline: master,
    };
    const { verdict, differences, proof } = await checkCopy(input, services);
    if ((verdict === 'in step') === harmless) continue;
    const found = differences.slice(0, 3).map(({ kind, what, master: ours, copy }) => `${kind} ${what} ${ours} ${copy}`);
    wrong.push(`${target} ${name}: ${verdict} ${found.join('; ')} ${proof}`);
  }
  const count = (beginning: string) => [...tried].filter((name) => name.startsWith(beginning)).length;
  const kinds = targets.map((target) => [target, { faults: count(`${target} faults `), harmless: count(`${target} harmless `) }]);
  return { wrong, kinds: Object.fromEntries(kinds) as Record<string, { faults: number; harmless: number }> };
}
