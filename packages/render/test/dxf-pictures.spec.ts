import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  type CopyFile,
  type Derived,
  type Master,
  type Services,
  type PictureItem,
  checkCopy,
  codecOf,
  derive,
  heldRows,
  isPicture,
  partName,
  recipeOf,
  unpackDrawing,
} from '@inkwell-twin/core';
import { pictureEngine } from '../src';
import { masterOf, sample, withPicture } from './workshop';
import { judgedBy } from '../../core/test/judged-by';

const PYTHON = '/usr/bin/python3';
const recipe = recipeOf('dxf', { version: '2004', pictures: 'files beside' });
const textOf = (bytes: Uint8Array) => new TextDecoder().decode(bytes);

/** A picture put somewhere, turned, cropped and faint. */
const PLACED: Partial<PictureItem> = {
  x: 3,
  y: 4,
  width: 12,
  height: 9,
  transform: [0.9, 0.3, -0.3, 0.9, 5, 1],
  crop: { left: 0.25, bottom: 0, right: 1, top: 0.5 },
  style: { fill: null, stroke: null, strokeWidth: 0, opacity: 0.6 },
};

let master: Master;
let services: Services;
let made: Derived;
beforeAll(async () => {
  const whole = await masterOf(sample(120, 80));
  services = whole.services;
  master = withPicture(whole.master, PLACED);
  made = await derive({ master, rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipe, services);
});

const check = (files: readonly CopyFile[]) =>
  checkCopy({ files, intact: false, says: made.says, recipe, current: master, baseline: master }, services);
const withFirst = (change: (words: string) => string): CopyFile[] => {
  const [first, ...rest] = made.files as [CopyFile, ...CopyFile[]];
  return [{ part: '', bytes: new TextEncoder().encode(change(textOf(first.bytes))) }, ...rest];
};

/** Lays a copy's files into a folder, as they lie beside each other. */
function inFolder<T>(files: readonly CopyFile[], work: (folder: string) => T): T {
  const folder = mkdtempSync(join(tmpdir(), 'inkwell-dxf-'));
  try {
    for (const { part, bytes } of files) writeFileSync(partName(join(folder, 'a.dxf'), part), bytes);
    return work(folder);
  } finally {
    rmSync(folder, { recursive: true });
  }
}

describe('pictures of a DXF are files beside it', () => {
  it('which it names, and which come back in place, cropped and as faint', async () => {
    expect(made.defects).toEqual([]);
    const [first, picture, ...more] = made.files;
    expect(more).toEqual([]);
    expect(picture!.part).toMatch(/^picture_[0-9a-f]{16}\.png$/);
    expect(textOf(first!.bytes)).toContain(`1\n${picture!.part}\n`);
    expect((await codecOf('dxf')).beside!(first!.bytes)).toEqual([picture!.part]);
    expect((await pictureEngine.facts(picture!.bytes)).width).toBe(120);
    const { leaves } = await (await codecOf('dxf')).read(made.files, {}, services);
    const [entry] = unpackDrawing(leaves[0]!.body as never).entries;
    expect(isPicture(entry!.style.fill)).toBe(true);
    expect(entry!.style.opacity).toBeCloseTo(0.6, 2);
    expect((await check(made.files)).verdict).toBe('in step');
    const line = made.report.lines.find(({ feature }) => feature === 'pictures');
    expect(line).toMatchObject({ outcome: 'kept' });
  });

  it.each([
    ['moved', (words: string) => words.replace(/(100\nAcDbRasterImage\n90\n0\n10\n)[\d.]+/, '$199'), 'touched'],
    ['cropped otherwise', (words: string) => words.replace(/14\n29\.5\n/, '14\n20\n'), 'touched'],
    ['made paler', (words: string) => words.replace('283\n0\n', '283\n40\n'), 'touched'],
    ['switched off', (words: string) => words.replace('70\n15\n', '70\n14\n'), 'touched'],
    ['fainter', (words: string) => words.replace(/440\n\d+\n/, '440\n33554482\n'), 'touched'],
    ['referred to in a folder', (words: string) => words.replace('1\npicture_', '1\nC:\\work\\picture_'), 'in step'],
  ] as const)('%s in the file: %s', async (_what, change, verdict) => {
    const files = withFirst(change);
    expect(textOf(files[0]!.bytes)).not.toBe(textOf(made.files[0]!.bytes));
    expect((await check(files)).verdict).toBe(verdict);
  });

  it('one that shows something else, or is not there, is told', async () => {
    const pixels = sample(120, 80);
    for (let y = 50; y < 60; y++) for (let x = 60; x < 75; x++) pixels.data.fill(20, 4 * (120 * y + x), 4 * (120 * y + x) + 3);
    const how = { format: 'png', depth: 8, alpha: true, profile: 'sRGB', quality: null, ppi: 200 } as const;
    const other = await pictureEngine.encode(heldRows(pixels), how);
    const [first, picture] = made.files as [CopyFile, CopyFile];
    const changed = await check([first, { ...picture, bytes: other }]);
    expect([changed.verdict, changed.differences.map(({ kind }) => kind)]).toEqual(['touched', ['region changed']]);
    const gone = await check([first]);
    expect(gone.verdict).toBe('touched');
    expect(gone.differences.map(({ kind }) => kind)).toEqual(expect.arrayContaining(['missing', 'not understood']));
    const damaged = await check([first, { ...picture, bytes: picture.bytes.subarray(0, 60) }]);
    expect(damaged.verdict).toBe('touched');
  });

  it('no other file than one of ours is ever opened', async () => {
    const words = textOf(made.files[0]!.bytes);
    for (const reference of ['/etc/passwd', '../../secret.png', 'picture_1.png', 'picture_0123456789abcdef.svg'])
      expect(
        (await codecOf('dxf')).beside!(new TextEncoder().encode(words.replace(/1\npicture_[^\n]*/, `1\n${reference}`))),
      ).toEqual([]);
  });

  it('are left out of version R12, and where nobody asks for them', async () => {
    for (const options of [{ version: 'R12', pictures: 'files beside' }, { version: '2004' }]) {
      const { files, report } = await derive(
        { master, rev: 1, time: '2026-11-20T10:00:00.000Z' },
        recipeOf('dxf', options),
        services,
      );
      expect(files).toHaveLength(1);
      expect(report.lines.find(({ feature }) => feature === 'pictures')).toMatchObject({ outcome: 'left out' });
    }
  });

  judgedBy('ezdxf').it('another library finds the file, the frame and nothing to repair', () => {
    const found = inFolder(made.files, (folder) => {
      const script = `
import json, os, ezdxf
doc = ezdxf.readfile("a.dxf")
audit = doc.audit()
image = next(iter(doc.modelspace().query("IMAGE")))
print(json.dumps([len(audit.errors) + len(audit.fixes), os.path.exists(image.image_def.dxf.filename), list(image.dxf.image_size)[:2],
  [[round(p.x, 3), round(p.y, 3)] for p in image.boundary_path_wcs()]]))
`;
      const { stdout, stderr, status } = spawnSync(PYTHON, ['-c', script], { cwd: folder, encoding: 'utf8' });
      if (status !== 0) throw new Error(stderr);
      return JSON.parse(stdout) as [number, boolean, number[], number[][]];
    });
    const frame = [
      [3, 4],
      [15, 4],
      [15, 13],
      [3, 13],
    ].map(([x, y]) => [0.9 * x! - 0.3 * y! + 5, 0.3 * x! + 0.9 * y! + 1]);
    const [repairs, exists, size, corners] = found;
    expect([repairs, exists, size]).toEqual([0, true, [120, 80]]);
    for (const corner of frame)
      expect(Math.min(...corners.map((one) => Math.hypot(one[0]! - corner[0]!, one[1]! - corner[1]!)))).toBeLessThan(0.01);
  });

  judgedBy('ezdxf').it('a file that another library saved again stays in step', async () => {
    const bytes = inFolder(made.files, (folder) => {
      const { stderr, status } = spawnSync(PYTHON, ['-c', 'import ezdxf\nezdxf.readfile("a.dxf").saveas("b.dxf")'], {
        cwd: folder,
        encoding: 'utf8',
      });
      if (status !== 0) throw new Error(stderr);
      return readFileSync(join(folder, 'b.dxf'));
    });
    expect((await check([{ part: '', bytes }, made.files[1]!])).verdict).toBe('in step');
  });
});
