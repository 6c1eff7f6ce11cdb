import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unzipSync, zipSync } from 'fflate';
import {
  type Item,
  type Master,
  type Services,
  type Recipe,
  bringInAny,
  checkCopy,
  derive,
  digest,
  holdsProject,
  looksNative,
  openPackedProject,
  readPackage,
  recipeOf,
} from '@inkwell-twin/core';
import { masterOf, sample } from './workshop';
import { judgedBy } from '../../core/test/judged-by';

const TIME = '2026-11-20T10:00:00.000Z';
const VERSIONS = ['native 1', 'native 2'] as const;
const recipes = Object.fromEntries(VERSIONS.map((version) => [version, recipeOf('native', { version }, { of: 'master' })]));
const plain = { stroke: null, strokeWidth: 0 };
const ring = (rule: 'evenodd' | 'nonzero'): Item => ({
  kind: 'path',
  id: 'ring',
  layer: 'layer-1',
  style: { fill: '#17796a', fillRule: rule, stroke: '#14213a', strokeWidth: 1, opacity: 0.5 },
  // Both run the same way: by the other rule there would be no hole.
  outlines: [5, 12].map((inset) => ({
    start: [inset, inset],
    segments: [
      { kind: 'line', to: [45 - inset, inset] },
      { kind: 'line', to: [45 - inset, 45 - inset] },
      { kind: 'line', to: [inset, 45 - inset] },
    ],
    closed: true,
  })),
});
const words = (id: string, more: object): Item => ({
  kind: 'text',
  id,
  layer: 'layer-1',
  style: { ...plain, fill: '#14213a' },
  text: 'Sedge {loop}',
  x: 60,
  y: 20,
  size: 8,
  font: 'Commissioner',
  align: 'start',
  ...more,
});

let master: Master;
let services: Services;
beforeAll(async () => {
  const found = await masterOf(sample(120, 80));
  services = found.services;
  const [board] = found.master.boards as [Master['boards'][number]];
  const picture = board.items[0]!;
  master = {
    ...found.master,
    symbols: [
      {
        id: 'reed',
        name: 'Reed',
        anchor: [0, 0],
        items: [{ kind: 'ellipse', id: 'dot', layer: null, style: { ...plain, fill: '#c23b22' }, cx: 0, cy: 0, rx: 3, ry: 2 }],
      },
    ],
    boards: [
      {
        ...board,
        width: 160,
        height: 100,
        background: '#f7f0e2',
        items: [
          {
            ...picture,
            id: 'cropped',
            x: 100,
            y: 5,
            width: 40,
            height: 30,
            crop: { left: 0.21, bottom: 0.1, right: 0.83, top: 1 },
          } as Item,
          { ...picture, id: 'turned', transform: [0.8, 0.6, -0.6, 0.8, 110, 50], x: 0, y: 0, width: 30, height: 20 } as Item,
          ring('evenodd'),
          words('plain', {}),
          words('bold', { y: 34, font: 'Commissioner Bold', align: 'middle' }),
          words('leaning', { y: 46, transform: [0.96, 0.28, -0.28, 0.96, 0, 0] }),
          { kind: 'use', id: 'one', layer: 'layer-1', symbol: 'reed', transform: [2, 0, 0, 2, 20, 70] },
          {
            kind: 'group',
            id: 'veil',
            layer: 'layer-1',
            opacity: 0.4,
            items: [
              words('in', { x: 20, y: 80 }),
              {
                kind: 'rectangle',
                id: 'r',
                layer: null,
                style: { ...plain, fill: '#2b4180' },
                x: 20,
                y: 80,
                width: 20,
                height: 10,
                radius: 2,
              },
            ],
          },
        ],
      },
    ],
  } as Master;
});

const made = (version: string) => derive({ master, rev: 3, time: TIME }, recipes[version] as Recipe, services);
/** How a document of now looks, as another program draws it. */
async function drawn(one: Master, own: Services): Promise<Buffer> {
  const { files } = await derive(
    { master: one, rev: 1, time: TIME },
    recipeOf('svg', { text: 'outlines' }, { of: 'master' }),
    own,
  );
  return spawnSync('rsvg-convert', ['-w', '640', '--background-color', 'white', '-f', 'png'], { input: files[0]!.bytes }).stdout;
}

