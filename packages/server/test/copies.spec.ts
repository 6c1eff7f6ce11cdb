import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, rmdirSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type CopyView, Desk, type EventView, MasterView } from '@inkwell-twin/api';
import { entryAt, type Master, derive, digest, moveItems, recipeOf, setAttribute, stepOf } from '@inkwell-twin/core';
import { shippedFonts } from '@inkwell-twin/render';
import { blobChunks, storeBlob } from '../src/blobs/blobs';
import { Shelf } from '../src/shelf/shelf';
import { TestServer, until } from './harness';

let server: TestServer;
let waymarker: string;
beforeAll(async () => {
  server = await TestServer.withDemo('copies');
  await server.idle();
  waymarker = Desk.parse((await server.call('GET', '/api/desk')).body).masters[0]!.id;
});
afterAll(() => server.close());

const open = async (id = waymarker) => MasterView.parse((await server.call('GET', `/api/masters/${id}`)).body);
const copy = async (label: string): Promise<CopyView> => {
  const found = (await open()).copies.find((one) => one.label === label);
  if (!found) throw new Error(`no copy ${label}`);
  return found;
};
const path = (file: string) => join(server.shelf, 'boardwalk_waymarker', file);
const verdictBecomes = (label: string, verdict: string) =>
  until(async () => (await copy(label)).verdict === verdict, `${label} ${verdict}`);

/** Updates the master by one command. */
async function update(command: (now: Master) => { label: string; patches: Parameters<typeof stepOf>[2] }): Promise<void> {
  const { head } = await open();
  const now = await server.document(waymarker);
  const { label, patches } = command(now);
  const { step } = stepOf(now, label, patches);
  await server.addSteps(waymarker, head, [], [step]);
  expect((await server.update(waymarker, head, [step], label)).status).toBe(200);
  await server.idle();
}

describe('the Desk', () => {
  it('shows every master with its thread, and each copy with its verdict and span', async () => {
    const { masters } = Desk.parse((await server.call('GET', '/api/desk')).body);
    expect(masters.map(({ title }) => title)).toEqual(['Boardwalk waymarker', 'Fen map leaflet']);
    const spans = masters[0]!.copies.map(({ label, rev, until: last, verdict, endedBy }) => [
      label,
      rev,
      last,
      verdict,
      endedBy?.replace(/ changed.*/, '') ?? null,
    ]);
    expect(spans).toEqual([
      ['trail web page', 6, 6, 'in step', null],
      ['proof for the reserve', 4, 4, 'behind', 'r5'],
      ['sheet for the hide', 6, 6, 'touched', null],
      ['metal shop drawing', 3, 3, 'behind', 'r4'],
      ['joiner’s drawing', 5, 6, 'in step', null],
      ['vinyl lettering', 3, 6, 'in step', null],
      ['vinyl, first trial', 2, 2, 'crossed', 'r3'],
      ['vinyl on the cutter', 6, 6, 'in step', null],
      ['panel for the router', 4, 4, 'behind', 'r5'],
    ]);
    expect(masters[0]!.copies[1]!.endedBy).toBe('r5 changed Hole 2 of 5 and 3 more: “Hole spacing 94”');
  });
  it('has a picture of each master, and the same demo is not loaded twice', async () => {
    const { masters } = Desk.parse((await server.call('GET', '/api/desk')).body);
    const answer = await fetch(server.url + masters[0]!.picture!);
    expect(answer.headers.get('content-type')).toBe('image/png');
    expect(answer.headers.get('content-security-policy')).toContain('sandbox');
    // The header of the picture states its size.
    expect(Buffer.from(await answer.arrayBuffer()).readUInt32BE(16)).toBeLessThanOrEqual(480);
    await server.stop();
    await server.start({ demo: 'drawings' });
    await server.idle();
    expect(Desk.parse((await server.call('GET', '/api/desk')).body)).toMatchObject({ total: 2, next: null });
  });
});

