// Symbols that stay symbols in copies: `use` in SVG, blocks in DXF.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { type Item, type Master, type Matrix, type SymbolDefinition, checkCopy, derive, recipeOf } from '../src';
import { filled, lined, masterWith, rectangle, text } from './build';
import { services, targetById } from './flat';
import { judgedBy } from './judged-by';
import { atDepth, runs } from './depth';
import { cpuTime } from './cpu-time';

const PYTHON = '/usr/bin/python3';
const time = '2026-11-20T10:00:00.000Z';

const reed: SymbolDefinition = {
  id: 'reed',
  name: 'Reed & sedge',
  anchor: [2, 1],
  items: [
    { ...rectangle('stem', 0, 0, { width: 4, height: 9, radius: 1, style: lined('#17796a', 0.5) }), layer: null } as Item,
    { ...text('letter', 'R', { x: 1, y: 10, size: 4 }), layer: null } as Item,
    {
      kind: 'group',
      id: 'pale',
      layer: null,
      opacity: 0.5,
      items: [
        { ...rectangle('leaf', 5, 2, { width: 3, height: 5, style: filled('#6d8f5a') }), layer: null } as Item,
        { ...rectangle('leaf-2', 5, 8, { width: 3, height: 2, style: filled('#6d8f5a') }), layer: null } as Item,
      ],
    },
  ],
};
const pair: SymbolDefinition = {
  id: 'pair',
  name: 'SHEET_1_Pair',
  anchor: [0, 0],
  items: [
    { kind: 'use', id: 'left', layer: null, symbol: 'reed' },
    { kind: 'use', id: 'right', layer: null, symbol: 'reed', transform: [0, 1, -1, 0, 14, 0] },
  ],
};
const use = (id: string, transform: Matrix, symbol = 'reed', on = 'cut'): Item => ({
  kind: 'use',
  id,
  layer: on,
  symbol,
  transform: [...transform],
});
const marsh = (...uses: Item[]): Master => masterWith([rectangle('ground', 5, 5), ...uses], { symbols: [reed, pair] });
const scattered = marsh(
  use('one', [1, 0, 0, 1, 30, 20]),
  use('turned', [0.8, 0.6, -0.6, 0.8, 70, 30]),
  use('large', [3, 0, 0, 3, 120, 30]),
  use('flat', [2, 0, 0.5, 0.5, 60, 70], 'reed', 'print'),
  use('two', [1, 0, 0, 1, 100, 70], 'pair'),
  use('mirrored', [-1, 0, 0, 1, 150, 70]),
);

async function copyOf(master: Master, target: string, options = {}) {
  const recipe = recipeOf(target, options, 'Front');
  const made = await derive({ master, rev: 1, time }, recipe, services);
  const bytes = made.files[0]!.bytes;
  const check = async (changed: Uint8Array) =>
    checkCopy(
      { files: [{ part: '', bytes: changed }], intact: false, says: made.says, recipe, current: master, baseline: master },
      services,
    );
  return { ...made, bytes, words: new TextDecoder().decode(bytes), check };
}
const count = (words: string, pattern: RegExp): number => words.match(pattern)?.length ?? 0;

