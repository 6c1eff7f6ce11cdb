import { type Master, type Step, applyPatches, nodeHash, rebaseSteps, setAttribute, stepOf } from '@inkwell-twin/core';
import type { DraftView } from '@inkwell-twin/api';
import { cpuTime } from '../../core/test/cpu-time';
import { BRAM, INES, TestServer, type Who } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('together', 2);
});
afterAll(() => server.close());

const newMaster = async (title: string): Promise<string> =>
  (await server.call<{ id: string }>('POST', '/api/masters', { title, purpose: 'panel', owner: '' })).body.id;
const draftOf = async (id: string, who: Who) =>
  (await server.call<{ draft: DraftView | null }>('GET', `/api/masters/${id}/draft`, undefined, who)).body.draft;
/** Steps that give the board one name after the other. */
function naming(from: Master, ...names: string[]): { steps: Step[]; after: Master } {
  let after = from;
  const steps = names.map((name) => {
    const { label, patches } = setAttribute(after, 'board-1', 'name', name);
    const done = stepOf(after, label, patches);
    after = done.master;
    return done.step;
  });
  return { steps, after };
}

describe('many at once', () => {
  it('a hundred writers on twenty masters all get their steps kept, and the server answers throughout', async () => {
    const masters = await Promise.all(Array.from({ length: 20 }, (_, i) => newMaster(`Panel ${i}`)));
    const start = await server.document(masters[0]!);
    let answered = 0;
    let over = false;
    const watching = (async () => {
      while (!over) {
        const answer = await fetch(`${server.url}/api/health`);
        expect(answer.status).toBe(200);
        answered++;
        await new Promise((done) => setTimeout(done, 10));
      }
    })();
    const written = await Promise.all(
      Array.from({ length: 100 }, async (_, i) => {
        const id = masters[i % 20]!;
        const who = { id: `writer-${i}-of-many`, name: `Writer ${i}` };
        const { steps } = naming(start, 'A', 'B', 'C', 'D', 'E');
        for (let at = 0; at < steps.length; at++) {
          const { status } = await server.addSteps(id, 1, steps.slice(0, at), [steps[at]!], who);
          if (status !== 200) return status;
        }
        return (await draftOf(id, who))!.position;
      }),
    );
    over = true;
    await watching;
    expect(written).toEqual(Array(100).fill(5));
    // How soon it answers is measured in the benchmarks; a server that these writers held up would have answered a few times.
    expect(answered).toBeGreaterThan(20);
  });

  it('of many who update the same revision, one does; the others keep their drafts and learn what is there', async () => {
    const id = await newMaster('Contested by ten');
    const start = await server.document(id);
    const people = Array.from({ length: 10 }, (_, i) => ({ id: `updater-${i}-of-ten`, name: `Updater ${i}` }));
    const { steps } = naming(start, 'Mine');
    for (const who of people) expect((await server.addSteps(id, 1, [], steps, who)).status).toBe(200);
    const statuses = (await Promise.all(people.map((who) => server.update(id, 1, steps, '', who)))).map(({ status }) => status);
    expect(statuses.sort()).toEqual([200, ...Array<number>(9).fill(409)]);
    const drafts = await Promise.all(people.map((who) => draftOf(id, who)));
    expect(drafts.filter(Boolean)).toHaveLength(9);
  });
});

