import * as z from 'zod';
import { sealText } from '../../bytes/seal';
import type { Grid } from '../../content/grid/grid';
import type { Codec, CopyFile } from '../codec';
import { gridsToMaster } from '../tables/bring-in';
import { DECIMALS, type Delimiter, csvDeclaration } from './declare';
import { cellsOf, linesInWords, lookAtCells } from './look';
import { decode, encodingOf } from './encoding';
import { readCells } from './read';
import { decimalOf, delimiterOf, someRows } from './sniff';
import { writeCsv } from './write';

/** The file beside a copy that holds its mark of origin: lines of cells have no place for one. */
const ORIGIN = '.origin.json';
const Origin = z.object({ origin: z.string(), guard: z.string().optional() });
/** What the file beside a copy says; nothing where it is not there, or is something else. */
function originOf(files: readonly CopyFile[]): Partial<z.infer<typeof Origin>> {
  const beside = files.find(({ part }) => part === ORIGIN);
  if (!beside) return {};
  try {
    return Origin.safeParse(JSON.parse(new TextDecoder().decode(beside.bytes))).data ?? {};
  } catch {
    return {};
  }
}

export const csvCodec = {
  declaration: csvDeclaration,
  write: ({ leaves }, options, mark) => {
    const origin = new TextEncoder().encode(`${JSON.stringify({ origin: mark, ...options }, null, 1)}\n`);
    return [
      { part: '', bytes: writeCsv(leaves[0]!.body as Grid, options) },
      { part: ORIGIN, bytes: origin },
    ];
  },
  seal: (files, says) => {
    sealText(files.slice(1), says);
    return files;
  },
  read: (files, { options }) => {
    const { bytes } = files[0]!;
    const text = decode(bytes, encodingOf(bytes).encoding);
    // Other programs write other delimiters and decimal marks: it is the text that says which.
    const { delimiter } = delimiterOf(text, options?.['delimiter'] as Delimiter | undefined);
    const wanted = options && DECIMALS[options['decimal'] as keyof typeof DECIMALS];
    const { decimal } = decimalOf(someRows(text.slice(0, 200_000), delimiter), wanted);
    const { origin = null, guard } = originOf(files);
    const { grid } = readCells(text, delimiter, decimal, (options?.['guard'] ?? guard) !== 'as they are');
    return { leaves: [{ kind: 'grid', key: '', label: '', body: grid }], mark: origin, notUnderstood: [] };
  },
  beside: () => [ORIGIN],
  look: lookAtCells,
  bringIn: (bytes, name, _means, wishes) => {
    const { found, grid, longer, shorter } = cellsOf(bytes, wishes);
    const told = (list: readonly number[], words: string) =>
      list.length ? [{ kind: `${words} (${linesInWords(list)})`, count: list.length, shows: true }] : [];
    return {
      master: gridsToMaster([{ name: '', grid }], bytes, name, found),
      mark: null,
      notUnderstood: [
        ...told(longer, 'row with more cells than the heading'),
        ...told(shorter, 'row with fewer cells than the heading'),
      ],
    };
  },
} satisfies Codec;