describe('a full comparison', () => {
  it('has both sides, the three answers and the differences in place', async () => {
    const { id } = await copy('metal shop drawing');
    const { view: match, master, copy: copyBody } = await server.match(id);
    expect(match).toMatchObject({ intact: true, unchanged: false, matches: false, tolerance: 0.01 });
    expect(match.differences[0]).toMatchObject({ kind: 'moved', what: 'Hole 5 of 5', amount: expect.closeTo(8, 1) });
    expect(match.sides).toEqual({ master: [{ kind: 'drawing', label: '' }], copy: [{ kind: 'drawing', label: '' }] });
    expect(entryAt(master!, match.differences[0]!.masterEntries[0]!)).toMatchObject({ source: 'hole-5' });
    // A path of several outlines is several entities of a drawing.
    expect(copyBody!.paths.count).toBe(master!.paths.count);
  });
  it('of an unreadable file says where reading stopped', async () => {
    const { id, file } = await copy('trail web page');
    const bytes = readFileSync(path(file));
    writeFileSync(path(file), bytes.subarray(0, 2000));
    await verdictBecomes('trail web page', 'unreadable');
    const match = (await server.match(id)).view;
    expect(match.sides).toBeNull();
    expect(match.copy!.proof).toMatch(/line \d+/);
    writeFileSync(path(file), bytes);
    await verdictBecomes('trail web page', 'in step');
  });
});

describe('the shelf', () => {
  it('is watched: a change from outside leads to a verdict, though nobody asks', async () => {
    const { file } = await copy('joiner’s drawing');
    const words = readFileSync(path(file), 'utf8');
    writeFileSync(path(file), words.replace('Sedge Loop', 'Sedge Lopp'));
    await verdictBecomes('joiner’s drawing', 'touched');
    rmSync(path(file));
    await verdictBecomes('joiner’s drawing', 'gone');
    writeFileSync(path(file), words);
    await verdictBecomes('joiner’s drawing', 'in step');
  });
  it('says in words what stands in the place of a copy when it is no file, and follows no link', async () => {
    const { file } = await copy('joiner’s drawing');
    const bytes = readFileSync(path(file));
    const proof = async (verdict: string) => {
      await verdictBecomes('joiner’s drawing', verdict);
      return (await copy('joiner’s drawing')).proof;
    };
    rmSync(path(file));
    await proof('gone');
    mkdirSync(path(file));
    expect(await proof('unreadable')).toBe('It can’t be read: a folder stands in its place.');
    rmdirSync(path(file));
    await proof('gone');
    // A link to the very bytes that it should have is still not the copy.
    writeFileSync(join(server.shelf, '..', 'elsewhere.dxf'), bytes);
    symlinkSync(join(server.shelf, '..', 'elsewhere.dxf'), path(file));
    expect(await proof('unreadable')).toContain('a link stands in its place');
    rmSync(path(file));
    writeFileSync(path(file), bytes);
    await proof('in step');
  });
  it('is looked through at the start: what happened meanwhile is found', async () => {
    const { file } = await copy('vinyl lettering');
    await server.stop();
    rmSync(path(file));
    await server.start();
    await verdictBecomes('vinyl lettering', 'gone');
    const { id } = await copy('vinyl lettering');
    await server.call('POST', `/api/copies/${id}/derive`);
    await server.idle();
    expect(await copy('vinyl lettering')).toMatchObject({ verdict: 'in step', rev: 6, file: 'vinyl_lettering_r6.plt' });
  });
  it('refuses names that lead out of it, and clears part files away', () => {
    writeFileSync(join(server.shelf, '.inkwell-left-over.part'), 'half');
    const shelf = new Shelf(server.shelf);
    shelf.clearTemporaries();
    expect(existsSync(join(server.shelf, '.inkwell-left-over.part'))).toBe(false);
    for (const [folder, file] of [
      ['..', 'x'],
      ['a/../b', 'x'],
      ['a//b', 'x'],
      ['a', '../x'],
      ['a', '..'],
      ['', 'x'],
      ['a', ''],
    ] as const)
      expect(() => shelf.path(folder, file)).toThrow('not a name for the shelf');
  });
});

