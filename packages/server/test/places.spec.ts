import { existsSync, mkdirSync, readdirSync, renameSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Desk, DeskRow, MasterView, StandingView } from '@inkwell-twin/api';
import { readPackage } from '@inkwell-twin/core';
import { readFileSync } from 'node:fs';
import { TestServer, until } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('places');
});
afterAll(() => server.close());

const master = async (title: string): Promise<string> => {
  const { body } = await server.call<{ id: string }>('POST', '/api/masters', { title, purpose: 'panel', owner: 'Ines Okoro' });
  await server.call('POST', `/api/masters/${body.id}/copies`, { target: 'svg', label: 'Cut' });
  await server.idle();
  return body.id;
};
const viewOf = async (id: string) => (await server.call<MasterView>('GET', `/api/masters/${id}`)).body;
const move = (id: string, place: string, name: string, copies: 'follow' | 'stay' = 'follow') =>
  server.call<{ folder: string; error: { code: string; message: string } }>('PUT', `/api/masters/${id}/place`, {
    place,
    name,
    copies,
  });
const standing = async (id: string, place: string, name: string) =>
  (
    await server.call<{ standing: StandingView | null; free: string }>(
      'GET',
      `/api/masters/${id}/standing?place=${encodeURIComponent(place)}&name=${encodeURIComponent(name)}`,
    )
  ).body;
const on = (...path: string[]) => join(server.shelf, ...path);

describe('places on the shelf', () => {
  it('a master moves into folders within folders with its copies, and all are found there', async () => {
    const id = await master('Gate sign');
    expect(readdirSync(on('gate_sign')).sort()).toEqual(['cut_r1.svg', 'gate_sign.inkwell']);
    expect((await move(id, 'Signs/Élan 2026', 'north_gate')).body.folder).toBe('Signs/Élan 2026/north_gate');
    expect(existsSync(on('gate_sign'))).toBe(false);
    expect(readdirSync(on('Signs/Élan 2026/north_gate')).sort()).toEqual(['cut_r1.svg', 'north_gate.inkwell']);
    await server.call('POST', `/api/masters/${id}/check`);
    await server.idle();
    expect((await viewOf(id)).copies[0]!.verdict).toBe('in step');
    // What is changed there is noticed there.
    writeFileSync(on('Signs/Élan 2026/north_gate/cut_r1.svg'), '<svg xmlns="http://www.w3.org/2000/svg"/>');
    await until(async () => !['in step', 'not checked'].includes((await viewOf(id)).copies[0]!.verdict), 'the change is noticed');
    // The folders are places for others now, the master's own is none.
    const { body } = await server.call<{ places: string[] }>('GET', '/api/shelf/places');
    expect(body.places).toEqual(['Signs', 'Signs/Élan 2026']);
  });

  it('copies stay where they are when that is wished, hold on, and are derived again there', async () => {
    const id = await master('Bench plate');
    expect((await move(id, 'Archive', 'bench', 'stay')).status).toBe(200);
    expect(readdirSync(on('bench_plate'))).toEqual(['cut_r1.svg']);
    expect(readdirSync(on('Archive/bench'))).toEqual(['bench.inkwell']);
    const [copy] = (await viewOf(id)).copies;
    await server.call('POST', `/api/copies/${copy!.id}/derive`);
    await server.idle();
    expect(readdirSync(on('bench_plate'))).toEqual(['cut_r1.svg']);
    expect((await viewOf(id)).copies[0]!.verdict).toBe('in step');
    // A new recipe's copy goes beside the master; coming back, all lie together again.
    await server.call('POST', `/api/masters/${id}/copies`, { target: 'dxf', label: 'Shop floor' });
    await server.idle();
    expect(readdirSync(on('Archive/bench')).length).toBe(2);
    expect((await move(id, '', 'bench_plate')).body.folder).toBe('bench_plate');
    expect(readdirSync(on('bench_plate')).sort()).toEqual(['bench_plate.inkwell', 'cut_r1.svg']);
    await server.call('POST', `/api/masters/${id}/check`);
    await server.idle();
    expect((await viewOf(id)).copies.map(({ verdict }) => verdict)).toEqual(['in step', 'in step']);
  });

  it('a taken name says what stands there, with a free one beside it, and nothing is moved onto anything', async () => {
    const [pond, fen] = [await master('Pond map'), await master('Fen map')];
    mkdirSync(on('Somebody’s'));
    writeFileSync(on('notes.txt'), 'words');
    const there = await standing(fen, '', 'POND_map');
    expect(there.standing).toMatchObject({ what: 'master', master: { id: pond, title: 'Pond map', head: 1 } });
    expect(there.standing!.master!.picture).toContain(pond);
    expect(there.standing!.size).toBeGreaterThan(500);
    expect(there.free).toBe('POND_map_2');
    expect((await standing(fen, '', 'Somebody’s')).standing).toMatchObject({ what: 'folder', master: null });
    expect((await standing(fen, '', 'notes.txt')).standing).toMatchObject({ what: 'file', size: 5 });
    expect((await standing(fen, '', 'fen_map')).standing).toBeNull();
    for (const [place, name] of [
      ['', 'pond_map'],
      ['', 'Somebody’s'],
      ['pond_map', 'inside'],
    ] as const) {
      const { status, body } = await move(fen, place, name);
      expect([status, body.error.code]).toEqual([409, 'name-taken']);
    }
    const inItself = await move(fen, 'fen_map', 'deeper');
    expect(inItself.body.error.message).toContain('within the master’s own folder');
    expect((await viewOf(fen)).file).toBe('fen_map.inkwell');
    // Only the letters' case changes: that is a rename like any other.
    expect((await move(fen, '', 'Fen_Map')).body.folder).toBe('Fen_Map');
    expect(readdirSync(on('Fen_Map'))).toContain('Fen_Map.inkwell');
  });

  it('names that some system can’t keep, links and depths without end are refused with the reason', async () => {
    const id = await master('Rail');
    const words = async (place: string, name: string) => (await move(id, place, name)).body.error.message;
    expect(await words('', 'con')).toContain('keep for a device');
    expect(await words('Signs/aux.old', 'rail')).toContain('device');
    expect(await words('', 'a:b')).toContain('holds :');
    expect(await words('', 'a/b')).toContain('slash');
    expect(await words('Signs/../..', 'rail')).toContain('dot');
    expect(await words('1/2/3/4/5/6/7/8', 'rail')).toContain('8 folders deep');
    symlinkSync('/tmp', on('elsewhere'));
    expect(await words('elsewhere', 'rail')).toContain('a link');
    expect((await viewOf(id)).file).toBe('rail.inkwell');
    expect(existsSync('/tmp/rail')).toBe(false);
    // What could not be done leaves no trace that stands in the way of the next.
    expect((await move(id, 'Signs', 'rail')).body.folder).toBe('Signs/rail');
  });

  it('two who want one name at the same time: one gets it, the other learns what stands there', async () => {
    const ids = await Promise.all(['One', 'Two', 'Three'].map(master));
    const got = await Promise.all(ids.map((id) => move(id, 'Wanted', 'same')));
    expect(got.map(({ status }) => status).sort()).toEqual([200, 409, 409]);
    expect(readdirSync(on('Wanted'))).toEqual(['same']);
  });

  it('a move that was cut short is ended by the next start, wherever it was cut', async () => {
    const [before, between] = [await master('Cut before'), await master('Cut between')];
    await server.stop();
    const { default: pg } = await import('pg');
    const client = new pg.Client(server.database.owner);
    await client.connect();
    for (const [id, from] of [
      [before, 'cut_before'],
      [between, 'cut_between'],
    ])
      await client.query('insert into shelf_move values ($1, $2, $3, true)', [id, from, `Ended/${from}_now`]);
    await client.end();
    // One was killed before anything moved, the other after its folder had moved and before its file was renamed.
    mkdirSync(on('Ended'));
    renameSync(on('cut_between'), on('Ended/cut_between_now'));
    await server.start();
    await server.idle();
    for (const name of ['cut_before', 'cut_between'])
      expect(readdirSync(on(`Ended/${name}_now`)).sort()).toEqual([`${name}_now.inkwell`, 'cut_r1.svg'].sort());
    for (const id of [before, between]) expect((await viewOf(id)).copies[0]!.verdict).toBe('in step');
  });
});

