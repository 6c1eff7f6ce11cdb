import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { type Options, checkCopy, codecOf, derive, parseMark, recipeOf, recipeOfHow } from '../src';
import { shippedFonts } from '../../render/src';
import { filled, lined, masterWith, rectangle, text } from './build';
import { python } from './python';
import { judgedBy } from './judged-by';

const services = { fonts: shippedFonts() };
const SVGO = join(__dirname, '../../../node_modules/svgo/bin/svgo.js');
const master = masterWith([
  rectangle('a', 10, 10, { style: filled('#c23b22') }),
  rectangle('b', 40.12345, 20.5, { radius: 4, style: lined('#14213a', 0.35) }),
  text('t', 'Boathouse'),
]);

async function made(target: string, options: Options = {}) {
  const recipe = recipeOf(target, options);
  return {
    recipe,
    bytes: (await derive({ master, rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipe, services)).files[0]!.bytes,
  };
}
const read = async (target: string, bytes: Uint8Array) => (await codecOf(target)).read([{ part: '', bytes }], {}, services);
const markIn = async (target: string, bytes: Uint8Array) => parseMark((await read(target, bytes)).mark);
const checked = async (target: string, bytes: Uint8Array, options?: Options) => {
  const mark = await markIn(target, bytes);
  const recipe = options ? recipeOf(target, options) : recipeOfHow(mark!.how, mark!.recipe);
  const input = { files: [{ part: '', bytes }], intact: null, says: mark?.says ?? '', recipe, current: master, baseline: master };
  return checkCopy(input, services);
};
const tidied = (bytes: Uint8Array): Uint8Array => {
  const { stdout, stderr, status } = spawnSync(process.execPath, [SVGO, '-i', '-', '-o', '-'], { input: bytes });
  if (status !== 0) throw new Error(stderr.toString());
  return stdout;
};

describe('the mark of origin', () => {
  it('survives a program that tidies drawings up and throws metadata away', async () => {
    const { recipe, bytes } = await made('svg');
    const after = tidied(bytes);
    expect(after.toString()).not.toContain('<metadata');
    const mark = await markIn('svg', after);
    expect(mark).toEqual(await markIn('svg', bytes));
    expect(mark).toMatchObject({ master: master.id, rev: 1, recipe: recipe.id });
    expect(mark!.says).not.toMatch(/^0*$/);
    expect(await checked('svg', after)).toMatchObject({ verdict: 'in step', remark: 'the layer “cut” lost its name' });
    // Only where all that lay on it lies together still.
    const apart = after.toString().replace(/<text.*<\/text>/, (words) => `<g><title>cut</title>${words}</g>`);
    expect(await checked('svg', Buffer.from(apart))).toMatchObject({ verdict: 'touched', differences: [{ kind: 're-layered' }] });
  });

  judgedBy('ezdxf').it.each(['R12', '2000', '2004'])('survives another library that saves a DXF %s anew', async (version) => {
    const { bytes } = await made('dxf', { version });
    const { out, written } = python(
      "import ezdxf; d=ezdxf.readfile('a.dxf'); print(len(d.audit().errors)); d.saveas('a.dxf')",
      bytes,
    );
    expect(out.trim()).toBe('0');
    expect(Buffer.from(written).toString()).not.toMatch(/999\r?\ninkwell-twin/);
    expect(await markIn('dxf', written)).toEqual(await markIn('dxf', bytes));
    expect((await checked('dxf', written)).verdict).toBe('in step');
  });

  it('is read from its second place where the first is damaged, and is none where both are', async () => {
    for (const target of ['svg', 'dxf']) {
      const { bytes } = await made(target);
      const words = Buffer.from(bytes).toString();
      const once = words.replace('inkwell-twin; master', 'inkwell-twin; mastre');
      expect(await markIn(target, Buffer.from(once))).toEqual(await markIn(target, bytes));
      expect(await markIn(target, Buffer.from(words.replaceAll('inkwell-twin; master', 'inkwell-twin; mastre')))).toBeNull();
    }
  });
});

describe('a line of hardly any width', () => {
  it.each([3.7e-6, 0.0004])('of %d mm is a line all the same', async (strokeWidth) => {
    const thin = masterWith([rectangle('a', 10, 10, { style: { ...filled('#c23b22'), stroke: '#000000', strokeWidth } })]);
    const { defects } = await derive({ master: thin, rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipeOf('svg', {}), services);
    expect(defects).toEqual([]);
  });
});

describe('a copy that lost its mark', () => {
  const unmarked = (bytes: Uint8Array) => Buffer.from(Buffer.from(bytes).toString().replaceAll('inkwell-twin', 'a-shop'));

  it.each<[string, Options]>([
    ['dxf', { version: 'R12' }],
    ['dxf', { version: '2004', text: 'outlines', fills: 'hatches' }],
    ['dxf', { version: '2000', symbols: 'opened' }],
    ['svg', { precision: 5, text: 'outlines' }],
    ['svg', { precision: 2 }],
  ])('shows how it was made: %s %j', async (target, options) => {
    const { bytes } = await made(target, options);
    const lost = unmarked(bytes);
    expect(await markIn(target, lost)).toBeNull();
    const stated = await (await codecOf(target)).stated!(lost, services);
    for (const [name, value] of Object.entries(options))
      if (name !== 'symbols') expect([name, stated[name]]).toEqual([name, String(value)]);
    expect((await checked(target, lost, stated)).verdict).toBe('in step');
  });
});