describe('symbols in SVG', () => {
  it('are drawn once and used, however they are moved, turned, scaled and slanted; one in another, too', async () => {
    const { words, defects } = await copyOf(scattered, 'svg');
    expect(defects).toEqual([]);
    // One drawn as it is, one more finely for the large ones, one inside of the pair.
    expect(count(words, /<title>Reed &amp; sedge<\/title>/g)).toBeLessThanOrEqual(2);
    expect(count(words, /<use /g)).toBe(8);
    expect(count(words, />R<\/text>/g)).toBeLessThanOrEqual(2);
  });
  it('say the same as what is opened, and so does a copy that another program opened', async () => {
    const [used, opened] = [await copyOf(scattered, 'svg'), await copyOf(scattered, 'svg', { symbols: 'opened' })];
    expect(opened.words).not.toContain('<use');
    const { differences } = await used.check(opened.bytes);
    expect(differences).toEqual([]);
  });
  it('come back as symbols with their names', async () => {
    const { bytes } = await copyOf(scattered, 'svg');
    const { symbols, boards } = targetById('svg').bringIn!(bytes, 'marsh.svg').master;
    expect(symbols.map(({ name }) => name)).toEqual(expect.arrayContaining(['Reed & sedge', 'SHEET_1_Pair']));
    const uses = JSON.stringify(boards).match(/"kind":"use"/g);
    expect(uses).toHaveLength(6);
  });
  it('are opened where a group does something to one alone, and where they lie on several layers', async () => {
    const alone: Item = { kind: 'group', id: 'g', layer: 'cut', opacity: 0.5, items: [use('one', [1, 0, 0, 1, 30, 20])] };
    const faint = await copyOf(marsh(alone), 'svg');
    expect([faint.defects, faint.words.includes('<use')]).toEqual([[], false]);
    const onTwo = { ...reed, items: [...reed.items, rectangle('other', 0, 0, { layer: 'print' })] };
    const layered = { ...marsh(use('one', [1, 0, 0, 1, 30, 20])), symbols: [onTwo] };
    const made = await copyOf(layered, 'svg');
    expect([made.defects, made.words.includes('<use')]).toEqual([[], false]);
    const blocks = await copyOf(layered, 'dxf');
    expect([blocks.defects, count(blocks.words, /\nINSERT\n/g)]).toEqual([[], 1]);
  });
  it('that were changed once differ wherever they are used', async () => {
    const made = await copyOf(marsh(use('a', [1, 0, 0, 1, 30, 20]), use('b', [1, 0, 0, 1, 60, 20])), 'svg');
    const changed = made.words.replace('font-size="4"', 'font-size="5"');
    const { differences } = await made.check(new TextEncoder().encode(changed));
    expect(differences.map(({ kind }) => kind)).toEqual(['resized', 'resized']);
  });

  judgedBy('rsvg-convert').it('look to another program as they do opened', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'inkwell-uses-'));
    const pixels = async (symbols: string) => {
      const { bytes } = await copyOf(scattered, 'svg', { symbols, text: 'outlines' });
      writeFileSync(join(folder, 'a.svg'), bytes);
      spawnSync('rsvg-convert', ['-w', '800', join(folder, 'a.svg'), '-o', join(folder, `${symbols}.png`)]);
      return readFileSync(join(folder, `${symbols}.png`));
    };
    const [used, opened] = [await pixels('used'), await pixels('opened')];
    rmSync(folder, { recursive: true });
    const { default: sharp } = await import('sharp');
    const [a, b] = [await sharp(used).raw().toBuffer(), await sharp(opened).raw().toBuffer()];
    let off = 0;
    for (let i = 0; i < a.length; i++) if (Math.abs(a[i]! - b[i]!) > 24) off++;
    expect(off / a.length).toBeLessThan(0.001);
    expect(a.some((value) => value > 0)).toBe(true);
  });
});

