import { adapt } from '../carryover/adapt';
import type { CarryReport } from '../carryover/report';
import type { FontBook } from '../fonts/font-book';
import { footprintHash } from '../footprint/footprint';
import { formatMark } from '../mark/mark';
import { boardOf, findBoard, resolveBoard } from '../master/resolve';
import type { Master, Node } from '../master/schema';
import { childLists, nodeInWords } from '../master/tree';
import { compare } from '../match/compare';
import type { Difference } from '../match/difference';
import { unreadDifferences } from '../match/unread';
import { digestOf } from '../projection/digest';
import type { DisplayList } from '../projection/display-list';
import { recipeKey } from '../targets/recipe-key';
import { type Recipe, howOf } from './recipe';

/** One revision of a master: what a copy is made from. */
export interface RevisionOf {
  readonly master: Master;
  readonly rev: number;
  /** Time of the update, ISO 8601; the only date that ever enters a copy. */
  readonly time: string;
}

/** A copy and everything that is known about it when it is made. */
export interface Derived {
  readonly bytes: Uint8Array;
  readonly says: string;
  readonly projection: DisplayList;
  readonly report: CarryReport;
  /** Where reading the file back came out otherwise than the report says: a defect of ours, shown as such. */
  readonly defects: readonly Difference[];
}

/** What a copy made by this recipe says, and what is lost on the way; writes nothing. */
export function project(master: Master, recipe: Recipe, fonts: FontBook): { projection: DisplayList; report: CarryReport } {
  return adapt(resolveBoard(master, boardOf(master, recipe.board)), recipe.target.carries(recipe.options), fonts);
}

/** The hash of everything that a copy made by this recipe depends on; a word of its own where its board is not there. */
export function footprintOfRecipe(master: Master, recipe: Recipe): string {
  const board = findBoard(master, recipe.board);
  const key = recipeKey(recipe.target, recipe.options);
  return board ? footprintHash(master, board, key, recipe.target.carries(recipe.options)) : 'no board';
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

/** Makes a copy: resolve, adapt, write, mark, and read back as proof. The same revision and recipe give the same bytes. */
export function derive({ master, rev, time }: RevisionOf, recipe: Recipe, fonts: FontBook): Derived {
  const { target, options } = recipe;
  const { projection, report } = project(master, recipe, fonts);
  const mark = (says: string) =>
    formatMark({ master: master.id, rev, recipe: recipe.id, says, written: time, how: howOf(recipe) });
  // The digest is of what the file says when read, which the mark does not change; so it is written once to be read, once to stay.
  const draft = target.write(projection, options, mark('-'));
  const { list: back, notUnderstood } = target.read(draft);
  const says = digestOf(back);
  const { differences } = compare(projection, back, {
    tolerance: target.tolerance,
    order: target.carries(options).order,
    nameOf: namesIn(master),
  });
  return {
    bytes: target.write(projection, options, mark(says)),
    says,
    projection,
    report,
    defects: [...differences, ...unreadDifferences(notUnderstood)],
  };
}
