import { type Master, type Step, setAttribute, stepOf } from '@inkwell-twin/core';
import { type DraftView, publicPerson } from '@inkwell-twin/api';
import { BRAM, INES, TestServer, until } from './harness';
import { browserOf } from './listening';

// Two servers on one database and one shelf, as when one is started beside the other.
let one: TestServer;
let other: TestServer;
beforeAll(async () => {
  one = await TestServer.open('two_servers');
  other = await TestServer.on(one.database, one.shelf);
});
afterAll(async () => {
  await other.stop();
  await one.close();
});

const newMaster = async (title: string): Promise<string> =>
  (await one.call<{ id: string }>('POST', '/api/masters', { title, purpose: 'panel', owner: '' })).body.id;
/** Steps that give the board one name after the other. */
function naming(from: Master, ...names: string[]): Step[] {
  let after = from;
  return names.map((name) => {
    const { label, patches } = setAttribute(after, 'board-1', 'name', name);
    const done = stepOf(after, label, patches);
    after = done.master;
    return done.step;
  });
}
const stepsAt = async (server: TestServer, id: string) =>
  (await server.call<{ draft: DraftView | null }>('GET', `/api/masters/${id}/draft`)).body.draft?.steps ?? [];

describe('a draft at two servers', () => {
  it.each(['thrown away', 'updated with'])(
    'that was %s at one and begun anew with as many steps is the new one at the other',
    async (how) => {
      const id = await newMaster(`Two ${how}`);
      const first = naming(await one.document(id), 'A', 'B');
      expect((await one.addSteps(id, 1, [], first)).status).toBe(200);
      // The other has it in memory now.
      expect(await stepsAt(other, id)).toEqual(first);
      if (how === 'thrown away') expect((await one.call('DELETE', `/api/masters/${id}/draft`)).status).toBe(200);
      else expect((await one.update(id, 1, first)).status).toBe(200);
      const base = how === 'thrown away' ? 1 : 2;
      const second = naming(await one.document(id), 'C', 'D');
      expect((await one.addSteps(id, base, [], second)).status).toBe(200);
      // One that builds on what is gone is refused, one that builds on what is there is taken.
      expect((await other.addSteps(id, 1, first, naming(await one.document(id), 'late'))).status).toBe(409);
      const third = naming(await one.document(id), 'C', 'D', 'E').slice(2);
      expect((await other.addSteps(id, base, second, third)).status).toBe(200);
      for (const server of [one, other]) expect(await stepsAt(server, id)).toEqual([...second, ...third]);
      expect((await one.update(id, base, [...second, ...third])).status).toBe(200);
      expect((await other.document(id)).boards[0]!.name).toBe('E');
    },
  );
});

describe('windows', () => {
  it('are told who looks on and whose draft moved, whichever server they listen to, and of nobody’s key', async () => {
    const [id, elsewhere] = [await newMaster('Seen by two'), await newMaster('Seen by one')];
    const ines = await browserOf(one, INES, 'stream-ines');
    const bram = await browserOf(other, BRAM, 'stream-bram');
    const apart = await browserOf(one, BRAM, 'stream-apart');
    await Promise.all([ines.at(id, id, ''), bram.at(id), apart.at(elsewhere)]);
    for (const browser of [ines, bram])
      await until(async () => browser.seen(id)?.join() === 'Bram Adler,Ines Okoro,Ines Okoro', 'word of both at both servers');
    await until(async () => apart.seen(elsewhere)?.join() === 'Bram Adler', 'word of the one who is elsewhere');

    const steps = naming(await one.document(id), 'Front');
    await one.addSteps(id, 1, [], steps);
    await until(async () => bram.moves(id).join() === '1', 'word of the step at the other server');
    await one.call('DELETE', `/api/masters/${id}/draft`);
    await until(async () => bram.moves(id).join() === '1,0', 'word of its end');

    // A browser that goes on to another master, and one that is gone.
    await bram.at(elsewhere);
    await until(async () => ines.seen(id)?.join() === 'Ines Okoro,Ines Okoro', 'word that he went elsewhere');
    await until(async () => apart.seen(elsewhere)?.join() === 'Bram Adler,Bram Adler', 'word that he came');
    bram.close();
    await until(async () => apart.seen(elsewhere)?.join() === 'Bram Adler', 'word that he is gone');
    expect((await bram.at(id)).status).toBe(404);

    // What everybody hears opens nothing: a name in public is another than the key.
    const heard = JSON.stringify([...ines.told, ...bram.told, ...apart.told]);
    for (const { id: key } of [INES, BRAM]) {
      expect(heard).not.toContain(key);
      expect(heard).toContain(publicPerson(key));
      const asked = await one.call('DELETE', `/api/masters/${id}/draft`, undefined, { id: publicPerson(key), name: 'Somebody' });
      expect(asked.status).toBe(200);
    }
    for (const browser of [ines, apart]) browser.close();
  });
  it('left no surprise in the logs', () => expect([...one.problems, ...other.problems]).toEqual([]));
});
