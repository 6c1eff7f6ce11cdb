import { Failure } from '../base/failure/failure';
import { changesBetween } from './changes';
import { wordOf } from './commands';
import { type Patch, type Step, applyPatches, stepOf } from './patches';
import type { Master, Node } from './schema';
import { columnOfCell, nodeOfMaster } from './tables/words';
import type { Span } from './texts/schema';
import { firstWords, plainOf } from './texts/words';
import { findNode, pathsTo } from './tree';

/** A place that two people changed differently: what it is, and both sides in words. */
export interface Clash {
  /** Names the place: the node and, where it is still there on both sides, the attribute. */
  readonly key: string;
  readonly what: string;
  readonly mine: string;
  readonly theirs: string;
}

/** My steps carried over onto what others made of the master meanwhile. */
export interface Rebased {
  readonly master: Master;
  readonly steps: readonly Step[];
  readonly clashes: readonly Clash[];
}

const touched = (patch: Patch): string => (patch.op === 'set' ? `${patch.node} ${patch.attribute}` : idOf(patch));
const idOf = (patch: Patch): string => (patch.op === 'insert' ? (patch.node as Node).id : patch.node);
/** The words of a paragraph, which tell more than that they were changed; nothing where it is something else. */
function wordsOfSpans(value: object): string | undefined {
  if (
    !Array.isArray(value) ||
    !value.every((one: unknown) => one !== null && typeof one === 'object' && ('text' in one || 'note' in one))
  )
    return undefined;
  return `“${firstWords(plainOf(value as Span[]), 160)}”`;
}
const valueInWords = (value: unknown): string =>
  value === undefined || value === null
    ? 'none'
    : typeof value === 'object'
      ? (wordsOfSpans(value) ?? 'changed')
      : typeof value === 'number'
        ? String(Number(value.toFixed(3)))
        : String(value);

/**
 * Carries a draft over from the revision that it was made on to a newer one. Changes to different nodes and attributes go
 * together; where both sides changed the same, `choices` says whose counts, and what it does not name is a clash.
 * @param before what both sides started from
 * @param after what the others made of it
 * @param steps mine, from `before`
 * @param choices `mine` or `theirs` by a clash's key
 */
export function rebaseSteps(
  before: Master,
  after: Master,
  steps: readonly Step[],
  choices: ReadonlyMap<string, 'mine' | 'theirs'> = new Map(),
): Rebased {
  const theirs = new Map<string, Patch>();
  // What they took away, with everything that was in it, can't be changed any more.
  const gone = new Set<string>();
  const moved = new Set<string>();
  for (const patch of changesBetween(before, after)) {
    theirs.set(touched(patch), patch);
    if (patch.op === 'insert') moved.add(idOf(patch));
  }
  for (const patch of theirs.values())
    if (patch.op === 'remove' && !moved.has(patch.node)) {
      const node = findNode(before, patch.node);
      if (node) gatherIds(node, gone);
    }
  for (const id of [...gone]) if (findNode(after, id)) gone.delete(id);

  const clashes = new Map<string, Clash>();
  const meet = (clash: Clash) => {
    if (choices.get(clash.key) === undefined) clashes.set(clash.key, clash);
  };
  const kept: Step[] = [];
  let now = after;
  for (const step of steps) {
    const forward = step.forward.filter((patch) => {
      // Both took the same away: there is nothing left to do.
      if (patch.op === 'remove' && gone.has(patch.node)) return false;
      const clash = clashOf(patch, before, after, theirs, gone);
      if (!clash) return true;
      meet(clash);
      return choices.get(clash.key) === 'mine' && !gone.has(nodeOf(patch));
    });
    const { fitting, unfit } = fit(now, forward);
    for (const patch of unfit)
      meet({ key: `${nodeOf(patch)} unfit`, what: step.label, mine: 'done', theirs: 'its place is not there any more' });
    if (!fitting.length) continue;
    const done = stepOf(now, step.label, fitting);
    now = done.master;
    kept.push(done.step);
  }
  return { master: now, steps: kept, clashes: [...clashes.values()] };
}

const nodeOf = (patch: Patch): string => (patch.op === 'insert' ? patch.parent : patch.node);

function gatherIds(node: Node, into: Set<string>): void {
  into.add(node.id);
  for (const children of Object.values(node))
    if (Array.isArray(children)) for (const child of children) if (isNode(child)) gatherIds(child, into);
}
const isNode = (value: unknown): value is Node => typeof value === 'object' && value !== null && 'id' in value;

function clashOf(
  patch: Patch,
  before: Master,
  after: Master,
  theirs: ReadonlyMap<string, Patch>,
  gone: ReadonlySet<string>,
): Clash | null {
  const id = nodeOf(patch);
  const called = () => {
    const [now, then] = [findNode(after, id), findNode(before, id)];
    return now ? nodeOfMaster(after, now) : then ? nodeOfMaster(before, then) : id;
  };
  const cellName = (attribute: string) => {
    const node = findNode(after, id);
    return node && columnOfCell(after, node, attribute);
  };
  if (gone.has(id)) return { key: `${id} gone`, what: called(), mine: 'changed', theirs: 'taken away' };
  if (patch.op === 'set') {
    const other = theirs.get(touched(patch));
    if (!other || other.op !== 'set' || JSON.stringify(other.value) === JSON.stringify(patch.value)) return null;
    return {
      key: touched(patch),
      what: `${called()}: ${cellName(patch.attribute) ?? wordOf(patch.attribute)}`,
      mine: valueInWords(patch.value),
      theirs: valueInWords(other.value),
    };
  }
  if (patch.op === 'remove') {
    const changed = [...theirs.values()].find((other) => other.op === 'set' && other.node === patch.node);
    if (changed) return { key: `${id} removed`, what: called(), mine: 'taken away', theirs: 'changed' };
  }
  return null;
}

/** Patches as they fit a master that others changed: what stood before an object may be gone, then it goes to the end. */
function fit(now: Master, patches: readonly Patch[]): { fitting: Patch[]; unfit: Patch[] } {
  if (!patches.length) return { fitting: [], unfit: [] };
  const after = pathsTo(
    now,
    patches.flatMap((patch) => (patch.op === 'insert' && patch.after !== null ? [patch.after] : [])),
  );
  const mine = new Set(patches.map(idOf));
  const wanted = patches.map((patch): Patch => {
    if (patch.op !== 'insert' || patch.after === null || after.has(patch.after) || mine.has(patch.after)) return patch;
    const parent = findNode(now, patch.parent) as Record<string, Node[] | undefined> | undefined;
    return { ...patch, after: parent?.[patch.list]?.at(-1)?.id ?? null };
  });
  try {
    applyPatches(now, wanted);
    return { fitting: wanted, unfit: [] };
  } catch (error) {
    if (!(error instanceof Failure)) throw error;
  }
  const [fitting, unfit]: [Patch[], Patch[]] = [[], []];
  let at = now;
  for (const patch of wanted)
    try {
      at = applyPatches(at, [patch]).master;
      fitting.push(patch);
    } catch {
      unfit.push(patch);
    }
  return { fitting, unfit };
}
