import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { Desk, type DraftView } from '@inkwell-twin/api';
import { readPackage } from '@inkwell-twin/core';
import { migrate } from '../src';
import { EMPTY, freshDatabase } from './database';
import { TestServer, until } from './harness';

interface Before {
  readonly title: string;
  readonly head: number;
  readonly draftChanges: number;
  readonly copies: readonly {
    label: string;
    file: string;
    rev: number;
    until: number;
    verdict: string;
    endedBy: string | null;
  }[];
}

describe.each([
  ['before-005', { unclaimed: true }, 'Weathervane'],
  ['before-006', { unclaimed: false }, 'Vane 2'],
  ['before-016', { unclaimed: false }, 'Vane 2'],
])('a data folder as it was written in %s', (name, drawn, board) => {
  const folder = join(__dirname, 'data', name);
  const before = JSON.parse(readFileSync(join(folder, 'desk.json'), 'utf8')) as Before[];
  let server: TestServer;
  beforeAll(async () => {
    const database = await freshDatabase(name.replace('-', '_'), EMPTY);
    const shelf = mkdtempSync(join(tmpdir(), 'inkwell-before-'));
    execFileSync('tar', ['-xzf', join(folder, 'shelf.tar.gz'), '-C', shelf]);
    const restored = spawnSync('psql', ['-q', '-v', 'ON_ERROR_STOP=1', database.owner], {
      input: gunzipSync(readFileSync(join(folder, 'database.sql.gz'))),
      encoding: 'utf8',
    });
    expect(restored.stderr).toBe('');
    await migrate(database.owner);
    server = await TestServer.on(database, shelf);
    await server.idle();
  });
  afterAll(() => server.close());

  const desk = async () => Desk.parse((await server.call('GET', '/api/desk')).body);

  it('opens with every master, revision and copy, each standing as it stood', async () => {
    await until(
      async () => (await desk()).masters.every(({ copies }) => copies.every(({ verdict }) => verdict !== 'not checked')),
      'all checked',
    );
    const { masters, notices } = await desk();
    expect(notices).toEqual([]);
    expect(
      masters.map(({ title, revisions, draftChanges, copies }): Before => ({
        title,
        head: revisions.length,
        draftChanges,
        copies: copies.map(({ label, file, rev, until: last, verdict, endedBy }) => ({
          label,
          file,
          rev,
          until: last,
          verdict,
          endedBy,
        })),
      })),
    ).toEqual(before);
    for (const { picture } of masters) expect((await fetch(server.url + picture!)).status).toBe(200);
  });
  it('gives out each document and each original, and the native files are as they were', async () => {
    for (const { id, folder: name, revisions } of (await desk()).masters) {
      for (const { rev } of revisions) expect((await server.document(id, rev)).boards.length).toBeGreaterThan(0);
      const pkg = readPackage(readFileSync(join(server.shelf, name, `${name}.inkwell`)));
      expect(pkg.rev).toBe(revisions.length);
      for (const sha of pkg.resources.keys())
        expect((await fetch(`${server.url}/api/masters/${id}/originals/${sha}`)).status).toBe(200);
    }
  });
  it('offers the draft to whoever comes first, with its undone step', async () => {
    const { id } = (await desk()).masters.find(({ title }) => title === 'Weathervane')!;
    const { draft } = (await server.call<{ draft: DraftView }>('GET', `/api/masters/${id}/draft`)).body;
    expect(draft).toMatchObject({ ...drawn, base: 1, position: 2, steps: [{}, {}, { label: 'Board now Vane 3' }] });
    expect((await server.update(id, 1, draft.steps.slice(0, 2) as never)).status).toBe(200);
    expect((await server.document(id)).boards[0]!.name).toBe(board);
  });
  it('writes nothing anew that was withdrawn, and gives each master a life of its own', async () => {
    const rows = await server.workshop.database.rows<{ id: string; withdrawn_at: Date | null }>(
      `select recipe.id, withdrawn_at from recipe
        where exists (select from copy where copy.recipe = recipe.id and state = 'withdrawn')
          and not exists (select from copy where copy.recipe = recipe.id and state = 'live')`,
    );
    expect(rows.length).toBeGreaterThan(0);
    for (const { withdrawn_at: at } of rows) expect(at).not.toBeNull();
    const lives = await server.workshop.database.rows<{ life: string }>('select life from master');
    expect(new Set(lives.map(({ life }) => life)).size).toBe(before.length);
  });
  it('left no surprise in the log', () => expect(server.problems).toEqual([]));
});
