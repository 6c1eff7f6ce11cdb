/** The lists of children that a node may have. */
export const LISTS = [
  ...(['boards', 'symbols', 'layers', 'resources', 'items'] as const),
  ...(['tables', 'columns', 'rows', 'summaries'] as const),
  ...(['solids', 'parameters', 'features'] as const),
  ...(['texts', 'blocks'] as const),
] as const;
export type ListName = (typeof LISTS)[number];

/** What weighs about as much as an object on a board: rows of tables, features of solids, paragraphs of texts. */
export const countWithin = (master: {
  readonly tables?: readonly { readonly rows: readonly unknown[] }[] | undefined;
  readonly solids?: readonly { readonly features: readonly unknown[] }[] | undefined;
  readonly texts?: readonly { readonly blocks: readonly unknown[] }[] | undefined;
}): number =>
  (master.tables ?? []).reduce((sum, { rows }) => sum + rows.length, 0) +
  (master.solids ?? []).reduce((sum, { features }) => sum + features.length, 0) +
  (master.texts ?? []).reduce((sum, { blocks }) => sum + blocks.length, 0);

/** How many boards, tables, solids and texts there are. */
export const countParts = (master: {
  [list in 'boards' | 'tables' | 'solids' | 'texts']?: readonly unknown[] | undefined;
}): number =>
  (master.boards?.length ?? 0) + (master.tables?.length ?? 0) + (master.solids?.length ?? 0) + (master.texts?.length ?? 0);
