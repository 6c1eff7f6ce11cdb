import type { Drawing } from '../../contracts/drawing';
import { blockName, labelOfBlock } from './names';

/** A symbol as a block. */
export interface SymbolBlock {
  readonly name: string;
  readonly drawing: Drawing;
}

/** Names that mean something else: sheets, and what the format itself puts into blocks. */
const isTaken = (name: string): boolean => !name || name.startsWith('*') || labelOfBlock(name) !== undefined;

/** The symbols that drawings use, each once, by what they say and are called; those that others use come first. */
export class SymbolBlocks {
  private readonly byKey = new Map<string, SymbolBlock>();
  private readonly names = new Set<string>();

  constructor(
    drawings: Iterable<Drawing>,
    private readonly r12: boolean,
  ) {
    for (const drawing of drawings) this.gather(drawing);
  }

  get all(): readonly SymbolBlock[] {
    return [...this.byKey.values()];
  }

  /** The block of a use. */
  nameOf({ cell, name }: Drawing['uses'][number]): string {
    return this.byKey.get(`${cell} ${name}`)!.name;
  }

  private gather({ uses, cells }: Drawing): void {
    for (const { cell, name } of uses) {
      const key = `${cell} ${name}`;
      if (this.byKey.has(key)) continue;
      this.gather(cells[cell]!);
      this.byKey.set(key, { name: this.free(blockName(name, this.r12)), drawing: cells[cell]! });
    }
  }

  /** A name that no other block has; case does not tell names apart. */
  private free(wanted: string): string {
    const stem = isTaken(wanted) ? `SYMBOL_${wanted.replace(/^\*+/, '')}` : wanted;
    let name = stem;
    for (let more = 2; this.names.has(name.toUpperCase()); more++) name = `${stem}_${more}`;
    this.names.add(name.toUpperCase());
    return name;
  }
}
