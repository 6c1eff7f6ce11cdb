import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { zipSync } from 'fflate';
import {
  type Board1,
  type Content1,
  type Document2,
  type Item,
  type Item1,
  type Item2,
  holdsProject,
  looksNative,
  openPackedProject,
  openProject,
  readPackage,
  writePackage,
  writePackage2,
  writeProject,
} from '../src';
import { runs } from './depth';

const number = fc.double({ min: -500, max: 500, noNaN: true }).map((value) => Number(value.toFixed(4)) || 0);
const positive = fc.double({ min: 0.1, max: 400, noNaN: true }).map((value) => Number(value.toFixed(4)));
const colour = fc.integer({ min: 0, max: 0xffffff }).map((value) => `#${value.toString(16).padStart(6, '0')}`);
const pair = fc.tuple(number, number);
const picture = { file: 'otter.png', bytes: new Uint8Array([1, 2, 3, 4]), mediaType: 'image/png', width: 2, height: 2 };
const LAYERS = [
  { id: 'l1', name: 'Plate', colour: '#112233', visible: true },
  { id: 'l2', name: 'Words', colour: '#445566', visible: false },
];
const layer = fc.constantFrom('l1', 'l2');

const stretches = fc
  .array(
    fc.oneof(
      pair.map((to) => ['L', ...to] as const),
      fc.tuple(pair, pair, pair).map(([a, b, c]) => ['C', ...a, ...b, ...c] as const),
      fc.constant(['Z'] as const),
      pair.map((to) => ['M', ...to] as const),
    ),
    { maxLength: 8 },
  )
  .chain((rest) => pair.map((start) => [['M', ...start] as const, ...rest]));
const items = fc
  .array(
    fc.oneof(
      fc.record({
        kind: fc.constant('path' as const),
        layer,
        d: stretches,
        fill: fc.option(colour),
        stroke: fc.option(colour),
        width: positive,
      }),
      fc.record({
        kind: fc.constant('text' as const),
        layer,
        text: fc.string(),
        x: number,
        y: number,
        size: positive,
        bold: fc.boolean(),
        fill: colour,
      }),
      fc.record({
        kind: fc.constant('picture' as const),
        layer,
        file: fc.constant(picture.file),
        x: number,
        y: number,
        width: positive,
        height: positive,
      }),
    ),
    { maxLength: 6 },
  )
  .map((list) => list.map((one, i) => ({ id: `i${i}`, ...one }) as unknown as Item1));
const content = fc
  .array(fc.record({ width: positive, height: positive, background: fc.option(colour), items }), { minLength: 1, maxLength: 3 })
  .map((boards): Content1 => ({
    writer: 'inkwell-twin 0.1',
    id: 'otter',
    title: 'Otter plaque',
    owner: 'Ansa Brook',
    rev: 3,
    saved: '2024-02-03T10:00:00.000Z',
    layers: LAYERS,
    boards: boards.map((board, b) => ({
      id: `b${b}`,
      name: `Board ${b}`,
      ...board,
      items: board.items.map((one) => ({ ...one, id: `b${b}-${one.id}` })),
    })) as Board1[],
    pictures: [picture],
  }));

/** What a path goes through, point by point, however it is written. */
function points(one: Item1 | Item): string[] {
  if (one.kind !== 'path') return [];
  if ('outlines' in one)
    return one.outlines.flatMap(({ start, segments, closed }) => [
      `M ${start.join(' ')}`,
      ...segments.map((part) =>
        part.kind === 'cubic' ? `C ${[...part.c1, ...part.c2, ...part.to].join(' ')}` : `L ${part.to.join(' ')}`,
      ),
      ...(closed ? ['Z'] : []),
    ]);
  let [start, open] = ['', false];
  return one.d.flatMap((part) => {
    if (part[0] === 'M') {
      start = part.slice(1).join(' ');
      open = true;
      return [`M ${start}`];
    }
    // A Z or a line after a Z begins an outline where the last one began.
    const begin = open ? [] : [`M ${start}`];
    open = part[0] !== 'Z';
    return [...begin, part.join(' ')];
  });
}

