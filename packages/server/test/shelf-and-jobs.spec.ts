import { existsSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { EventView } from '@inkwell-twin/api';
import { writeWhole } from '@inkwell-twin/render';
import { sha256 } from '../src/blobs/blobs';
import { Events } from '../src/jobs/events';
import { Jobs } from '../src/jobs/jobs';
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

describe('the shelf', () => {
  it('writes whole files into folders that it makes, and leaves nothing beside them', () => {
    shelf.write('gate', 'plan.svg', bytes('one'));
    shelf.write('gate', 'plan.svg', bytes('two'));
    expect(readFileSync(join(root, 'gate/plan.svg'), 'utf8')).toBe('two');
    expect(readdirSync(join(root, 'gate'))).toEqual(['plan.svg']);
  });
  it('leaves the old file as it was when the new one can’t be written', () => {
    shelf.write('gate', 'plan.svg', bytes('old'));
    mkdirSync(join(root, 'gate/taken'));
    // A folder stands where the file should go: the rename fails after everything was written.
    expect(() => writeWhole(join(root, 'gate/taken'), bytes('new'))).toThrow();
    expect(readdirSync(join(root, 'gate')).sort()).toEqual(['plan.svg', 'taken']);
  });
  it('takes a file away only when it is the one that was written', () => {
    shelf.write('gate', 'plan.svg', bytes('ours'));
    expect(shelf.clear('gate', 'plan.svg', sha256(bytes('ours')))).toBeNull();
    expect(shelf.files('gate')).toEqual([]);
    shelf.write('gate', 'plan.svg', bytes('theirs'));
    expect(shelf.clear('gate', 'plan.svg', sha256(bytes('ours')))).toBe('plan_set_aside.svg');
    shelf.write('gate', 'plan.svg', bytes('theirs again'));
    expect(shelf.clear('gate', 'plan.svg', sha256(bytes('ours')))).toBe('plan_set_aside_2.svg');
    expect(readFileSync(join(root, 'gate/plan_set_aside.svg'), 'utf8')).toBe('theirs');
    expect(shelf.clear('gate', 'nothing.svg', '')).toBeNull();
  });
  it('reads files, and nothing for what is not one', () => {
    shelf.write('gate', 'plan.svg', bytes('here'));
    mkdirSync(join(root, 'gate/folder.svg'));
    expect(shelf.read('gate', 'plan.svg')!.toString()).toBe('here');
    expect(shelf.read('gate', 'other.svg')).toBeNull();
    expect(shelf.read('gate', 'folder.svg')).toBeNull();
  });
  it('finds folder and file of a path of its own, and no others', () => {
    expect(shelf.locate(join(root, 'gate/plan.svg'))).toEqual({ folder: 'gate', file: 'plan.svg' });
    for (const path of [join(root, 'plan.svg'), join(root, 'a/b/c'), join(root, '../other/plan.svg')])
      expect(shelf.locate(path)).toBeUndefined();
  });
  it('gives a folder that is free on disk and on record, case aside', () => {
    mkdirSync(join(root, 'Gate'));
    expect(shelf.freeFolder('gate', ['gate_2'])).toBe('gate_3');
  });
  it('clears part files away at the start, however deep', () => {
    mkdirSync(join(root, 'gate'));
    writeFileSync(join(root, 'gate/.inkwell-plan.svg-1.part'), 'half');
    writeFileSync(join(root, 'gate/.inkwell-notes.txt'), 'someone’s');
    expect(new Shelf(root).files('gate')).toEqual(['.inkwell-notes.txt']);
  });
});

describe('the watcher', () => {
  it('tells of files that come, change and go, once each, and not of part files', async () => {
    mkdirSync(join(root, 'gate'));
    const told: string[] = [];
    const watcher = new ShelfWatcher(shelf, (folder, file) => told.push(`${folder}/${file}`));
    await watcher.ready();
    writeFileSync(join(root, 'gate/.inkwell-x-1.part'), 'half');
    for (const words of ['a', 'ab', 'abc']) writeFileSync(join(root, 'gate/plan.svg'), words);
    await until(async () => told.length === 1, 'word of the new file');
    rmSync(join(root, 'gate/plan.svg'));
    await until(async () => told.length === 2, 'word of the lost file');
    await watcher.close();
    expect(told).toEqual(['gate/plan.svg', 'gate/plan.svg']);
    expect(existsSync(join(root, 'gate/.inkwell-x-1.part'))).toBe(true);
  });
});

describe('jobs', () => {
  const setUp = () => {
    const events = new Events();
    const told: EventView[] = [];
    events.listen((event) => told.push(event));
    const failed: string[] = [];
    return { jobs: new Jobs(events, (label) => failed.push(label)), told, failed };
  };
  const wait = (ms: number) => new Promise<void>((done) => setTimeout(done, ms));

  it('run one after the other, with progress before each part and a last word', async () => {
    const { jobs, told } = setUp();
    const order: string[] = [];
    const part = (label: string) => ({ label, run: async () => (await wait(5), void order.push(label)) });
    jobs.start('m', 'First', [part('a'), part('b')]);
    jobs.start('m', 'Second', [part('c')]);
    await jobs.idle();
    expect(order).toEqual(['a', 'b', 'c']);
    const words = told.map((event) =>
      event.kind === 'job' ? `${event.label} ${event.done}/${event.total} ${event.state}` : event.kind,
    );
    expect(words).toEqual([
      'First 0/2 running',
      'First 1/2 running',
      'First 2/2 done',
      'copies',
      'Second 0/1 running',
      'Second 1/1 done',
      'copies',
    ]);
  });
  it('that have nothing to do are done at once', async () => {
    const { jobs, told } = setUp();
    jobs.start('m', 'Nothing', []);
    await jobs.idle();
    expect(told[0]).toMatchObject({ state: 'done', done: 0, total: 0 });
  });
  it('can be started again after all was quiet', async () => {
    const { jobs, told } = setUp();
    for (const label of ['One', 'Two']) {
      jobs.start('m', label, [{ label, run: async () => undefined }]);
      await jobs.idle();
    }
    expect(told.filter((event) => event.kind === 'job' && event.state === 'done')).toHaveLength(2);
  });
  it('report what fails and go on', async () => {
    const { jobs, told, failed } = setUp();
    jobs.start('m', 'Mixed', [
      { label: 'bad', run: () => Promise.reject(new Error('no room on the disk')) },
      { label: 'good', run: async () => undefined },
    ]);
    await jobs.idle();
    expect(failed).toEqual(['bad']);
    expect(told.at(-2)).toMatchObject({ state: 'failed', done: 2, message: 'bad: no room on the disk' });
  });
  it('stop at the end of the part they are at when the server closes', async () => {
    const { jobs, told } = setUp();
    const done: string[] = [];
    jobs.start(
      'm',
      'Long',
      ['a', 'b', 'c'].map((label) => ({ label, run: async () => (await wait(30), void done.push(label)) })),
    );
    await wait(10);
    await jobs.close();
    expect(done).toEqual(['a']);
    expect(told.some((event) => event.kind === 'job' && event.state === 'cancelled')).toBe(true);
  });
  it('that are over can’t be cancelled', async () => {
    const { jobs } = setUp();
    const id = jobs.start('m', 'Short', []);
    await jobs.idle();
    expect(() => jobs.cancel(id)).toThrow('no such job');
  });
});
