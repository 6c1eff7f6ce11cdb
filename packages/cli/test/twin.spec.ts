import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { heldRows, masterOfPicture, newMaster, writePackage } from '@inkwell-twin/core';
import { otterPlaque } from '@inkwell-twin/demo';
import { pictureEngine } from '@inkwell-twin/render';
import { Output } from '../src/output';
import { CommandLine } from './command-line';

const root = join(__dirname, '../../..');
const drawing = join(root, 'packages/core/test/fixtures/weathervane.svg');
let folder: string;

/** Runs the built command line in a thread that stays, which is there sooner than a process. */
const commands = new CommandLine();
const twin = (...args: string[]) => commands.run(folder, args);
/** The same in a process of its own, as a person would. */
function twinProcess(...args: string[]): { code: number; out: string; err: string } {
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(root, 'packages/cli/bin/twin.mjs'), ...args], {
    cwd: folder,
    encoding: 'utf8',
  });
  return { code: status ?? -1, out: stdout, err: stderr };
}
/** The same with --json: the object is held against its documented schema. */
function json(...args: string[]): { code: number; output: ReturnType<typeof Output.parse> } {
  const { code, out } = twin(...args, '--json');
  return { code, output: Output.parse(JSON.parse(out)) };
}
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'inkwell-twin-'));
  spawnSync(process.execPath, [join(root, 'dist/node/demo.mjs'), '--out', folder, '--part', 'drawings']);
});
afterAll(async () => {
  await commands.close();
  rmSync(folder, { recursive: true, force: true });
});
const way = (file: string) => `boardwalk_waymarker/${file}`;
const MASTER = way('boardwalk_waymarker.inkwell');