describe('symbols in DXF', () => {
  it.each(['R12', '2000', '2004'])(
    'are blocks in %s, one for each scale; what is slanted or mirrored is opened',
    async (version) => {
      const { words, defects } = await copyOf(scattered, 'dxf', { version });
      expect(defects).toEqual([]);
      // Reed at 1 and at 3, and the pair.
      const blocks = words.match(/\nBLOCK\n[^]*?\n2\n([^\n]*)\n/g)!.map((one) => one.split('\n').at(-2));
      expect(blocks.filter((name) => !name!.startsWith('*'))).toHaveLength(3);
      expect(blocks).toContain(version === 'R12' ? 'SYMBOL_SHEET_1_PAIR' : 'SYMBOL_SHEET_1_Pair');
      expect(count(words, /\nINSERT\n/g)).toBe(6);
    },
  );
  it('are gone where the layer of their inserts is frozen: that hides what is on other layers, too', async () => {
    const made = await copyOf(marsh(use('one', [1, 0, 0, 1, 30, 20])), 'dxf');
    // The flags of layer 0 (DXF reference, LAYER).
    const frozen = made.words.replace(/(\n2\n0\n70\n)0\n/, '$11\n');
    expect(frozen).not.toBe(made.words);
    const { verdict, differences } = await made.check(new TextEncoder().encode(frozen));
    expect(verdict).toBe('touched');
    expect(differences.every(({ kind }) => kind === 'missing')).toBe(true);
  });
  it('say the same as what is opened; several boards share them', async () => {
    const [used, opened] = [await copyOf(scattered, 'dxf'), await copyOf(scattered, 'dxf', { symbols: 'opened' })];
    expect((await used.check(opened.bytes)).differences).toEqual([]);
    const back = { id: 'b2', name: 'Back', width: 90, height: 60, background: null, items: [use('there', [1, 0, 0, 1, 20, 20])] };
    const both = { ...scattered, boards: [...scattered.boards, back] };
    const made = await derive({ master: both, rev: 1, time }, { ...recipeOf('dxf', {}, ''), scope: { of: 'master' } }, services);
    expect(made.defects).toEqual([]);
    expect(count(new TextDecoder().decode(made.files[0]!.bytes), /\nBLOCK\n/g)).toBe(2 + 3 + 2);
  });
  judgedBy('ezdxf').it('are blocks to another program, and nothing to repair', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'inkwell-blocks-'));
    const names = ['R12', '2000', '2004'].map((version) => [version, join(folder, `${version}.dxf`)] as const);
    for (const [version, name] of names) writeFileSync(name, (await copyOf(scattered, 'dxf', { version })).bytes);
    const asked = spawnSync(PYTHON, [join(__dirname, 'audit.py'), ...names.map(([, name]) => name)], { encoding: 'utf8' });
    rmSync(folder, { recursive: true });
    const found = JSON.parse(asked.stdout) as { errors: string[]; repairs: string[]; kinds: Record<string, number> }[];
    for (const { errors, repairs, kinds } of found) expect([errors, repairs, kinds['INSERT']]).toEqual([[], [], 4]);
  });
});

describe('many uses', () => {
  const turn = fc.double({ min: 0, max: 6.28, noNaN: true });
  it('anywhere, any way round, read back as they were', () =>
    fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(turn, fc.constantFrom(0.5, 1, 2.5), fc.nat(180), fc.nat(90), fc.boolean()), {
          minLength: 1,
          maxLength: 6,
        }),
        async (places) => {
          const uses = places.map(([angle, scale, x, y, mirrored], i) => {
            const [c, s] = [scale * Math.cos(angle), scale * Math.sin(angle)];
            return use(`u${i}`, mirrored ? [-c, -s, -s, c, x, y] : [c, s, -s, c, x, y], i % 2 ? 'pair' : 'reed');
          });
          for (const target of ['svg', 'dxf']) expect((await copyOf(marsh(...uses), target)).defects).toEqual([]);
        },
      ),
      { numRuns: runs(25) },
    ));
  it('make a small file at once', async () => {
    const count = atDepth(1000, 5000);
    const many = marsh(
      ...Array.from({ length: count }, (_, i) => use(`u${i}`, [1, 0, 0, 1, (i % 100) * 2, Math.floor(i / 100) * 2])),
    );
    const started = cpuTime();
    for (const [target, of] of [
      ['svg', 'opened'],
      ['dxf', 'opened'],
    ] as const) {
      const [used, opened] = [await copyOf(many, target), await copyOf(many, target, { symbols: of })];
      expect([used.defects, used.bytes.length < opened.bytes.length / 4]).toEqual([[], true]);
    }
    expect(cpuTime() - started).toBeLessThan(12 * count);
  });
});