describe('native version 1', () => {
  it('comes up to now with everything that it held, in its order', () => {
    fc.assert(
      fc.property(content, (made) => {
        const files = writeProject('otter_plaque', made);
        const { master, rev, native, resources, history } = openProject('otter_plaque.inkfolio', files);
        expect([master.id, master.title, master.owner, rev, native, history]).toEqual([
          'otter',
          'Otter plaque',
          'Ansa Brook',
          3,
          1,
          null,
        ]);
        expect(master.layers.map(({ id, name, colour: c, visible }) => ({ id, name, colour: c, visible }))).toEqual(LAYERS);
        expect([...resources.values()]).toEqual([picture.bytes]);
        expect(master.boards.length).toBe(made.boards.length);
        made.boards.forEach((board, b) => {
          const now = master.boards[b]!;
          expect([now.name, now.width, now.height, now.background]).toEqual([
            board.name,
            board.width,
            board.height,
            board.background,
          ]);
          expect(now.items.map(({ id, layer: on, kind }) => [id, on, kind])).toEqual(
            board.items.map(({ id, layer: on, kind }) => [id, on, kind]),
          );
          board.items.forEach((one, i) => {
            const item = now.items[i]!;
            expect(points(item)).toEqual(points(one));
            if (one.kind === 'path' && item.kind === 'path')
              expect([item.style.fill, item.style.stroke, item.style.strokeWidth]).toEqual([one.fill, one.stroke, one.width]);
            if (one.kind === 'text' && item.kind === 'text')
              expect([item.text, item.x, item.y, item.size, item.style.fill, /Bold/.test(item.font)]).toEqual([
                one.text,
                one.x,
                one.y,
                one.size,
                one.fill,
                one.bold,
              ]);
            if (one.kind === 'picture' && item.kind === 'picture')
              expect([item.x, item.y, item.width, item.height]).toEqual([one.x, one.y, one.width, one.height]);
          });
        });
        // What it became is a proper file of now, and the same project gives the same bytes.
        expect(readPackage(writePackage({ master, rev, time: '', history, resources })).master).toEqual(master);
        expect(writeProject('otter_plaque', made)).toEqual(files);
      }),
      { numRuns: runs(60) },
    );
  });

  const small = fc.sample(
    content.filter(({ boards }) => boards[0]!.items.length > 2),
    { numRuns: 1, seed: 4 },
  )[0]!;
  const files = () => writeProject('otter_plaque', small);
  const broken = (change: (files: Map<string, Uint8Array>) => void) => () => {
    const found = files();
    change(found);
    return openProject('otter_plaque.inkfolio', found);
  };
  const renamed = (from: string, to: string) =>
    broken((found) => {
      for (const [path, bytes] of [...found])
        if (path.startsWith(from)) {
          found.delete(path);
          found.set(to + path.slice(from.length), bytes);
        }
    });

  it('names a part that is missing, misnamed, changed or not like the format says', () => {
    expect(broken((found) => found.delete('otter_plaque_parts/otter.png'))).toThrow(
      'The part otter.png of otter_plaque.inkfolio is missing',
    );
    expect(renamed('otter_plaque_parts/board_1', 'otter_plaque_parts/Board_1')).toThrow('is called Board_1.json');
    expect(renamed('otter_plaque_parts', 'plaque_parts')).toThrow('should lie in otter_plaque_parts, but lie in plaque_parts');
    expect(renamed('otter_plaque_parts', 'elsewhere/deeper')).toThrow(
      'The folder otter_plaque_parts of otter_plaque.inkfolio is missing',
    );
    expect(broken((found) => found.set('otter_plaque_parts/board_1.json', new TextEncoder().encode('{}')))).toThrow(
      'board_1.json is not as its checksum',
    );
    expect(broken((found) => found.set('otter_plaque.inkfolio', new TextEncoder().encode('no json')))).toThrow(
      'otter_plaque.inkfolio is not JSON',
    );
    expect(() => openProject('other.inkfolio', files())).toThrow('There is no other.inkfolio');
    const newer = broken((found) => {
      const index = JSON.parse(new TextDecoder().decode(found.get('otter_plaque.inkfolio')));
      found.set('otter_plaque.inkfolio', new TextEncoder().encode(JSON.stringify({ ...index, version: 4 })));
    });
    expect(newer).toThrow('says version 4');
    const outwards = broken((found) => {
      const text = new TextDecoder().decode(found.get('otter_plaque.inkfolio')).replaceAll('otter.png', '../otter.png');
      found.set('otter_plaque.inkfolio', new TextEncoder().encode(text));
    });
    expect(outwards).toThrow('file');
  });

  it('goes by mail in an archive, wherever in it the index lies; two of them are told', () => {
    const packed = (within: string, list = files()) =>
      zipSync(Object.fromEntries([...list].map(([path, bytes]) => [within + path, bytes])));
    for (const within of ['', 'from Ansa/']) {
      expect(holdsProject(packed(within))).toBe(true);
      expect(looksNative(packed(within))).toBe(false);
      expect(openPackedProject(packed(within)).master.title).toBe('Otter plaque');
    }
    const two = new Map([...files(), ...writeProject('another', small)]);
    expect(() => openPackedProject(packed('', two))).toThrow('holds 2 folder projects');
  });

  it('is what docs/native-format-1.md says: a project written by other hands after that page opens', () => {
    const folder = mkdtempSync(join(tmpdir(), 'inkwell-v1-'));
    execFileSync('python3', [
      '-c',
      `import hashlib, json, os, sys
os.chdir(sys.argv[1]); os.mkdir('gate_parts')
board = json.dumps({'id': 'b', 'name': 'Front', 'width': 200, 'height': 100.5, 'background': None, 'items': [
  {'kind': 'path', 'id': 'p', 'layer': 'l', 'd': [['M', 1, 2], ['L', 30, 2], ['C', 31, 2, 40, 9, 40, 20], ['Z']], 'fill': '#00ff00', 'stroke': None, 'width': 0},
  {'kind': 'text', 'id': 't', 'name': 'Title', 'layer': 'l', 'text': 'Gate', 'x': 5, 'y': 50, 'size': 12, 'bold': True, 'fill': '#000000'}]}).encode()
open('gate_parts/front.json', 'wb').write(board)
json.dump({'format': 'inkfolio', 'version': 1, 'writer': 'a stranger', 'id': 'gate', 'title': 'Gate', 'owner': '', 'rev': 1,
  'saved': '2023-05-06T07:08:09Z', 'layers': [{'id': 'l', 'name': 'Ink', 'colour': '#000000', 'visible': True}],
  'boards': [{'file': 'front.json', 'sha256': hashlib.sha256(board).hexdigest()}], 'pictures': []}, open('gate.inkfolio', 'w'))`,
      folder,
    ]);
    const found = new Map<string, Uint8Array>([
      ['gate.inkfolio', readFileSync(join(folder, 'gate.inkfolio'))],
      ...readdirSync(join(folder, 'gate_parts')).map(
        (name) => [`gate_parts/${name}`, readFileSync(join(folder, 'gate_parts', name))] as const,
      ),
    ]);
    rmSync(folder, { recursive: true });
    expect(openProject('gate.inkfolio', found).master.boards[0]!.items.map((item) => item.id)).toEqual(['p', 't']);
  });
});