/** An index, a list of parts, or a document, as it lies in a file. */
interface Loose {
  layers: { id: string }[];
  symbols?: object[];
  items?: Record<string, unknown>[];
  boards: { items: Record<string, unknown>[]; file?: string; path?: string; sha256?: string }[];
  entries?: { path?: string; file?: string; sha256?: string }[];
}

describe.each(VERSIONS)('a copy in %s', (version) => {
  it('is opened by the reader of that age, and reads back as what was said', async () => {
    const { files, defects, report } = await made(version);
    expect(defects).toEqual([]);
    const { bytes } = files[0]!;
    const { master: read, rev, native } = version === 'native 1' ? openPackedProject(bytes) : readPackage(bytes);
    expect([rev, native, read.boards.length]).toEqual([3, version === 'native 1' ? 1 : 2, 1]);
    expect(read.id).not.toBe(master.id);
    const kinds = read.boards[0]!.items.map(({ kind }) => kind);
    const { lines } = report;
    const told = (words: string) => lines.find(({ what }) => what.startsWith(words))?.outcome;
    expect(told('Cropped pictures')).toBe('approximated');
    if (version === 'native 1') {
      expect(new Set(kinds)).toEqual(new Set(['path', 'text', 'picture']));
      expect(told('Pictures that are turned')).toBe('left out');
      expect(told('Opacity')).toBe('left out');
    } else {
      expect(kinds.filter((kind) => kind === 'group')).toHaveLength(2);
      expect(kinds).toContain('use');
      expect(read.symbols).toHaveLength(1);
      expect(kinds.filter((kind) => kind === 'text')).toHaveLength(3);
    }
    // The very same bytes again.
    expect(Buffer.compare((await made(version)).files[0]!.bytes, bytes)).toBe(0);
  });

  it('is a copy wherever it turns up, and becomes another master only when that is asked for', async () => {
    const { bytes } = (await made(version)).files[0]!;
    expect([looksNative(bytes), holdsProject(bytes)]).toEqual([false, false]);
    const { master: other } = await bringInAny(bytes, 'older.zip', { pictures: services.pictures! });
    expect(other.id).not.toBe(master.id);
    expect(other.boards[0]!.items.length).toBeGreaterThan(5);
  });

  it('that was made to do harm is refused in words, to look at and to bring in', async () => {
    const copy = await made(version);
    const harmed = (
      change: (document: { layers: { id: string }[]; symbols: object[]; items: Record<string, unknown>[] }) => void,
    ) => {
      const parts = unzipSync(copy.files[0]!.bytes);
      const [list, board] =
        version === 'native 1' ? ['project.inkfolio', 'project_parts/board_1.json'] : ['manifest.json', 'master.json'];
      const read = (path: string) => JSON.parse(Buffer.from(parts[path]!).toString()) as never;
      const [index, document] = [read(list!), read(board!)] as [Loose, Loose];
      change({
        layers: index.layers ?? document.layers,
        symbols: document.symbols ?? [],
        items: document.items ?? document.boards[0]!.items,
      });
      parts[board!] = Buffer.from(JSON.stringify(document));
      const sum = digest(parts[board!]!);
      for (const one of [...(index.boards ?? []), ...(index.entries ?? [])])
        if ([one.file, one.path].some((name: string | undefined) => name && board!.endsWith(name))) one.sha256 = sum;
      parts[list!] = Buffer.from(JSON.stringify(index));
      return zipSync(parts);
    };
    const refused = async (bytes: Uint8Array, words: string) => {
      await expect((async () => bringInAny(bytes, 'harm.zip', { pictures: services.pictures! }))()).rejects.toThrow(words);
      const files = [{ part: '', bytes }];
      const recipe = recipes[version] as Recipe;
      const { verdict } = await checkCopy(
        { files, intact: false, says: copy.says, recipe, current: master, baseline: master },
        services,
      );
      expect(verdict).toBe('unreadable');
    };
    await refused(
      harmed(({ items }) => (items[0]!['layer'] = 'nowhere')),
      'nowhere',
    );
    if (version === 'native 1') return;
    await refused(
      harmed(({ items }) => (items.find(({ kind }) => kind === 'picture')!['picture'] = '0'.repeat(64))),
      'picture that the file does not hold',
    );
    const use = (id: string, symbol: string, layer: string | null = null) => ({ kind: 'use', id, layer, symbol });
    await refused(
      harmed(({ symbols, items, layers }) => {
        symbols.push({ id: 'round', name: 'Round', anchor: [0, 0], items: [use('in', 'round')] });
        items.push(use('out', 'round', layers[0]!.id));
      }),
      'uses itself',
    );
    await refused(
      harmed(({ symbols, items, layers }) => {
        for (let k = 0; k < 9; k++)
          symbols.push({
            id: `s${k}`,
            name: 'Many',
            anchor: [0, 0],
            items: Array.from({ length: 10 }, (_, j) => use(`s${k}-${j}`, k ? `s${k - 1}` : 'symbol-1')),
          });
        items.push(use('many', 's8', layers[0]!.id));
      }),
      'once all repeats are opened',
    );
  });

  it('that holds what that age did not know is not understood, and one that was changed is touched', async () => {
    const copy = await made(version);
    const recipe = recipes[version] as Recipe;
    const check = (change: (parts: Record<string, Uint8Array>) => void) => {
      const parts = unzipSync(copy.files[0]!.bytes);
      change(parts);
      const bytes = zipSync(Object.fromEntries(Object.entries(parts)));
      return checkCopy(
        { files: [{ part: '', bytes }], intact: false, says: copy.says, recipe, current: master, baseline: master },
        services,
      );
    };
    expect((await check(() => undefined)).verdict).toBe('in step');
    const more = await check((parts) => (parts['glow.json'] = Buffer.from('{}')));
    expect([more.verdict, more.differences[0]!.what]).toEqual(['touched', expect.stringContaining('part glow.json')]);
    // The list of parts has no checksum of itself: a word more in it is told.
    const list = version === 'native 1' ? 'project.inkfolio' : 'manifest.json';
    const worded = await check(
      (parts) => (parts[list] = Buffer.from(Buffer.from(parts[list]!).toString().replace('{', '{"glow": 3,'))),
    );
    expect(worded.differences[0]!.what).toContain('glow of');
    // What is in a part is held against its checksum, as that age did.
    const board = version === 'native 1' ? 'project_parts/board_1.json' : 'master.json';
    const spoilt = await check(
      (parts) => (parts[board] = Buffer.from(Buffer.from(parts[board]!).toString().replace('Sedge', 'Hedge'))),
    );
    expect(spoilt.verdict).toBe('unreadable');
  });

  judgedBy('rsvg-convert').it('looks as the master does, apart from what was said', async () => {
    const { bytes } = (await made(version)).files[0]!;
    const { master: back, kept } = await bringInAny(bytes, 'older.zip', { pictures: services.pictures! });
    const own = { ...services, resource: (sha: string) => kept.find(({ resource }) => resource.id === sha)!.bytes };
    // Version 1 has neither opacity nor turned pictures.
    const asSaid: Master =
      version === 'native 2'
        ? master
        : (JSON.parse(JSON.stringify(master).replace(/"opacity":0\.[45]/g, '"opacity":1'), (_, value: unknown) =>
            Array.isArray(value) ? value.filter((one: { id?: string } | null) => one?.id !== 'turned') : value,
          ) as Master);
    const folder = mkdtempSync(join(tmpdir(), 'inkwell-native-'));
    const [one, other] = [join(folder, 'a.png'), join(folder, 'b.png')];
    writeFileSync(one, await drawn(asSaid, services));
    writeFileSync(other, await drawn(back, own));
    const { stdout } = spawnSync(
      '/usr/bin/python3',
      [
        '-c',
        `from PIL import Image, ImageChops
a, b = [Image.open(p).convert('RGB') for p in ${JSON.stringify([one, other])}]
off = ImageChops.difference(a, b).convert('L').point(lambda v: 255 if v > 40 else 0).histogram()[255]
print(off / (a.size[0] * a.size[1]))`,
      ],
      { encoding: 'utf8' },
    );
    expect(Number(stdout)).toBeLessThan(0.004);
    expect(stdout).not.toBe('');
  });
});
