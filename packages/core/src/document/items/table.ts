import * as z from 'zod';
import { Failure } from '../../base/failure/failure';
import type { Item } from './union';
import type { ItemKind } from './kind';

const table = new Map<string, ItemKind<Item>>();
let schema: z.ZodType<Item> | undefined;

/**
 * Adds a kind of item. Kinds from outside are added at the entry of a program, before the first document is read.
 * @throws Failure `kind-taken` where its name is another's, `kind-late` where documents were read already
 */
export function addItemKind<N>(kind: ItemKind<N>): void {
  const before = table.get(kind.id);
  if (before === (kind as unknown)) return;
  if (before) throw new Failure('kind-taken', `There is a kind of item “${kind.id}” already.`);
  if (schema) throw new Failure('kind-late', `The kind of item “${kind.id}” came after the first document was read.`);
  table.set(kind.id, kind as ItemKind<Item>);
}

/** All kinds, in the order in which they are offered. */
export const itemKinds = (): readonly ItemKind<Item>[] =>
  [...table.values()].sort((a, b) => (a.offered ?? Infinity) - (b.offered ?? Infinity) || (a.id < b.id ? -1 : 1));

/** The kind of an item. @throws Failure `kind-unknown` */
export function itemKind(item: { readonly kind: string }): ItemKind<Item> {
  const kind = table.get(item.kind);
  if (kind) return kind;
  throw new Failure('kind-unknown', `There is no kind of item “${item.kind}”. Known: ${[...table.keys()].join(', ')}.`);
}

/** The schema of all kinds together. */
export const anyItem = (): z.ZodType<Item> =>
  (schema ??= z.discriminatedUnion('kind', itemKinds().map((kind) => kind.schema) as never) as unknown as z.ZodType<Item>);