describe('two people on one master', () => {
  it('each has a draft of their own: nobody’s steps vanish, and nobody’s work goes out under another name', async () => {
    const id = await newMaster('Shared');
    const start = await server.document(id);
    const his = naming(start, 'His first', 'His second');
    const hers = naming(start, 'Hers');
    await server.addSteps(id, 1, [], his.steps, BRAM);
    // The same position, the same hash: it is her draft that begins there, not his.
    expect((await server.addSteps(id, 1, [], hers.steps, INES)).status).toBe(200);
    expect((await draftOf(id, BRAM))!.steps).toHaveLength(2);
    expect((await server.update(id, 1, hers.steps, '', INES)).status).toBe(200);
    expect((await server.document(id)).boards[0]!.name).toBe('Hers');
    const view = await server.call<{ revisions: { author: string }[]; others: string[] }>(
      'GET',
      `/api/masters/${id}`,
      undefined,
      INES,
    );
    expect(view.body.revisions.at(-1)!.author).toBe('Ines Okoro');
    expect(view.body.others).toEqual(['Bram Adler']);

    // He goes on with his, on the revision that it rests on, and carries it over when he is ready to update.
    const more = naming(his.after, 'His third');
    expect((await server.addSteps(id, 1, his.steps, more.steps, BRAM)).status).toBe(200);
    const mine = [...his.steps, ...more.steps];
    const refused = await server.update(id, 1, mine, '', BRAM);
    expect(refused.status).toBe(409);
    expect(refused.body as never as { there: DraftView }).toMatchObject({ there: { base: 1, position: 3 } });
    const head = await server.document(id);
    const rebased = rebaseSteps(start, head, mine, new Map([['board-1 name', 'mine']]));
    const body = { base: 2, replaces: (await server.hashes(id, 1, mine)).at(-1), steps: rebased.steps };
    expect((await server.call('PUT', `/api/masters/${id}/draft`, body, BRAM)).status).toBe(200);
    // The same again, because its answer was lost, is no trouble.
    expect((await server.call('PUT', `/api/masters/${id}/draft`, body, BRAM)).status).toBe(200);
    expect((await server.update(id, 2, rebased.steps, '', BRAM)).body).toMatchObject({ rev: 3 });
    expect((await server.document(id)).boards[0]!.name).toBe('His third');
  });

  it('steps that are sent again because their answer was lost are kept once', async () => {
    const id = await newMaster('Twice');
    const { steps } = naming(await server.document(id), 'A', 'B');
    for (let i = 0; i < 3; i++) expect((await server.addSteps(id, 1, [], steps)).body).toMatchObject({ position: 2 });
    expect((await draftOf(id, INES))!.steps).toHaveLength(2);
  });

  it('a second window that does not know of the first is refused with what is there; nothing of the first is lost', async () => {
    const id = await newMaster('Two windows');
    const start = await server.document(id);
    const first = naming(start, 'First');
    await server.addSteps(id, 1, [], first.steps);
    const answer = await server.addSteps(id, 1, [], naming(start, 'Second').steps);
    expect(answer.status).toBe(409);
    expect((answer.body as never as { there: DraftView }).there).toMatchObject({
      base: 1,
      position: 1,
      hash: (await server.hashes(id, 1, first.steps))[1],
      steps: first.steps,
    });
    expect((await draftOf(id, INES))!.steps).toEqual(first.steps);
  });

  it('a draft from before drafts had owners goes to the first who goes on with it', async () => {
    const id = await newMaster('From before');
    const { steps, after } = naming(await server.document(id), 'A', 'B');
    await server.addSteps(id, 1, [], steps);
    await server.workshop.database.query("update draft set person = '', name = '', version = version + 1 where master = $1", [
      id,
    ]);
    expect(await draftOf(id, BRAM)).toMatchObject({ unclaimed: true, position: 2 });
    const more = naming(after, 'C');
    expect((await server.addSteps(id, 1, steps, more.steps, BRAM)).status).toBe(200);
    expect(await draftOf(id, BRAM)).toMatchObject({ unclaimed: false, position: 3 });
    expect(await draftOf(id, INES)).toBeNull();
  });

  it('who is nobody has no draft', async () => {
    const id = await newMaster('Nobody');
    const nobody = await fetch(`${server.url}/api/masters/${id}/draft`);
    expect(nobody.status).toBe(400);
  });
});

describe('a large draft', () => {
  it('stays as cheap as a small one', async () => {
    const id = await newMaster('Long');
    let now = await server.document(id);
    const steps: Step[] = [];
    const costs: number[] = [];
    for (let i = 0; i < 200; i++) {
      const { steps: one, after } = naming(now, `Name ${i}`);
      const begun = cpuTime();
      expect((await server.addSteps(id, 1, steps, one)).status).toBe(200);
      costs.push(cpuTime() - begun);
      steps.push(...one);
      now = after;
    }
    const middle = (from: number, to: number) => costs.slice(from, to).sort((a, b) => a - b)[Math.floor((to - from) / 2)]!;
    expect(middle(150, 200)).toBeLessThan(3 * middle(20, 70) + 10);
    // The browser's document and what the server makes of the same journal are the same.
    await server.update(id, 1, steps);
    expect(nodeHash(await server.document(id))).toBe(
      nodeHash(
        applyPatches(
          await server.document(id, 1),
          steps.flatMap(({ forward }) => forward),
        ).master,
      ),
    );
  });
  it('survives a restart in the middle of it, with the next step building on what is there', async () => {
    const id = await newMaster('Interrupted');
    const { steps, after } = naming(await server.document(id), 'A', 'B', 'C');
    await server.addSteps(id, 1, [], steps);
    await server.stop();
    await server.start();
    expect((await server.addSteps(id, 1, steps, naming(after, 'D').steps)).body).toMatchObject({ position: 4 });
  });
  it('left no surprise in the log', () => expect(server.problems).toEqual([]));
});
