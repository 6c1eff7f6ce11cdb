import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Master, checkCopy, codecOf, derive, recipeOf } from '../src';
import { shippedFonts } from '../../render/src';
import { lined, masterWith, rectangle, text as words } from './build';
import { judgedBy } from './judged-by';

const services = { fonts: shippedFonts() };
const time = '2026-11-20T10:00:00.000Z';
const PYTHON = '/usr/bin/python3';
const dashed = (dash: number[], more = {}) => ({ ...lined('#14213a'), dash, ...more });
const master = masterWith([
  rectangle('score', 10, 10, { style: dashed([4, 1.5, 0, 1.5]) }),
  rectangle('again', 60, 10, { style: dashed([4, 1.5, 0, 1.5], { dashOffset: 2 }) }),
  { kind: 'ellipse', id: 'hole', layer: 'cut', style: dashed([2, 1]), cx: 30, cy: 70, rx: 8, ry: 8 },
  rectangle('whole', 120, 10),
]);
const text = (bytes: Uint8Array) => new TextDecoder().decode(bytes);
const bytes = (words: string) => new TextEncoder().encode(words);

describe('dashes in DXF', () => {
  it('begin where they begin, also where a piece of the outline is too short to be told apart', async () => {
    const word = words('word', 'Sedge', {
      style: dashed([2, 1]),
      x: 0,
      y: 0,
      size: 3,
      font: 'Source Serif 4 Bold Italic',
      align: 'middle',
      spacing: 0.2,
    });
    const turned = {
      kind: 'group' as const,
      id: 'turned',
      layer: 'cut',
      transform: [0.8, 0.6, -0.6, 0.8, 5, 5] as const,
      items: [word],
    };
    const master = masterWith([turned as never]);
    for (const version of ['R12', '2000']) {
      const made = await derive({ master, rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipeOf('dxf', { version }), services);
      expect([version, made.defects]).toEqual([version, []]);
    }
  });
  it.each(['R12', '2000'])('%s come back as they went, and what they lose is said', async (version) => {
    const recipe = recipeOf('dxf', { version });
    const { files, says, defects, report } = await derive({ master, rev: 1, time }, recipe, services);
    expect(defects).toEqual([]);
    expect(report.lines.find(({ feature }) => feature === 'dashes')).toMatchObject({ outcome: 'restated', count: 3 });
    const judged = (change: (words: string) => string) =>
      checkCopy(
        {
          files: [{ part: '', bytes: bytes(change(text(files[0]!.bytes))) }],
          intact: false,
          says,
          recipe,
          current: master,
          baseline: master,
        },
        services,
      );
    expect(await judged((words) => words)).toMatchObject({ verdict: 'in step', differences: [] });
    expect(await judged((words) => words.replace('49\n4\n', '49\n5\n'))).toMatchObject({ verdict: 'touched' });
    expect(await judged((words) => words.replace('6\nDASHES_2\n', ''))).toMatchObject({ verdict: 'touched' });
    expect(await judged((words) => words.replace('6\nDASHES_2\n', '6\nELSEWHERE\n'))).toMatchObject({ verdict: 'touched' });
  });

  judgedBy('ezdxf').it.each(['R12', '2000'])('%s are line types to a library that nobody here wrote', async (version) => {
    const { files } = await derive({ master, rev: 1, time }, recipeOf('dxf', { version }), services);
    const folder = mkdtempSync(join(tmpdir(), 'inkwell-dashes-'));
    try {
      writeFileSync(join(folder, 'a.dxf'), files[0]!.bytes);
      const script = `
import ezdxf, json, sys
doc = ezdxf.readfile(sys.argv[1])
auditor = doc.audit()
types = {t.dxf.name: [tag.value for tag in t.pattern_tags.tags if tag.code == 49] for t in doc.linetypes}
print(json.dumps([len(auditor.errors), types, [[e.dxftype(), e.dxf.linetype] for e in doc.modelspace()]]))
`;
      const { stdout, stderr } = spawnSync(PYTHON, ['-c', script, join(folder, 'a.dxf')], { encoding: 'utf8' });
      if (!stdout) throw new Error(stderr);
      const [errors, types, entities] = JSON.parse(stdout) as [number, Record<string, number[]>, [string, string][]];
      expect(errors).toBe(0);
      expect(types).toMatchObject({ DASHES_1: [4, -1.5, 0, -1.5], DASHES_2: [2, -1] });
      expect(entities.map(([, type]) => type.toUpperCase())).toEqual(['DASHES_1', 'DASHES_1', 'DASHES_2', 'BYLAYER']);
    } finally {
      rmSync(folder, { recursive: true });
    }
  });

  it('come in from files of others, by their scales and units', async () => {
    const file = [
      ...['0', 'SECTION', '2', 'HEADER', '9', '$INSUNITS', '70', '1', '9', '$LTSCALE', '40', '0.5', '0', 'ENDSEC'],
      ...['0', 'SECTION', '2', 'TABLES', '0', 'TABLE', '2', 'LTYPE'],
      ...['0', 'LTYPE', '2', 'Centre', '70', '0', '73', '4', '40', '2', '49', '1', '49', '-0.25', '49', '0.5', '49', '-0.25'],
      ...[
        '0',
        'LTYPE',
        '2',
        'Fence',
        '70',
        '0',
        '73',
        '2',
        '40',
        '1',
        '49',
        '0.5',
        '74',
        '4',
        '49',
        '-0.5',
        '74',
        '0',
        '0',
        'ENDTAB',
      ],
      ...[
        '0',
        'TABLE',
        '2',
        'LAYER',
        '0',
        'LAYER',
        '2',
        'axes',
        '70',
        '0',
        '62',
        '7',
        '6',
        'CENTRE',
        '0',
        'ENDTAB',
        '0',
        'ENDSEC',
      ],
      ...['0', 'SECTION', '2', 'ENTITIES'],
      ...['0', 'LINE', '8', 'axes', '10', '0', '20', '0', '11', '9', '21', '0'],
      ...['0', 'LINE', '8', 'axes', '48', '2', '10', '0', '20', '1', '11', '9', '21', '1'],
      ...['0', 'LINE', '8', 'axes', '6', 'CONTINUOUS', '10', '0', '20', '2', '11', '9', '21', '2'],
      ...['0', 'LINE', '8', 'axes', '6', 'FENCE', '10', '0', '20', '3', '11', '9', '21', '3'],
      ...['0', 'ENDSEC', '0', 'EOF', ''],
    ].join('\n');
    const read = await (await codecOf('dxf')).bringIn!(bytes(file), 'x.dxf');
    const dashes = (read.master as Master).boards[0]!.items.map((item) => ('style' in item ? (item.style.dash ?? null) : null));
    expect(dashes).toEqual([[12.7, 3.175, 6.35, 3.175], [25.4, 6.35, 12.7, 6.35], null, null]);
    expect(read.notUnderstood.map(({ kind }) => kind)).toEqual(['line type FENCE']);
  });
});
