import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { type Drawing, type Master, type ReadCopy, checkCopy, codecOf, declarationOf, derive, recipeOf, recognise } from '../src';
import { layer, lined, masterWith, rectangle, text } from './build';
import { runs } from './depth';
import { services } from './flat';
import { judgedBy } from './judged-by';
import { richMaster } from './rich';

const PYTHON = '/usr/bin/python3';
/** Every version, with the number by which files state it (DXF reference, HEADER section). */
const RUNGS = new Map([
  ['R12', 1009],
  ['2000', 1015],
  ['2004', 1018],
  ['2007', 1021],
  ['2010', 1024],
  ['2013', 1027],
  ['2018', 1032],
]);
const ENCODINGS = ['text', 'binary'] as const;
const EACH = [...RUNGS.keys()].flatMap((version) => ENCODINGS.map((encoding) => ({ version, encoding })));

const sign = masterWith(
  [
    rectangle('r', 10, 10, { radius: 4, style: lined('#c23b22', 0.35) }),
    rectangle('dashed', 60, 10, { radius: 0, style: { ...lined('#14213a', 0.25), line: { dash: [3, 1] } } as never }),
    {
      kind: 'path',
      id: 'p',
      layer: 'print',
      style: lined('#17796a', 0.5),
      outlines: [
        {
          start: [120, 20],
          segments: [
            { kind: 'cubic', c1: [130, 60], c2: [150, 0], to: [170, 40] },
            { kind: 'arc', to: [190, 20], centre: [170, 20], clockwise: true },
          ],
          closed: true,
        },
      ],
    },
    text('t', 'Łódka & 5 % “Größe” 湖', { x: 20, y: 70 }),
  ],
  { layers: [layer('cut', 'cut', { name: 'Größe und Łódź' }), layer('print', 'print', { name: 'Reeds' })] },
);
const made = (master: Master, options: Record<string, string>) =>
  derive({ master, rev: 1, time: '2026-12-01T10:00:00.000Z' }, recipeOf('dxf', { fills: 'hatches', ...options }), services);
