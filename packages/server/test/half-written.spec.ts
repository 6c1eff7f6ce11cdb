import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { MasterView } from '@inkwell-twin/api';
import { readPackage, setAttribute, stepOf } from '@inkwell-twin/core';
import { Database } from '../src';
import { NativeFiles } from '../src/masters/native-files';
import { MasterStore } from '../src/masters/store';
import { Shelf } from '../src/shelf/shelf';
import { TestServer } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('half_written');
});
afterAll(() => server.close());

async function rename(id: string, rev: number, name: string): Promise<void> {
  const now = await server.document(id);
  const { step } = stepOf(now, 'Named', setAttribute(now, now.boards[0]!.id, 'name', name).patches);
  expect((await server.addSteps(id, rev, [], [step])).status).toBe(200);
  expect((await server.update(id, rev, [step])).status).toBe(200);
}

/** Writes a master's file, and is cut off when it stands there and nothing of it is on record yet. */
async function writeAndBeCutOff(id: string): Promise<void> {
  const database = new Database(server.database.app, 2);
  const whole = database.transaction.bind(database);
  const cut = Object.assign(database, {
    transaction: (change: (client: never) => Promise<unknown>) =>
      whole(async (client) => {
        await change(client as never);
        throw new Error('cut off');
      }),
  }) as Database;
  await expect(new NativeFiles(cut, new MasterStore(database), new Shelf(server.shelf)).write(id)).rejects.toThrow('cut off');
  await database.close();
}

it('a file whose writer was cut off before it was on record is ours, however many revisions and cuts ago', async () => {
  const { id } = (
    await server.call<{ id: string }>('POST', '/api/masters', { title: 'Half written', purpose: 'panel', owner: '' })
  ).body;
  await server.idle();
  await server.stop();
  await server.start({ works: false });
  const folder = join(server.shelf, 'half_written');
  const standing = () => readPackage(readFileSync(join(folder, 'half_written.inkwell')));
  await rename(id, 1, 'Second');
  await writeAndBeCutOff(id);
  expect(standing().rev).toBe(2);
  await rename(id, 2, 'Third');
  await writeAndBeCutOff(id);
  expect(standing().rev).toBe(3);
  await rename(id, 3, 'Fourth');
  // Whoever comes next finds a file that no record knows.
  await server.stop();
  await server.start();
  await server.idle();
  expect(readdirSync(folder)).toEqual(['half_written.inkwell']);
  expect([standing().rev, standing().master.boards[0]!.name]).toEqual([4, 'Fourth']);
  const view = MasterView.parse((await server.call('GET', `/api/masters/${id}`)).body);
  expect([view.notices, view.outside]).toEqual([[], null]);
});
