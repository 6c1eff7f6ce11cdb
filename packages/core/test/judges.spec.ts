import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  type DisplayList,
  type Master,
  type Outline,
  boxOfOutlines,
  boxOfPolyline,
  flatten,
  joinBoxes,
  recipeOf,
  resolveBoard,
} from '../src';

import { filled, lined, masterWith, rectangle, text } from './build';
import { deriveFlat, targetById } from './flat';
import { judgedBy } from './judged-by';
import { atDepth } from './depth';

/** Readers of Debian's that nobody here wrote; where they are not installed, these tests are left out (CI installs them). */
const PYTHON = '/usr/bin/python3';

const fixture = (name: string) => readFileSync(join(__dirname, 'fixtures', name));
const own = masterWith([
  rectangle('r', 10, 10, { radius: 4, style: lined('#c23b22', 0.35) }),
  {
    kind: 'ellipse',
    id: 'e',
    layer: 'cut',
    style: lined('#14213a'),
    cx: 90,
    cy: 40,
    rx: 20,
    ry: 8,
    transform: [0.8, 0.6, -0.6, 0.8, 30, 0],
  },
  {
    kind: 'path',
    id: 'p',
    layer: 'print',
    style: filled('#17796a'),
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
  text('t', 'Łódka & 5 % “Öl”', { x: 20, y: 70 }),
]);
const masters: [string, Master][] = [
  ['our own', own],
  ['a drawing brought in from SVG', targetById('svg').bringIn!(fixture('weathervane.svg'), 'weathervane.svg').master],
  ['a drawing brought in from DXF', targetById('dxf').bringIn!(fixture('gate.dxf'), 'gate.dxf').master],
];
const boxOf = ({ entries }: DisplayList) =>
  joinBoxes(entries.flatMap((entry) => (entry.kind === 'path' ? [boxOfOutlines(entry.outlines)] : [])));

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'inkwell-judges-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

interface Judgement {
  readonly version: string;
  readonly errors: string[];
  readonly repairs: string[];
  readonly texts: string[];
  readonly layers: string[];
  readonly unit: number | null;
  readonly box: [number, number, number, number];
}

judgedBy('ezdxf').describe('an independent reader of DXF', () => {
  it.each(masters)('finds nothing to complain of or to repair in %s, and the same drawing', async (name, master) => {
    for (const [version, code] of [
      ['R12', 'AC1009'],
      ['2000', 'AC1015'],
    ] as const)
      for (const curves of ['as the version allows', 'arcs', 'short lines']) {
        const made = await deriveFlat(master, recipeOf('dxf', { version, curves }));
        const file = join(folder, `${name.replace(/\W/g, '_')}_${version}.dxf`);
        writeFileSync(file, made.bytes);
        const run = spawnSync(PYTHON, [join(__dirname, 'audit.py'), file], { encoding: 'utf8' });
        expect(run.stderr).toBe('');
        const [found] = JSON.parse(run.stdout) as [Judgement];
        expect(found).toMatchObject({ version: code, errors: [], repairs: [], unit: version === 'R12' ? null : 4 });
        const { minX, minY, maxX, maxY } = boxOf(made.projection);
        // Its box of a curve is taken from chords up to a hundredth off.
        [minX, minY, maxX, maxY].forEach((value, i) => expect(Math.abs(found.box[i]! - value)).toBeLessThan(0.03));
        const words = made.projection.entries.flatMap((entry) => (entry.kind === 'text' ? [entry.text] : []));
        expect(
          found.texts.map((one) =>
            one.replace(/\\U\+([0-9A-F]{4})/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16))),
          ),
        ).toEqual(words.sort());
        expect(found.layers).toEqual([...new Set(made.projection.entries.map(({ layer }) => layer))].sort());
      }
  });
});

const MM: Readonly<Record<number, number>> = { 1: 25.4, 4: 1, 5: 10 };

/** Box, length and centre of weight of all lines. */
function weighed(outlines: readonly Outline[]): { box: number[]; length: number; centre: number[] } {
  const { minX, minY, maxX, maxY } = joinBoxes(outlines.map((outline) => boxOfPolyline(flatten(outline, 0.0005))));
  let [length, x, y] = [0, 0, 0];
  for (const points of outlines.map((outline) => flatten(outline, 0.0005)))
    for (let i = 2; i < points.length; i += 2) {
      const step = Math.hypot(points[i]! - points[i - 2]!, points[i + 1]! - points[i - 1]!);
      length += step;
      x += (step * (points[i]! + points[i - 2]!)) / 2;
      y += (step * (points[i + 1]! + points[i - 1]!)) / 2;
    }
  return { box: [minX, minY, maxX, maxY], length, centre: [x / length, y / length] };
}
const worstOf = (a: readonly number[], b: readonly number[]) => Math.max(...a.map((value, i) => Math.abs(value - b[i]!)));

