import { type ChildProcessByStdio, spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { type Interface, createInterface } from 'node:readline';
import type { Readable, Writable } from 'node:stream';
import { build } from 'esbuild';
import { type Master, nodeHash, readPackage, revisionsOf, setAttribute, stepOf } from '@inkwell-twin/core';
import { forNode } from '../../../scripts/lib/inside.mjs';
import { Database } from '../src/database/database';
import { Drafts } from '../src/masters/drafts';
import { NativeFiles } from '../src/masters/native-files';
import { MasterStore } from '../src/masters/store';
import { Shelf } from '../src/shelf/shelf';
import { atDepth } from '../../core/test/depth';
import { BRAM, INES, TestServer } from './harness';

const KILLS = atDepth(20, 200);
let server: TestServer;
let folder: string;
beforeAll(async () => {
  server = await TestServer.open('killed');
  // Below the project, so that packages are found.
  const below = join(__dirname, '../../../.tmp');
  mkdirSync(below, { recursive: true });
  folder = mkdtempSync(join(below, 'updating-'));
  await build({
    ...forNode,
    entryPoints: [join(__dirname, 'updating.ts')],
    outfile: join(folder, 'updating.mjs'),
    logLevel: 'error',
    plugins: [
      {
        name: 'all that is needed of it here; the rest takes a second to load',
        setup: (at) =>
          at.onResolve({ filter: /^@inkwell-twin\/render$/ }, () => ({
            path: join(__dirname, '../../render/src/write-whole.ts'),
          })),
      },
      ...forNode.plugins!,
    ],
  });
});
afterAll(async () => {
  await server.close();
  rmSync(folder, { recursive: true, force: true });
});

/** Moments all over an update, in no order, each once: a share of the time that a whole one takes. */
const momentOf = (kill: number): number => ((kill * 7919) % KILLS) / KILLS;

/** A process that waits to be told to update. */
class Updating {
  private readonly child: ChildProcessByStdio<Writable, Readable, null>;
  private readonly lines: Interface;

  constructor() {
    this.child = spawn(process.execPath, [join(folder, 'updating.mjs'), server.database.app, server.shelf], {
      stdio: ['pipe', 'pipe', 'inherit'],
    });
    this.lines = createInterface({ input: this.child.stdout });
  }
  heard = (word: string) =>
    new Promise<void>((done) => {
      const hear = (line: string) => {
        if (line !== word) return;
        this.lines.off('line', hear);
        done();
      };
      this.lines.on('line', hear);
      this.child.once('exit', () => done());
    });
  announce(words: object): void {
    this.child.stdin.on('error', () => undefined);
    this.child.stdin.write(`${JSON.stringify(words)}\n`);
  }
  async kill(): Promise<void> {
    const gone = new Promise((done) => this.child.once('exit', done));
    this.child.kill('SIGKILL');
    await gone;
  }
}

describe('an update that is killed', () => {
  it(`${KILLS} times at any moment: the master opens at the old or the new revision, whole, and so does its file`, async () => {
    const { id } = (
      await server.call<{ id: string }>('POST', '/api/masters', { title: 'Killed often', purpose: 'panel', owner: '' })
    ).body;
    await server.idle();
    const database = new Database(server.database.app, 2);
    // Nothing is remembered between two looks: what counts is what is on disk.
    const look = async () => {
      const masters = new MasterStore(database);
      return { masters, drafts: new Drafts(database, masters), head: (await masters.load(id)).head };
    };
    const came = { old: 0, new: 0, 'with its file': 0 };
    let known = await look();
    let waiting = new Updating();
    let ready = waiting.heard('ready');
    // How long a whole one takes here, to kill at moments all over it.
    let whole = 60;
    for (let i = 0; i < KILLS; i++) {
      const { head, drafts } = known;
      const board = head.master.boards[0]!;
      const { master: after, step } = stepOf(
        head.master,
        `Named ${i}`,
        setAttribute(head.master, board.id, 'name', `Front ${i}`).patches,
      );
      const hashes = await server.hashes(id, head.rev, [step]);
      await drafts.add(id, INES, { base: head.rev, position: 0, hash: hashes[0]!, steps: [step] });
      const [updating, isReady] = [waiting, ready];
      waiting = new Updating();
      ready = waiting.heard('ready');
      await isReady;
      const begun = updating.heard('begun');
      const done = updating.heard('done');
      updating.announce({ id, person: INES, base: head.rev, position: 1, hash: hashes[1], message: `${i}` });
      await begun;
      const start = performance.now();
      if (i < 3) {
        await done;
        whole = performance.now() - start;
      } else await new Promise((later) => setTimeout(later, momentOf(i) * whole * 1.1));
      await updating.kill();
      // What a killed connection still held is let go of by the database before anyone else goes on.
      await database.transaction((client) => client.query('select from master where id = $1 for update', [id]));
      known = await look();
      const isNew = known.head.rev === head.rev + 1;
      came[isNew ? 'new' : 'old']++;
      expect([head.rev, head.rev + 1]).toContain(known.head.rev);
      expect(nodeHash(known.head.master)).toBe(nodeHash(isNew ? after : head.master));
      // What was not updated is a draft still, complete.
      const left = await known.drafts.find(id, INES.id);
      expect(left?.position ?? 0).toBe(isNew ? 0 : 1);
      if (!isNew) await known.drafts.discard(id, INES.id);
      const files = readdirSync(join(server.shelf, 'killed_often')).filter((name) => !name.startsWith('.'));
      expect(files).toEqual(['killed_often.inkwell']);
      const { master, rev, history } = readPackage(readFileSync(join(server.shelf, 'killed_often', files[0]!)));
      expect(rev).toBeLessThanOrEqual(known.head.rev);
      if (rev === head.rev + 1) came['with its file']++;
      expect(nodeHash([...revisionsOf(history!)].at(-1)!.master)).toBe(nodeHash(master));
    }
    console.log(`killed ${KILLS} times: ${JSON.stringify(came)}; a whole update with its file takes ${whole.toFixed(0)} ms`);
    expect(Math.min(came.old, came.new, came['with its file'])).toBeGreaterThan(0);
    await waiting.kill();
    // After all that it goes on as if nothing had been: somebody updates, and the file follows.
    const last: Master = known.head.master;
    const { step } = stepOf(last, 'After all', setAttribute(last, last.boards[0]!.id, 'name', 'After all').patches);
    await server.addSteps(id, known.head.rev, [], [step], BRAM);
    expect((await server.update(id, known.head.rev, [step], '', BRAM)).status).toBe(200);
    await server.idle();
    await new NativeFiles(database, (await look()).masters, new Shelf(server.shelf)).write(id);
    const { master } = readPackage(readFileSync(join(server.shelf, 'killed_often/killed_often.inkwell')));
    expect(master.boards[0]!.name).toBe('After all');
    // Halves of files that were not whole yet go at the next start.
    new Shelf(server.shelf).clearTemporaries();
    expect(readdirSync(join(server.shelf, 'killed_often'))).toEqual(['killed_often.inkwell']);
    await database.close();
  });
});