describe('deriving', () => {
  it('writes exactly what the recipe gives at that revision, with the mark inside', async () => {
    const { file, rev, size } = await copy('trail web page');
    const { revisions } = await open();
    const expected = await derive(
      { master: await server.document(waymarker), rev, time: revisions.at(-1)!.time },
      recipeOf('svg', { text: 'outlines' }, 'front', (await copy('trail web page')).recipe),
      { fonts: shippedFonts() },
    );
    expect(readFileSync(path(file)).equals(Buffer.from(expected.files[0]!.bytes))).toBe(true);
    expect(size).toBe(expected.files[0]!.bytes.length);
  });
  it('says what carries over without writing anything', async () => {
    const before = readdirSync(path('.'));
    type Answer = { words: string; rungs: { version: string; bytes: number; report: { lines: { outcome: string }[] } }[] };
    const carry = async (target: string, options: object = {}) =>
      (await server.call<Answer>('POST', `/api/masters/${waymarker}/carry`, { target, options })).body;
    const cut = await carry('hpgl', { pens: 'one pen' });
    expect(cut).toMatchObject({ words: '', rungs: [{ version: '' }] });
    expect(cut.rungs[0]!.report.lines.some(({ outcome }) => outcome === 'left out')).toBe(true);
    const drawing = await carry('dxf');
    expect(drawing.rungs.map(({ version }) => version)).toEqual(['R12', '2000', '2004', '2007', '2010', '2013', '2018']);
    expect(drawing.words).toContain('2004 is the oldest that keeps all that can be kept; 2000 approximates line colours');
    expect(readdirSync(path('.'))).toEqual(before);
    expect(
      (await server.call('POST', `/api/masters/${waymarker}/carry`, { target: 'dxf', options: { version: 'R3' } })).status,
    ).toBe(400);
  });
  it('forecasts the size of a copy to the byte', async () => {
    const { body } = await server.call<{ rungs: { bytes: number }[] }>('POST', `/api/masters/${waymarker}/carry`, {
      target: 'svg',
      options: { text: 'outlines' },
      scope: { of: 'boards', ids: ['Front'] },
    });
    expect(body.rungs[0]!.bytes).toBe((await copy('trail web page')).size);
  });
  it('says the name that a copy will get, and which it would have had', async () => {
    const nameOf = async (label: string) =>
      (await server.call('POST', `/api/masters/${waymarker}/copy-name`, { target: 'svg', label })).body;
    expect(await nameOf('Über the gate?')).toEqual({
      wanted: 'uber_the_gate_r6.svg',
      file: 'uber_the_gate_r6.svg',
      standing: null,
    });
    const { id, size } = await copy('trail web page');
    expect(await nameOf('trail web page')).toEqual({
      wanted: 'trail_web_page_r6.svg',
      file: 'trail_web_page_r6_2.svg',
      standing: {
        size,
        time: expect.stringMatching(/^20\d\d-/),
        copy: { id, label: 'trail web page', rev: 6, verdict: 'in step', picture: `/api/copies/${id}/picture` },
      },
    });
  });
  it('lands on nothing that stands there', async () => {
    writeFileSync(path('map_for_the_smith_r6_2000.dxf'), 'someone’s file');
    await server.call('POST', `/api/masters/${waymarker}/copies`, { target: 'dxf', label: 'map for the smith' });
    await server.idle();
    expect(readFileSync(path('map_for_the_smith_r6_2000.dxf'), 'utf8')).toBe('someone’s file');
    expect(await copy('map for the smith')).toMatchObject({ verdict: 'in step', file: 'map_for_the_smith_r6_2000_2.dxf' });
  });
  it('shows a copy as a picture where browsers can, and only there', async () => {
    const of = async (label: string) => fetch(`${server.url}/api/copies/${(await copy(label)).id}/picture`);
    const shown = await of('trail web page');
    expect([shown.status, shown.headers.get('content-type')]).toEqual([200, 'image/svg+xml']);
    expect(shown.headers.get('content-security-policy')).toBe("sandbox; default-src 'none'");
    expect((await of('metal shop drawing')).status).toBe(404);
  });
  it('takes the place of a file of somebody where that was chosen, and keeps the file', async () => {
    writeFileSync(path('map_for_the_tinner_r6_2000.dxf'), 'their file');
    const body = { target: 'dxf', label: 'map for the tinner', replace: true };
    expect((await server.call('POST', `/api/masters/${waymarker}/copies`, body)).status).toBe(200);
    await server.idle();
    expect(await copy('map for the tinner')).toMatchObject({ verdict: 'in step', file: 'map_for_the_tinner_r6_2000.dxf' });
    expect(readFileSync(path('map_for_the_tinner_r6_2000_set_aside.dxf'), 'utf8')).toBe('their file');
  });
  it('takes the place of a copy by another recipe where that was chosen: it is withdrawn, and comes back only when its name is free', async () => {
    const derived = async (body: object) => {
      await server.call('POST', `/api/masters/${waymarker}/copies`, body);
      await server.idle();
    };
    const named = async () =>
      (await server.call<MasterView>('GET', `/api/masters/${waymarker}`)).body.copies.filter(
        ({ file }) => file === 'gate_page_r6.svg',
      );
    await derived({ target: 'svg', label: 'gate page' });
    const [first] = await named();
    const before = readFileSync(path('gate_page_r6.svg'));
    await derived({ target: 'svg', label: 'Gate page', options: { text: 'outlines' }, replace: true });
    const [second, ...more] = await named();
    expect(more).toEqual([]);
    expect([second!.id !== first!.id, second!.verdict]).toEqual([true, 'in step']);
    expect(readFileSync(path('gate_page_r6.svg')).equals(before)).toBe(false);
    const refused = await server.call('POST', `/api/copies/${first!.id}/restore`);
    expect([refused.status, JSON.stringify(refused.body)]).toEqual([
      409,
      expect.stringContaining('“Gate page” stands at gate_page_r6.svg'),
    ]);
    await server.call('POST', `/api/copies/${second!.id}/withdraw`);
    expect((await server.call('POST', `/api/copies/${first!.id}/restore`)).status).toBe(200);
    await server.idle();
    // Its name holds the other’s file by now: it says so.
    expect((await named()).map(({ id, verdict }) => [id === first!.id, verdict])).toEqual([[true, 'touched']]);
  });
  it('again after someone changed the copy sets their file aside', async () => {
    const { id, file } = await copy('sheet for the hide');
    const theirs = readFileSync(path(file), 'utf8');
    await server.call('POST', `/api/copies/${id}/derive`);
    await server.idle();
    expect(await copy('sheet for the hide')).toMatchObject({ verdict: 'in step' });
    expect(readFileSync(path('sheet_for_the_hide_r6_set_aside.svg'), 'utf8')).toBe(theirs);
    expect((await server.call('GET', `/api/copies/${id}/match`)).status).toBe(404);
  });
  it('tells of its progress as server-sent events', async () => {
    const events: EventView[] = [];
    const stop = server.workshop.events.listen((event) => events.push(event));
    await server.call('POST', `/api/masters/${waymarker}/check`);
    await server.idle();
    await until(async () => events.at(-1)?.kind === 'copies', 'the last word');
    stop();
    const jobs = events.filter((event) => event.kind === 'job');
    expect(jobs).toEqual(expect.arrayContaining([expect.objectContaining({ state: 'done', done: 12, total: 12 })]));
    expect(events.at(-1)).toEqual({ kind: 'copies', master: waymarker });
    const stream = await fetch(`${server.url}/api/events`);
    const reader = stream.body!.getReader();
    await server.call('POST', `/api/masters/${waymarker}/check`);
    let words = '';
    while (!words.includes('"state":"done"')) words += new TextDecoder().decode((await reader.read()).value);
    await reader.cancel();
    expect(words).toContain('data: {"kind":"job"');
  });
});

