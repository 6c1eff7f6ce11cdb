import { type Difference, type DifferenceKind, difference } from '../../contracts/difference';
import { rounded } from '../../evaluate/tables/values';
import type { CompareSettings, Comparison } from '../../contracts/kind';
import { type Rows, alignRows, blankRows, likeness, outOfOrder, wordsOfRow } from './align';
import { DIGITS, type Typed, asTyped, commonType, sameCell, sameNumber } from './cells';
import type { GridCarries } from './features';
import { type Grid, type GridColumn, type GridSummary, cellWords, entryOf } from './grid';

/** Cells of one column, and rows, that are told one by one; of more it is said how many. */
const MOST = 200;
/** So much the same must columns say for one to be the other under a new name. */
const RENAMED = 0.8;

interface Pair {
  readonly master: number;
  readonly copy: number;
  readonly a: Typed;
  readonly b: Typed;
}

const EMPTY = 'empty';
const say = (words: string) => words || EMPTY;

class Comparing {
  readonly differences: Difference[] = [];
  equal = 0;

  constructor(
    readonly master: Grid,
    readonly copy: Grid,
    readonly settings: CompareSettings<GridCarries>,
  ) {}

  add(kind: DifferenceKind, what: string, rest: Partial<Difference>): void {
    this.differences.push(difference(kind, what, rest));
  }

  carried(feature: keyof GridCarries): boolean {
    return this.settings.carries?.[feature] !== 'left out';
  }

  pair(i: number, j: number): Pair {
    const [a, b] = [this.master.columns[i]!, this.copy.columns[j]!];
    const as = commonType(a, b, this.copy.decimal);
    return {
      master: i,
      copy: j,
      a: asTyped(a, as, this.master.count, this.master.decimal),
      b: asTyped(b, as, this.copy.count, this.copy.decimal),
    };
  }

  /** Columns of the same name; of several with one name, in order. */
  byName(): Pair[] {
    const free = new Set(this.copy.columns.keys());
    return this.master.columns.flatMap(({ name }, i) => {
      for (const j of free)
        if (this.copy.columns[j]!.name === name) {
          free.delete(j);
          return [this.pair(i, j)];
        }
      return [];
    });
  }

  /** Columns that got another name: what says the same. What is then left is missing or added. */
  renamed(pairs: Pair[], rows: Rows): void {
    const [left, free] = this.unpaired(pairs);
    for (const i of left) {
      let [best, most] = [-1, RENAMED];
      for (const j of free) {
        const { a, b } = this.pair(i, j);
        const like = likeness(a, b, rows) + (i === j ? 0.01 : 0);
        if (like >= most) [best, most] = [j, like];
      }
      const column = this.master.columns[i]!;
      if (best < 0) {
        this.add('column missing', column.name, {
          count: this.master.count,
          masterEntries: [entryOf(this.master, -1, i)],
          source: column.source || null,
        });
        continue;
      }
      free.delete(best);
      pairs.push(this.pair(i, best));
      this.add('column renamed', column.name, {
        master: column.name,
        copy: this.copy.columns[best]!.name,
        masterEntries: [entryOf(this.master, -1, i)],
        copyEntries: [entryOf(this.copy, -1, best)],
        source: column.source || null,
      });
    }
    for (const j of free)
      this.add('column added', this.copy.columns[j]!.name || `Column ${j + 1}`, {
        count: this.copy.count,
        copyEntries: [entryOf(this.copy, -1, j)],
      });
  }

  private unpaired(pairs: readonly Pair[]): [number[], Set<number>] {
    const [mine, theirs] = [new Set(pairs.map(({ master }) => master)), new Set(pairs.map(({ copy }) => copy))];
    return [
      [...this.master.columns.keys()].filter((i) => !mine.has(i)),
      new Set([...this.copy.columns.keys()].filter((j) => !theirs.has(j))),
    ];
  }

