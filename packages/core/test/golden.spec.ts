import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { type Master, derive, recipeOf } from '../src';
import { shippedFonts } from '../../render/src';

const means = { fonts: shippedFonts() };
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
/** The mark may go on in further lines where a format's lines are short. */
const withoutMark = (text: string) => text.replace(/inkwell-twin;[^<"\n]*(\n999\ninkwell-twin\+[^\n]*)*/, 'MARK');

describe('copies written before', () => {
  it.each(cases.map(({ master, copies }, i) => [`${i + 1}, ${master.title}`, i, master, copies] as const))(
    'are the same byte for byte: master %s',
    async (_, at, master, copies) => {
      for (const [which, { target, options, board, bytes }] of copies.entries()) {
        // Symbols arrived as separate shapes then.
        const opened = target === 'svg' || target === 'dxf' ? { symbols: 'opened' } : {};
        const recipe = recipeOf(target, { ...options, ...opened }, board);
        const made = await derive({ master, rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipe, means);
        expect(made.defects).toEqual([]);
        expect(withoutMark(new TextDecoder().decode(made.files[0]!.bytes))).toBe(since[`${at} ${which}`] ?? bytes);
      }
    },
  );
});
