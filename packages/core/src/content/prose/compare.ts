import { type Difference, type DifferenceKind, difference } from '../../contracts/difference';
import { EMPHASES, type Role } from '../../document/texts/schema';
import { NOTE_SIGN, firstWords } from '../../document/texts/words';
import type { CompareSettings, Comparison } from '../../contracts/kind';
import { alignBlocks, rising } from './align';
import type { ProseCarries } from './features';
import { isItem } from '../../evaluate/texts/lists';
import type { ProseBlock, ProseBody, ProseSpan, ProseTable } from './prose';
import { type WordChange, wordDiff } from './word-diff';
import { countWords, notesOf, textOf, wordsOfBlock } from './words';

/** Differences of one kind that are told one by one; of more it is said how many. */
const MOST = 500;
/** Sizes are the same to so many millimetres: formats state them in points, pixels and other units. */
const SIZE = 0.3;

const NOTHING = 'nothing';
const quoted = (words: string): string => {
  const plain = words.replaceAll(NOTE_SIGN, '[note]').replaceAll('\n', '⏎');
  return plain === '' ? NOTHING : `“${plain.length > 200 ? `${plain.slice(0, 199)}…` : plain}”`;
};

/** What words are, for people. */
const roleInWords = (block: { role: Role; level: number; start: number | null }): string => {
  if (block.role === 'body') return 'paragraph';
  if (!isItem({ block: 'words', role: block.role })) return block.role === 'quote' ? 'quotation' : block.role;
  const kind = block.role === 'continued' ? 'going on with an item' : `${block.role} item`;
  return `${kind}${block.level ? `, ${block.level + 1} deep` : ''}${block.start === null ? '' : `, from ${block.start}`}`;
};

const KINDS = { words: 'Paragraph', table: 'Table', picture: 'Picture', break: 'Break' } as const;
function nameOf(block: ProseBlock, at: number): string {
  if (block.block === 'break') return block.of === 'page' ? 'Page break' : 'Line across';
  const kind = block.block === 'words' && block.role.startsWith('heading') ? 'Heading' : KINDS[block.block];
  const words = block.block === 'table' ? textOf(block.caption) || block.grid[0]!.map(textOf).join(', ') : wordsOfBlock(block);
  const first = firstWords(words);
  return first ? `${kind} “${first}”` : `${kind} ${at + 1}`;
}

/** How a letter looks: its emphasis, and where it leads. */
interface WordStyle {
  readonly marks: string;
  readonly link: string;
}
function looksOf(spans: readonly ProseSpan[]): WordStyle[] {
  const looks: WordStyle[] = [];
  for (const { text, marks, link, note } of spans) {
    const look = { marks: marks.join(' '), link };
    for (let k = note ? 1 : text.length; k > 0; k--) looks.push(look);
  }
  return looks;
}

class Comparing {
  readonly differences: Difference[] = [];
  private readonly told = new Map<DifferenceKind, number>();
  words = 0;
  equal = 0;

  constructor(
    readonly master: ProseBody,
    readonly copy: ProseBody,
    readonly settings: CompareSettings<ProseCarries>,
  ) {}

  carried(feature: keyof ProseCarries): boolean {
    return this.settings.carries?.[feature] !== 'left out';
  }

  add(kind: DifferenceKind, what: string, rest: Partial<Difference>): void {
    const count = (this.told.get(kind) ?? 0) + 1;
    this.told.set(kind, count);
    if (count <= MOST) this.differences.push(difference(kind, what, rest));
  }

  /** What is too much to be told one by one. */
  rest(): void {
    for (const [kind, count] of this.told)
      if (count > MOST) this.differences.push(difference(kind, `${count - MOST} more places`, { count: count - MOST }));
  }

  at(i: number, j: number): Partial<Difference> {
    return {
      masterEntries: i < 0 ? [] : [i],
      copyEntries: j < 0 ? [] : [j],
      source: i < 0 ? null : this.master.blocks[i]!.source || null,
    };
  }

  /** Words, emphasis, links and notes of two stretches of words. */
  spans(what: string, a: readonly ProseSpan[], b: readonly ProseSpan[], at: Partial<Difference>): void {
    const [mine, theirs] = [textOf(a), textOf(b)];
    this.words += countWords(mine);
    if (mine === theirs && a.length === 1 && b.length === 1 && sameLook(a[0]!, b[0]!)) {
      this.equal += countWords(mine);
      return;
    }
    const changes = wordDiff(mine, theirs);
    for (const change of changes) {
      if (change.same) this.equal += countWords(mine.slice(...change.master));
      else
        this.add('words changed', what, {
          ...at,
          master: quoted(mine.slice(...change.master)),
          copy: quoted(theirs.slice(...change.copy)),
        });
    }
    this.looks(what, mine, changes, [looksOf(a), looksOf(b)], at);
    this.notes(what, changes, [a, b], [mine, theirs], at);
  }

