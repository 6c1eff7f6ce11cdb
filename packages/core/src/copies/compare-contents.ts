import { digest, hasher } from '../base/bytes/hasher';
import { canonical } from '../document/hash';
import { descriptionDifferences } from './described';
import type { Carries, Leaf } from '../contracts/leaf';
import { kindById } from '../content/kinds';
import type { Comparison } from '../contracts/kind';
import { type Difference, byImportance, difference } from '../contracts/difference';
import type { CopyContent } from '../contracts/codec';

/** Digests are this long, and a mark has room for just as much. */
const DIGITS = 40;

/** A short name for what a copy says: what says the same, to a thousandth of a millimetre, has the same. */
export function digestOf({ leaves, enclosed, described, renditions = [] }: CopyContent): string {
  const hash = hasher();
  if (described) hash.update(`described ${canonical({ ...described, keywords: [...described.keywords].sort() })}\n`);
  if (enclosed) hash.update(`enclosed ${enclosed.says}\n`);
  for (const { path, bytes } of renditions) hash.update(`beside ${path} ${digest(bytes)}\n`);
  for (const { kind, label, body } of leaves) {
    hash.update(`${kind} ${JSON.stringify(label)}\n`);
    kindById(kind).digest(body, hash);
  }
  return hash.hex().slice(0, DIGITS);
}

const ENCLOSED = 'The native master inside';

export interface ContentSettings {
  /** By kind of content, mm. */
  readonly tolerance: Readonly<Record<string, number>>;
  readonly carries: Carries;
  readonly nameOf?: ((source: string) => string | undefined) | undefined;
}

/** Which part of the copy each part of the master is; -1 where there is none. */
function partners(master: readonly Leaf[], copy: readonly Leaf[]): number[] {
  if (master.length === 1 && copy.length === 1) return [0];
  const free = new Set(copy.keys());
  const take = (passes: (j: number) => boolean): number => {
    for (const j of free)
      if (passes(j)) {
        free.delete(j);
        return j;
      }
    return -1;
  };
  const found = master.map(({ label }) => take((j) => copy[j]!.label === label));
  const digests = new Map<number, string>();
  const digestAt = (side: readonly Leaf[], at: number, base: number): string => {
    let known = digests.get(base + at);
    if (known === undefined) digests.set(base + at, (known = digestOf({ leaves: [{ ...side[at]!, label: '' }] })));
    return known;
  };
  // Under another name it is the one that says the same; else the one in the same place, if nobody else is.
  master.forEach((_, i) => {
    if (found[i]! < 0) found[i] = take((j) => digestAt(master, i, 0) === digestAt(copy, j, master.length));
  });
  if (master.length === copy.length)
    master.forEach((_, i) => {
      if (found[i]! < 0) found[i] = take((j) => j === i);
    });
  return found;
}

/** All that two copies, or a master and its copy, say differently: part by part, and which parts there are in which order. */
export function compareContents(
  master: CopyContent,
  copy: CopyContent,
  { tolerance, carries, nameOf }: ContentSettings,
): Comparison {
  const partner = partners(master.leaves, copy.leaves);
  const differences: Difference[] = [];
  const remarks: string[] = [];
  let [outlines, equal] = [0, 0];
  let counted: string | undefined;
  let last = -1;
  master.leaves.forEach((leaf, i) => {
    const j = partner[i]!;
    const other = copy.leaves[j];
    const what = leaf.label || `Sheet ${i + 1}`;
    if (!other || other.kind !== leaf.kind) {
      differences.push(difference('sheet missing', what, { leaf: i }));
      if (other) differences.push(difference('sheet added', other.label || `Sheet ${j + 1}`, { leaf: i }));
      return;
    }
    // The only board's name is not carried: a title that a file has beside it takes nothing away.
    if (leaf.label && other.label !== leaf.label)
      differences.push(difference('sheet renamed', what, { leaf: i, master: leaf.label, copy: other.label }));
    if (j < last)
      differences.push(difference('sheet re-ordered', what, { leaf: i, master: `sheet ${i + 1}`, copy: `sheet ${j + 1}` }));
    last = Math.max(last, j);
    const found = kindById(leaf.kind).compare(leaf.body, other.body, {
      tolerance: tolerance[leaf.kind] ?? 0.01,
      carries: carries[leaf.kind],
      nameOf,
    });
    remarks.push(...(found.remarks ?? []));
    differences.push(...(i ? found.differences.map((one) => ({ ...one, leaf: i })) : found.differences));
    counted = found.counted;
    outlines += found.outlines;
    equal += found.equal;
  });
  if (master.described) differences.push(...descriptionDifferences(master.described, copy.described));
  const [inside, found] = [master.enclosed?.says, copy.enclosed?.says];
  if (inside !== undefined && found === undefined) differences.push(difference('master inside missing', ENCLOSED, {}));
  else if (found !== undefined && inside !== found)
    differences.push(difference(inside === undefined ? 'master inside added' : 'master inside changed', ENCLOSED, {}));
  copy.leaves.forEach((leaf, j) => {
    if (!partner.includes(j))
      differences.push(difference('sheet added', leaf.label || `Sheet ${j + 1}`, { leaf: master.leaves.length + j }));
  });
  return { differences: differences.sort(byImportance), remarks, outlines, equal, ...(counted === undefined ? {} : { counted }) };
}
