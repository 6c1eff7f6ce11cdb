import { plainFormula } from '../../evaluate/tables/formula';
import { ALSO, COLUMN_FUNCTIONS, ROW_FUNCTIONS } from './functions';

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
const [ROWS, COLUMNS] = [invert(ROW_FUNCTIONS), invert(COLUMN_FUNCTIONS)];

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
  '+': 3,
  '-': 3,
  '*': 4,
  '/': 4,
  '^': 5,
};
const OURS: Readonly<Record<string, string>> = { '=': '==', '<>': '!=' };
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
      left = `(${left} ${OURS[sign] ?? sign} ${this.expression(binding + 1)})`;
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

  private range(): string | null {
    const token = this.list[this.at];
    const found =
      token?.kind === 'cell'
        ? /^(?:('(?:[^']|'')+'|[^!]+)!)?\$?([A-Za-z]{1,3})\$?(\d+):\$?([A-Za-z]{1,3})\$?(\d+)$/.exec(token.text)
        : null;
    if (!found) return null;
    const name = this.seen.range(
      sheetOf(found[1]),
      [columnNumber(found[2]!), Number(found[3]) - 1],
      [columnNumber(found[4]!), Number(found[5]) - 1],
    );
    if (!name) throw new Unsayable();
    this.at++;
    return name;
  }

  private call(name: string): string {
    this.take('open');
    const args: string[] = [];
    const range = this.range();
    if (range) args.push(range);
    else if (!this.is('close')) args.push(this.expression(0));
    while (this.is('comma')) {
      this.at++;
      args.push(this.expression(0));
    }
    this.take('close');
    if (range) {
      const ours = COLUMNS.get(name) ?? ALSO[name];
      if (!ours) throw new Unsayable();
      return `${ours}(${args.join(', ')})`;
    }
    const [a = '', b = '', c = 'false'] = args;
    switch (name) {
      case 'PI':
        return 'pi';
      case 'EXP':
        return a === '1' ? 'e' : `exp(${a})`;
      case 'LN':
        return `log(${a})`;
      case 'LOG':
        return args.length > 1 ? `log(${a}, ${b})` : `log10(${a})`;
      case 'CEILING':
        if (b !== '1') throw new Unsayable();
        return `ceil(${a})`;
      case 'ROUND':
        return b === '0' ? `round(${a})` : `round(${a}, ${b})`;
      case 'POWER':
        return `((${a}) ^ (${b}))`;
      case 'IF':
        return `((${a}) ? (${b}) : (${c}))`;
      case 'MOD':
        return `((${a}) % (${b}))`;
      case 'AND':
      case 'OR':
        return `(${args.map((one) => `(${one})`).join(` ${name.toLowerCase()} `)})`;
      case 'NOT':
        return `(not (${a}))`;
      default: {
        const ours = ROWS.get(name);
        if (!ours) throw new Unsayable();
        return `${ours}(${args.join(', ')})`;
      }
    }
  }
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
