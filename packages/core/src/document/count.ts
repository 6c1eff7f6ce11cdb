import { itemKind, roughly } from './items';
import type { Board, Item, Master, SymbolDefinition } from './schema';
import { NESTING_LIMIT, OBJECT_LIMIT, tooDeep, tooManyObjects } from './limits';

/**
 * How many objects each symbol draws once everything in it is opened, and how deep it is, without opening it: a use counts
 * what its symbol counted. Symbols that use themselves count as nothing; resolving says where they do.
 */
class Counts {
  private readonly symbols: ReadonlyMap<string, SymbolDefinition>;
  private readonly known = new Map<string, { drawn: number; depth: number }>();

  constructor(master: Master) {
    this.symbols = new Map(master.symbols.map((symbol) => [symbol.id, symbol]));
  }

  of(items: readonly Item[]): { drawn: number; depth: number } {
    let [drawn, depth] = [0, 0];
    for (const item of items) {
      const kind = itemKind(item);
      const opened = kind.openContents?.(item);
      if (!opened) {
        drawn += kind.lines ? kind.lines(item, roughly).length : 1;
        continue;
      }
      const inner = opened.items ? this.of(opened.items) : this.symbol(opened.symbol ?? '');
      drawn += inner.drawn;
      depth = Math.max(depth, inner.depth + 1);
    }
    return { drawn, depth };
  }

  private symbol(id: string): { drawn: number; depth: number } {
    let found = this.known.get(id);
    if (!found) {
      this.known.set(id, { drawn: 0, depth: 0 });
      found = this.of(this.symbols.get(id)?.items ?? []);
      this.known.set(id, found);
    }
    return found;
  }
}

/** How many objects a board draws once all repeats are opened. */
export const drawnObjects = (master: Master, board: Board): number => new Counts(master).of(board.items).drawn;

/** @throws Failure `too-many-objects` or `too-deep` with the count and the limit, before anything is opened */
export function assertOpens(master: Master, board: Board): void {
  const { drawn, depth } = new Counts(master).of(board.items);
  if (drawn > OBJECT_LIMIT) throw tooManyObjects(drawn, { node: board.id });
  if (depth > NESTING_LIMIT) throw tooDeep(depth, { node: board.id });
}
