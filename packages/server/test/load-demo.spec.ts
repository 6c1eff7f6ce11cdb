import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { sha256 } from '../src/blobs/blobs';
import { DEMO_COUNTS, demoMasters } from '@inkwell-twin/demo';
import { pictureEngine } from '@inkwell-twin/render';
import { TestServer } from './harness';

let server: TestServer;
beforeEach(async () => {
  server = await TestServer.open('load_demo');
});
afterEach(() => server.close());

const files = (): Record<string, string> =>
  Object.fromEntries(
    readdirSync(server.shelf, { recursive: true, withFileTypes: true })
      .filter((one) => one.isFile() && !one.name.startsWith('.'))
      .map(({ parentPath, name }) => join(parentPath, name))
      .map((path) => [path.slice(server.shelf.length + 1), sha256(readFileSync(path))]),
  );
const verdicts = () =>
  server.workshop.database.rows('select file, rev, verdict from copy_now order by file').then((rows) => JSON.stringify(rows));
const loadAgain = async (): Promise<void> => {
  await server.workshop.database.query(
    "update setting set value = 'begun' where name like 'demo%' and name not like 'demo master%'",
  );
  await server.workshop.loadDemo(['tables']);
  await server.idle();
};

describe('loading the demo', () => {
  it('goes on where it was cut short, and leaves nothing twice', async () => {
    // The drawings take longest, and say nothing more here.
    await server.workshop.database.query("insert into setting (name, value) values ('demo', 'loaded')");
    await server.workshop.loadDemo(['tables']);
    await server.idle();
    const [whole, stood] = [files(), await verdicts()];
    expect(Object.keys(whole).filter((path) => /_r\d(_\w+)?_2\.|set_aside/.test(path))).toEqual([]);

    // Cut short after everything of it was done, but before that was on record.
    await server.workshop.database.query("delete from setting where name like 'demo master %'");
    await loadAgain();
    expect([files(), await verdicts()]).toEqual([whole, stood]);

    // Cut short between two copies, and before what befell another.
    const [series] = await demoMasters({ pictures: pictureEngine }, ['tables']);
    const { database } = server.workshop;
    const plain = series!.copies.find(({ mishap }) => !mishap)!;
    await database.query('delete from recipe where label = $1', [plain.label]);
    const edited = series!.copies.find(({ mishap }) => mishap?.kind === 'edit')!;
    const [copy] = await database.rows<{ id: string; folder: string; file: string }>(
      'select id, folder, file from copy_now where label = $1',
      [edited.label],
    );
    const written = await (await fetch(`${server.url}/api/copies/${copy!.id}/file`)).arrayBuffer();
    writeFileSync(join(server.shelf, copy!.folder, copy!.file), Buffer.from(written));
    await database.query('delete from setting where name = $1', [`demo master ${series!.first.id}`]);
    await loadAgain();
    expect([files(), await verdicts()]).toEqual([whole, stood]);
  });
  it('says how far it is', async () => {
    const { workshop } = server;
    await workshop.database.query("insert into setting (name, value) values ('demo', 'loaded')");
    expect(await workshop.demoProgress()).toBeNull();
    const loading = workshop.loadDemo(['tables']);
    const seen = new Set<number>();
    let over = false;
    void loading.finally(() => (over = true));
    while (!over) {
      const { body } = await server.call<{ demo: { done: number; total: number } | null }>('GET', '/api/work');
      if (body.demo) seen.add(body.demo.done);
      if (body.demo) expect(body.demo.total).toBe(Object.values(DEMO_COUNTS).reduce((sum, count) => sum + count));
    }
    expect([...seen]).toContain(0);
    expect(await workshop.demoProgress()).toBeNull();
    expect((await server.call<{ demo: unknown }>('GET', '/api/work')).body.demo).toBeNull();
  });
  it('keeps off a Desk that had masters before', async () => {
    await server.bringIn('a.svg', '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M1 1H8V8Z"/></svg>');
    await server.workshop.loadDemo(['drawings']);
    await server.workshop.loadDemo(['tables']);
    expect((await server.workshop.database.rows('select from master')).length).toBe(1);
  });
});