  heads({ master: i, copy: j }: Pair): void {
    const [a, b] = [this.master.columns[i]!, this.copy.columns[j]!];
    const at = {
      masterEntries: [entryOf(this.master, -1, i)],
      copyEntries: [entryOf(this.copy, -1, j)],
      source: a.source || null,
    };
    if (this.carried('units') && a.unit !== b.unit)
      this.add('unit changed', a.name, { ...at, master: a.unit || 'none', copy: b.unit || 'none' });
    if (
      this.carried('types') &&
      a.type !== 'untyped' &&
      b.type !== 'untyped' &&
      a.type !== b.type &&
      !isEmpty(a, this.master.count) &&
      !(b.formula !== null && isEmpty(b, this.copy.count))
    )
      this.add('type changed', a.name, { ...at, master: a.type, copy: b.type });
    if (this.carried('formulas')) {
      if (a.formula !== null && b.formula === null)
        this.add('formula lost', a.name, { ...at, master: a.formula, copy: 'values' });
      else if (a.formula !== b.formula)
        this.add('formula changed', a.name, { ...at, master: a.formula ?? 'values', copy: b.formula ?? 'values' });
      else {
        const loose = Object.entries(b.loose);
        for (const [row, formula] of loose.slice(0, MOST))
          this.add(formula ? 'formula changed' : 'formula lost', `${a.name}, ${wordsOfRow(this.copy, Number(row))}`, {
            ...at,
            master: a.formula ?? 'value',
            copy: formula || `value ${cellWords(b, Number(row))}`,
            copyEntries: [entryOf(this.copy, Number(row), j)],
          });
        if (loose.length > MOST) this.add('formula lost', a.name, { ...at, count: loose.length - MOST });
      }
    }
    if (this.carried('shown digits') && a.decimals !== b.decimals && a.type === 'number' && b.type === 'number')
      this.add('format changed', a.name, { ...at, master: digits(a.decimals), copy: digits(b.decimals) });
  }

  /** Formulas that gave nothing, and are not there any more: an empty cell is all that is left of them. */
  emptied({ master: i, copy: j, a }: Pair, rows: Rows): void {
    const [column, other] = [this.master.columns[i]!, this.copy.columns[j]!];
    if (!this.carried('formulas') || this.copy.isStated || column.formula === null || column.formula !== other.formula) return;
    const gone = [...rows.keys()].filter((row) => rows[row]! >= 0 && isBlank(a, row) && other.bare?.has(rows[row]!));
    for (const row of gone.slice(0, MOST))
      this.add('formula lost', `${column.name}, ${wordsOfRow(this.master, row)}`, {
        master: column.formula,
        copy: EMPTY,
        masterEntries: [entryOf(this.master, row, i)],
        copyEntries: [entryOf(this.copy, rows[row]!, j)],
        source: column.source || null,
      });
    if (gone.length > MOST) this.add('formula lost', column.name, { count: gone.length - MOST, source: column.source || null });
  }

  cells(pair: Pair, rows: Rows): void {
    const { master: i, copy: j, a, b } = pair;
    const [column, other] = [this.master.columns[i]!, this.copy.columns[j]!];
    const within = column.formula === null ? Math.min(DIGITS, this.settings.tolerance) : this.settings.tolerance;
    const changed: number[] = [];
    // Where the same formula stands and no value, it is computed by whoever opens the copy.
    const hasFormula = column.formula !== null && column.formula === other.formula;
    const isComputed = (at: number) => hasFormula && isBlank(b, at) && other.loose[at] === undefined && !other.bare?.has(at);
    for (let row = 0; row < rows.length; row++) {
      const at = rows[row]!;
      if (at === -2) this.equal++;
      if (at < 0) continue;
      if (sameCell(a, row, b, at, within) || isComputed(at)) this.equal++;
      else changed.push(row);
    }
    if (!changed.length) return;
    const lost = digitsLost(a, b, rows, changed);
    const largest = (of: readonly number[]) =>
      of.reduce((most, row) => Math.max(most, Math.abs(a.numbers[row]! - b.numbers[rows[row]!]!) || 0), 0);
    const entries = (of: readonly number[]) => ({
      masterEntries: of.slice(0, MOST).map((row) => entryOf(this.master, row, i)),
      copyEntries: of.slice(0, MOST).map((row) => entryOf(this.copy, rows[row]!, j)),
    });
    const source = column.source || null;
    if (lost !== null) {
      this.add('digits lost', column.name, {
        count: changed.length,
        amount: largest(changed),
        unit: column.unit,
        master: cellWords(column, changed[0]!),
        copy: cellWords(other, rows[changed[0]!]!),
        ...entries(changed),
        source,
      });
      return;
    }
    for (const row of changed.slice(0, MOST)) {
      const off = Math.abs(a.numbers[row]! - b.numbers[rows[row]!]!);
      const plain = (column.meant ?? column.type) === 'number';
      this.add('value changed', `${column.name}, ${wordsOfRow(this.master, row)}`, {
        amount: Number.isNaN(off) || !plain ? null : Number(off.toPrecision(12)),
        unit: column.unit,
        master: say(exactly(column, a, row)),
        copy: say(exactly(other, b, rows[row]!)),
        ...entries([row]),
        source,
      });
    }
    if (changed.length > MOST) {
      const more = changed.slice(MOST);
      this.add('value changed', column.name, {
        count: more.length,
        amount: largest(more) || null,
        unit: column.unit,
        ...entries(more),
        source,
      });
    }
  }

