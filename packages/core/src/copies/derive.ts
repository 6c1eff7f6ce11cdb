import { saysOf } from '../document/says';
import { enclosable } from './enclosed';
import { descriptionInWords, descriptionOf } from './described';
import { renditionsOf, reportRenditions } from './renditions';
import type { RevisionOf } from './revision';
import { UNSEALED } from '../contracts/seal';
import type { Comparison } from '../contracts/kind';
import type { Services } from '../contracts/services';
import { kindById } from '../content/kinds';
import type { Carries, Leaf } from '../contracts/leaf';
import { Failure } from '../base/failure/failure';
import { drawnMaster } from '../evaluate/drawn/drawn';
import { measureBy } from '../evaluate/fonts/font-book';
import { wordOf } from '../document/commands';
import type { Item, Master, Node } from '../document/schema';
import { allItems, childLists, findNode, nodeInWords } from '../document/tree';
import type { Difference } from '../contracts/difference';
import type { CopyFile, CopyContent } from '../contracts/codec';
import { declarationOf } from '../formats/declarations';
import { codecOf } from '../formats/registry';
import { kindDeclaration } from '../content/declarations';
import { itemKind } from '../document/items';
import { hasObjects } from '../evaluate/boards/chosen';
import { trimmedMaster } from '../evaluate/boards/trimmed';
import { placedMaster } from '../evaluate/placed/evaluate';
import { formatMark } from '../contracts/mark';
import { type Recipe, carriesOf, howOf, listsOf } from './recipe';
import { PARTS } from '../contracts/schemas';
import { CarryLines, type CarryReport } from '../contracts/report';
import { compareContents, digestOf } from './compare-contents';
import { type ScopedParts, type Scope, boardsIn, countIn } from '../contracts/scope';
import { unreadDifferences } from './unread';
import { assertInMemory } from './machine-limits';
import { variantOf } from './variants';

/** A copy and everything that is known about it when it is made. */
export interface Derived {
  readonly files: readonly CopyFile[];
  readonly says: string;
  readonly projection: CopyContent;
  /** What the written files say. */
  readonly back: CopyContent;
  readonly report: CarryReport;
  /** Where reading the file back came out otherwise than the report says: a defect of ours, shown as such. */
  readonly defects: readonly Difference[];
}

/**
 * @throws Failure `one-part` where a target says one part and the recipe asks for several, `no-part` where the master has none
 * that it could say
 */
export function assertHolds({ target, options, scope }: Pick<Recipe, 'target' | 'options' | 'scope'>, master: ScopedParts): void {
  const declaration = declarationOf(target);
  const { holds, label } = declaration;
  // All of the master, whatever is in it.
  if (declaration.renditions) return;
  const lists = listsOf(declaration, options);
  const count = countIn(master, scope, lists);
  const [word] = lists.map((list) => PARTS[list]);
  if (holds.leaves === 'one' && count > 1)
    throw new Failure('one-part', `${label} says one ${word}, and this asks for ${count}. Choose one of them.`);
  if (scope.of === 'master' && !count)
    throw new Failure('no-part', `${label} says ${word}s, and there is no ${word} in this master.`);
}

/** Items of a scope, groups opened; symbols are left to what uses them. */
const itemsIn = (master: Master, scope: Scope): Item[] => {
  const objects = scope.of === 'boards' && scope.objects ? new Set(scope.objects) : null;
  return boardsIn(master, scope).boards.flatMap(({ items }) => [
    ...allItems(objects ? items.filter(({ id }) => objects.has(id)) : items),
  ]);
};

/** Says what of a board follows a rule in the master and no more in a copy. */
function reportRules(master: Master, scope: Scope, lines: CarryLines): void {
  for (const item of itemsIn(master, scope)) {
    const { arrival: arrives } = itemKind(item);
    if (arrives) lines.line(item.kind, 'restated', arrives.what, arrives.becomes)(item.id);
    if (item.formulas) lines.line('formulas', 'restated', 'Computed measures', 'arrive as what they come to now')(item.id);
    if ('slots' in item && item.slots)
      lines.line('slots', 'restated', 'Parameters in texts', 'arrive as the words that they are now')(item.id);
  }
}

/**
 * No copy is made of what can't be computed: it would look right and be wrong.
 * @throws Failure `formula` that says where, and what is wrong there
 */
export function assertComputes(master: Master, scope: Scope, { fonts }: Services): void {
  const { problems } = drawnMaster(master, measureBy(fonts));
  if (!problems.length) return;
  const boards = boardsIn(master, scope).boards;
  const there = new Set([
    ...boards.map(({ id }) => id),
    ...itemsIn(master, scope).map(({ id }) => id),
    ...(boards.length ? master.symbols.flatMap(({ items }) => [...allItems(items)].map(({ id }) => id)) : []),
  ]);
  const problem = problems.find(({ node }) => there.has(node));
  if (!problem) return;
  const node = findNode(master, problem.node);
  const what = problem.attribute ? `, ${wordOf(problem.attribute)}` : '';
  throw new Failure('formula', `${node ? nodeInWords(node) : problem.node}${what}: ${problem.message}`, { node: problem.node });
}

/**
 * What a copy made by this recipe says, and what is lost on the way; writes nothing.
 * @param held what the target is taken to hold of each kind of content
 */
