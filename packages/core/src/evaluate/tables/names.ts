import { AGGREGATES } from './aggregates';
import { NUMBER_FUNCTIONS } from './functions';

interface Named {
  readonly id: string;
  readonly name: string;
}

/** What a name of a formula may not be: these mean something themselves. */
const TAKEN: ReadonlySet<string> = new Set([
  ...['pi', 'e', 'true', 'false', 'mod', 'and', 'or', 'not', 'xor', 'to', 'in', 'end'],
  ...Object.keys(NUMBER_FUNCTIONS),
  ...Object.keys(AGGREGATES),
]);

/** A name as a formula can say it: letters, digits and low lines, as mathjs knows them. */
function spelled(name: string): string {
  const plain = name
    .normalize('NFC')
    .replace(/[^A-Za-z0-9_\u00c0-\u00d6\u00d8-\u00f6\u00f8-\u02af\u0370-\u03ff]+/g, '_')
    .replace(/^_+|_+$/g, '');
  const word = /^[0-9]/.test(plain) || plain === '' ? `_${plain}` : plain;
  return TAKEN.has(word) ? `${word}_` : word;
}

/** What formulas of a table may name: its columns and its summaries, each under a name of its own. */
export interface Names {
  readonly of: ReadonlyMap<string, string>;
  readonly columns: ReadonlyMap<string, number>;
  readonly summaries: ReadonlyMap<string, number>;
}

/** Names as formulas spell them, those of columns first; equal ones are numbered in order. */
function spelledAll(names: readonly string[]): string[] {
  const used = new Set<string>();
  return names.map((name) => {
    const first = spelled(name);
    let word = first;
    for (let i = 2; used.has(word); i++) word = `${first}_${i}`;
    used.add(word);
    return word;
  });
}
const places = (words: readonly string[]): ReadonlyMap<string, number> => new Map(words.map((word, i) => [word, i]));

/** What formulas call columns and summaries of these names. */
export function namesOf(columns: readonly string[], summaries: readonly string[]): Pick<Names, 'columns' | 'summaries'> {
  const words = spelledAll([...columns, ...summaries]);
  return { columns: places(words.slice(0, columns.length)), summaries: places(words.slice(columns.length)) };
}

/** The names of the columns and summaries of a table as formulas spell them. */
export function namesIn({
  columns,
  summaries,
}: {
  readonly columns: readonly Named[];
  readonly summaries: readonly Named[];
}): Names {
  const words = spelledAll([...columns, ...summaries].map(({ name }) => name));
  return {
    of: new Map([...columns, ...summaries].map(({ id }, i) => [id, words[i]!])),
    columns: places(words.slice(0, columns.length)),
    summaries: places(words.slice(columns.length)),
  };
}
