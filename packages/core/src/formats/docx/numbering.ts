import { type XmlNode, childOf, childrenOf, own, saidOf } from '../../base/bytes/xml-tree';
import type { Role } from '../../document/texts/schema';
import { isOn } from './read-styles';

interface Level {
  readonly format: string;
  readonly start: number;
  /** Whether nothing but a full stop stands beside a number, or something that is no letter before an item. */
  readonly bare: boolean;
  /** Whether nothing stands before an item: it goes on with the one before. */
  readonly blank: boolean;
}
interface List {
  readonly kind: string;
  readonly levels: ReadonlyMap<number, Level>;
  readonly overrides: ReadonlyMap<number, number>;
}

function levelOf(level: XmlNode): Level {
  const format = saidOf(level, 'numFmt') ?? 'decimal';
  const text = saidOf(level, 'lvlText');
  const bare = text === undefined || (format === 'bullet' ? /^[^\p{L}\p{N}%]*$|^o$/u.test(text) : /^%\d\.?$/.test(text));
  return {
    format,
    blank: format === 'bullet' && text !== undefined && !text.trim(),
    start: Number(saidOf(level, 'start') ?? 1) || 0,
    bare: bare && isOn(childOf(level, 'rPr'), 'vanish') !== true,
  };
}

const levelsOf = (node: XmlNode | undefined): Map<number, Level> =>
  new Map(childrenOf(node, 'lvl').map((level) => [Number(own(level, 'ilvl') ?? 0), levelOf(level)]));

/** Counts the items of lists as the format has it (ECMA-376-1, 17.9): lists of one kind count on, those that say so begin anew. */
export class Numbering {
  private readonly lists = new Map<string, List>();
  private readonly counts = new Map<string, (number | undefined)[]>();
  private readonly begun = new Set<string>();

  constructor(root: XmlNode | undefined) {
    const kinds = new Map(childrenOf(root, 'abstractNum').map((node) => [own(node, 'abstractNumId') ?? '', levelsOf(node)]));
    for (const node of childrenOf(root, 'num')) {
      const kind = saidOf(node, 'abstractNumId') ?? '';
      const overrides = new Map<number, number>();
      const levels = new Map(kinds.get(kind) ?? []);
      for (const override of childrenOf(node, 'lvlOverride')) {
        const at = Number(own(override, 'ilvl') ?? 0);
        const start = saidOf(override, 'startOverride');
        if (start !== undefined) overrides.set(at, Number(start) || 0);
        const level = childOf(override, 'lvl');
        if (level) levels.set(at, levelOf(level));
      }
      this.lists.set(own(node, 'numId') ?? '', { kind, levels, overrides });
    }
  }

  /** What an item is, and its number; null where its list is not there. */
  next(id: string, level: number): { role: Role; number: number | null; plain: boolean } | null {
    const list = this.lists.get(id);
    if (!list) return null;
    const { format, start, bare, blank } = list.levels.get(level) ?? { format: 'bullet', start: 1, bare: true, blank: false };
    if (blank) return { role: 'continued', number: null, plain: true };
    const counts = this.counts.get(list.kind) ?? [];
    this.counts.set(list.kind, counts);
    const key = `${id} ${level}`;
    const override = this.begun.has(key) ? undefined : list.overrides.get(level);
    this.begun.add(key);
    const number = override ?? (counts[level] === undefined ? start : counts[level] + 1);
    counts.length = Math.min(counts.length, level + 1);
    counts[level] = number;
    if (format === 'bullet') return { role: 'bullet', number: null, plain: bare };
    if (format === 'none') return { role: 'continued', number: null, plain: true };
    return { role: 'numbered', number, plain: format === 'decimal' && bare };
  }
}