describe('native version 2', () => {
  const look = { fill: '#aa0000', stroke: null, width: 0.5, opacity: 0.4 };
  const line: Item2 = {
    kind: 'path',
    id: 'leaf',
    layer: 'l',
    ...look,
    outlines: [{ start: [0, 0], segments: [{ line: [4, 0] }, { curve: [5, 0, 6, 1, 6, 2] }], closed: true }],
  };
  const document: Document2 = {
    id: 'plaque',
    title: 'Plaque',
    owner: 'Ansa Brook',
    layers: [{ id: 'l', name: 'Cut', colour: '#000000', visible: true, process: 'cut' }],
    symbols: [{ id: 's', name: 'Leaf', anchor: [1, 2], items: [line] }],
    boards: [
      {
        id: 'b',
        name: 'Front',
        width: 100,
        height: 50,
        background: '#ffffff',
        items: [
          { kind: 'use', id: 'u', layer: null, symbol: 's', transform: [1, 0, 0, 1, 30, 10] },
          {
            kind: 'group',
            id: 'g',
            name: 'Both',
            layer: 'l',
            opacity: 0.5,
            items: [
              { ...line, id: 'in' },
              {
                kind: 'text',
                id: 't',
                layer: null,
                fill: '#000000',
                opacity: 1,
                text: 'Otter',
                x: 1,
                y: 2,
                size: 8,
                bold: false,
              },
            ],
          },
        ],
      },
    ],
    pictures: [],
  };
  const bytes = writePackage2({ document, rev: 7, time: '2025-01-02T03:04:05.000Z', pictures: new Map() });

  it('opens with symbols, groups and opacity as they were, and says which version it was', () => {
    expect(looksNative(bytes)).toBe(true);
    const { master, rev, native } = readPackage(bytes);
    expect([rev, native, master.layers[0]!.process]).toEqual([7, 2, 'cut']);
    expect(master.symbols[0]).toMatchObject({
      id: 's',
      anchor: [1, 2],
      items: [{ kind: 'path', style: { fill: '#aa0000', opacity: 0.4, strokeWidth: 0.5 } }],
    });
    expect(master.boards[0]!.items).toMatchObject([
      { kind: 'use', symbol: 's', transform: [1, 0, 0, 1, 30, 10] },
      {
        kind: 'group',
        name: 'Both',
        opacity: 0.5,
        items: [
          { kind: 'path', outlines: [{ closed: true }] },
          { kind: 'text', text: 'Otter', font: 'Commissioner' },
        ],
      },
    ]);
    expect(writePackage2({ document, rev: 7, time: '2025-01-02T03:04:05.000Z', pictures: new Map() })).toEqual(bytes);
  });

  it('says which part is damaged', () => {
    const spoilt = bytes.slice();
    // One byte of the packed document: its checksum, or the archive itself, tells.
    spoilt[Math.floor(spoilt.length / 2)]! ^= 0xff;
    expect(() => readPackage(spoilt)).toThrow(/unpacked|checksum|JSON|missing/);
    const lacking = {
      ...document,
      pictures: [{ sha256: 'a'.repeat(64), name: 'otter.png', mediaType: 'image/png', width: 1, height: 1 }],
    };
    const without = writePackage2({ document: lacking, rev: 1, time: '', pictures: new Map() });
    expect(() => readPackage(without)).toThrow('pictures/aaaa');
  });
});