  private looks(
    what: string,
    text: string,
    changes: readonly WordChange[],
    [a, b]: readonly [readonly WordStyle[], readonly WordStyle[]],
    at: Partial<Difference>,
  ): void {
    const report = (kind: 'emphasis changed' | 'link changed', of: (look: WordStyle) => string, none: string) => {
      for (const { same, master, copy } of changes) {
        if (!same) continue;
        const shift = copy[0] - master[0];
        for (let i = master[0]; i < master[1]; i++) {
          const [mine, theirs] = [of(a[i]!), of(b[i + shift]!)];
          if (mine === theirs) continue;
          const from = i;
          while (i + 1 < master[1] && of(a[i + 1]!) === mine && of(b[i + 1 + shift]!) === theirs) i++;
          const words = text.slice(from, i + 1);
          // Blanks look the same whatever they are, and a note has the look of its words.
          if (!/[^\s\uFFFC]/.test(words)) continue;
          this.add(kind, `${what}, ${quoted(words.trim())}`, { ...at, master: mine || none, copy: theirs || none });
        }
      }
    };
    if (this.carried('emphasis')) report('emphasis changed', ({ marks }) => marks, 'plain');
    if (this.carried('links')) report('link changed', ({ link }) => link, 'no link');
  }

  /** Notes that are in both, word by word; those that are missing or added are told with the words. */
  private notes(
    what: string,
    changes: readonly WordChange[],
    [a, b]: readonly [readonly ProseSpan[], readonly ProseSpan[]],
    [mine, theirs]: readonly [string, string],
    at: Partial<Difference>,
  ): void {
    if (!mine.includes(NOTE_SIGN) || !theirs.includes(NOTE_SIGN)) return;
    const [own, other] = [notesOf(a), notesOf(b)];
    const count = (text: string) => text.split(NOTE_SIGN).length - 1;
    for (const { same, master, copy } of changes) {
      const both = Math.min(count(mine.slice(...master)), count(theirs.slice(...copy)));
      if (!both || (!same && count(mine.slice(...master)) !== count(theirs.slice(...copy)))) continue;
      const [i, j] = [count(mine.slice(0, master[0])), count(theirs.slice(0, copy[0]))];
      for (let k = 0; k < both; k++)
        this.spans(`Note to ${what.toLowerCase().startsWith('note') ? what : lower(what)}`, own[i + k]!, other[j + k]!, at);
    }
  }

  blocks(i: number, j: number): void {
    const [a, b] = [this.master.blocks[i]!, this.copy.blocks[j]!];
    const what = nameOf(a, i);
    const at = this.at(i, j);
    if (a.block === 'words' && b.block === 'words') {
      if (a.role !== b.role || a.level !== b.level || a.start !== b.start)
        this.add('role changed', what, { ...at, master: roleInWords(a), copy: roleInWords(b) });
      if (this.carried('alignment') && a.align !== b.align)
        this.add('aligned otherwise', what, { ...at, master: a.align, copy: b.align });
      this.spans(what, a.spans, b.spans, at);
    } else if (a.block === 'table' && b.block === 'table') this.table(what, a, b, at);
    else if (a.block === 'picture' && b.block === 'picture') {
      if (a.picture !== b.picture)
        this.add('picture changed', what, { ...at, master: sizeOf(a.picture), copy: sizeOf(b.picture) });
      if (this.carried('descriptions') && a.alt !== b.alt)
        this.add('description changed', what, { ...at, master: quoted(a.alt), copy: quoted(b.alt) });
      if (this.carried('sizes') && Math.abs(a.width - b.width) > SIZE)
        this.add('resized', what, {
          ...at,
          amount: Math.abs(a.width - b.width),
          unit: 'mm',
          master: mm(a.width),
          copy: mm(b.width),
        });
      this.spans(`Caption of ${lower(what)}`, a.caption, b.caption, at);
    } else if (a.block === 'break' && b.block === 'break') {
      if (a.of !== b.of) this.add('role changed', what, { ...at, master: a.of, copy: b.of });
    } else this.add('role changed', what, { ...at, master: a.block, copy: b.block });
  }

