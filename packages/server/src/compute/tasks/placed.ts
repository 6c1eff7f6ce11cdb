import {
  type Board,
  Failure,
  Item,
  type Master,
  Prose,
  type Resource,
  Solid,
  Table,
  asFailure,
  flowOf,
  itemKind,
  makePlaced,
  placedIn,
} from '@inkwell-twin/core';
import type * as z from 'zod';
import { revisionOf } from '../../masters/store';
import type { Engine } from '../engine';

/** Items of a draft that show other parts of it, with what the draft changed in those. */
export interface AskedPlaced {
  readonly rev: number;
  readonly boards: readonly { readonly id: string; readonly items: readonly unknown[] }[];
  readonly tables: readonly unknown[];
  readonly solids: readonly unknown[];
  readonly texts: readonly unknown[];
  readonly resources: readonly Resource[];
}
export interface AnsweredPlaced {
  readonly items: Record<string, unknown[]>;
  readonly wrong: Record<string, string>;
  readonly more: Record<string, number>;
}

function checked<T>(schema: z.ZodType<T>, list: readonly unknown[]): T[] {
  return list.map((one) => {
    const parsed = schema.safeParse(one);
    if (parsed.success) return parsed.data;
    const issue = parsed.error.issues[0]!;
    throw new Failure('request-invalid', `The draft can’t be read at ${issue.path.join('.')}: ${issue.message}.`);
  });
}

/** A list with what a draft changed in it. */
const changed = <T extends { readonly id: string }>(before: readonly T[] = [], now: readonly T[]): T[] => {
  const ids = new Set(now.map(({ id }) => id));
  return [...before.filter(({ id }) => !ids.has(id)), ...now];
};

/** What such items draw. What can’t be made is told by its item, and the others are made all the same. */
export async function placed(
  { masters, services }: Engine,
  { master: id, rev, boards, tables, solids, texts, resources }: AskedPlaced & { master: string },
): Promise<AnsweredPlaced> {
  const { master: base } = revisionOf(await masters.load(id), rev);
  const own = boards.map((board): Board => ({
    id: board.id,
    name: 'Board',
    width: 1,
    height: 1,
    background: null,
    items: checked(Item, board.items),
  }));
  const draft: Master = {
    ...base,
    // Boards of the revision stay for solids that take outlines from them; those of the draft say which frames there are.
    boards: [
      ...base.boards.map((board) => ({ ...board, items: board.items.filter((item) => !placedIn([item]).length) })),
      ...own,
    ],
    tables: changed(base.tables, checked(Table, tables)),
    solids: changed(base.solids, checked(Solid, solids)),
    texts: changed(base.texts, checked(Prose, texts)),
    resources: changed(base.resources, resources),
  };
  const answer: AnsweredPlaced = { items: {}, wrong: {}, more: {} };
  for (const item of own.flatMap(({ items }) => placedIn(items))) {
    try {
      answer.items[item.id] = await makePlaced(item, draft, services);
    } catch (error) {
      answer.items[item.id] = [];
      answer.wrong[item.id] = asFailure(error).message;
    }
    const { list, id: shown } = itemKind(item).readPart!(item);
    const text = list === 'texts' ? draft.texts!.find((one) => one.id === shown) : undefined;
    if (!text || answer.more[text.id] !== undefined) continue;
    const { left, filled } = flowOf(draft, text, services);
    answer.more[text.id] = left ? flowOf(draft, text, services, true).filled.length - filled.length : 0;
  }
  return answer;
}
