/** The lists of children that a node may have. */
export const LISTS = [
  ...(['boards', 'symbols', 'layers', 'resources', 'items'] as const),
  ...(['tables', 'columns', 'rows', 'summaries'] as const),
  ...(['solids', 'parameters', 'features'] as const),
  ...(['texts', 'blocks'] as const),
] as const;
export type ListName = (typeof LISTS)[number];

/** How many boards, tables, solids and texts there are. */
export const countParts = (master: { [list in 'boards' | 'tables' | 'solids' | 'texts']?: readonly unknown[] | undefined }): number =>
  (master.boards?.length ?? 0) + (master.tables?.length ?? 0) + (master.solids?.length ?? 0) + (master.texts?.length ?? 0);
