import { gzipSync } from 'node:zlib';
import { Failure, bringInAny } from '../src';
import { NO_MESH } from '../src/contracts/mesh';
import { crossingsOf } from '../src/content/mesh/crossing';
import { packEntries } from '../src/document/native/zip';
import type { PictureEngine } from '../src/contracts/pictures';
import { services } from './flat';

const bytes = (text: string) => new TextEncoder().encode(text);
const zip = (entries: Readonly<Record<string, string | Uint8Array>>) =>
  packEntries(
    new Map(Object.entries(entries).map(([name, one]) => [name, typeof one === 'string' ? bytes(one) : one])),
    new Set(),
  );
const codeOf = async (run: Promise<unknown>) =>
  run.then(
    () => '',
    (error: Failure) => `${error.code}: ${error.message}`,
  );

/** A triangle whose numbers lie in another file. */
const gltf = (uri: string) =>
  JSON.stringify({
    asset: { version: '2.0' },
    scene: 0,
    scenes: [{ nodes: [0] }],
    nodes: [{ mesh: 0 }],
    meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
    accessors: [{ bufferView: 0, componentType: 5126, count: 3, type: 'VEC3', min: [0, 0, 0], max: [1, 1, 0] }],
    bufferViews: [{ buffer: 0, byteLength: 36 }],
    buffers: [{ byteLength: 36, uri }],
  });
const corners = new Uint8Array(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]).buffer);

describe('a file that names others', () => {
  it('comes in with what lies beside it', async () => {
    const beside = (name: string) => (name === 'my numbers.bin' ? corners : undefined);
    const { master } = await bringInAny(bytes(gltf('my%20numbers.bin')), 'a.gltf', { ...services, beside });
    expect(master.solids).toHaveLength(1);
  });

  it('comes in from a package, whatever a system put beside it, and the package is kept', async () => {
    const packed = zip({
      'part/a.gltf': gltf('a.bin'),
      'part/a.bin': corners,
      '__MACOSX/part/._a.gltf': 'x',
      'part/.DS_Store': 'x',
    });
    const { master, kept } = await bringInAny(packed, 'part.zip', services);
    expect(master.solids).toHaveLength(1);
    expect(kept.find(({ resource }) => resource.role === 'original')!.bytes).toEqual(packed);
  });

  it('asks nobody for a name that leads elsewhere', async () => {
    const asked: string[] = [];
    const beside = (name: string) => void asked.push(name);
    for (const uri of [
      '../a.bin',
      '/etc/hosts',
      'http://127.0.0.1/a.bin',
      'file:///etc/hosts',
      'a/../../b.bin',
      '..%2fa.bin',
      'C:\\a.bin',
    ])
      expect(await codeOf(bringInAny(bytes(gltf(uri)), 'a.gltf', { ...services, beside }))).toMatch(
        /^gltf-damaged: Its numbers stand in another file/,
      );
    expect(asked).toEqual([]);
  });

  it('of a drawing or a page: its pictures come in with it', async () => {
    const opened: number[] = [];
    const pictures = {
      read: (picture: Uint8Array) => {
        opened.push(picture.length);
        throw new Failure('picture-damaged', 'Only its length counts here.');
      },
    } as unknown as PictureEngine;
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="9" height="9"><image xlink:href="./in/a.png" width="9" height="9"/></svg>';
    const { notUnderstood } = await bringInAny(zip({ 'x/a.svg': svg, 'x/in/a.png': 'seven b' }), 'x.zip', {
      ...services,
      pictures,
    });
    expect(notUnderstood.map(({ kind }) => kind)).not.toContain('picture in another file');
    // Packed without being made smaller, its bytes show the drawing's own words.
    const stored = packEntries(new Map([['x/a.svg', bytes(svg)]]), new Set(['x/a.svg']));
    expect((await bringInAny(stored, 'x.zip', { ...services, pictures })).master.boards).toHaveLength(1);
    const lone = await bringInAny(bytes(svg), 'a.svg', { ...services, pictures });
    expect(lone.notUnderstood.map(({ kind }) => kind)).toContain('picture in another file');
  });
});