describe('after an update', () => {
  it('copies that carry the change fall behind, the others stay, and each is told apart without deriving it', async () => {
    await update((now) => setAttribute(now, 'arrow', 'style.fill', '#2b4180'));
    expect(await copy('vinyl lettering')).toMatchObject({ verdict: 'in step', until: 7 });
    expect(await copy('trail web page')).toMatchObject({
      verdict: 'behind',
      until: 6,
      endedBy: expect.stringContaining('r7 changed Arrow'),
    });
    await update((now) => moveItems(now, ['arrow'], 2, 0));
    expect(await copy('vinyl lettering')).toMatchObject({
      verdict: 'behind',
      until: 7,
      endedBy: expect.stringContaining('Arrow on Front: moved 2 mm right'),
    });
  });
  it('what was accepted stays accepted until copy or master changes again', async () => {
    const { id } = await copy('vinyl lettering');
    expect((await server.call('POST', `/api/copies/${id}/accept`, { by: 'Bram Adler', reason: '' })).status).toBe(400);
    await server.call('POST', `/api/copies/${id}/accept`, { by: 'Bram Adler', reason: 'Already on the panel' });
    expect(await copy('vinyl lettering')).toMatchObject({
      verdict: 'accepted',
      accepted: { by: 'Bram Adler', reason: 'Already on the panel' },
    });
    await update((now) => setAttribute(now, 'arrow', 'style.fill', '#14213a'));
    expect((await copy('vinyl lettering')).verdict).toBe('accepted');
    await update((now) => moveItems(now, ['arrow'], 1, 0));
    expect((await copy('vinyl lettering')).verdict).toBe('behind');
  });
  it('a withdrawn copy leaves the list, and its file stays', async () => {
    const { id, file } = await copy('vinyl, first trial');
    await server.call('POST', `/api/copies/${id}/withdraw`);
    expect((await open()).copies.map(({ label }) => label)).not.toContain('vinyl, first trial');
    expect(existsSync(path(file))).toBe(true);
  });
});