  private table(what: string, a: ProseTable, b: ProseTable, at: Partial<Difference>): void {
    if (a.head !== b.head)
      this.add('role changed', `${what}, first row`, { ...at, master: headInWords(a.head), copy: headInWords(b.head) });
    this.spans(`Caption of ${lower(what)}`, a.caption, b.caption, at);
    const [wide, narrow] = [a.grid[0]?.length ?? 0, b.grid[0]?.length ?? 0];
    if (wide !== narrow)
      this.add(wide > narrow ? 'column missing' : 'column added', what, {
        ...at,
        count: Math.abs(wide - narrow),
        master: `${wide} columns`,
        copy: `${narrow} columns`,
      });
    const rowsOf = ({ grid }: ProseTable) =>
      grid.map((row): ProseBlock => ({
        block: 'words',
        role: 'body',
        level: 0,
        start: null,
        align: 'left',
        spans: row.flatMap((cell, k) => (k ? [TAB, ...cell] : cell)),
        source: '',
      }));
    const partner = alignBlocks(rowsOf(a), rowsOf(b));
    const steady = rising(partner);
    a.grid.forEach((row, r) => {
      const other = b.grid[partner[r]!];
      const name = `${what}, row ${r + 1}`;
      if (!other) {
        this.words += row.reduce((sum, cell) => sum + countWords(textOf(cell)), 0);
        this.add('row missing', name, { ...at, master: quoted(row.map(textOf).join(' | ')), copy: NOTHING });
        return;
      }
      if (!steady.has(r)) this.add('rows re-ordered', name, at);
      row.forEach((cell, c) => {
        const its = other[c];
        if (its) this.spans(`${name}, cell ${c + 1}`, cell, its, at);
      });
    });
    const met = new Set(partner);
    b.grid.forEach((row, r) => {
      if (!met.has(r))
        this.add('row added', `${what}, row ${r + 1} of the copy`, {
          ...at,
          master: NOTHING,
          copy: quoted(row.map(textOf).join(' | ')),
        });
    });
  }

  all(): void {
    const { master, copy } = this;
    if (this.carried('language') && master.language.toLowerCase() !== copy.language.toLowerCase())
      this.add('language changed', 'Text', { master: master.language || 'none', copy: copy.language || 'none' });
    const partner = alignBlocks(master.blocks, copy.blocks);
    const steady = rising(partner);
    master.blocks.forEach((block, i) => {
      const j = partner[i]!;
      if (j < 0) {
        this.words += countWords(wordsOfBlock(block));
        this.add('paragraph missing', nameOf(block, i), {
          ...this.at(i, -1),
          master: quoted(wordsOfBlock(block)),
          copy: NOTHING,
        });
        return;
      }
      if (!steady.has(i))
        this.add('paragraph moved', nameOf(block, i), { ...this.at(i, j), master: `place ${i + 1}`, copy: `place ${j + 1}` });
      this.blocks(i, j);
    });
    const met = new Set(partner);
    copy.blocks.forEach((block, j) => {
      if (!met.has(j))
        this.add('paragraph added', nameOf(block, j), { ...this.at(-1, j), master: NOTHING, copy: quoted(wordsOfBlock(block)) });
    });
    this.rest();
  }
}

const TAB: ProseSpan = { text: '\t', marks: [], link: '', note: null };
const sameLook = (a: ProseSpan, b: ProseSpan): boolean =>
  !a.note &&
  !b.note &&
  a.link === b.link &&
  a.marks.length === b.marks.length &&
  EMPHASES.every((mark) => a.marks.includes(mark) === b.marks.includes(mark));
const lower = (what: string): string => what.charAt(0).toLowerCase() + what.slice(1);
const headInWords = (head: boolean): string => (head ? 'a heading' : 'a row like the others');
const mm = (value: number): string => (value ? `${Number(value.toFixed(1))} mm wide` : 'no size');
const sizeOf = (word: string): string => (word ? `${word.split('-')[0]!} pixels` : 'no picture');

/** All that a copy of a text says otherwise than its master: paragraph by paragraph, word by word, looks apart from wording. */
export function compareProse(master: ProseBody, copy: ProseBody, settings: CompareSettings<ProseCarries>): Comparison {
  const comparing = new Comparing(master, copy, settings);
  comparing.all();
  return {
    differences: comparing.differences,
    outlines: comparing.words,
    equal: Math.min(comparing.words, comparing.equal),
    counted: 'words',
  };
}
