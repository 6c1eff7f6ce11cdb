import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { type Master, derive, recipeOf } from '../src';
import { shippedFonts } from '../../render/src';

const means = { fonts: shippedFonts() };
/** Copies as they were written before kinds and codecs came apart, all but their marks: golden/README.md. */
const cases = JSON.parse(gunzipSync(readFileSync(join(__dirname, 'golden/before-006.json.gz'))).toString()) as {
  master: Master;
  copies: { target: string; options: Record<string, unknown>; board: string; bytes: string }[];
}[];
/** The mark may go on in further lines where a format's lines are short. */
const withoutMark = (text: string) => text.replace(/inkwell-twin;[^<"\n]*(\n999\ninkwell-twin\+[^\n]*)*/, 'MARK');

describe('copies written before', () => {
  it.each(cases.map(({ master, copies }, i) => [`${i + 1}, ${master.title}`, master, copies] as const))(
    'are the same byte for byte: master %s',
    async (_, master, copies) => {
      for (const { target, options, board, bytes } of copies) {
        const recipe = recipeOf(target, options, board);
        const made = await derive({ master, rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipe, means);
        expect(made.defects).toEqual([]);
        expect(withoutMark(new TextDecoder().decode(made.files[0]!.bytes))).toBe(bytes);
      }
    },
  );
});