  rows(rows: Rows): void {
    const missing: number[] = [];
    const taken = Uint8Array.from(blankRows(this.copy));
    rows.forEach((at, row) => {
      if (at === -1) missing.push(row);
      else if (at >= 0) taken[at] = 1;
    });
    const added: number[] = [];
    taken.forEach((one, row) => {
      if (!one) added.push(row);
    });
    const report = (
      kind: 'row missing' | 'row added',
      grid: Grid,
      list: readonly number[],
      side: 'masterEntries' | 'copyEntries',
    ) => {
      for (const row of list.slice(0, MOST))
        this.add(kind, named(wordsOfRow(grid.key < 0 ? { ...grid, key: this.master.key } : grid, row)), {
          [side]: [entryOf(grid, row, -1)],
        });
      if (list.length > MOST)
        this.add(kind, `${list.length - MOST} more rows`, {
          count: list.length - MOST,
          [side]: list.slice(MOST, 2 * MOST).map((row) => entryOf(grid, row, -1)),
        });
    };
    report('row missing', this.master, missing, 'masterEntries');
    report('row added', this.copy, added, 'copyEntries');
    const isStated = !!this.copy.isStated;
    const empty = blanksOf(this.copy, isStated) - blanksOf(this.master, isStated);
    if (empty > 0) this.add('row added', empty === 1 ? 'An empty row' : `${empty} empty rows`, { count: empty });
    const moved = this.carried('row order') ? outOfOrder(rows) : 0;
    if (moved) this.add('rows re-ordered', 'Rows', { count: moved });
  }

  /** Which column tells rows apart, where both sides say one, or the copy could. */
  keys(pairs: readonly Pair[]): void {
    const { master, copy } = this;
    const isSame = pairs.some((pair) => pair.master === master.key && pair.copy === copy.key);
    if (isSame || (master.key < 0 && copy.key < 0)) return;
    if (!copy.isStated && (master.key < 0 || copy.key < 0)) return;
    const nameOf = ({ columns, key }: Grid) => columns[key]?.name ?? 'none';
    this.add('type changed', 'Column that tells rows apart', { master: nameOf(master), copy: nameOf(copy) });
  }

  columnOrder(pairs: readonly Pair[]): void {
    if (!this.carried('column order')) return;
    const order = [...pairs].sort((a, b) => a.master - b.master).map(({ copy }) => copy);
    const moved = outOfOrder(Int32Array.from(order));
    if (moved) this.add('columns re-ordered', 'Columns', { count: moved });
  }

  summaries(): void {
    if (!this.carried('summaries')) return;
    const theirs = new Map(this.copy.summaries.map((one) => [one.name, one]));
    for (const one of this.master.summaries) {
      const other = theirs.get(one.name);
      theirs.delete(one.name);
      if (other) this.summary(one, other);
      else this.add('missing', one.name, { source: one.source || null });
    }
    for (const { name } of theirs.values()) this.add('added', name, {});
  }

