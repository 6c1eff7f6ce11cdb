import { plainFormula } from '../../evaluate/tables/formula';
import { type Argument, CALLS } from './calls';
import { ALSO, COLUMN_FUNCTIONS, ROW_FUNCTIONS, WHERE, WHERE_ONE } from './functions';

/** What cells of a workbook are, seen from one row of one sheet. */
export interface Seen {
  /** The name of the column that a cell of the same row is in; null where it is another row, or no column. */
  readonly cell: (sheet: string | null, column: number, row: number, fixed: boolean) => string | null;
  /** The name of the column that a range is all of. */
  readonly range: (
    sheet: string | null,
    from: readonly [column: number, row: number],
    to: readonly [column: number, row: number],
  ) => string | null;
}

const invert = (table: Readonly<Record<string, string>>) =>
  new Map(Object.entries(table).map(([ours, theirs]) => [theirs, ours]));
const [ROWS, COLUMNS, PAIRS] = [invert(ROW_FUNCTIONS), invert(COLUMN_FUNCTIONS), invert(WHERE)];

type Token = {
  readonly kind: 'number' | 'string' | 'sign' | 'name' | 'cell' | 'open' | 'close' | 'comma';
  readonly text: string;
};
const TOKENS: readonly [Token['kind'], RegExp][] = [
  ['string', /^"(?:[^"]|"")*"/],
  [
    'cell',
    /^(?:(?:'(?:[^']|'')+'|[A-Za-z0-9_.\u0080-\uffff]+)!)?\$?[A-Za-z]{1,3}\$?\d+(?::\$?[A-Za-z]{1,3}\$?\d+)?(?![A-Za-z0-9_(])/,
  ],
  ['number', /^(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?/],
  ['name', /^[A-Za-z_][A-Za-z0-9_.]*/],
  ['sign', /^(?:<>|<=|>=|[-+*/^=<>%&])/],
  ['open', /^\(/],
  ['close', /^\)/],
  ['comma', /^[,;]/],
];

function tokens(text: string): Token[] | null {
  const list: Token[] = [];
  let rest = text.trim();
  while (rest) {
    const found = TOKENS.map(([kind, pattern]) => [kind, pattern.exec(rest)?.[0]] as const).find(([, one]) => one);
    if (!found) return null;
    list.push({ kind: found[0], text: found[1]! });
    rest = rest.slice(found[1]!.length).trimStart();
  }
  return list;
}

export const columnNumber = (letters: string): number =>
  [...letters.toUpperCase()].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0) - 1;

/** How tightly signs bind in workbooks (ECMA-376-1, 18.17.2.2); all of them from left to right. */
const BINDING: Readonly<Record<string, number>> = {
  '=': 1,
  '<>': 1,
  '<': 1,
  '>': 1,
  '<=': 1,
  '>=': 1,
  '&': 2,
  '+': 3,
  '-': 3,
  '*': 4,
  '/': 4,
  '^': 5,
};
const OURS: Readonly<Record<string, string>> = { '=': '==', '<>': '!=' };
/** Columns of one range. */
const MOST_COLUMNS = 200;
/** Brackets in brackets that are followed. */
const DEEPEST = 100;

class Unsayable extends Error {}

/** A formula of a workbook in our grammar, every operation in brackets, then written in one way. */
class FormulaReading {
  private at = 0;
  private depth = 0;

  constructor(
    private readonly list: readonly Token[],
    private readonly seen: Seen,
  ) {}

  all(): string {
    const text = this.expression(0);
    if (this.at < this.list.length) throw new Unsayable();
    return text;
  }

  private take(kind?: Token['kind']): Token {
    const token = this.list[this.at++];
    if (!token || (kind && token.kind !== kind)) throw new Unsayable();
    return token;
  }
  private is(kind: Token['kind'], text?: string): boolean {
    const token = this.list[this.at];
    return token?.kind === kind && (text === undefined || token.text === text);
  }

  private expression(least: number): string {
    if (++this.depth > DEEPEST) throw new Unsayable();
    let left = this.prefix();
    for (;;) {
      if (this.is('sign', '%')) {
        this.at++;
        left = `(${left} / 100)`;
        continue;
      }
      const sign = this.is('sign') ? this.list[this.at]!.text : '';
      const binding = BINDING[sign];
      if (binding === undefined || binding < least) break;
      this.at++;
      const right = this.expression(binding + 1);
      left = sign === '&' ? joined(left, right) : `(${left} ${OURS[sign] ?? sign} ${right})`;
    }
    this.depth--;
    return left;
  }

  private prefix(): string {
    if (this.is('sign', '-') || this.is('sign', '+')) {
      const { text } = this.take();
      // A sign before binds tighter than a power here, unlike in ours.
      const value = this.expression(6);
      return text === '-' ? `(-${value})` : value;
    }
    const token = this.take();
    if (token.kind === 'number') return token.text;
    if (token.kind === 'string') return JSON.stringify(token.text.slice(1, -1).replaceAll('""', '"'));
    if (token.kind === 'cell') return this.cell(token.text);
    if (token.kind === 'open') {
      const inner = this.expression(0);
      this.take('close');
      return `(${inner})`;
    }
    if (token.kind !== 'name') throw new Unsayable();
    const name = token.text.toUpperCase();
    if (!this.is('open')) {
      if (name === 'TRUE' || name === 'FALSE') return name.toLowerCase();
      throw new Unsayable();
    }
    return this.call(name);
  }

