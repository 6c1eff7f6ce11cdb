import type { MasterView } from '@inkwell-twin/api';
import { shippedFonts } from '@inkwell-twin/render';
import { Copies } from '../src/copies/copies';
import { MasterStore } from '../src/masters/store';
import { TestServer } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('moved_while_checked');
});
afterAll(() => server.close());

it('a copy that is moved between a look at its record and a look at its file is found where it is', async () => {
  const { body } = await server.call<{ id: string }>('POST', '/api/masters', { title: 'Gate sign', purpose: 'panel', owner: '' });
  const at = `/api/masters/${body.id}`;
  await server.call('POST', `${at}/copies`, { target: 'svg', label: 'Cut' });
  await server.idle();
  const copies = async () => (await server.call<MasterView>('GET', at)).body.copies;
  const { database, shelf } = server.workshop;
  let moved = false;
  /** Moves the master when it is loaded for the first time. */
  class Moving extends MasterStore {
    override async load(id: string) {
      if (!moved) await server.call('PUT', `${at}/place`, { place: 'Signs', name: 'gate', copies: 'follow' });
      moved = true;
      return super.load(id);
    }
  }
  const [copy] = await copies();
  await new Copies(database, new Moving(database), shelf, () => ({ fonts: shippedFonts() })).check(copy!.id);
  expect(moved).toBe(true);
  expect((await copies()).map(({ verdict, proof }) => [verdict, proof.includes('gone')])).toEqual([['in step', false]]);
});
