import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { type Identified, type MasterView, readMatch } from '@inkwell-twin/api';
import { TestServer, until } from './harness';

const drawing = readFileSync(join(__dirname, '../../core/test/fixtures/weathervane.svg'));
let server: TestServer;
beforeAll(async () => {
  server = await TestServer.withDemo('identify');
  await server.idle();
});
afterAll(() => server.close());

const identify = async (name: string, bytes: Uint8Array): Promise<Identified> => {
  const response = await fetch(`${server.url}/api/identify?name=${encodeURIComponent(name)}`, {
    method: 'POST',
    body: bytes as never,
  });
  expect(response.status).toBe(200);
  return (await response.json()) as Identified;
};
const onShelf = (start: string): Buffer => {
  const folder = join(server.shelf, 'boardwalk_waymarker');
  return readFileSync(
    join(
      folder,
      readdirSync(folder).find((name) => name.startsWith(start))!,
    ),
  );
};
const edited = (start: string, from: string, to: string): Buffer => {
  const words = onShelf(start).toString('utf8');
  expect(words).toContain(from);
  // A mark stands in two places.
  return Buffer.from(words.replaceAll(from, to));
};

describe('identifying a file', () => {
  it.each([
    ['trail_web_page', 'trail web page', 'r6', 'in step'],
    ['metal_shop_drawing', 'metal shop drawing', 'r3', 'behind'],
    ['vinyl_lettering', 'vinyl lettering', 'r3', 'in step'],
    ['vinyl_first_trial', 'vinyl, first trial', 'r2', 'crossed'],
  ])('names %s as a copy, with recipe, revision and verdict', async (start, label, rev, verdict) => {
    const found = await identify('from the mail.bin', onShelf(start));
    expect(found).toMatchObject({ kind: 'copy', verdict, master: { title: 'Boardwalk waymarker' }, copy: expect.any(String) });
    expect(found.words).toContain(`“from the mail.bin” is “${label}”, a copy of Boardwalk waymarker, made at ${rev}.`);
  });
  it('tells a changed copy from one that was only saved again', async () => {
    expect(await identify('a.svg', edited('trail_web_page', '<metadata>', '<!-- seen --><metadata>'))).toMatchObject({
      verdict: 'in step',
      words: expect.stringContaining('re-written elsewhere'),
    });
    expect(await identify('b.dxf', edited('joiner_s_drawing', 'Sedge Loop', 'Sedge Lopp'))).toMatchObject({ verdict: 'touched' });
  });
  it('holds a changed copy against its master, part by part, and keeps nothing of it', async () => {
    const ask = async (bytes: Uint8Array, leaf = 0) => {
      const url = `${server.url}/api/identify/match?name=held.dxf&leaf=${leaf}`;
      return fetch(url, { method: 'POST', body: bytes as never });
    };
    const { view, master, copy } = readMatch(
      await (await ask(edited('joiner_s_drawing', 'Sedge Loop', 'Sedge Lopp'))).arrayBuffer(),
    );
    expect(view).toMatchObject({ copy: null, intact: false, matches: false });
    expect(view.differences).toEqual([expect.objectContaining({ kind: 'retyped', copy: expect.stringContaining('Sedge Lopp') })]);
    expect([master?.kind, copy?.kind]).toEqual(['drawing', 'drawing']);
    expect(readMatch(await (await ask(onShelf('joiner_s_drawing'))).arrayBuffer()).view).toMatchObject({
      intact: true,
      differences: [],
    });
    const none = await ask(drawing);
    expect([none.status, (await none.json()).error.message]).toEqual([404, '“held.dxf” is no copy of a master of this Desk.']);
    expect((await ask(onShelf('joiner_s_drawing'), -1)).status).toBe(400);
  });
  it('knows masters and originals', async () => {
    expect(await identify('x.inkwell', onShelf('boardwalk_waymarker.inkwell'))).toMatchObject({
      kind: 'master',
      words: '“x.inkwell” is the master Boardwalk waymarker at r6, as it is now.',
    });
    expect(await identify('vane.svg', drawing)).toMatchObject({ kind: 'other', master: null });
    const { body } = await server.bringIn('vane.svg', drawing);
    expect(await identify('renamed.svg', drawing)).toMatchObject({ kind: 'original', master: { id: body.id } });
  });
  it('does not take a mark of another Desk for its own, nor anything else for a copy', async () => {
    expect(await identify('a.svg', edited('trail_web_page', 'master=', 'master=0'))).toMatchObject({
      kind: 'alike',
      verdict: null,
      words: expect.stringContaining('carries the mark of a master that is not on this Desk. It looks like “trail web page”'),
    });
    expect(await identify('letter.txt', Buffer.from('Dear warden'))).toMatchObject({ kind: 'other' });
  });
  it('says what is wrong with a damaged mark or file, and keeps nothing', async () => {
    const desk = async () => (await server.call('GET', '/api/desk')).body;
    // Small pictures of what was brought in before may still be on their way.
    await server.idle();
    const before = await desk();
    const bad = async (bytes: Buffer) =>
      (await fetch(`${server.url}/api/identify?name=x`, { method: 'POST', body: bytes as never })).status;
    expect(await bad(edited('trail_web_page', 'how=b64.ey', 'how=b64.fy'))).toBe(400);
    expect(await bad(onShelf('joiner_s_drawing').subarray(0, 900))).toBe(400);
    expect(await bad(Buffer.alloc(0))).toBe(400);
    expect(await desk()).toEqual(before);
  });
  it('speaks of a revision that this Desk does not have', async () => {
    expect(await identify('later.svg', edited('trail_web_page', 'rev=6', 'rev=60'))).toMatchObject({
      kind: 'copy',
      verdict: null,
      words: expect.stringContaining('only up to r6'),
    });
  });
});