judgedBy('ezdxf').describe('drawings that another library made', () => {
  type Drawn = {
    readonly version: string;
    readonly unit: number;
    readonly length: number;
    readonly box: number[];
    readonly centre: number[];
    /** Length by colour and width. */
    readonly looks: Readonly<Record<string, number>>;
  };
  let names: (readonly [string, string])[];
  const drawn = (): Drawn[] => {
    names = Array.from({ length: atDepth(10, 200) }, (_, i) => [join(folder, `drawn_${i}.dxf`), String(20261124 + i)] as const);
    const run = spawnSync(PYTHON, [join(__dirname, 'draw.py'), ...names.flat()], { encoding: 'utf8', maxBuffer: 1 << 26 });
    expect(run.stderr).toBe('');
    return JSON.parse(run.stdout) as Drawn[];
  };
  const outlinesIn = (entries: DisplayList['entries']) =>
    entries.flatMap((entry) => (entry.kind === 'path' ? entry.outlines : []));

  it('come in with every line where it was, as it looks: blocks in blocks, grids, mirrored and turned, in any unit and version', () => {
    const said = drawn();
    expect(said).toHaveLength(names.length);
    said.forEach(({ unit, length, box, centre, version, looks: meant }, i) => {
      const bytes = readFileSync(names[i]![0]);
      const scale = MM[unit]!;
      const { list, notUnderstood } = targetById('dxf').read(bytes);
      const read = weighed(outlinesIn(list.entries));
      const { master, notUnderstood: told } = targetById('dxf').bringIn!(bytes, 'drawn.dxf');
      // On a board of metres lines are wider than on paper, and that is said.
      const wider = Number(/(\d+) times as wide/.exec(told.map(({ kind }) => kind).join())?.[1] ?? 1);
      const kept = weighed(outlinesIn(resolveBoard(master, master.boards[0]!).entries));
      // What is brought in lies on a board of its own, 10 mm from its lower and left edge.
      const shift = [10 - box[0]! * scale, 10 - box[1]! * scale];
      const moved = (values: readonly number[]) => values.map((value, k) => value * scale + shift[k % 2]!);
      const near = 0.01 * scale;
      const looks: Record<string, number> = {};
      for (const entry of resolveBoard(master, master.boards[0]!).entries) {
        if (entry.kind !== 'path') throw new Error(`a ${entry.kind} came of lines`);
        const { style, outlines } = entry;
        // That library draws on black, where what has no colour of its own is white.
        const look = `${style.stroke === '#000000' ? '#ffffff' : String(style.stroke)} ${(style.strokeWidth / wider).toFixed(2)}`;
        looks[look] = (looks[look] ?? 0) + weighed(outlines).length / scale;
      }
      const otherLooks = [...new Set([...Object.keys(looks), ...Object.keys(meant)])].filter(
        (look) => Math.abs((looks[look] ?? 0) - (meant[look] ?? 0)) > 0.002 * length,
      );
      expect({
        seed: names[i]![1],
        version,
        notUnderstood: notUnderstood.filter(({ shows }) => shows),
        read:
          worstOf(
            read.box,
            box.map((value) => value * scale),
          ) < near &&
          worstOf(
            read.centre,
            centre.map((value) => value * scale),
          ) < near,
        kept: worstOf(kept.box, moved(box)) < 2 * near && worstOf(kept.centre, moved(centre)) < 2 * near,
        length: [read, kept].every((one) => Math.abs(one.length / (length * scale) - 1) < 0.001),
        otherLooks: otherLooks.map((look) => `${look}: ${looks[look]} instead of ${meant[look]}`),
      }).toEqual({ seed: names[i]![1], version, notUnderstood: [], read: true, kept: true, length: true, otherLooks: [] });
    });
  });
});

judgedBy('xmllint', 'rsvg-convert').describe('an independent reader of SVG', () => {
  it.each(masters)('draws %s', async (name, master) => {
    for (const options of [{}, { text: 'outlines', precision: 5 }]) {
      const made = await deriveFlat(master, recipeOf('svg', options));
      const file = join(folder, `${name.replace(/\W/g, '_')}.svg`);
      writeFileSync(file, made.bytes);
      expect(spawnSync('xmllint', ['--noout', '--nonet', file], { encoding: 'utf8' })).toMatchObject({ status: 0, stderr: '' });
      const run = spawnSync('rsvg-convert', ['--width', '400', '--format', 'png', file]);
      expect([run.status, run.stderr.toString()]).toEqual([0, '']);
      // The header of the picture states its size: that of the sheet, in proportion.
      const [width, height] = [run.stdout.readUInt32BE(16), run.stdout.readUInt32BE(20)];
      const sheet = made.projection.sheet!;
      expect(width).toBe(400);
      expect(Math.abs(height - (400 * sheet.height) / sheet.width)).toBeLessThan(1.5);
    }
  });
});