  private cell(text: string): string {
    const found = /^(?:('(?:[^']|'')+'|[^!]+)!)?(\$?)([A-Za-z]{1,3})(\$?)(\d+)$/.exec(text);
    const name = found && this.seen.cell(sheetOf(found[1]), columnNumber(found[3]!), Number(found[5]) - 1, found[4] === '$');
    if (!name) throw new Unsayable();
    return name;
  }

  /** The columns that a range is all of, or its cells in the same row, from left to right; null where there is no range. */
  private range(): { names: readonly string[]; isRow: boolean } | null {
    const token = this.list[this.at];
    const found =
      token?.kind === 'cell'
        ? /^(?:('(?:[^']|'')+'|[^!]+)!)?\$?([A-Za-z]{1,3})\$?(\d+):\$?([A-Za-z]{1,3})\$?(\d+)$/.exec(token.text)
        : null;
    if (!found) return null;
    const [first, last] = [columnNumber(found[2]!), columnNumber(found[4]!)];
    if (last < first || last - first > MOST_COLUMNS) throw new Unsayable();
    // Cells beside each other in a row are as many values.
    if (found[3] === found[5]) {
      const cells = Array.from({ length: last - first + 1 }, (_, i) =>
        this.seen.cell(sheetOf(found[1]), first + i, Number(found[3]) - 1, false),
      );
      if (!cells.includes(null)) {
        this.at++;
        return { names: cells as string[], isRow: true };
      }
    }
    const names = Array.from({ length: last - first + 1 }, (_, i) =>
      this.seen.range(sheetOf(found[1]), [first + i, Number(found[3]) - 1], [first + i, Number(found[5]) - 1]),
    );
    if (names.includes(null)) throw new Unsayable();
    this.at++;
    return { names: names as string[], isRow: false };
  }

  private *arguments(): Generator<Argument> {
    // What is left out between two commas is nothing.
    if (this.is('comma') || this.is('close')) return void (yield { text: '', columns: null });
    const range = this.range();
    if (!range) yield { text: this.expression(0), columns: null };
    else if (range.isRow) for (const text of range.names) yield { text, columns: null };
    else yield { text: range.names[0]!, columns: range.names };
  }

  private call(name: string): string {
    this.take('open');
    const args: Argument[] = [];
    if (!this.is('close')) args.push(...this.arguments());
    while (this.is('comma')) {
      this.at++;
      args.push(...this.arguments());
    }
    this.take('close');
    const said = sayCall(name.replace(/^_XLFN\./, ''), args);
    if (said === null) throw new Unsayable();
    return said;
  }
}

/** A call in our grammar; null where ours can't say it. */
function sayCall(name: string, args: readonly Argument[]): string | null {
  const words = args.map(({ text }) => text);
  const own = CALLS[name]?.(args);
  if (own !== undefined) return own;
  // Several columns at once are taken by a lookup alone.
  if (args.some(({ columns }) => columns && columns.length > 1)) return null;
  const pairs = PAIRS.get(name);
  if (pairs) return args.some(({ text }) => !text) ? null : `${pairs}(${words.join(', ')})`;
  const one = WHERE_ONE[name];
  if (one) {
    const [key, wanted, values] = args;
    if (!key?.columns || !wanted?.text || wanted.columns) return null;
    return one === 'count_where'
      ? `${one}(${key.text}, ${wanted.text})`
      : `${one}(${(values ?? key).text}, ${key.text}, ${wanted.text})`;
  }
  if (args.some(({ text }) => !text)) return null;
  const [first, ...more] = args;
  if (first?.columns) {
    const ours = COLUMNS.get(name) ?? ALSO[name];
    return ours && !more.some(({ columns }) => columns) ? `${ours}(${words.join(', ')})` : null;
  }
  const ours = ROWS.get(name);
  return ours && !args.some(({ columns }) => columns) ? `${ours}(${words.join(', ')})` : null;
}

/** Words behind each other: those of several signs in one call. */
const joined = (a: string, b: string): string =>
  a.startsWith('concat(') && isOneCall(a) ? `${a.slice(0, -1)}, ${b})` : `concat(${a}, ${b})`;
/** Whether the bracket that a call opens is closed by its last letter. */
function isOneCall(text: string): boolean {
  let depth = 0;
  const plain = text.replace(/"(?:[^"\\]|\\.)*"/g, (word) => '_'.repeat(word.length));
  for (let i = 0; i < plain.length; i++) {
    if (plain[i] === '(') depth++;
    else if (plain[i] === ')' && --depth === 0) return i === plain.length - 1;
  }
  return false;
}
const sheetOf = (text: string | undefined): string | null =>
  text === undefined ? null : text.startsWith("'") ? text.slice(1, -1).replaceAll("''", "'") : text;

/** A formula of a workbook in our grammar; null where it says what ours can't. */
export function fromWorkbook(text: string, seen: Seen): string | null {
  const list = tokens(text.replace(/^=/, ''));
  if (!list) return null;
  try {
    return plainFormula(new FormulaReading(list, seen).all());
  } catch (error) {
    if (error instanceof Unsayable) return null;
    throw error;
  }
}