describe('twin', () => {
  it('goes by a mark that is whole whatever --to says, and by the file itself where there is none', () => {
    expect(twin('derive', MASTER, '--to', 'dxf', '--set', 'version=R12', '--out', 'old.dxf').code).toBe(0);
    const told = json('check', MASTER, 'old.dxf', '--to', 'svg', '--set', 'precision=5');
    expect(told).toMatchObject({ code: 0, output: { copies: [{ verdict: 'in step' }] } });
    expect(told.output).toMatchObject({ copies: [{ by: 'its mark of origin; --to and --set say nothing beside it' }] });
    const words = readFileSync(join(folder, 'old.dxf'), 'utf8').replaceAll('inkwell-twin', 'some-shop');
    writeFileSync(join(folder, 'lost.dxf'), words);
    const lost = twin('check', MASTER, 'lost.dxf');
    expect(lost).toMatchObject({ code: 0 });
    expect(lost.out).toContain('taken from the file itself (version R12, ');
    expect(lost.out).toContain('no mark of origin');
    // What is said beside it counts then.
    expect(twin('check', MASTER, 'lost.dxf', '--to', 'dxf', '--set', 'text=outlines').out).toContain('text outlines');
  });

  it('brings a drawing in, derives every target from it, and finds each in step', () => {
    const before = readFileSync(drawing);
    const brought = json('import', drawing, '--out', 'vane.inkwell');
    expect(brought).toMatchObject({
      code: 0,
      output: {
        objects: 17,
        notUnderstood: [{ kind: 'picture in another file' }],
      },
    });
    for (const [target, set] of [
      ['svg', []],
      ['svg', ['--set', 'text=outlines']],
      ['dxf', []],
      ['dxf', ['--set', 'version=R12']],
      ['hpgl', []],
      ['png', ['--set', 'ppi=60']],
      ['jpeg', ['--set', 'ppi=60']],
      ['tiff', ['--set', 'ppi=60']],
      ['webp', ['--set', 'ppi=60']],
    ] as const) {
      const out = `vane_${target}_${set.length ? 'b' : 'a'}.${target}`;
      expect(twin('derive', 'vane.inkwell', '--to', target, ...set, '--out', out).code).toBe(0);
      expect(json('check', 'vane.inkwell', out)).toMatchObject({
        code: 0,
        output: { copies: [{ verdict: 'in step', intact: true, unchanged: true }] },
      });
    }
    expect(readFileSync(drawing).equals(before)).toBe(true);
  });

  it('tells the verdicts of the demo, from the files alone', () => {
    const files = [
      'trail_web_page_r6.svg',
      'metal_shop_drawing_r3_r12.dxf',
      'vinyl_lettering_r3.plt',
      'sheet_for_the_hide_r6.svg',
      'vinyl_first_trial_r2.plt',
      'nothing_here.svg',
    ];
    const { code, output } = json('check', MASTER, ...files.map(way));
    expect(code).toBe(1);
    expect(output.command === 'check' && output.copies.map(({ verdict }) => verdict)).toEqual([
      'in step',
      'behind',
      'in step',
      'touched',
      'crossed',
      'gone',
    ]);
  });

  it('exits with 0 when all is in step, 1 when something is not, 2 when something can’t be read', () => {
    expect(twinProcess('check', MASTER, way('trail_web_page_r6.svg'))).toMatchObject({ code: 0, err: '' });
    expect(twinProcess('check', MASTER, way('proof_for_the_reserve_r4.svg')).code).toBe(1);
    expect(twinProcess('--help')).toMatchObject({ code: 0, err: '' });
    writeFileSync(join(folder, 'half.svg'), readFileSync(join(folder, way('trail_web_page_r6.svg'))).subarray(0, 900));
    const half = twin('check', MASTER, 'half.svg');
    expect(half).toMatchObject({ code: 2 });
    expect(half.out).toMatch(/unreadable.*line \d+/s);
  });

  it('checks many copies in threads as it does one by one, in their order, and says what is no copy of it', () => {
    const copies = [
      ...['trail_web_page_r6.svg', 'proof_for_the_reserve_r4.svg', 'metal_shop_drawing_r3_r12.dxf', 'nowhere.svg'],
      ...['joiner_s_drawing_r5_2000.dxf', 'vinyl_lettering_r3.plt', 'sheet_for_the_hide_r6.svg'],
    ].map(way);
    const alone = copies.map((file) => (json('check', MASTER, file).output as { copies: object[] }).copies[0]);
    const many = [...copies, ...copies];
    expect(json('check', MASTER, ...many).output).toEqual({ command: 'check', copies: [...alone, ...alone], untold: [] });
    const other = 'fen_map_leaflet/map_for_the_printer_map_r4.svg';
    const mixed = json('check', MASTER, ...many, other);
    // One that nothing can be told of keeps nothing from the others.
    expect(mixed).toMatchObject({
      code: 2,
      output: { copies: [...alone, ...alone], untold: [{ file: other, code: 'other-master' }] },
    });
    expect(twin('check', MASTER, other, many[0]!).out).toMatch(/not told\. .*another master[^]*in step/);
    expect(twin('check', MASTER, other)).toMatchObject({ code: 2, err: expect.stringContaining('another master') });
  });

  it('says what a file is', () => {
    expect(json('info', MASTER).output).toMatchObject({ kind: 'master', master: { title: 'Boardwalk waymarker', rev: 6 } });
    expect(json('info', way('vinyl_lettering_r3.plt')).output).toMatchObject({ kind: 'copy', target: 'hpgl', mark: { rev: 3 } });
    expect(json('info', drawing).output).toMatchObject({ kind: 'file', target: 'svg', mark: null });
    writeFileSync(join(folder, 'letter.txt'), 'Dear all');
    expect(json('info', 'letter.txt')).toMatchObject({ code: 0, output: { kind: 'file', target: 'txt', mark: null } });
    writeFileSync(
      join(folder, 'noise.bin'),
      Uint8Array.from({ length: 64 }, (_, i) => (i * 7) % 256),
    );
    expect(json('info', 'noise.bin')).toMatchObject({ code: 1, output: { kind: 'unknown' } });
  });

  it('reports what carries over and writes nothing', () => {
    const { output } = json('carry', MASTER, '--to', 'hpgl');
    expect(output.command === 'carry' && output.report.lines.map(({ outcome, feature }) => `${outcome} ${feature}`)).toEqual(
      expect.arrayContaining(['restated text', 'left out layer:colour', 'left out layer:panel']),
    );
    expect(twin('carry', MASTER, '--to', 'dxf', '--set', 'version=R12').out).toContain('become arcs and lines');
  });

  it('compares two copies, a copy with its master, and two masters', () => {
    expect(json('compare', way('vinyl_lettering_r3.plt'), way('vinyl_first_trial_r2.plt'))).toMatchObject({
      code: 1,
      output: { same: false },
    });
    expect(json('compare', MASTER, way('joiner_s_drawing_r5_2000.dxf'))).toMatchObject({ code: 0, output: { same: true } });
    expect(json('compare', MASTER, MASTER)).toMatchObject({ code: 0, output: { same: true, changes: [] } });
  });

  it('says that nobody knows whether a copy is whole when another version of the writer made it', () => {
    const file = way('trail_web_page_r6.svg');
    const words = readFileSync(join(folder, file), 'utf8');
    const how = /how=b64\.([\w-]+)/.exec(words)![1]!;
    const stated = JSON.parse(Buffer.from(how, 'base64url').toString()) as object;
    const older = Buffer.from(JSON.stringify({ ...stated, writer: '0' })).toString('base64url');
    writeFileSync(join(folder, 'older.svg'), words.replaceAll(how, older));
    const { output } = json('check', MASTER, 'older.svg');
    expect(output).toMatchObject({ copies: [{ verdict: 'in step', remark: '', intact: null, unchanged: true, matches: true }] });
    expect(twin('check', MASTER, 'older.svg').out).toContain('Nobody knows whether the bytes are as written');
    writeFileSync(join(folder, 'spoilt.svg'), words.replaceAll(how, older).replace('r="4"', 'r="5"'));
    expect(json('check', MASTER, 'spoilt.svg').output).toMatchObject({ copies: [{ verdict: 'touched', intact: null }] });
  });

  it('derives several boards, in one file or in a file each, and checks them together', () => {
    const master = 'fen_map_leaflet/fen_map_leaflet.inkwell';
    const each = json('derive', master, '--to', 'svg', '--all-boards', '--set', 'sheets=a file each', '--out', 'both.svg');
    expect(each).toMatchObject({ code: 0, output: { parts: ['both_2.svg'], defects: [] } });
    expect(json('check', master, 'both.svg')).toMatchObject({
      code: 0,
      output: { copies: [{ verdict: 'in step', intact: true }] },
    });
    rmSync(join(folder, 'both_2.svg'));
    const { output, code } = json('check', master, 'both.svg');
    expect([code, output]).toMatchObject([
      1,
      { copies: [{ verdict: 'touched', differences: [{ kind: 'sheet missing', what: 'Inside' }] }] },
    ]);
    expect(twin('derive', master, '--to', 'dxf', '--board', 'Inside', '--board', 'Map', '--out', 'two.dxf').code).toBe(0);
    expect(twin('check', master, 'two.dxf').code).toBe(0);
    expect(twin('derive', master, '--to', 'hpgl', '--all-boards')).toMatchObject({
      code: 2,
      err: expect.stringContaining('says one board'),
    });
  });

  it('derives pixels as the master has them where nothing else is asked for', async () => {
    const master = newMaster('screen-1', 'Welcome screen', 'Ines Okoro', 'screen', {});
    const packed = { master, rev: 1, time: '2026-05-04T08:10:00Z', history: null, resources: new Map() };
    writeFileSync(join(folder, 'welcome.inkwell'), writePackage(packed));
    for (const [more, size] of [
      [[], [1280, 720]],
      [
        ['--set', 'ppi=192'],
        [2560, 1440],
      ],
    ] as const) {
      const out = `welcome_${size[0]}.png`;
      expect(twin('derive', 'welcome.inkwell', '--to', 'png', ...more, '--out', out).code).toBe(0);
      const { width, height } = await pictureEngine.facts(readFileSync(join(folder, out)));
      expect([width, height]).toEqual(size);
      expect(twin('check', 'welcome.inkwell', out).code).toBe(0);
    }
  });

  it('follows links from the folder of a master upwards, says how each stands, and refuses what it can’t show', async () => {
    const home = join(folder, 'job/panels');
    const picture = await pictureEngine.encode(heldRows({ width: 4, height: 3, data: new Uint8Array(48).fill(120) }), {
      format: 'png',
      depth: 8,
      alpha: false,
      profile: 'sRGB',
      quality: null,
      ppi: 72,
    });
    const { master } = masterOfPicture(picture, 'reeds.png', await pictureEngine.facts(picture));
    const resources = master.resources.map((resource) => ({ ...resource, link: 'pool/reeds.png' }));
    mkdirSync(home, { recursive: true });
    const packed = { master: { ...master, resources }, rev: 1, time: '2026-05-04T08:10:00Z', history: null };
    writeFileSync(join(home, 'panel.inkwell'), writePackage({ ...packed, resources: new Map() }));
    const stands = () => twin('info', 'job/panels/panel.inkwell').out;
    expect(stands()).toContain('linked reeds.png at pool/reeds.png: missing');
    const refused = twin('derive', 'job/panels/panel.inkwell', '--to', 'png', '--out', 'job/none.png');
    expect([refused.code, refused.err]).toEqual([2, expect.stringContaining('reeds.png is linked and not at pool/reeds.png')]);
    expect(existsSync(join(folder, 'job/none.png'))).toBe(false);
    mkdirSync(join(folder, 'job/pool'));
    writeFileSync(join(folder, 'job/pool/reeds.png'), 'another');
    expect(stands()).toContain('changed since it was last seen');
    writeFileSync(join(folder, 'job/pool/reeds.png'), picture);
    expect(stands()).toContain('as it was last seen');
    expect(twin('derive', 'job/panels/panel.inkwell', '--to', 'png', '--out', 'job/panel.png').code).toBe(0);
    expect(json('check', 'job/panels/panel.inkwell', 'job/panel.png').code).toBe(0);
  });

  it('puts pictures beside a DXF, and checks them with it', () => {
    const master = 'fen_map_leaflet/fen_map_leaflet.inkwell';
    const options = ['--to', 'dxf', '--all-boards', '--set', 'version=2004', '--set', 'pictures=files beside'];
    const made = json('derive', master, ...options, '--out', 'beside/map.dxf');
    const { parts } = made.output as { parts: string[] };
    expect([made.code, parts.length > 0]).toEqual([0, true]);
    expect(parts.every((part) => /^beside\/picture_[0-9a-f]{16}\.(png|jpg)$/.test(part))).toBe(true);
    expect(json('check', master, 'beside/map.dxf')).toMatchObject({ output: { copies: [{ verdict: 'in step', intact: true }] } });
    expect(twin('info', 'beside/map.dxf').out).toContain('says what it said when it was written');
    // The same again lands on the same files; another copy may have them, too.
    expect(twin('derive', master, ...options, '--out', 'beside/map.dxf').code).toBe(0);
    expect(twin('derive', master, ...options, '--out', 'beside/other.dxf').code).toBe(0);
    rmSync(join(folder, parts[0]!));
    expect(json('check', master, 'beside/map.dxf')).toMatchObject({ code: 1, output: { copies: [{ verdict: 'touched' }] } });
  });

  it('leaves features out that one names, and knows them by name', () => {
    expect(twin('derive', MASTER, '--to', 'svg', '--without', 'fills', '--out', 'hollow.svg').code).toBe(0);
    expect(twin('check', MASTER, 'hollow.svg').code).toBe(0);
    expect(twin('derive', MASTER, '--to', 'svg', '--without', 'smell')).toMatchObject({
      code: 2,
      err: expect.stringContaining('Known: outlines, arcs'),
    });
  });

  it('brings a table in, derives every format of tables, and finds the one digit that somebody changed', () => {
    const lines = ['Panel;Gloss (GU);Day', 'P-1;82,1;03.04.2026', 'P-2;79,55;14.04.2026', 'P-3;80,9;21.04.2026'];
    writeFileSync(join(folder, 'rack.csv'), lines.join('\n'));
    expect(json('import', 'rack.csv', '--out', 'rack.inkwell', '--set', 'dates=day first')).toMatchObject({
      code: 0,
      output: { objects: 3, notUnderstood: [] },
    });
    expect(twin('info', 'rack.inkwell').out).toContain('table rack, 3 rows of 3 columns');
    for (const target of ['csv', 'xlsx', 'html', 'json']) {
      const out = `rack_copy.${target}`;
      expect(twin('derive', 'rack.inkwell', '--to', target, '--table', 'rack', '--out', out)).toMatchObject({ code: 0 });
      expect(json('check', 'rack.inkwell', out)).toMatchObject({
        code: 0,
        output: { copies: [{ verdict: 'in step', intact: true }] },
      });
      // The same again is written over itself.
      expect(twin('derive', 'rack.inkwell', '--to', target, '--table', 'rack', '--out', out).code).toBe(0);
    }
    expect(twin('info', 'rack_copy.csv').out).toContain('it says what it said when it was written');
    const csv = join(folder, 'rack_copy.csv');
    writeFileSync(csv, readFileSync(csv, 'utf8').replace('79.55', '79.56'));
    const found = twin('check', 'rack.inkwell', 'rack_copy.csv');
    expect([found.code, found.out]).toEqual([
      1,
      expect.stringContaining('Gloss, P-2: value changed, 0.01 GU (master 79.55, copy 79.56)'),
    ]);
    expect(twin('compare', 'rack_copy.csv', 'rack_copy.xlsx').code).toBe(1);
    expect(twin('derive', 'rack.inkwell', '--to', 'svg')).toMatchObject({
      code: 2,
      err: expect.stringContaining('There is no board in this master'),
    });
  });

  it('brings a text in, derives every format of texts, and finds the one word that somebody changed', () => {
    const page =
      '<!doctype html><html lang="en"><title>Bench</title><h1>The bench</h1><p>It stands <b>eleven</b> steps from the pond.</p></html>';
    writeFileSync(join(folder, 'bench.html'), page);
    expect(json('import', 'bench.html', '--out', 'bench.inkwell')).toMatchObject({
      code: 0,
      output: { objects: 2, notUnderstood: [] },
    });
    expect(twin('info', 'bench.inkwell').out).toContain('text Bench, 2 paragraphs');
    for (const target of ['txt', 'html', 'odt', 'docx', 'epub', 'pdf']) {
      const out = `bench_copy.${target}`;
      // Where a master has texts alone nobody needs to say so.
      const scope = target === 'odt' ? ['--text', 'Bench'] : [];
      expect(twin('derive', 'bench.inkwell', '--to', target, ...scope, '--out', out)).toMatchObject({ code: 0 });
      expect(json('check', 'bench.inkwell', out)).toMatchObject({
        code: 0,
        output: { copies: [{ verdict: 'in step', intact: true }] },
      });
    }
    const html = join(folder, 'bench_copy.html');
    writeFileSync(html, readFileSync(html, 'utf8').replace('eleven', 'seven'));
    const found = twin('check', 'bench.inkwell', 'bench_copy.html');
    expect([found.code, found.out]).toEqual([1, expect.stringContaining('words changed (master “eleven”, copy “seven”)')]);
    expect(twin('compare', 'bench_copy.docx', 'bench_copy.odt').code).toBe(0);
  });

  it('lists targets with their options and what they carry', () => {
    const { output } = json('targets');
    expect(output.command === 'targets' && output.targets.map(({ id }) => id)).toEqual([
      'svg',
      'pdf',
      'png',
      'jpeg',
      'tiff',
      'webp',
      'dxf',
      'hpgl',
      'gcode',
      'stitch',
      'native',
      'archive',
      'xlsx',
      'html',
      'odt',
      'docx',
      'epub',
      'step',
      'stl',
      '3mf',
      'obj',
      'gltf',
      'csv',
      'json',
      'txt',
    ]);
    expect(twin('targets').out).toContain('--set version=R12|2000');
  });

  it('opens a copy as a program of its age would, and says whether that sees what was meant', () => {
    for (const [version, encoding] of [
      ['R12', 'text'],
      ['2018', 'binary'],
    ]) {
      const set = ['--set', `version=${version}`, '--set', `encoding=${encoding}`];
      expect(twin('derive', MASTER, '--to', 'dxf', ...set, '--out', 'aged.dxf').code).toBe(0);
      const reader = `dxf-${version!.toLowerCase()}`;
      const { code, output } = json('open', 'aged.dxf', MASTER, '--as', reader, '--out', 'aged.svg');
      expect([code, output]).toMatchObject([
        0,
        { reader, opens: true, isMeant: true, dropped: [], held: { missing: [], more: [] } },
      ]);
      expect(readFileSync(join(folder, 'aged.svg'), 'utf8')).toContain('<polyline');
      expect(twin('open', 'aged.dxf', MASTER, '--as', reader).out).toContain('all of it as it was meant');
      rmSync(join(folder, 'aged.dxf'));
    }
    expect(twin('derive', MASTER, '--to', 'dxf', '--set', 'version=2010', '--out', 'newer.dxf').code).toBe(0);
    expect(twin('open', 'newer.dxf', '--as', 'dxf-r12')).toMatchObject({
      code: 1,
      out: expect.stringContaining('dxf-r12 does not open it: the file is of version 1024; known are those up to 1009'),
    });
    expect(twin('open', 'newer.dxf', '--as', 'dxf-r9')).toMatchObject({
      code: 2,
      err: expect.stringContaining('dxf-r12, dxf-2000'),
    });
  });

  it('names a copy by master, revision and version when it is given a folder', () => {
    const { output } = json('derive', MASTER, '--to', 'dxf', '--set', 'version=R12', '--out', './');
    expect(output).toMatchObject({ out: 'boardwalk_waymarker_r6_r12.dxf' });
    expect(existsSync(join(folder, 'boardwalk_waymarker_r6_r12.dxf'))).toBe(true);
    // The same recipe may replace its own copy; another one may not.
    expect(twin('derive', MASTER, '--to', 'dxf', '--set', 'version=R12', '--out', 'boardwalk_waymarker_r6_r12.dxf').code).toBe(0);
    expect(
      twin('derive', MASTER, '--to', 'dxf', '--set', 'version=2000', '--out', 'boardwalk_waymarker_r6_r12.dxf'),
    ).toMatchObject({ code: 2, err: expect.stringContaining('was not made by this recipe') });
  });

  it('writes over no master and no file that it does not know', () => {
    const before = readFileSync(join(folder, MASTER));
    expect(twin('derive', MASTER, '--to', 'svg', '--out', MASTER)).toMatchObject({
      code: 2,
      err: expect.stringContaining('never written over'),
    });
    expect(twin('import', drawing, '--out', MASTER)).toMatchObject({
      code: 2,
      err: expect.stringContaining('never written over'),
    });
    expect(readFileSync(join(folder, MASTER)).equals(before)).toBe(true);
    writeFileSync(join(folder, 'mine.svg'), '<svg xmlns="http://www.w3.org/2000/svg"/>');
    expect(twin('derive', MASTER, '--to', 'svg', '--out', 'mine.svg').code).toBe(2);
    expect(readFileSync(join(folder, 'mine.svg'), 'utf8')).toBe('<svg xmlns="http://www.w3.org/2000/svg"/>');
  });

  it.each<[string, string[], string]>([
    ['no such command', ['conjure'], 'There is no command “conjure”'],
    ['no such target', ['derive', MASTER, '--to', 'scroll'], 'Known: svg, pdf, png, jpeg, tiff, webp, dxf, hpgl'],
    ['no target', ['derive', MASTER], 'Name a target'],
    ['no such option', ['derive', MASTER, '--to', 'svg', '--set', 'glow=1'], 'There is no option “glow”'],
    ['a value that is none', ['derive', MASTER, '--to', 'svg', '--set', 'precision=many'], 'precision'],
    ['no such board', ['derive', MASTER, '--to', 'svg', '--board', 'Rear'], 'It has: Front'],
    ['no such file', ['info', 'nowhere.svg'], 'There is no file nowhere.svg'],
    ['a tolerance of nothing', ['check', MASTER, MASTER, '--tolerance', '0'], 'above 0'],
    ['an unknown flag', ['info', '--loud'], '--loud'],
    ['another master’s copy', ['check', MASTER, 'fen_map_leaflet/map_for_the_printer_map_r4.svg'], 'a copy of another master'],
    ['no master at all', ['carry', way('trail_web_page_r6.svg'), '--to', 'svg'], 'This is not a master'],
  ])('answers %s with 2 and words', (_, args, words) => {
    const { code, err } = twin(...args);
    expect(code).toBe(2);
    expect(err).toContain(words);
    expect(err).not.toContain('    at ');
  });

  it('keeps to one object on standard output, errors included', () => {
    const { code, out } = twinProcess('info', 'nowhere.svg', '--json');
    expect(code).toBe(2);
    expect(JSON.parse(out)).toMatchObject({ command: 'error', error: { code: 'file-missing', where: { file: 'nowhere.svg' } } });
  });

  it('reads a folder project of native version 1 where it lies, derives from it, and names a part that is missing', () => {
    const { files } = otterPlaque();
    for (const [path, bytes] of files) {
      mkdirSync(join(folder, 'older', dirname(path)), { recursive: true });
      writeFileSync(join(folder, 'older', path), bytes);
    }
    const index = join(folder, 'older/otter_plaque.inkfolio');
    expect(twin('info', index).out).toContain('a master, “Otter plaque”, r2, of native version 1');
    expect(twin('derive', index, '--to', 'svg', '--out', 'otter.svg').code).toBe(0);
    expect(twin('check', index, 'otter.svg').code).toBe(0);
    writeFileSync(join(folder, 'older/otter_plaque_parts/notes.txt'), 'words');
    rmSync(join(folder, 'older/otter_plaque_parts/board_1.json'));
    const { code, err } = twin('info', index);
    expect([code, err]).toEqual([2, expect.stringContaining('The part board_1.json of otter_plaque.inkfolio is missing')]);
  });
});
