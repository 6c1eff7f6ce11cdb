import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { MasterView } from '@inkwell-twin/api';
import { TestServer, until } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('withdrawn');
});
afterAll(() => server.close());

const drawing = readFileSync(join(__dirname, '../../core/test/fixtures/weathervane.svg'));
const view = async (id: string) => MasterView.parse((await server.call('GET', `/api/masters/${id}`)).body);
const derive = (id: string, label: string) => server.call('POST', `/api/masters/${id}/copies`, { target: 'svg', label });
const restart = async (works: boolean) => {
  await server.stop();
  await server.start({ works });
};
/** A master with one copy, and nobody there to do jobs. */
async function oneCopy(title: string) {
  const { id } = (await server.bringIn(`${title}.svg`, drawing)).body;
  await derive(id, 'plan');
  await server.idle();
  const [copy] = (await view(id)).copies;
  await restart(false);
  return { id, copy: copy!.id };
}

describe('a copy that is withdrawn', () => {
  it('stays withdrawn, though it was asked for again before', async () => {
    const { id, copy } = await oneCopy('waiting');
    expect((await server.call('POST', `/api/copies/${copy}/derive`)).status).toBe(200);
    expect((await server.call('POST', `/api/copies/${copy}/withdraw`)).status).toBe(200);
    const folder = join(server.shelf, (await view(id)).folder);
    const files = readdirSync(folder);
    await restart(true);
    await server.idle();
    expect((await view(id)).copies).toEqual([]);
    expect(readdirSync(folder)).toEqual(files);
    expect((await server.call('POST', `/api/copies/${copy}/withdraw`)).status).toBe(404);
  });

  it('stays withdrawn, though a worker that was killed over it had begun to derive it', async () => {
    const { id, copy } = await oneCopy('begun');
    await server.call('POST', `/api/copies/${copy}/derive`);
    await server.workshop.database.query(
      "update pgboss.job set state = 'active', started_on = now() where state = 'created' and data->>'kind' = 'derive'",
    );
    await server.workshop.database.query(
      "insert into job_holder (job, queue, worker) select id, name, 999998 from pgboss.job where state = 'active' on conflict (job) do update set worker = 999998",
    );
    expect((await server.call('POST', `/api/copies/${copy}/withdraw`)).status).toBe(200);
    await restart(true);
    await until(async () => {
      const [row] = await server.workshop.database.rows<{ left: number }>('select count(*)::integer as left from job_holder');
      return row!.left === 0;
    }, 'the lost job seen to');
    await server.idle();
    expect((await view(id)).copies).toEqual([]);
  });

  it('is not laid down by one who was computing it, and is told of to nobody as a failure', async () => {
    const { id, copy } = await oneCopy('computing');
    const { recipe } = (await view(id)).copies[0]!;
    expect((await server.call('POST', `/api/copies/${copy}/withdraw`)).status).toBe(200);
    // As by a process that has read the recipe before: it asks once more before anything is written.
    await expect(server.workshop.compute.run('derive', { master: id, recipe }, { queueKey: id })).rejects.toMatchObject({
      code: 'withdrawn',
    });
    await restart(true);
    await server.workshop.jobs.derive(id, recipe, 'plan');
    await server.idle();
    const { copies, notices } = await view(id);
    expect([copies, notices]).toEqual([[], []]);
  });

  it('is withdrawn by who looks at one that was derived again meanwhile', async () => {
    const { id, copy } = await oneCopy('superseded');
    await server.call('POST', `/api/copies/${copy}/derive`);
    await restart(true);
    await server.idle();
    expect((await view(id)).copies[0]!.id).not.toBe(copy);
    expect((await server.call('POST', `/api/copies/${copy}/withdraw`)).status).toBe(200);
    expect((await view(id)).copies).toEqual([]);
  });
  it('is derived again and checked by who looks at one that was derived again meanwhile, until it is withdrawn', async () => {
    const { id, copy } = await oneCopy('asked again');
    await server.call('POST', `/api/copies/${copy}/derive`);
    await restart(true);
    await server.idle();
    const second = (await view(id)).copies[0]!.id;
    expect((await server.call('POST', `/api/copies/${copy}/check`)).status).toBe(200);
    expect((await server.call('POST', `/api/copies/${copy}/derive`)).status).toBe(200);
    await server.idle();
    const [third] = (await view(id)).copies;
    expect(third!.id).not.toBe(second);
    // What somebody says of one file is said of that file alone.
    expect((await server.call('POST', `/api/copies/${copy}/accept`, { by: 'Ines', reason: 'as it was' })).status).toBe(404);
    await server.call('POST', `/api/copies/${third!.id}/withdraw`);
    for (const what of ['derive', 'check']) expect((await server.call('POST', `/api/copies/${copy}/${what}`)).status).toBe(404);
  });
  it('left no surprise in the log', () => expect(server.problems).toEqual([]));
});
