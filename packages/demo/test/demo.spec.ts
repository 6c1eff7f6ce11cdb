import { mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  Master,
  type Services,
  addFormats,
  checkCopy,
  codecOf,
  derive,
  digest,
  likenessOf,
  recognise,
  resemblance,
  revisionsOf,
} from '@inkwell-twin/core';
import { nodeFormats, pictureEngine, shippedFonts, solidEngine, chartEngine } from '@inkwell-twin/render';
import { atDepth } from '../../core/test/depth';
import { judgedBy } from '../../core/test/judged-by';
import { python } from '../../core/test/python';
import { DEMO_COUNTS, type DemoMaster, afterMishap, demoMasters, recipeOfDemo, writeDemo } from '../src';

addFormats(nodeFormats);
const plain = { fonts: shippedFonts(), pictures: pictureEngine, solids: solidEngine, charts: chartEngine };
const servicesOf = ({ kept = [] }: DemoMaster): Services => ({
  ...plain,
  resource: (sha) => kept.find(({ resource }) => resource.id === sha)!.bytes,
});
let demo: readonly DemoMaster[];
let folder: string;
let written: string[];
beforeAll(async () => {
  demo = await demoMasters(plain, [], 0.25);
  folder = mkdtempSync(join(tmpdir(), 'inkwell-demo-'));
  written = await writeDemo(demo, folder, plain);
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('the demo', () => {
  it('is made of masters that are as described, at every revision', () => {
    for (const one of demo) for (const { master } of revisionsOf(one)) expect(Master.safeParse(master).success).toBe(true);
  });

  it('shows a copy in each of these verdicts, and is the same files each time', async () => {
    expect(written.length).toBe(117);
    const files = new Set(written.map((path) => digest(readFileSync(path))));
    const verdicts = new Set<string>();
    const every = atDepth(4, 1);
    let turn = 0;
    for (const one of demo) {
      const services = servicesOf(one);
      const all = [...revisionsOf(one)];
      const now = all.at(-1)!.master;
      for (const copy of one.copies) {
        if (!copy.mishap && turn++ % every) continue;
        const at = all[copy.rev - 1]!;
        const recipe = recipeOfDemo(now, copy);
        const { files: made, says, defects } = await derive(at, recipe, services);
        expect(defects).toEqual([]);
        const { bytes } = made[0]!;
        const left = copy.mishap ? await afterMishap(bytes, copy.mishap, services) : bytes;
        expect([copy.label, left === null || files.has(digest(left))]).toEqual([copy.label, true]);
        const input = {
          files: left && [{ part: '', bytes: left }],
          intact: !copy.mishap,
          says,
          recipe,
          current: now,
          baseline: at.master,
        };
        verdicts.add((await checkCopy(input, services)).verdict);
      }
    }
    expect(verdicts).toEqual(new Set(['in step', 'behind', 'touched', 'crossed', 'gone']));
  });

  it('has as many masters as is said while it is loaded', async () => {
    expect(Object.values(DEMO_COUNTS).reduce((sum, count) => sum + count)).toBe(demo.length);
    expect((await demoMasters(plain, ['small'])).length).toBe(DEMO_COUNTS.small);
  });
  it('writes over nothing', async () => {
    await expect(writeDemo(demo, folder, plain)).rejects.toThrow('exists already');
    expect(readdirSync(folder).sort()).toEqual([
      'Hides',
      'Laboratory',
      'Shared pictures',
      'Small work',
      'boardwalk_waymarker',
      'coating_weathering_series',
      'fen_map_leaflet',
      'heron_at_the_north_pool',
      'lantern_fen_visitor_guide',
      'otter_trail_plaque',
      'post_bracket',
      'warden_badge',
    ]);
  });
});

/** What people do to a copy elsewhere, by libraries of others: something is changed, and the mark is gone. */
const ELSEWHERE: readonly (readonly [judge: string, file: string, script: string])[] = [
  [
    'lxml',
    'map_for_the_printer_map_r4.svg',
    `from lxml import etree
t = etree.parse('a'); r = t.getroot()
for m in r.findall('.//{*}metadata'): m.getparent().remove(m)
for c in r.xpath('//comment()'): c.getparent().remove(c)
p = r.findall('.//{*}path'); p[3].getparent().remove(p[3])
t.write('a')`,
  ],
  [
    'ezdxf',
    'metal_shop_drawing_r3_r12.dxf',
    `import ezdxf
d = ezdxf.readfile('a'); d.header.custom_vars.clear()
e = list(d.modelspace()); d.modelspace().delete_entity(e[1])
d.saveas('a')`,
  ],
  [
    'openpyxl',
    'workbook_for_the_auditor_all_r5.xlsx',
    `import openpyxl, os
os.rename('a', 'a.xlsx'); b = openpyxl.load_workbook('a.xlsx')
if hasattr(b, 'custom_doc_props'): b.custom_doc_props.props.clear()
b.worksheets[0].cell(4, 3).value = 99.5; b.save('a.xlsx'); os.rename('a.xlsx', 'a')`,
  ],
  [
    'docx',
    'guide_for_the_translator_r2.docx',
    `import docx
d = docx.Document('a'); d.paragraphs[4].add_run(' And a word of ours.'); d.save('a')`,
  ],
  [
    'PIL',
    'print_north_pool_r2.tif',
    `from PIL import Image
i = Image.open('a').convert('RGB'); i.resize((i.width // 2, i.height // 2)).save('a', 'TIFF')`,
  ],
  [
    'PIL',
    'web_north_pool_r1.jpg',
    `from PIL import Image
i = Image.open('a'); i.resize((i.width * 2 // 3, i.height * 2 // 3)).save('a', 'JPEG', quality=50)`,
  ],
  [
    'pikepdf',
    'guide_for_print_r3.pdf',
    `import pikepdf
p = pikepdf.open('a', allow_overwriting_input=True)
if '/Metadata' in p.Root: del p.Root.Metadata
if '/Info' in p.trailer: del p.trailer.Info
del p.pages[-1]
p.save('a')`,
  ],
];
/** A file that is like a copy is asked about from here on. */
const ALIKE = 0.4;

describe('a copy that was changed elsewhere and lost its mark', () => {
  const sampleOf = async (bytes: Uint8Array) =>
    likenessOf(await (await codecOf(recognise(bytes)!.id)).read([{ part: '', bytes }], {}, plain));
  /** Copies by path, target and sample. Small work is much alike on purpose. */
  const known: { path: string; target: string; sample: readonly number[] }[] = [];
  beforeAll(async () => {
    for (const path of written) {
      if (/\.inkwell$|Small work|Laboratory|Shared pictures/.test(path)) continue;
      const bytes = readFileSync(path);
      const target = recognise(bytes)?.id;
      if (target) known.push({ path, target, sample: await sampleOf(bytes) });
    }
  });

  for (const [judge, file, script] of ELSEWHERE)
    judgedBy(judge).it(`is most like itself of all copies: ${file}, changed by ${judge}`, async () => {
      const own = written.find((path) => path.endsWith(file))!;
      const changed = python(script, readFileSync(own), 'a').written;
      const sample = await sampleOf(changed);
      const [first] = known
        .filter(({ target }) => target === recognise(changed)!.id)
        .map(({ path, sample: other }) => ({ path, share: resemblance(sample, other) }))
        .sort((a, b) => b.share - a.share);
      expect(first!.path).toBe(own);
      expect(first!.share).toBeGreaterThan(ALIKE);
    });
  it('is like no copy of another master', () => {
    expect(known.length).toBeGreaterThan(25);
    const folderOf = (path: string) => path.slice(0, path.lastIndexOf('/'));
    const like = known.flatMap((one) =>
      known
        .filter((other) => one.target === other.target && folderOf(one.path) !== folderOf(other.path))
        .map((other) => [one.path, other.path, resemblance(one.sample, other.sample)] as const),
    );
    expect(like.length).toBeGreaterThan(30);
    expect(like.filter(([, , share]) => share > ALIKE / 2)).toEqual([]);
  });
});