  private summary(a: GridSummary, b: GridSummary): void {
    const source = a.source || null;
    const words = (value: number) => (Number.isNaN(value) ? EMPTY : String(Number(value.toPrecision(15))));
    const isComputed = a.formula !== null && a.formula === b.formula && Number.isNaN(b.value);
    if (!(isComputed || Object.is(a.value, b.value) || sameNumber(a.value, b.value, this.settings.tolerance)))
      this.add('value changed', a.name, {
        amount: Number.isNaN(a.value - b.value) ? null : Math.abs(a.value - b.value),
        unit: a.unit,
        master: words(a.value),
        copy: words(b.value),
        source,
      });
    else this.equal++;
    if (this.carried('formulas') && a.formula !== b.formula)
      this.add(b.formula === null ? 'formula lost' : 'formula changed', a.name, {
        master: a.formula ?? 'a value',
        copy: b.formula ?? 'a value',
        source,
      });
    if (this.carried('units') && a.unit !== b.unit)
      this.add('unit changed', a.name, { master: a.unit || 'none', copy: b.unit || 'none', source });
    if (this.carried('shown digits') && a.decimals !== b.decimals)
      this.add('format changed', a.name, { master: digits(a.decimals), copy: digits(b.decimals), source });
  }
}

/** Rows in which nothing stands; with others after them where the format does not count every row. */
function blanksOf(grid: Grid, isStated: boolean): number {
  const blank = blankRows(grid);
  if (isStated) return blank.reduce((count, one) => count + one, 0);
  return blank.subarray(0, blank.lastIndexOf(0) + 1).reduce((count, one) => count + one, 0);
}

const isBlank = ({ numbers, words }: Typed, row: number): boolean => Number.isNaN(numbers[row]!) && !words?.[row];
const named = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);
const digits = (decimals: number | null) => (decimals === null ? 'as many as there are' : String(decimals));
const isEmpty = ({ numbers, words }: GridColumn, count: number): boolean =>
  !count || (!(numbers?.some((value) => !Number.isNaN(value)) ?? false) && !(words?.some(Boolean) ?? false));

/** A cell with all its digits, where those that are shown would not tell the two sides apart. */
function exactly(column: GridColumn, typed: Typed, row: number): string {
  const value = typed.numbers[row]!;
  return (column.meant ?? column.type) === 'number' && !Number.isNaN(value)
    ? String(Number(value.toPrecision(15)))
    : cellWords(column, row);
}

/** Whether what changed in a column is that it was rounded: to how many digits; null where it is not. */
function digitsLost(a: Typed, b: Typed, rows: Rows, changed: readonly number[]): number | null {
  const whole = changed.length < 3;
  if (whole) return null;
  for (let decimals = 0; decimals < 12; decimals++) {
    const all = changed.every((row) => {
      const [x, y] = [a.numbers[row]!, b.numbers[rows[row]!]!];
      return !Number.isNaN(x) && Math.abs(rounded(x, decimals) - y) <= 1e-12 * Math.max(1, Math.abs(y));
    });
    if (all) return decimals;
  }
  return null;
}

/** All that a copy of a table says otherwise than its master: columns by name, rows by key, whole numbers digit by digit, others within a share of themselves. */
export function compareGrids(master: Grid, copy: Grid, settings: CompareSettings<GridCarries>): Comparison {
  const comparing = new Comparing(master, copy, settings);
  const pairs = comparing.byName();
  const sides = () => pairs.map(({ a, b }) => [a, b] as const);
  const keyed = pairs.findIndex((pair) => pair.master === master.key);
  const rows = alignRows(master, copy, sides(), keyed);
  comparing.renamed(pairs, rows);
  for (const pair of pairs) {
    comparing.heads(pair);
    comparing.cells(pair, rows);
    comparing.emptied(pair, rows);
  }
  comparing.rows(rows);
  comparing.keys(pairs);
  comparing.columnOrder(pairs);
  comparing.summaries();
  const outlines =
    master.count * master.columns.length + (settings.carries?.summaries === 'left out' ? 0 : master.summaries.length);
  return { differences: comparing.differences, outlines, equal: Math.min(outlines, comparing.equal), counted: 'cells' };
}
