import { readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Desk, MasterView } from '@inkwell-twin/api';
import { type Master, applyPatches, readPackage, setAttribute, stepOf, writePackage } from '@inkwell-twin/core';
import { TestServer, until } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('outside');
});
afterAll(() => server.close());

async function master(title: string): Promise<string> {
  const { body } = await server.call<{ id: string }>('POST', '/api/masters', { title, purpose: 'panel', owner: '' });
  await server.idle();
  return body.id;
}
const viewOf = async (id: string) => (await server.call<MasterView>('GET', `/api/masters/${id}`)).body;
const fileOf = (view: MasterView) => join(server.shelf, view.folder, view.file);
const packed = async (id: string) => readPackage(readFileSync(fileOf(await viewOf(id))));
/** What another program does to the file: the board gets another name there. */
async function changeOutside(id: string, name: string): Promise<void> {
  const found = await packed(id);
  const [board] = found.master.boards;
  const { patches } = setAttribute(found.master, board!.id, 'name', name);
  writeFileSync(
    fileOf(await viewOf(id)),
    writePackage({ ...found, master: applyPatches(found.master, patches).master, history: null }),
  );
}
const told = (id: string) => until(async () => (await viewOf(id)).outside !== null, 'the change is told');
const settle = (id: string, sha256: string, way: 'taken' | 'set aside') =>
  server.call<{ error: { message: string } }>('POST', `/api/masters/${id}/outside`, { sha256, way });
const nameOf = (document: Master) => document.boards[0]!.name;

describe('a master’s file that another program changed', () => {
  it('is told of, kept, and becomes part of the master when it is taken in', async () => {
    const id = await master('Gate');
    await changeOutside(id, 'North side');
    await told(id);
    const { outside, ...view } = await viewOf(id);
    expect(outside).toMatchObject({ base: 1, trouble: null });
    const desk = (await server.call<Desk>('GET', '/api/desk')).body;
    expect(desk.notices.map(({ message }) => message).join()).toContain('changed by another program');
    const found = (await server.call<{ base: number; document: Master }>('GET', `/api/masters/${id}/outside`)).body;
    expect(nameOf(found.document)).toBe('North side');
    // Taken into a draft and updated: the file may be written over then, since nothing of it is missing.
    const now = await server.document(id);
    const { step } = stepOf(now, 'Taken in', setAttribute(now, now.boards[0]!.id, 'name', 'North side').patches);
    await server.addSteps(id, 1, [], [step]);
    expect((await settle(id, '0'.repeat(64), 'taken')).status).toBe(409);
    expect((await settle(id, outside!.sha256, 'taken')).status).toBe(200);
    await server.update(id, 1, [step]);
    await server.idle();
    expect((await packed(id)).rev).toBe(2);
    expect(readdirSync(join(server.shelf, view.folder))).toEqual(['gate.inkwell']);
    expect((await viewOf(id)).outside).toBeNull();
    expect((await server.call<Desk>('GET', '/api/desk')).body.notices).toEqual([]);
  });

  it('is never written over: an update before the decision sets it aside, and it still waits for one', async () => {
    const id = await master('Rail');
    await changeOutside(id, 'Outside');
    await told(id);
    const now = await server.document(id);
    const { step } = stepOf(now, 'Named', setAttribute(now, now.boards[0]!.id, 'name', 'Inside').patches);
    await server.addSteps(id, 1, [], [step]);
    await server.update(id, 1, [step]);
    await server.idle();
    await new Promise((done) => setTimeout(done, 500));
    expect(readdirSync(join(server.shelf, 'rail')).sort()).toEqual(['rail.inkwell', 'rail_set_aside.inkwell']);
    expect(nameOf(readPackage(readFileSync(join(server.shelf, 'rail/rail_set_aside.inkwell'))).master)).toBe('Outside');
    expect((await packed(id)).master.boards[0]!.name).toBe('Inside');
    const { outside } = await viewOf(id);
    expect(outside).toMatchObject({ base: 1 });
    await settle(id, outside!.sha256, 'set aside');
    expect((await viewOf(id)).outside).toBeNull();
  });

  it('that is set aside gets another name, and the master’s own is written again', async () => {
    const id = await master('Post');
    await changeOutside(id, 'Elsewhere');
    await told(id);
    await settle(id, (await viewOf(id)).outside!.sha256, 'set aside');
    await server.idle();
    expect(readdirSync(join(server.shelf, 'post')).sort()).toEqual(['post.inkwell', 'post_set_aside.inkwell']);
    expect(nameOf((await packed(id)).master)).toBe('Front');
  });

  it('that can’t be read, or is another master, says so; one that says the same is none; one that is gone is written again', async () => {
    const [id, other] = [await master('Sign'), await master('Other sign')];
    const file = fileOf(await viewOf(id));
    const ours = readFileSync(file);
    writeFileSync(file, ours.subarray(0, 400));
    await told(id);
    expect((await viewOf(id)).outside!.trouble).toMatch(/unpacked|damaged|no manifest/);
    writeFileSync(file, readFileSync(fileOf(await viewOf(other))));
    await until(async () => (await viewOf(id)).outside?.trouble?.includes('Other sign') ?? false, 'it is another master');
    // Put back as it was: there is nothing to decide any more.
    writeFileSync(file, ours);
    await until(async () => (await viewOf(id)).outside === null, 'it is as it was');
    // The same document in another package.
    writeFileSync(file, writePackage({ ...(await packed(id)), history: null }));
    await new Promise((done) => setTimeout(done, 800));
    expect((await viewOf(id)).outside).toBeNull();
    rmSync(file);
    await until(async () => readdirSync(join(server.shelf, 'sign')).length === 1, 'it is written again');
  });

  it('is found at a start, too, when it was changed while the server was away', async () => {
    const id = await master('Away');
    const found = await packed(id);
    const file = fileOf(await viewOf(id));
    await server.stop();
    const { patches } = setAttribute(found.master, found.master.boards[0]!.id, 'name', 'While away');
    writeFileSync(file, writePackage({ ...found, master: applyPatches(found.master, patches).master, history: null }));
    await server.start();
    await told(id);
    const { body } = await server.call<{ document: Master }>('GET', `/api/masters/${id}/outside`);
    expect(nameOf(body.document)).toBe('While away');
  });
});