const dxf = await codecOf('dxf');
const read = async (bytes: Uint8Array) => (await dxf.read([{ part: '', bytes }], {}, services)) as ReadCopy;

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'inkwell-rungs-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('each version of a DXF, as text and in the binary form', () => {
  it.each(EACH)('$version, $encoding: is proven when it is written, recognised, and says how it was made', async (options) => {
    const { files, defects, says } = await made(sign, options);
    expect(defects).toEqual([]);
    const { bytes } = files[0]!;
    expect(recognise(bytes)?.id).toBe('dxf');
    expect(dxf.stated!(bytes, services)).toMatchObject(options);
    const recipe = recipeOf('dxf', { fills: 'hatches', ...options });
    const input = { files, intact: true, says, recipe, current: sign, baseline: sign };
    expect((await checkCopy(input, services)).verdict).toBe('in step');
  });

  it('the binary form says what the text says, whatever the master', async () => {
    await fc.assert(
      fc.asyncProperty(richMaster, fc.constantFrom(...[...RUNGS.keys()]), async (master, version) => {
        const [plain, binary] = [
          (await made(master, { version, encoding: 'text' })).files[0]!.bytes,
          (await made(master, { version, encoding: 'binary' })).files[0]!.bytes,
        ];
        expect((await read(binary)).leaves).toEqual((await read(plain)).leaves);
      }),
      { numRuns: runs(20) },
    );
  });

  it('a binary file that is cut anywhere is told with the byte, and nothing of it is taken for the whole', async () => {
    const { bytes } = (await made(sign, { version: '2018', encoding: 'binary' })).files[0]!;
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 23, max: bytes.length - 4 }), async (at) => {
        const cut = bytes.subarray(0, at);
        await expect((async () => await read(cut))()).rejects.toMatchObject({ code: 'dxf-damaged' });
        await expect((async () => await read(cut))()).rejects.toThrow(/at byte \d+/);
      }),
      { numRuns: runs(60) },
    );
  });

  it('a changed letter in a binary file is found', async () => {
    const options = { version: '2013', encoding: 'binary' };
    const { files, says } = await made(sign, options);
    const at = Buffer.from(files[0]!.bytes);
    const word = at.indexOf(Buffer.from('Łódka'));
    expect(word).toBeGreaterThan(0);
    const other = Buffer.from(at);
    other.write('Wodka!'.slice(0, 6), word);
    const recipe = recipeOf('dxf', { fills: 'hatches', ...options });
    const input = { intact: false, says, recipe, current: sign, baseline: sign };
    const check = await checkCopy({ ...input, files: [{ part: '', bytes: new Uint8Array(other) }] }, services);
    expect(check.verdict).toBe('touched');
  });

  judgedBy('ezdxf').it('opens in another library with nothing to complain of or to repair, and draws the same', async () => {
    const names = await Promise.all(
      EACH.map(async ({ version, encoding }) => {
        const file = join(folder, `${version}_${encoding}.dxf`);
        writeFileSync(file, (await made(sign, { version, encoding })).files[0]!.bytes);
        return file;
      }),
    );
    const run = spawnSync(PYTHON, [join(__dirname, 'audit.py'), ...names], { encoding: 'utf8' });
    expect(run.stderr).toBe('');
    const all = JSON.parse(run.stdout) as Record<string, unknown>[];
    const words = 'Łódka & 5 % “Größe” 湖';
    EACH.forEach(({ version }, i) => {
      const found = all[i]!;
      const number = RUNGS.get(version)!;
      const texts = (found['texts'] as string[]).map((one) =>
        one.replace(/\\U\+([0-9A-F]{4})/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16))),
      );
      expect({ ...found, texts }).toMatchObject({
        version: `AC${number}`, // term-guard: standard (DXF reference, HEADER section)
        errors: [],
        repairs: [],
        texts: [words],
        layers: version === 'R12' ? ['GROSSE_UND_ODZ', 'REEDS'] : ['Größe und Łódź', 'Reeds'],
        unit: version === 'R12' ? null : 4,
      });
      // As large as in the version in between; its box of a curve is taken from chords up to a hundredth off.
      (found['box'] as number[]).forEach((value, k) =>
        expect(Math.abs(value - (all[2]!['box'] as number[])[k]!)).toBeLessThan(0.05),
      );
      // The binary form is drawn as the text is.
      expect({ ...found, texts }).toEqual({ ...all[i & ~1]!, texts });
    });
  });

  it('there are as many as the target offers, oldest first', () => {
    expect(declarationOf('dxf').versions?.values).toEqual([...RUNGS.keys()]);
  });
});

describe('a drawing of many points', () => {
  const points = Array.from({ length: 4000 }, (_, i): [number, number] => [
    50 + 40 * Math.cos(i * 0.7) + i / 200,
    50 + 30 * Math.sin(i * 1.1),
  ]);
  const long = masterWith([{ kind: 'polyline', id: 'l', layer: 'cut', style: lined('#14213a'), points, closed: false } as never]);
  it('is smaller in the binary form, by as much as numbers of eight bytes allow', async () => {
    const size = async (encoding: string) => (await made(long, { version: '2000', encoding })).files[0]!.bytes.length;
    const [plain, binary] = [await size('text'), await size('binary')];
    expect(binary / plain).toBeLessThan(0.85);
    const { leaves } = await read((await made(long, { version: '2000', encoding: 'binary' })).files[0]!.bytes);
    expect((leaves[0]!.body as Drawing).paths.count).toBe(1);
  });
});

describe('letters and size of a file', () => {
  it('keeps letters beside a control character in the code page', async () => {
    const odd = masterWith([text('t', 'A', { x: 20, y: 70 })], {
      layers: [layer('cut', 'cut', { name: 'A\u0001 Größe' })],
    });
    const { files } = await made(odd, { version: '2000' });
    expect(Buffer.from(files[0]!.bytes).toString('latin1')).toMatch(/A.? Größe/);
  });

  it('larger than readers take is refused before it is read', async () => {
    const { files } = await made(sign, { version: '2018', encoding: 'binary' });
    const huge = new Uint8Array(257 * 2 ** 20);
    huge.set(files[0]!.bytes);
    await expect(read(huge)).rejects.toThrow('The file has 257 MB; readers take up to 256 MB.');
  });
});