it('a file of triangles is one, whatever letter its count looks like behind a blank head', async () => {
  for (const count of [0x23, 0x25, 0x3c, 0x7b]) {
    const file = new Uint8Array(84 + 50 * count).fill(0x20, 0, 80);
    const view = new DataView(file.buffer);
    view.setUint32(80, count, true);
    for (let t = 0; t < count; t++)
      [t, 0, 0, t + 1, 0, 0, t, 1, 0].forEach((value, k) => view.setFloat32(84 + 50 * t + 12 + 4 * k, value, true));
    expect((await bringInAny(file, 'a.stl', services)).master.solids).toHaveLength(1);
  }
});

describe('what is meant to take long', () => {
  it('does not: hundreds of thousands of elements that never end', async () => {
    const svg = `<svg xmlns="http://www.w3.org/2000/svg"><!-- ${'<image href="x '.repeat(200_000)} --><path d="M0 0h5v5z"/></svg>`;
    const beside = () => undefined;
    expect((await bringInAny(bytes(svg), 'a.svg', { ...services, beside })).master.boards[0]!.items).toHaveLength(1);
  });

  it('is given up aloud: thousands of triangles around one corner', () => {
    const count = 5000;
    const around = (i: number) => [20 * Math.cos((2 * Math.PI * i) / count), 20 * Math.sin((2 * Math.PI * i) / count), 0];
    const positions = Float64Array.from([0, 0, 5, ...Array.from({ length: count }, (_, i) => around(i)).flat()]);
    const triangles = Uint32Array.from(Array.from({ length: count }, (_, i) => [0, 1 + i, 1 + ((i + 1) % count)]).flat());
    expect(crossingsOf({ ...NO_MESH, positions, triangles }, 1e-6, 1e6)).toEqual({ count: 0, at: -1, isWhole: false });
  });
});

describe('a packed file', () => {
  const svg = '<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm"><path d="M0 0h5v5z"/></svg>';
  it('opens by itself', async () => {
    const { master } = await bringInAny(new Uint8Array(gzipSync(bytes(svg))), 'leaf.svgz', services);
    expect([master.title, master.boards[0]!.items.length]).toEqual(['leaf', 1]);
  });
  it('that holds several masters, none, or is damaged says so', async () => {
    expect(await codeOf(bringInAny(zip({ 'a.svg': svg, 'b.svg': svg }), 'two.zip', services))).toBe(
      'several-inside: “two.zip” holds 2 files that can each become a master: “a.svg”, “b.svg”. Unpack it and bring in the ones you need.',
    );
    expect(await codeOf(bringInAny(zip({ 'a.xyz': '\0\0' }), 'none.zip', services))).toMatch(
      /^not-known: “none.zip” holds no file/,
    );
    expect(await codeOf(bringInAny(Uint8Array.from([0x1f, 0x8b, 8, 0]), 'a.gz', services))).toMatch(/^package-damaged/);
    expect(await codeOf(bringInAny(new Uint8Array(gzipSync(bytes(svg))).subarray(0, 40), 'a.svgz', services))).toMatch(
      /^package-damaged/,
    );
  });
  it('that becomes far too large is given up on the way', async () => {
    const large = new Uint8Array(gzipSync(new Uint8Array(300 * 1024 * 1024), { level: 1 }));
    expect(await codeOf(bringInAny(large, 'large.svgz', services))).toMatch(/^package-too-large/);
  });
});

describe('a text of elements', () => {
  it.each([
    ['windows-1251', '<?xml version="1.0" encoding="windows-1251"?>', [0xcf, 0xf0, 0xe8], 'При'],
    ['iso-8859-2', "<?xml version='1.0' encoding='ISO-8859-2'?>", [0xb1, 0xb3], 'ął'],
  ])('in %s is read as it says', async (_label, head, letters, words) => {
    const [before, after] = [
      `${head}<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm"><text>`,
      '</text></svg>',
    ].map(bytes);
    const { master } = await bringInAny(Uint8Array.from([...before!, ...letters, ...after!]), 'a.svg', services);
    expect(JSON.stringify(master.boards)).toContain(words);
  });
});
