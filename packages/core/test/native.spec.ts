import fc from 'fast-check';
import { zipSync, unzipSync, strToU8 } from 'fflate';
import {
  type Failure,
  NATIVE_MEDIA_TYPE,
  type NativePackage,
  applyPatches,
  atRevision,
  digest,
  fileName,
  freeName,
  looksNative,
  moveItems,
  nodeHash,
  readPackage,
  revisionsOf,
  setAttribute,
  writePackage,
} from '../src';
import { master } from './arbitrary';
import { masterWith, rectangle } from './build';
import { runs } from './depth';

const time = '2026-11-20T10:00:00.000Z';
const first = masterWith([rectangle('a'), rectangle('b', 60, 10)]);
const second = moveItems(first, ['a'], 3, 0);
const third = setAttribute(applyPatches(first, second.patches).master, 'b', 'width', 12);
const revisions = [
  { rev: 1, time, author: 'Ines Okoro', message: 'First', patches: [] },
  { rev: 2, time, author: 'Ines Okoro', message: 'Moved', patches: second.patches },
  { rev: 3, time, author: 'Bram Adler', message: 'Narrower', patches: third.patches },
];
const original = strToU8('<svg/>');
const all = [...revisionsOf({ first, revisions })];
const pkg: NativePackage = {
  master: all[2]!.master,
  rev: 3,
  time,
  history: { first, revisions },
  resources: new Map([[digest(original), original]]),
};
const bytes = writePackage(pkg);
const failureOf = (run: () => unknown): Failure => {
  try {
    run();
  } catch (error) {
    return error as Failure;
  }
  throw new Error('nothing was thrown');
};
/** The package with some entries replaced, added (in front) or taken out. */
function spoiled(change: Record<string, Uint8Array | null>): Uint8Array {
  const entries = { ...unzipSync(bytes), ...change };
  for (const [name, value] of Object.entries(change)) if (value === null) delete entries[name];
  return zipSync(entries as Record<string, Uint8Array>, { level: 0 });
}
const manifest = (change: object) =>
  strToU8(JSON.stringify({ ...JSON.parse(new TextDecoder().decode(unzipSync(bytes)['manifest.json'])), ...change }));