describe('throwing away', () => {
  const rows = async (state: string) => (await server.call<Desk>('GET', `/api/desk?state=${state}`)).body;

  it('takes a master off the Desk for 30 days, in which it comes back as it was, and clears it after them', async () => {
    const id = await master('Old notice');
    expect((await server.call('POST', `/api/masters/${id}/throw-away`)).status).toBe(200);
    const thrown = await rows('thrown');
    expect(thrown.masters.map(({ title, daysLeft }: DeskRow) => [title, daysLeft])).toEqual([['Old notice', 30]]);
    expect(thrown.thrown).toBe(1);
    expect((await rows('live')).masters.some((row) => row.id === id)).toBe(false);
    expect(readPackage(readFileSync(on('old_notice/old_notice.inkwell'))).master.title).toBe('Old notice');
    await server.call('POST', `/api/masters/${id}/bring-back`);
    await server.idle();
    expect((await viewOf(id)).copies[0]!.verdict).toBe('in step');

    await server.call('POST', `/api/masters/${id}/throw-away`);
    await server.workshop.database.query("update master set thrown_at = now() - interval '29 days 23 hours' where id = $1", [id]);
    await server.stop();
    await server.start();
    expect((await rows('thrown')).masters[0]!.daysLeft).toBe(1);
    await server.workshop.database.query("update master set thrown_at = now() - interval '30 days 1 minute' where id = $1", [id]);
    await server.stop();
    await server.start();
    expect((await rows('thrown')).masters).toEqual([]);
    expect((await server.call('GET', `/api/masters/${id}`)).status).toBe(404);
    // Files on the shelf are never deleted with a record.
    expect(readdirSync(on('old_notice')).length).toBe(2);
  });
});

describe('the Desk laid together by keyword', () => {
  it('shows a master under each of its keywords, and under one only where only that is asked for', async () => {
    const id = await master('Two words');
    await server.call('POST', '/api/describe', { masters: [id], add: ['reeds', 'Signs', 'signs'] });
    const laid = async (query: string) =>
      (await server.call<Desk>('GET', `/api/desk?group=keyword&${query}`)).body.masters
        .filter((row) => row.id === id)
        .map(({ group }) => [group.name, group.count]);
    expect(await laid('')).toEqual([
      ['reeds', 1],
      ['Signs', 1],
    ]);
    expect(await laid('keyword=Signs')).toEqual([['Signs', 1]]);
  });
});
