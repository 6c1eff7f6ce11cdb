import { execFileSync } from 'node:child_process';
import { syncBuiltinESMExports } from 'node:module';
import fs, { existsSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { writeWhole } from '@inkwell-twin/render';
import { sha256 } from '../src/blobs/blobs';
import { Shelf } from '../src/shelf/shelf';
import { ShelfWatcher } from '../src/shelf/watcher';
import { until } from './harness';

let root: string;
let shelf: Shelf;
beforeEach(() => {
  root = mkdtempSync(join(tmpdir(), 'inkwell-shelf-'));
  shelf = new Shelf(root);
});
afterEach(() => rmSync(root, { recursive: true, force: true }));
const bytes = (words: string) => Buffer.from(words);
/** Puts a file of ours in a place where only files of ours stand. */
const put = (words: string) => shelf.put('gate', 'plan.svg', bytes(words), () => true);

describe('the shelf', () => {
  it('writes whole files into folders that it makes, and leaves nothing beside them', () => {
    put('one');
    put('two');
    expect(readFileSync(join(root, 'gate/plan.svg'), 'utf8')).toBe('two');
    expect(readdirSync(join(root, 'gate'))).toEqual(['plan.svg']);
  });
  it('leaves the old file as it was when the new one can’t be written', () => {
    put('old');
    mkdirSync(join(root, 'gate/taken'));
    // A folder stands where the file should go: the rename fails after everything was written.
    expect(() => writeWhole(join(root, 'gate/taken'), bytes('new'))).toThrow();
    expect(readdirSync(join(root, 'gate')).sort()).toEqual(['plan.svg', 'taken']);
  });
  it('takes a file away only when it is the one that was written', () => {
    put('ours');
    expect(shelf.clear('gate', 'plan.svg', sha256(bytes('ours')))).toBeNull();
    expect(shelf.files('gate')).toEqual([]);
    put('theirs');
    expect(shelf.clear('gate', 'plan.svg', sha256(bytes('ours')))).toBe('plan_set_aside.svg');
    put('theirs again');
    expect(shelf.clear('gate', 'plan.svg', sha256(bytes('ours')))).toBe('plan_set_aside_2.svg');
    expect(readFileSync(join(root, 'gate/plan_set_aside.svg'), 'utf8')).toBe('theirs');
    expect(shelf.clear('gate', 'nothing.svg', '')).toBeNull();
  });
  it('reads files, and nothing for what is not one', () => {
    put('here');
    mkdirSync(join(root, 'gate/folder.svg'));
    expect(shelf.read('gate', 'plan.svg')!.toString()).toBe('here');
    expect(shelf.read('gate', 'other.svg')).toBeNull();
    expect(shelf.read('gate', 'folder.svg')).toBeNull();
  });
  it('keeps the old file in its place until the new one is whole, and someone’s file under another name', () => {
    put('r1');
    const full = jest.spyOn(fs, 'fsyncSync').mockImplementationOnce(() => {
      throw Object.assign(new Error('ENOSPC: no space left on device, fsync'), { code: 'ENOSPC' });
    });
    syncBuiltinESMExports();
    expect(() => shelf.put('gate', 'plan.svg', bytes('r2'), () => false)).toThrow('ENOSPC');
    full.mockRestore();
    syncBuiltinESMExports();
    // Neither was anything set aside, nor is a part of the new one left.
    expect(readdirSync(join(root, 'gate'))).toEqual(['plan.svg']);
    expect(readFileSync(join(root, 'gate/plan.svg'), 'utf8')).toBe('r1');
    expect(shelf.put('gate', 'plan.svg', bytes('r2'), () => false)).toBe('plan_set_aside.svg');
    expect(readdirSync(join(root, 'gate')).map((name) => readFileSync(join(root, 'gate', name), 'utf8'))).toEqual(['r2', 'r1']);
  });
  it('is not led elsewhere by links, in the place of a file or of a folder', () => {
    const elsewhere = mkdtempSync(join(tmpdir(), 'inkwell-elsewhere-'));
    writeFileSync(join(elsewhere, 'plan.svg'), 'secret');
    put('ours');
    symlinkSync(join(elsewhere, 'plan.svg'), join(root, 'gate/link.svg'));
    expect(shelf.look('gate', 'link.svg')).toEqual({ kind: 'other', words: expect.stringContaining('a link') });
    // What is written in its place replaces the link, not what it leads to.
    shelf.put('gate', 'link.svg', bytes('new'), () => true);
    expect(readFileSync(join(elsewhere, 'plan.svg'), 'utf8')).toBe('secret');
    symlinkSync(elsewhere, join(root, 'fence'));
    const inFence: (() => unknown)[] = [
      () => shelf.look('fence', 'plan.svg'),
      () => shelf.files('fence'),
      () => shelf.put('fence', 'new.svg', bytes('new'), () => true),
      () => shelf.clear('fence', 'plan.svg', sha256(bytes('secret'))),
    ];
    for (const act of inFence) expect(act).toThrow(expect.objectContaining({ code: 'link-refused' }));
    expect(readdirSync(elsewhere)).toEqual(['plan.svg']);
    rmSync(elsewhere, { recursive: true });
  });
  it('says in words what stands in the place of a file, and never waits for it', () => {
    put('ours');
    mkdirSync(join(root, 'gate/folder.svg'));
    execFileSync('mkfifo', [join(root, 'gate/pipe.svg')]);
    expect(shelf.look('gate', 'folder.svg')).toEqual({ kind: 'other', words: 'a folder stands in its place' });
    expect(shelf.look('gate', 'pipe.svg')).toEqual({ kind: 'other', words: 'a pipe stands in its place' });
    expect(shelf.put('gate', 'pipe.svg', bytes('new'), () => true)).toBe('pipe_set_aside.svg');
    expect(readFileSync(join(root, 'gate/pipe.svg'), 'utf8')).toBe('new');
  });
  it('tells a file that was changed from one that was not, without reading it', () => {
    put('one');
    const before = shelf.stamp('gate', 'plan.svg');
    expect(shelf.stamp('gate', 'plan.svg')).toBe(before);
    put('two');
    expect(shelf.stamp('gate', 'plan.svg')).not.toBe(before);
    expect(shelf.stamp('gate', 'none.svg')).toBe('');
  });
  it('finds folder and file of a path of its own, and no others', () => {
    expect(shelf.locate(join(root, 'gate/plan.svg'))).toEqual({ folder: 'gate', file: 'plan.svg' });
    expect(shelf.locate(join(root, 'a/b/c'))).toEqual({ folder: 'a/b', file: 'c' });
    for (const path of [join(root, 'plan.svg'), join(root, '../other/plan.svg')]) expect(shelf.locate(path)).toBeUndefined();
  });
  it('gives a folder that is free on disk and on record, case aside', () => {
    mkdirSync(join(root, 'Gate'));
    expect(shelf.freeFolder('gate', ['gate_2'])).toBe('gate_3');
  });
  it('clears part files away at the start, however deep', () => {
    mkdirSync(join(root, 'gate'));
    writeFileSync(join(root, 'gate/.inkwell-plan.svg-1.part'), 'half');
    writeFileSync(join(root, 'gate/.inkwell-notes.txt'), 'someone’s');
    new Shelf(root).clearTemporaries();
    expect(shelf.files('gate')).toEqual(['.inkwell-notes.txt']);
  });
});

describe('the watcher', () => {
  const told: string[] = [];
  let watcher: ShelfWatcher;
  const begin = () => {
    told.length = 0;
    watcher = new ShelfWatcher(shelf, (folder, file) => told.push(`${folder}/${file}`));
  };
  afterEach(() => watcher.close());

  it('tells of files that come, change and go, once each, and not of part files', async () => {
    mkdirSync(join(root, 'gate'));
    begin();
    writeFileSync(join(root, 'gate/.inkwell-x-1.part'), 'half');
    for (const words of ['a', 'ab', 'abc']) writeFileSync(join(root, 'gate/plan.svg'), words);
    await until(async () => told.length === 1, 'word of the new file');
    rmSync(join(root, 'gate/plan.svg'));
    await until(async () => told.length === 2, 'word of the lost file');
    expect(told).toEqual(['gate/plan.svg', 'gate/plan.svg']);
    expect(existsSync(join(root, 'gate/.inkwell-x-1.part'))).toBe(true);
  });
  it('tells of what stands in the place of a file, of folders that come with their files, and follows no link', async () => {
    mkdirSync(join(root, 'gate'));
    const elsewhere = mkdtempSync(join(tmpdir(), 'inkwell-elsewhere-'));
    begin();
    mkdirSync(join(root, 'gate/plan.svg'));
    await until(async () => told.includes('gate/plan.svg'), 'word of the folder in its place');
    const ready = mkdtempSync(join(tmpdir(), 'inkwell-ready-'));
    writeFileSync(join(ready, 'a.svg'), 'a');
    fs.cpSync(ready, join(root, 'fence'), { recursive: true });
    await until(async () => told.includes('fence/a.svg'), 'word of the new folder');
    writeFileSync(join(root, 'fence/b.svg'), 'b');
    await until(async () => told.includes('fence/b.svg'), 'word of a file in it');
    symlinkSync(elsewhere, join(root, 'link'));
    rmSync(join(root, 'fence'), { recursive: true });
    await new Promise((done) => setTimeout(done, 400));
    told.length = 0;
    writeFileSync(join(elsewhere, 'c.svg'), 'c');
    mkdirSync(join(root, 'fence'));
    writeFileSync(join(root, 'fence/d.svg'), 'd');
    await until(async () => told.includes('fence/d.svg'), 'word from a folder that was there before');
    expect(told.filter((one) => one.startsWith('link'))).toEqual([]);
    for (const folder of [ready, elsewhere]) rmSync(folder, { recursive: true });
  });
});