describe('the native package', () => {
  it('opens again with a kept file in it that packs to next to nothing', () => {
    const even = new Uint8Array(2_000_000);
    const made = writePackage({ ...pkg, resources: new Map([[digest(even), even]]) });
    expect(readPackage(made).resources.get(digest(even))).toEqual(even);
  });

  it('reads back as what was written, history and originals included', () => {
    const back = readPackage(bytes);
    expect(back.master).toEqual(pkg.master);
    expect(back.history).toEqual(pkg.history);
    expect([...back.resources]).toEqual([[digest(original), original]]);
  });
  it('keeps any master as it is', () => {
    fc.assert(
      fc.property(master, (one) => {
        const back = readPackage(writePackage({ master: one, rev: 1, time, history: null, resources: new Map() }));
        expect(nodeHash(back.master)).toBe(nodeHash(one));
      }),
      { numRuns: runs(40) },
    );
  });
  it('has the same bytes for the same content, and the kind of file first', () => {
    expect(writePackage({ ...pkg, master: JSON.parse(JSON.stringify(pkg.master)) })).toEqual(bytes);
    expect(new TextDecoder().decode(bytes.subarray(30, 38 + NATIVE_MEDIA_TYPE.length))).toBe(`mimetype${NATIVE_MEDIA_TYPE}`);
    expect(looksNative(bytes)).toBe(true);
    expect(looksNative(original)).toBe(false);
  });
  it('reaches every earlier revision', () => {
    const back = readPackage(bytes);
    expect(atRevision(back, 1)!.master).toEqual(first);
    expect(nodeHash(atRevision(back, 2)!.master)).toBe(nodeHash(all[1]!.master));
    expect(failureOf(() => atRevision(back, 9)).message).toContain('r1 to r3');
    expect(atRevision({ ...back, history: null }, 1)).toBeNull();
  });
  it.each<[string, Uint8Array, string, string]>([
    [
      'a newer version',
      spoiled({ 'manifest.json': manifest({ version: 4, writer: 'inkwell-twin 9' }) }),
      'newer-version',
      'inkwell-twin 9',
    ],
    ['a part that was changed', spoiled({ 'master.json': strToU8('{}') }), 'package-damaged', 'master.json'],
    ['a part that is missing', spoiled({ 'history/history.json': null }), 'package-damaged', 'history/history.json'],
    ['a manifest that is no JSON', spoiled({ 'manifest.json': strToU8('{') }), 'package-damaged', 'manifest.json'],
    ['a name that leads out', spoiled({ '../evil.txt': strToU8('x') }), 'package-unsafe', '../evil.txt'],
    ['a name from the root', spoiled({ '/etc/evil': strToU8('x') }), 'package-unsafe', '/etc/evil'],
    ['another archive', zipSync({ 'a.txt': strToU8('x') }), 'not-native', 'zip archive'],
    ['half of it', bytes.slice(0, bytes.length / 2), 'package-damaged', 'unpacked'],
    ['a drawing', original, 'not-native', 'does not'],
    ['nothing', new Uint8Array(), 'not-native', 'does not'],
  ])('refuses %s', (_, spoiledBytes, code, words) => {
    const failure = failureOf(() => readPackage(spoiledBytes));
    expect(failure.code).toBe(code);
    expect(failure.message).toContain(words);
  });
  it('refuses what unpacks to far more than it is', () => {
    const bomb = zipSync({ mimetype: strToU8(NATIVE_MEDIA_TYPE), 'master.json': new Uint8Array(40_000_000) }, { level: 9 });
    expect(bomb.length).toBeLessThan(200_000);
    expect(failureOf(() => readPackage(bomb)).code).toBe('package-too-large');
  });
  it('refuses a document that is not as described, and says where', () => {
    const wrong = strToU8(JSON.stringify({ ...first, boards: [{ ...first.boards[0], width: -4 }] }));
    const entries = [{ path: 'master.json', size: wrong.length, sha256: digest(wrong) }];
    expect(
      failureOf(() => readPackage(spoiled({ 'master.json': wrong, 'manifest.json': manifest({ entries }) }))).message,
    ).toContain('boards.0.width');
  });
});

describe('names', () => {
  it.each<[string, Record<string, string | number>, string, string]>([
    [
      '{title}_{board}_r{rev}_{version}',
      { title: 'Boardwalk waymarker', board: 'Front', rev: 8, version: 'R12' },
      'dxf',
      'boardwalk_waymarker_front_r8_r12.dxf',
    ],
    ['{title}_{board}_r{rev}_{version}', { title: 'Größe: 5/8″', board: '', rev: 1, version: '' }, 'svg', 'grosse_5_8_r1.svg'],
    ['{title}', { title: 'CON' }, 'svg', 'copy_con.svg'],
    ['{title}', { title: '鷺' }, 'svg', 'copy.svg'],
    ['{title}', { title: '../../etc/passwd' }, 'svg', 'etc_passwd.svg'],
    ['{title}.', { title: 'dots...' }, 'svg', 'dots.svg'],
  ])('fills %s safely', (pattern, parts, extension, expected) => expect(fileName(pattern, parts, extension)).toBe(expected));
  it('writes CamelParts where a house does', () =>
    expect(fileName('{title}', { title: 'fen map leaflet' }, 'svg', { letters: 'CamelParts', length: 80 })).toBe(
      'FenMapLeaflet.svg',
    ));
  it('is never too long, reserved, or out of the safe characters, whatever the title', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 300 }), (title) => {
        const name = fileName('{title}_r{rev}', { title, rev: 3 }, 'svg');
        expect(name).toMatch(/^[a-z0-9][a-z0-9_.-]*\.svg$/);
        expect(name.length).toBeLessThanOrEqual(80);
      }),
    );
  });
  it('takes the next free one, case aside', () => {
    expect(freeName('a.svg', ['A.svg', 'a_2.svg'])).toBe('a_3.svg');
    expect(freeName('folder', ['folder'])).toBe('folder_2');
  });
});
