import type { Difference } from '../../contracts/difference';
import type { Drawing } from '../../contracts/drawing';

const isNameless = (name: string): boolean => /^(Drawing|Layer \d+)$/.test(name);

/**
 * Takes from what was found the layers that only lost their names: all that lay on one lies together still, on one without a
 * name, and nothing else does.
 * @returns what is left, and a remark for each of those layers
 */
export function withoutLostNames(
  found: readonly Difference[],
  master: Drawing,
  copy: Drawing,
): { readonly differences: Difference[]; readonly remarks: string[] } {
  const lost = new Map<string, { to: Set<string>; from: Set<number>; into: Set<number> }>();
  for (const { kind, master: name, copy: to, masterEntries, copyEntries } of found) {
    if (kind !== 're-layered' || name === null || to === null || !isNameless(to)) continue;
    let one = lost.get(name);
    if (!one) lost.set(name, (one = { to: new Set(), from: new Set(), into: new Set() }));
    one.to.add(to);
    for (const entry of masterEntries) one.from.add(entry);
    for (const entry of copyEntries) one.into.add(entry);
  }
  const remarks: string[] = [];
  const only = new Set<string>();
  for (const [name, { to, from, into }] of lost) {
    const [there] = to;
    if (to.size > 1 || from.size !== entriesOn(master, name) || into.size !== entriesOn(copy, there!)) continue;
    only.add(name);
    remarks.push(`the layer “${name}” lost its name`);
  }
  return {
    differences: found.filter(
      ({ kind, master: name, copy: to }) => !(kind === 're-layered' && only.has(name ?? '') && isNameless(to ?? '')),
    ),
    remarks,
  };
}

/** How many entries of a drawing lie on the layers of a name. */
function entriesOn({ layers, layer, count }: Drawing, name: string): number {
  let entries = 0;
  for (let i = 0; i < count; i++) if (layers[layer[i]!]!.name === name) entries++;
  return entries;
}