describe('the store of bytes', () => {
  it('gives out what came in, in chunks, and keeps equal chunks once', async () => {
    const { database } = server.workshop;
    const block = Buffer.alloc(256 * 1024, 7);
    const large = Buffer.concat([block, block, block, Buffer.from('the end')]);
    const sha = await database.transaction((client) => storeBlob(client, large));
    expect(sha).toBe(digest(large));
    const parts: Buffer[] = [];
    for await (const part of blobChunks(database, sha)) parts.push(part);
    expect(parts.map(({ length }) => length)).toEqual([262144, 262144, 262144, 7]);
    expect(Buffer.concat(parts).equals(large)).toBe(true);
    expect(await database.rows('select distinct chunk from blob_chunk where blob = $1', [sha])).toHaveLength(2);
    await expect(blobChunks(database, 'none').next()).rejects.toThrow('no bytes');
  });
  it('of a board that was taken away are behind, say so, and keep the Desk as it is', async () => {
    const id = (await server.call<{ masters: { id: string; title: string }[] }>('GET', '/api/desk')).body.masters.find(
      ({ title }) => title === 'Fen map leaflet',
    )!.id;
    const view = async () => MasterView.parse((await server.call('GET', `/api/masters/${id}`)).body);
    const { head } = await view();
    const document = await server.document(id);
    const patch = { op: 'remove' as const, parent: document.id, list: 'boards' as const, node: document.boards[1]!.id };
    const { step } = stepOf(document, 'Inside taken away', [patch]);
    await server.addSteps(id, head, [], [step]);
    await server.update(id, head, [step]);
    await server.idle();
    const lost = (await view()).copies.find(({ label }) => label === 'inside for the printer')!;
    expect(lost).toMatchObject({ verdict: 'behind', endedBy: expect.stringContaining('took away the board') });
    expect(lost.proof).toContain('has no board “Inside” any more');
    expect((await server.call('GET', '/api/desk')).body).toMatchObject({ notices: [] });
  });
  it('left no surprise in the log', () => expect(server.problems).toEqual([]));
});
