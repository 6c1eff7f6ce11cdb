import { type Master, type Step, setAttribute, stepOf } from '@inkwell-twin/core';
import { atDepth } from '../../core/test/depth';
import { Database } from '../src';
import { BRAM, TestServer } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('many_steps', 2);
});
afterAll(() => server.close());

const newMaster = async (title: string): Promise<string> =>
  (await server.call<{ id: string }>('POST', '/api/masters', { title, purpose: 'panel', owner: '' })).body.id;

/** Steps of which each puts an outline of so many points onto the board. */
function drawing(from: Master, count: number, points: number): Step[] {
  let after = from;
  return Array.from({ length: count }, (_, i) => {
    const node = {
      kind: 'polyline',
      id: `line-${i}`,
      layer: from.layers[0]!.id,
      style: { fill: null, stroke: '#14213a', strokeWidth: 0.3 },
      closed: false,
      points: Array.from({ length: points }, (__, k) => [k * 0.123456789, (i + k) % 97]),
    };
    const done = stepOf(after, `Line ${i}`, [{ op: 'insert', parent: 'board-1', list: 'items', after: null, node }]);
    after = done.master;
    return done.step;
  });
}
const naming = (now: Master, name: string): Step => {
  const { label, patches } = setAttribute(now, 'board-1', 'name', name);
  return stepOf(now, label, patches).step;
};

it('many large steps of one person are kept, and the small ones of others meanwhile, whoever’s turn it is', async () => {
  const large = await newMaster('Large');
  const others = await Promise.all(Array.from({ length: 12 }, (_, i) => newMaster(`Other ${i}`)));
  // As many as a request may hold: some 20 MB of them in the long tests.
  const starts = await Promise.all(others.map((id) => server.document(id)));
  // Nobody waits for the database while drawing holds up this thread.
  await server.idle();
  // Known before drawing holds up whoever asks the database.
  for (const id of [large, ...others]) await server.hashes(id, 1, []);
  const steps = drawing(await server.document(large), atDepth(100, 500), 1500);
  // Drawing that many holds up the server, too, which closes what was silent meanwhile.
  await new Promise((later) => setTimeout(later, 200));
  // The large ones can't be done before somebody lets go of their master.
  // On a busy machine that takes longer than anybody else may hold anything.
  const owner = new Database(server.database.owner, 1, { idle_in_transaction_session_timeout: 0 });
  let letGo!: () => void;
  const free = new Promise<void>((done) => (letGo = done));
  let isHeld!: () => void;
  const held = new Promise<void>((done) => (isHeld = done));
  const holding = owner.transaction(async (client) => {
    await client.query('select from master where id = $1 for update', [large]);
    isHeld();
    await free;
  });
  await held;
  const adding = server.addSteps(large, 1, [], steps);
  const keeping = others.map((id, i) => server.addSteps(id, 1, [], [naming(starts[i]!, 'Meanwhile')], BRAM));
  // Those that another hand does come through meanwhile, the others after it.
  expect((await Promise.race(keeping)).status).toBe(200);
  letGo();
  await holding;
  expect((await Promise.all(keeping)).map(({ status }) => status)).toEqual(others.map(() => 200));
  await owner.close();
  expect(await adding).toMatchObject({ status: 200, body: { position: steps.length } });
  expect((await server.update(large, 1, steps)).status).toBe(200);
  expect((await server.document(large)).boards[0]!.items).toHaveLength(steps.length);
  expect(server.problems).toEqual([]);
});

it('a draft that is full says so, and stays as it was', async () => {
  const id = await newMaster('Full');
  const start = await server.document(id);
  const body = {
    base: 1,
    replaces: (await server.hashes(id, 1, []))[0],
    steps: Array.from({ length: 20_001 }, () => naming(start, 'x')),
  };
  expect((await server.call('PUT', `/api/masters/${id}/draft`, body)).status).toBe(400);
  const most = Array.from({ length: 501 }, () => naming(start, 'x'));
  const refused = await server.addSteps<{ error: { message: string } }>(id, 1, [], most);
  expect([refused.status, refused.body.error.message]).toEqual([400, expect.stringContaining('steps')]);
  expect((await server.call('GET', `/api/masters/${id}/draft`)).body).toEqual({ draft: null });
});
