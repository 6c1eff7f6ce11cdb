// Fonts that a file carries and that are not shipped: their letters come in as outlines.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { type Item, type PathItem, allItems, bringInAny, boxOfOutlines, partWishes } from '@inkwell-twin/core';
import { shippedFonts } from '../src';
import { copyOf, servicesWith } from './workshop';
import { judgedBy } from '../../core/test/judged-by';

const services = servicesWith(new Map());
const HOME = join(__dirname, '../../../node_modules/@fontsource');
/** Shipped letters under another name stand for a font that nobody has. */
const bytesOf = (kind: 'woff' | 'woff2') => readFileSync(join(HOME, `zilla-slab/files/zilla-slab-latin-400-normal.${kind}`));
const face = (bytes: Uint8Array, more = '') =>
  `@font-face { font-family: 'Marsh Hand'; ${more} src: local('nowhere'), url("data:font/woff2;base64,${Buffer.from(bytes).toString('base64')}") format('woff2') }`;
const drawing = (style: string, words: string) =>
  Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="50mm" viewBox="0 0 100 50"><style>${style}</style>${words}</svg>`,
  );
const bring = (bytes: Uint8Array, wishes = {}) => bringInAny(bytes, 'fen.svg', services, partWishes(wishes));
const itemsIn = ({ master }: { master: { boards: readonly { items: readonly Item[] }[] } }) => [
  ...allItems(master.boards[0]!.items),
];

describe('a font that an SVG carries', () => {
  const words = `<text x="10" y="30" font-family="Marsh Hand, serif" font-size="8" letter-spacing="0.5" fill="#c23b22">Sedge</text>`;
  it.each(['woff', 'woff2'] as const)(
    'as %s: letters in it become outlines of themselves, in place, and that is said',
    async (kind) => {
      const read = await bring(drawing(face(bytesOf(kind)), words));
      expect([read.asOutlines, read.notUnderstood]).toEqual([1, []]);
      const [item] = itemsIn(read) as PathItem[];
      expect(item).toMatchObject({ kind: 'path', name: 'Sedge', style: { fill: '#c23b22' } });
      const box = boxOfOutlines(item!.outlines);
      const { outlines } = shippedFonts().outline({
        text: 'Sedge',
        font: 'Zilla Slab',
        size: 8,
        spacing: 0.5,
        align: 'start',
        frame: [1, 0, 0, 1, 10, 20],
      });
      const wanted = boxOfOutlines(outlines);
      for (const side of ['minX', 'maxX', 'minY', 'maxY'] as const) expect(box[side]).toBeCloseTo(wanted[side], 3);
    },
  );
  it('stays text in the nearest font where that is wished, or where it lacks a letter', async () => {
    const nearest = await bring(drawing(face(bytesOf('woff')), words), { fonts: 'nearest' });
    expect(nearest.asOutlines).toBe(0);
    expect(itemsIn(nearest)[0]).toMatchObject({ kind: 'text', text: 'Sedge' });
    expect(nearest.notUnderstood[0]!.kind).toMatch(/^font Marsh Hand, shown in/);
    const lacking = await bring(drawing(face(bytesOf('woff')), words.replace('Sedge', 'Жаба')));
    expect([lacking.asOutlines, itemsIn(lacking)[0]!.kind]).toEqual([0, 'text']);
  });
  it('stays text where there is more of it than anybody looks at, and that is said', async () => {
    const lines = Array.from(
      { length: 90 },
      (_, i) => `<text x="1" y="${i}" font-family="Marsh Hand" font-size="1">${'sedge '.repeat(18)}</text>`,
    );
    const read = await bring(drawing(face(bytesOf('woff2')), lines.join('')));
    expect(itemsIn(read).every(({ kind }) => kind === 'text')).toBe(true);
    expect([read.asOutlines, read.notUnderstood[0]!.kind]).toEqual([
      0,
      'more than 8,000 letters in fonts that the file carries, taken as text',
    ]);
  });
  it('is chosen by weight and slant, and stands beside shipped letters in a line about its middle', async () => {
    const bold = readFileSync(join(HOME, 'oswald/files/oswald-latin-700-normal.woff2'));
    const style = face(bytesOf('woff2')) + face(bold, 'font-weight: bold;');
    const mixed = `<text x="50" y="30" text-anchor="middle" font-family="Work Sans" font-size="8">To <tspan font-family="Marsh Hand" font-weight="700">the</tspan> pool</text>`;
    const read = await bring(drawing(style, mixed));
    const [first, middle, last] = itemsIn(read);
    expect([first!.kind, middle!.kind, last!.kind]).toEqual(['text', 'path', 'text']);
    const book = shippedFonts();
    const far = [
      book.advance('Work Sans', 'To ', 8),
      book.advance('Oswald Bold', 'the', 8),
      book.advance('Work Sans', ' pool', 8),
    ];
    const box = boxOfOutlines((middle as PathItem).outlines);
    const start = 50 - (far[0]! + far[1]! + far[2]!) / 2 + far[0]!;
    expect(box.minX).toBeGreaterThan(start - 0.2);
    expect(box.maxX).toBeLessThan(start + far[1]! + 0.2);
  });
  it.each<[string, Uint8Array]>([
    ['nothing', new Uint8Array()],
    ['noise', Uint8Array.from({ length: 5000 }, (_, i) => (i * 7919) % 256)],
    ['half a font', bytesOf('woff').subarray(0, 9000)],
    ['half a packed font', bytesOf('woff2').subarray(0, 6000)],
  ])('that is %s does no harm: the text stays text', async (_, bytes) => {
    const read = await bring(drawing(face(bytes), words));
    expect(itemsIn(read)[0]).toMatchObject({ kind: 'text', text: 'Sedge' });
  });
});

judgedBy('rsvg-convert', 'pdftotext').describe('a font that a PDF carries', () => {
  it('keeps its look: letters of another program’s PDF become outlines', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'inkwell-carried-'));
    try {
      const at = (name: string) => join(folder, name);
      // Whatever serif this machine has, embedded by a program that is not ours.
      writeFileSync(
        at('a.svg'),
        drawing('', '<text x="8" y="30" font-family="serif" font-style="italic" font-size="12">Fen &amp; mere, 7½</text>'),
      );
      execFileSync('rsvg-convert', ['-f', 'pdf', at('a.svg'), '-o', at('a.pdf')]);
      const read = await bringInAny(readFileSync(at('a.pdf')), 'a.pdf', services);
      expect(read.asOutlines).toBeGreaterThan(0);
      expect(itemsIn(read).some(({ kind }) => kind === 'text')).toBe(false);
      const svg = await copyOf(read.master, services, 'svg');
      writeFileSync(at('b.svg'), svg.bytes);
      execFileSync('rsvg-convert', ['-w', '800', '--background-color', 'white', at('b.svg'), '-o', at('b.png')]);
      execFileSync('pdftocairo', ['-png', '-singlefile', '-scale-to-x', '800', '-scale-to-y', '-1', at('a.pdf'), at('a')]);
      const [ours, theirs] = await Promise.all(
        ['b.png', 'a.png'].map((name) => sharp(at(name)).resize(400, 200, { fit: 'fill' }).greyscale().raw().toBuffer()),
      );
      const off = ours!.filter((value, i) => Math.abs(value - theirs![i]!) > 60).length / ours!.length;
      expect(off).toBeLessThan(0.002);
      expect(ours!.some((value) => value < 80)).toBe(true);
      const text = await bringInAny(readFileSync(at('a.pdf')), 'a.pdf', services, partWishes({ fonts: 'nearest' }));
      expect(itemsIn(text).some(({ kind }) => kind === 'text')).toBe(true);
    } finally {
      rmSync(folder, { recursive: true });
    }
  });
});
