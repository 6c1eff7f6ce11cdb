import * as z from 'zod';
import {
  type Codec,
  type ContentKind,
  type FeatureRow,
  type Master,
  type Scope,
  addFormats,
  addKind,
  applyPatches,
  boardsIn,
  checkCopy,
  derive,
  digest,
  difference,
  footprintHash,
  packObject,
  recipeOf,
  resolveBoard,
  sealText,
  setAttribute,
  unpackObject,
} from '../src';
import { masterWith, rectangle, text } from './build';
import { services } from './flat';

// docs/adding-a-kind.md, in code: a toy kind whose copies say the wording of a board and nothing else.

interface Wording {
  readonly lines: readonly string[];
}
interface WordingCarries {
  readonly wording: 'kept' | 'left out';
}
const features: Record<string, FeatureRow> = { wording: { words: 'Wording', found: ['retyped'] } };
const wordingOf = (master: Master, scope: Scope) =>
  boardsIn(master, scope).boards.map((board) => ({
    key: board.id,
    label: board.name,
    source: resolveBoard(master, board).entries.flatMap((entry) =>
      entry.kind === 'text' ? [{ text: entry.text, id: entry.source }] : [],
    ),
  }));

const wording: ContentKind<{ text: string; id: string }[], Wording, WordingCarries> = {
  id: 'wording',
  words: 'Wording',
  features,
  resolve: wordingOf,
  footprint: (master, scope) =>
    wordingOf(master, scope).map(({ key, source }) => ({
      key,
      hash: digest(JSON.stringify(source.map((one) => one.text))),
      parts: () => new Map(source.map((one) => [one.id, new Map([['wording', one.text]])])),
    })),
  label: () => '',
  adapt: (source, _carries, lines) => {
    const kept = lines.line('wording', 'kept', 'Wording', 'stays as it is');
    for (const { id } of source) {
      lines.take(id);
      kept(id);
    }
    return { lines: source.map((one) => one.text) };
  },
  digest: ({ lines }, into) => void into.update(JSON.stringify(lines)),
  sample: ({ lines }, into) => lines.forEach((line) => into.add(line)),
  compare: (master, copy) => {
    const differences = Array.from({ length: Math.max(master.lines.length, copy.lines.length) }, (_, i) => i)
      .filter((i) => master.lines[i] !== copy.lines[i])
      .map((i) => difference('retyped', `Line ${i + 1}`, { master: master.lines[i] ?? 'none', copy: copy.lines[i] ?? 'none' }));
    return { differences, outlines: master.lines.length, equal: master.lines.length - differences.length };
  },
  pack: packObject,
  unpack: unpackObject,
};

const codec: Codec = {
  declaration: {
    id: 'wordsheet',
    label: 'Sheet of words',
    standard: 'none, it is a toy',
    mediaType: 'text/plain',
    writer: '1',
    options: z.strictObject({}),
    versions: null,
    use: () => 'review',
    extension: () => 'txt',
    carries: () => ({ wording: { wording: 'kept' } }),
    tolerance: { wording: 0 },
    holds: { leaves: 'one', files: () => 'one', mark: 'inside' },
    limits: {},
    recognise: {},
  },
  write: ({ leaves }, _options, mark) => [
    { part: '', bytes: new TextEncoder().encode([mark, ...(leaves[0]!.body as Wording).lines].join('\n')) },
  ],
  seal: sealText,
  read: (files) => {
    const [mark, ...lines] = new TextDecoder().decode(files[0]!.bytes).split('\n');
    return { leaves: [{ kind: 'wording', key: '', label: '', body: { lines } }], mark: mark!, notUnderstood: [] };
  },
};
addKind(wording);
addFormats([{ declaration: codec.declaration, codec: () => codec }]);

describe('a kind of content that was added from outside', () => {
  const master = masterWith([text('t', 'Sedge Loop\n1.8 km'), rectangle('r')]);
  const recipe = recipeOf('wordsheet', {});
  const after = (id: string, attribute: string, value: unknown) =>
    applyPatches(master, setAttribute(master, id, attribute, value).patches).master;

  it('is derived and checked like any other', async () => {
    const made = await derive({ master, rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipe, services);
    expect(made.defects).toEqual([]);
    expect(made.report.sentence).toBe('The one object arrives as it is.');
    const check = (now: Master) =>
      checkCopy({ files: made.files, intact: true, says: made.says, recipe, current: now, baseline: master }, services);
    expect(await check(master)).toMatchObject({ verdict: 'in step', unchanged: true, sides: null });
    expect(await check(after('t', 'text', 'Sedge Lane\n1.8 km'))).toMatchObject({
      verdict: 'behind',
      differences: [{ kind: 'retyped', what: 'Line 1', master: 'Sedge Lane', copy: 'Sedge Loop' }],
    });
  });
  it('has footprints that change with what it says, and with nothing else', () => {
    expect(footprintHash(after('r', 'width', 9), recipe)).toBe(footprintHash(master, recipe));
    expect(footprintHash(after('t', 'size', 9), recipe)).toBe(footprintHash(master, recipe));
    expect(footprintHash(after('t', 'text', 'Mere'), recipe)).not.toBe(footprintHash(master, recipe));
  });
});
