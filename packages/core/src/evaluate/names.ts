import type { ResolvedBoard } from './resolve';

/** What objects are called, by id: their names, or what they are. */
export const namesOf = ({ board }: Pick<ResolvedBoard, 'board'>): Map<string, string> => {
  const names = new Map<string, string>();
  const visit = (items: readonly { id: string; name?: string | undefined; kind: string; items?: unknown }[]): void => {
    for (const item of items) {
      names.set(item.id, item.name || `${item.kind} ${item.id.slice(0, 8)}`);
      if (Array.isArray(item.items)) visit(item.items as never);
    }
  };
  visit(board.items as never);
  return names;
};
