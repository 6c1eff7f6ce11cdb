import type { Grid } from '../../content/grid/grid';
import type { Codec } from '../../contracts/codec';
import { ORIGIN, originFile, originOf, sealOrigin } from '../origin-file';
import { gridsToMaster } from '../tables/bring-in';
import { DECIMALS, type Delimiter, csvDeclaration } from './declare';
import { cellsOf, linesInWords, lookAtCells } from './look';
import { decode, encodingOf } from './encoding';
import { readCells } from './read';
import { type CsvDialect, decimalOf, delimiterOf, someRows } from './sniff';
import type { NotUnderstood } from '../../contracts/not-understood';
import { writeCsv } from './write';

/** What a guess is about, in words that its value goes on from. */
const GUESSES: Readonly<Record<keyof CsvDialect, string>> = {
  encoding: 'letters read as',
  delimiter: 'cells parted by a',
  decimal: 'decimal mark taken as',
  dates: 'dates taken as',
  heading: 'heading taken as',
  quotes: 'marks around cells taken as',
};

export const csvCodec = {
  declaration: csvDeclaration,
  write: ({ leaves }, options, mark) => [
    { part: '', bytes: writeCsv(leaves[0]!.body as Grid, options) },
    originFile(mark, options),
  ],
  seal: sealOrigin,
  read: (files, { options }) => {
    const { bytes } = files[0]!;
    const text = decode(bytes, encodingOf(bytes).encoding);
    // Other programs write other delimiters and decimal marks: it is the text that says which.
    const { delimiter } = delimiterOf(text, options?.['delimiter'] as Delimiter | undefined);
    const wanted = options && DECIMALS[options['decimal'] as keyof typeof DECIMALS];
    const { decimal } = decimalOf(someRows(text.slice(0, 200_000), delimiter), wanted);
    const { origin = null, guard } = originOf(files);
    const { grid, open } = readCells(text, {
      delimiter,
      decimal,
      isGuarded: (options?.['guard'] ?? guard) !== 'as they are',
    });
    const notUnderstood = open ? [{ kind: 'words that a spreadsheet computes', count: open, shows: true }] : [];
    return { leaves: [{ kind: 'grid', key: '', label: '', body: grid }], mark: origin, notUnderstood };
  },
  beside: () => [ORIGIN],
  look: lookAtCells,
  bringIn: (bytes, name, _means, wishes) => {
    const { found, grid, longer, shorter, comments } = cellsOf(bytes, wishes);
    const guesses = found.unsure.map((name): NotUnderstood => ({
      kind: `${GUESSES[name]} ${found[name]}, a guess`,
      count: 1,
      shows: false,
    }));
    const told = (list: readonly number[], words: string) =>
      list.length ? [{ kind: `${words} (${linesInWords(list)})`, count: list.length, shows: true }] : [];
    return {
      master: gridsToMaster([{ name: '', grid }], bytes, name, found),
      mark: null,
      notUnderstood: [
        ...guesses,
        ...comments
          .slice(0, 1)
          .map((): NotUnderstood => ({ kind: 'line before the heading', count: comments.length, shows: false })),
        ...told(longer, 'row with more cells than the heading'),
        ...told(shorter, 'row with fewer cells than the heading'),
      ],
    };
  },
} satisfies Codec;