describe('a copy that lost its mark', () => {
  const unmarked = (start: string, from: string, to: string): Buffer =>
    Buffer.from(
      edited(start, from, to)
        .toString('utf8')
        .replace(/<metadata>.*?<\/metadata>/s, '')
        .replace(/ data-inkwell-twin="[^"]*"/, ''),
    );
  const upload = async (path: string, bytes: Uint8Array) => fetch(server.url + path, { method: 'POST', body: bytes as never });
  const changed = () => unmarked('trail_web_page', 'r="4"', 'r="5"');

  it('is said to look like that copy, and is held against it', async () => {
    const found = await identify('saved.svg', changed());
    expect(found).toMatchObject({
      kind: 'alike',
      verdict: null,
      master: { title: 'Boardwalk waymarker' },
      copy: expect.any(String),
    });
    expect(found.words).toMatch(
      /^“saved.svg” carries no mark of origin. It looks like “trail web page”, a copy of Boardwalk waymarker, as it was at r6\. \d\d % of what it is made of is the same\.$/,
    );
    const answer = await upload(`/api/identify/match?name=saved.svg&leaf=0&copy=${found.copy}`, changed());
    expect(readMatch(await answer.arrayBuffer()).view.differences.map(({ kind }) => kind)).toEqual(Array(5).fill('resized'));
    // Without a word of what it is taken for, it is nothing that we know.
    expect((await upload('/api/identify/match?name=saved.svg&leaf=0', changed())).status).toBe(404);
  });
  it('is recognised where the copy was written before samples were kept', async () => {
    const { database } = server.workshop;
    await database.query('update copy set likeness = null');
    // Each question samples for some seconds; on a busy machine it takes more than one.
    await until(async () => (await identify('saved.svg', changed())).kind === 'alike', 'samples of copies from before');
    expect(await identify('saved.svg', changed())).toMatchObject({ kind: 'alike', master: { title: 'Boardwalk waymarker' } });
    const [left] = await database.rows<{ count: number }>(
      "select count(*)::integer as count from copy join recipe on recipe.id = copy.recipe where target = 'svg' and likeness is null",
    );
    expect(left!.count).toBe(0);
  });
  it('says so where it still says the very same', async () => {
    const { words } = await identify('same.svg', unmarked('trail_web_page', '<svg', '<svg'));
    expect(words).toContain('It says just the same.');
    const moved = await identify('moved.svg', unmarked('trail_web_page', 'cx="206"', 'cx="216"'));
    expect(moved.words).toContain('It is made of the same things, put otherwise.');
  });
  it('is a stranger where little of it is the same', async () => {
    expect(
      await identify('vane.svg', readFileSync(join(__dirname, '../../core/test/fixtures/weathervane.svg'))),
    ).not.toMatchObject({
      kind: 'alike',
    });
    const words = changed().toString('utf8');
    const path = /<path[^>]*\/>/.exec(words)![0]!;
    const few = Buffer.from(`${words.slice(0, words.indexOf('>', words.indexOf('<svg')) + 1)}${path}</svg>`);
    expect(await identify('few.svg', few)).toMatchObject({ kind: 'other' });
  });
  it('takes the place of the copy when it is attached, and nobody’s work is lost', async () => {
    const [theirs, same] = [changed(), unmarked('trail_web_page', '<svg', '<svg')];
    const { copy, master } = await identify('saved.svg', theirs);
    const attach = (name: string, bytes: Uint8Array) => upload(`/api/copies/${copy}/attach?name=${name}`, bytes);
    const folder = join(server.shelf, 'boardwalk_waymarker');
    const file = readdirSync(folder).find((name) => name.startsWith('trail_web_page'))!;
    const written = onShelf('trail_web_page');
    const wrong = await attach('x.dxf', onShelf('joiner_s_drawing'));
    expect([wrong.status, (await wrong.json()).error.message]).toEqual([
      400,
      expect.stringMatching(
        /^“x.dxf” is Drawing interchange \(DXF\); “trail_web_page.*” is SVG drawing\. Nothing was changed\.$/,
      ),
    ]);
    expect(readFileSync(join(folder, file))).toEqual(written);
    expect((await attach('saved.svg', theirs)).status).toBe(200);
    expect(readFileSync(join(folder, file))).toEqual(theirs);
    const verdictNow = async () =>
      (await server.call<MasterView>('GET', `/api/masters/${master!.id}`)).body.copies.find(({ id }) => id === copy)?.verdict;
    expect(await verdictNow()).toBe('touched');
    // What was there now is somebody's work: the next one gives it another name.
    expect((await attach('again.svg', same)).status).toBe(200);
    expect(readdirSync(folder).filter((name) => name.includes('trail_web_page') && name.includes('set_aside'))).toHaveLength(1);
    expect(await verdictNow()).toBe('in step');
    expect((await upload('/api/copies/none/attach?name=a.svg', theirs)).status).toBe(404);
  });
});
