import { inHeading } from '../../evaluate/tables/heading';
import type { Grid } from '../../content/grid/grid';
import type { Options } from '../../contracts/declaration';
import { DECIMALS, DELIMITERS, type Delimiter } from './declare';
import { guarded } from './guard';

const NUMBER = /^-?\d+(\.\d+)?(e[+-]?\d+)?$/;

/** Writes a table as lines of cells (RFC 4180): quoted where a cell holds a delimiter, a quote or the end of a line. */
export function writeCsv({ columns, count }: Grid, options: Options): Uint8Array {
  const delimiter = DELIMITERS[options['delimiter'] as Delimiter];
  const comma = DECIMALS[options['decimal'] as keyof typeof DECIMALS] === ',';
  const guard = options['guard'] === 'apostrophe';
  const mustQuote = new RegExp(`["\\r\\n${delimiter === '\t' ? '\\t' : delimiter}]|^\\s|\\s$`);
  const cell = (word: string, isNumber: boolean): string => {
    const plain = isNumber && NUMBER.test(word) ? (comma ? word.replace('.', ',') : word) : guard ? guarded(word) : word;
    return mustQuote.test(plain) ? `"${plain.replaceAll('"', '""')}"` : plain;
  };
  const lines: string[] = [columns.map(({ name, unit }) => cell(inHeading(name, unit), false)).join(delimiter)];
  // A line without anything in it would not be a row again.
  const alone = columns.length === 1;
  for (let row = 0; row < count; row++) {
    let line = '';
    for (let i = 0; i < columns.length; i++) {
      const { words, meant } = columns[i]!;
      if (i) line += delimiter;
      line += cell(words![row]!, meant === 'number');
    }
    lines.push(alone && !line ? '""' : line);
  }
  return new TextEncoder().encode(`${options['bom'] ? '\ufeff' : ''}${lines.join('\r\n')}\r\n`);
}
