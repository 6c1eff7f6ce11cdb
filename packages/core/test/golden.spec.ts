import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { type Master, derive, recipeOf } from '../src';
import { shippedFonts } from '../../render/src';

const services = { fonts: shippedFonts() };
const kept = <T>(name: string): T => JSON.parse(gunzipSync(readFileSync(join(__dirname, 'golden', name))).toString()) as T;
/** Copies as they were written before kinds and codecs came apart, all but their marks: golden/README.md. */
const cases = kept<
  {
    master: Master;
    copies: { target: string; options: Record<string, unknown>; board: string; bytes: string }[];
  }[]
>('before-006.json.gz');
/** What of them is written another way on purpose since, by master and copy. */
const since = kept<Record<string, string>>('since-007.json.gz');
/**
 * The mark may go on in further lines where a format's lines are short; that it stands in a second place is newer, and so are
 * further decimals of the size of letters.
 */
const roughSizes = (text: string) =>
  text.replace(/font-size="([\d.]+)"/g, (_, size: string) => `font-size="${Number(size).toFixed(2)}"`);
const withoutMark = (text: string) =>
  text
    .replace(/ data-inkwell-twin="[^"]*"/, '')
    .replace(/1001\nINKWELL_TWIN\n(1000\n[^\n]*\n)+/, '')
    .replace(/0\nTABLE\n2\nAPPID\n70\n1\n0\nAPPID\n2\nINKWELL_TWIN\n70\n0\n0\nENDTAB\n/, '')
    .replace(/0\nAPPID\n5\n22\n(\d+\n\w+\n){3}2\nINKWELL_TWIN\n70\n0\n/, '')
    .replace(/(APPID\n5\n9\n330\n0\n100\nAcDbSymbolTable\n70\n)2\n/, (_, head: string) => `${head}1\n`)
    .replace(/inkwell-twin;[^<"\n]*(\n999\ninkwell-twin\+[^\n]*)*/, 'MARK');

describe('copies written before', () => {
  it.each(cases.map(({ master, copies }, i) => [`${i + 1}, ${master.title}`, i, master, copies] as const))(
    'are the same byte for byte: master %s',
    async (_, at, master, copies) => {
      for (const [which, { target, options, board, bytes }] of copies.entries()) {
        // Symbols arrived as separate shapes then.
        const opened = target === 'svg' || target === 'dxf' ? { symbols: 'opened' } : {};
        const recipe = recipeOf(target, { ...options, ...opened }, board);
        const made = await derive({ master, rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipe, services);
        expect(made.defects).toEqual([]);
        expect(roughSizes(withoutMark(new TextDecoder().decode(made.files[0]!.bytes)))).toBe(
          roughSizes(since[`${at} ${which}`] ?? bytes),
        );
      }
    },
  );
});