export async function project(
  given: Master,
  recipe: Recipe,
  services: Services,
  held: Carries = carriesOf(recipe),
): Promise<{ projection: CopyContent; report: CarryReport }> {
  const master = variantOf(given, recipe.row);
  assertHolds(recipe, master);
  if (!hasObjects(master, recipe.scope))
    throw new Failure('object-unknown', 'None of the objects that this asks for is on the board. Choose some that are.');
  if (!declarationOf(recipe.target).renditions) assertComputes(master, recipe.scope, services);
  const { limits, label: declared } = declarationOf(recipe.target);
  const lines = new CarryLines();
  const placed = trimmedMaster(await placedMaster(master, services), recipe.scope, services.fonts);
  const leaves: Leaf[] = [];
  for (const [id, carries] of Object.entries(held)) {
    const kind = kindById(id);
    const staged = kind.staged?.(placed, recipe.scope, carries) ?? placed;
    const own = staged === placed ? placed : await placedMaster(staged, services);
    for (const { key, label, source } of kind.resolve(own, recipe.scope, services, carries)) {
      if (services.signal?.aborted) throw new Failure('cancelled', 'This was stopped.');
      const body = await kind.adapt(source, carries, lines, services);
      const more = kind.exceeds?.(body, limits);
      if (more) throw new Failure('too-large', `${declared} can’t hold “${label}”: it has ${more}.`);
      leaves.push({ kind: kind.says ?? id, key, label: kind.label(label, carries), body });
    }
  }
  if (Object.keys(held).some((id) => !kindDeclaration(id)?.of)) reportRules(master, recipe.scope, lines);
  const { renditions } = declarationOf(recipe.target);
  if (renditions) reportRenditions(master, renditions(recipe.options), lines);
  const described = declarationOf(recipe.target).describes?.(recipe.options) ? descriptionOf(given) : undefined;
  if (described && descriptionInWords(described))
    lines.line(
      'description',
      'kept',
      'What is said of it',
      `${descriptionInWords(described)} stand in their own places`,
    )(given.id);
  const [only] = leaves;
  const projection = {
    title: master.title,
    ...(described ? { described } : {}),
    ...(declarationOf(recipe.target).encloses?.(recipe.options)
      ? { enclosed: { says: saysOf(given), bytes: new Uint8Array() } }
      : {}),
    leaves: only && leaves.length === 1 && !kindById(only.kind).namedAlone ? [{ ...only, label: '' }] : leaves,
  };
  return { projection, report: lines.report() };
}

/** Names of a master's objects, for differences. */
export function namesIn(master: Master): (source: string) => string | undefined {
  let nodes: Map<string, Node> | undefined;
  const gather = (node: Node): void => {
    nodes!.set(node.id, node);
    for (const [, children] of childLists(node)) children.forEach(gather);
  };
  return (source) => {
    if (!nodes) {
      nodes = new Map();
      gather(master);
    }
    const node = nodes.get(source);
    return node && nodeInWords(node);
  };
}

/** How two copies of a recipe are compared. @param tolerance in the place of the target's own, mm */
export function compareAs(
  recipe: Recipe,
  master: CopyContent,
  copy: CopyContent,
  nameOf?: (source: string) => string | undefined,
  tolerance?: number,
): Comparison {
  const own = declarationOf(recipe.target).tolerance;
  return compareContents(master, copy, {
    tolerance:
      tolerance === undefined
        ? own
        : Object.fromEntries(
            Object.entries(own).map(([kind, usual]) => [kind, kindById(kind).withoutLengths ? usual : tolerance]),
          ),
    carries: carriesOf(recipe),
    nameOf,
  });
}

/** What a copy has inside beside its parts: the master, and what is derived of each part. */
export async function withEnclosed(
  { enclosed, ...plain }: CopyContent,
  revision: RevisionOf,
  recipe: Recipe,
  services: Services,
): Promise<CopyContent> {
  if (!enclosed) return plain;
  const { renditions } = declarationOf(recipe.target);
  return {
    ...plain,
    enclosed: { ...enclosed, bytes: await enclosable(revision, services) },
    ...(renditions
      ? { renditions: await renditionsOf(revision, renditions(recipe.options), recipe.options, services, derive) }
      : {}),
  };
}

/**
 * Makes a copy: resolve, adapt, write, read back as proof, and seal the mark with what was read. The same revision and recipe
 * give the same bytes.
 */
export async function derive({ master, rev, time }: RevisionOf, recipe: Recipe, services: Services): Promise<Derived> {
  const codec = await codecOf(recipe.target);
  const { projection: plain, report } = await project(master, recipe, services);
  const projection = await withEnclosed(plain, { master, rev, time }, recipe, services);
  const mark = formatMark({ master: master.id, rev, recipe: recipe.id, says: UNSEALED, written: time, how: howOf(recipe) });
  const files = await codec.write(projection, recipe.options, mark, services);
  assertInMemory(recipe, files);
  const back = await codec.read(files, { options: recipe.options }, services);
  const says = digestOf(back);
  const { differences } = compareAs(recipe, projection, back, namesIn(master));
  if (projection.renditions && says !== digestOf(projection))
    throw new Failure(
      'defect',
      'The copy was not written: what lies beside the master came out otherwise. This is a defect of ours.',
    );
  return {
    files: codec.seal(files, says),
    says,
    projection,
    back,
    report,
    defects: [...differences, ...unreadDifferences(back.notUnderstood)],
  };
}
