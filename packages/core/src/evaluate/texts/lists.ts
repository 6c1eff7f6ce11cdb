import { ITEMS, type Role } from '../../document/texts/schema';

interface Listed {
  readonly role: Role;
  readonly level?: number | undefined;
  readonly start?: number | null | undefined;
}
export const isItem = (block: { readonly block: string; readonly role?: Role }): boolean =>
  block.block === 'words' && (ITEMS as readonly string[]).includes(block.role!);

/** Counts the items of lists, level by level; what is no item ends them all. */
export class ListCounter {
  private readonly counts: (number | null)[] = [];

  /** The number of a numbered item; null of all others. */
  next({ role, level = 0, start }: Listed): number | null {
    if (role === 'continued') {
      this.counts.length = Math.min(this.counts.length, level + 1);
      return null;
    }
    this.counts.length = Math.min(this.counts.length, level + 1);
    while (this.counts.length <= level) this.counts.push(null);
    if (role === 'bullet') {
      this.counts[level] = null;
      return null;
    }
    const number = start ?? (this.counts[level] ?? 0) + 1;
    this.counts[level] = number;
    return number;
  }

  /** What a numbered item would be numbered by itself. */
  would(level: number): number {
    return level < this.counts.length ? (this.counts[level] ?? 0) + 1 : 1;
  }

  end(): void {
    this.counts.length = 0;
  }
}

/** Numbers of the numbered items of a text, block by block; null of all others. */
export function numbersOf(blocks: readonly ({ readonly block: string } & Partial<Listed>)[]): (number | null)[] {
  const counter = new ListCounter();
  return blocks.map((block) => {
    if (isItem(block)) return counter.next(block as Listed);
    counter.end();
    return null;
  });
}
