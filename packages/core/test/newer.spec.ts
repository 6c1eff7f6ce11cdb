import * as fc from 'fast-check';
import { NATIVE_MEDIA_TYPE, type Master, digest, lookAtNewer, readPackage, writePackage } from '../src';
import { encodeText } from '../src/base/bytes/text';
import { unpackEntries, packEntries } from '../src/document/native/zip';
import { lined, masterWith, rectangle, text } from './build';
import { richMaster } from './rich';
import { runs } from './depth';

interface Later {
  boards: { items: Record<string, unknown>[]; glow?: number }[] | number;
  weather?: string;
}

/** A package as a later version might write it: its manifest and document changed. */
function later(master: Master, change: (document: Later) => void, manifest: object = {}): Uint8Array {
  const bytes = writePackage({ master, rev: 4, time: '2027-01-05T10:00:00Z', history: null, resources: new Map() });
  const entries = unpackEntries(bytes);
  const read = (path: string) => JSON.parse(new TextDecoder().decode(entries.get(path)!)) as unknown;
  const document = read('master.json') as Later;
  change(document);
  entries.set('master.json', encodeText(JSON.stringify(document)));
  const said = { ...(read('manifest.json') as object), version: 5, writer: 'inkwell-twin 2.0', checks: 'otherwise', ...manifest };
  entries.set('manifest.json', encodeText(JSON.stringify(said)));
  return packEntries(entries, new Set(['mimetype']));
}
const plain = () =>
  masterWith([rectangle('r1'), rectangle('r2', 60, 10, { style: lined('#14213a', 0.5) }), text('t', 'Lantern Fen')]);

describe('a master that a newer version wrote', () => {
  it('is refused for work with whom to ask, and looked at as far as that goes', () => {
    const bytes = later(plain(), (document) => {
      const [board] = document.boards as Exclude<Later['boards'], number>;
      board!.items.push({ kind: 'hologram', id: 'h1', depth: 4 }, { kind: 'hologram', id: 'h2', depth: 2 });
      board!.items[0]!['style'] = { fill: { kind: 'plasma' }, stroke: null, strokeWidth: 0 };
      board!.items[1]!['shimmer'] = 3;
      board!.glow = 2;
      document.weather = 'fog';
    });
    expect(() => readPackage(bytes)).toThrow('of native version 5');
    const found = lookAtNewer(bytes);
    expect(found).toMatchObject({ version: 5, writer: 'inkwell-twin 2.0', title: 'Test piece', rev: 4, ask: 'Ines Okoro' });
    expect(Object.fromEntries(found.notShown.map(({ kind, count }) => [kind, count]))).toEqual({
      '“hologram”': 2,
      'style of “rectangle”': 1,
      '“rectangle”': 1,
      'shimmer of “rectangle”': 1,
      'glow of one of the boards': 1,
      'weather of the master': 1,
    });
    expect(found.master!.boards[0]!.items.map(({ id }) => id)).toEqual(['r2', 't']);
    expect(() => lookAtNewer(writePackage({ master: plain(), rev: 1, time: '', history: null, resources: new Map() }))).toThrow(
      'bring it in',
    );
  });

  it('of which nothing can be shown still says what it is', () => {
    const found = lookAtNewer(later(plain(), (document) => void (document.boards = 4)));
    expect(found).toMatchObject({ master: null, title: 'Test piece', ask: 'Ines Okoro' });
    expect(found.notShown.map(({ kind }) => kind)).toContain('all that it holds');
  });

  it('shows all of what it has in common with now, whatever is new in it', () => {
    fc.assert(
      fc.property(richMaster, fc.nat(1e6), (master, pick) => {
        let added = 0;
        const bytes = later(master, (document) => {
          // Every third node says something new.
          const visit = (node: unknown): void => {
            if (Array.isArray(node)) return node.forEach(visit);
            if (typeof node !== 'object' || node === null) return;
            if ('id' in node && (added + pick) % 3 === 0) (node as { aura?: number }).aura = 1;
            if ('id' in node) added++;
            Object.values(node).forEach(visit);
          };
          visit(document);
        });
        const found = lookAtNewer(bytes);
        expect(found.master).toEqual(master);
        expect(found.notShown.every(({ kind }) => kind.startsWith('aura of '))).toBe(true);
      }),
      { numRuns: runs(40) },
    );
  });

  it('that is nested without end, or whose writer has no end, is refused in a sentence', () => {
    const entries = unpackEntries(later(plain(), () => undefined, { writer: 'x'.repeat(5000) }));
    expect(() => readPackage(packEntries(entries, new Set(['mimetype'])))).toThrow(/^.{0,300}$/);
    entries.set('master.json', encodeText(`{"title":${'['.repeat(20_000)}${']'.repeat(20_000)}}`));
    expect(() => lookAtNewer(packEntries(entries, new Set(['mimetype'])))).toThrow('master.json is nested deeper than');
  });

  it('that is damaged says so', () => {
    expect(() => lookAtNewer(packEntries(new Map([['mimetype', encodeText(NATIVE_MEDIA_TYPE)]]), new Set()))).toThrow(
      'no manifest.json',
    );
    expect(digest(later(plain(), () => undefined))).toHaveLength(64);
  });
});
