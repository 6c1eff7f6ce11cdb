import fc from 'fast-check';
import { OLDER_READERS, type Seen } from '../../standins/src';
import { type Drawing, type Master, type SeenCheck, derive, heldAgainstSeen, recipeOf } from '../src';
import { lined, masterWith, rectangle, text } from './build';
import { runs } from './depth';
import { services } from './flat';
import { richMaster } from './rich';

const VERSIONS = ['R12', '2000', '2004', '2007', '2010', '2013', '2018'];
const made = (master: Master, options: Record<string, string>) =>
  derive({ master, rev: 1, time: '2026-12-01T10:00:00.000Z' }, recipeOf('dxf', options), services);
const open = (version: string, bytes: Uint8Array): Seen => OLDER_READERS[`dxf-${version.toLowerCase()}`]!(bytes);
/** A copy of one board as the reader of its own age sees it, held against what it was to say. */
async function seenOf(master: Master, options: Record<string, string>): Promise<{ seen: Seen; held: SeenCheck }> {
  const { files, projection } = await made(master, options);
  const seen = open(options['version']!, files[0]!.bytes);
  return { seen, held: heldAgainstSeen(projection.leaves[0]!.body as Drawing, seen, 0.01) };
}
const sign = masterWith([
  rectangle('r', 10, 10, { radius: 4, style: lined('#c23b22', 0.35) }),
  {
    kind: 'path',
    id: 'p',
    layer: 'print',
    style: lined('#17796a', 0.5),
    outlines: [
      {
        start: [120, 20],
        segments: [
          { kind: 'cubic', c1: [130, 60], c2: [150, 0], to: [170, 40] },
          { kind: 'arc', to: [190, 20], centre: [170, 20], clockwise: true },
        ],
        closed: true,
      },
    ],
  },
  text('t', 'Łódka 100 %, Größe %%c', { x: 20, y: 70 }),
]);

describe('the reader of an age', () => {
  it.each(VERSIONS)(
    '%s: opens whatever master comes as its version, and sees all that was meant where it was meant',
    async (version) => {
      await fc.assert(
        fc.asyncProperty(
          richMaster,
          fc.constantFrom('text', 'binary'),
          fc.constantFrom('left out', 'hatches'),
          fc.constantFrom('blocks', 'opened'),
          async (master, encoding, fills, symbols) => {
            const { seen, held } = await seenOf(master, { version, encoding, fills, symbols });
            expect([seen.refused, seen.dropped]).toEqual([null, []]);
            expect([held.missing, held.more]).toEqual([[], []]);
          },
        ),
        { numRuns: runs(12) },
      );
    },
  );

  it('sees texts as they are written, whatever letters', async () => {
    for (const version of VERSIONS) {
      const { seen, held } = await seenOf(sign, { version });
      expect(seen.texts.map(({ words }) => words)).toEqual(['Łódka 100 %, Größe %%c']);
      expect([held.missing, held.more, held.lines, held.texts]).toEqual([[], [], 2, 1]);
      expect(held.furthest).toBeLessThan(0.012);
      expect(seen.picture).toContain('<polyline');
    }
  });

  it('refuses what came after it, and says what', async () => {
    for (const [i, newer] of VERSIONS.entries())
      for (const older of VERSIONS.slice(0, i)) {
        const { files } = await made(sign, { version: newer });
        const { opens, refused } = open(older, files[0]!.bytes);
        expect([newer, older, opens]).toEqual([newer, older, false]);
        expect(refused!.words).toMatch(/the file is of version 10\d\d; known are those up to 10\d\d/);
      }
    // A file that says it is old, and is not.
    const { files } = await made(sign, { version: '2000' });
    const lying = Buffer.from(Buffer.from(files[0]!.bytes).toString('latin1').replace('AC1015', 'AC1009'), 'latin1');
    expect(open('R12', lying).refused!.words).toBe('LWPOLYLINE is not known');
  });

  it('finds what a copy lacks, what it has too much, and what lies elsewhere', async () => {
    const { files, projection } = await made(sign, { version: 'R12' });
    const wanted = projection.leaves[0]!.body as Drawing;
    const words = Buffer.from(files[0]!.bytes).toString('latin1');
    const held = (bytes: string) => heldAgainstSeen(wanted, open('R12', Buffer.from(bytes, 'latin1')), 0.01);
    expect(held(words)).toMatchObject({ missing: [], more: [] });
    const arc = words.indexOf('0\nVERTEX');
    const moved = held(`${words.slice(0, arc)}${words.slice(arc).replace(/\n10\n(\d+)/, '\n10\n9$1')}`);
    expect(moved.missing).toMatchObject([{ what: 'line', layer: 'CUT' }]);
    expect(moved.more).toMatchObject([{ what: 'line', layer: 'CUT' }]);
    expect(held(words.replace('100 %', '100 %%d'))).toMatchObject({ missing: [{ what: 'text' }], more: [{ what: 'text' }] });
    expect(held(words.replaceAll('\nPRINT\n', '\nCUT\n')).missing.map(({ layer }) => layer)).toContain('PRINT');
    const extra = words
      .replace('0\nSEQEND\n', '0\nSEQEND\n8\nCUT\n0\nLINE\n8\nCUT\n10\n1\n20\n1\n11\n5\n21\n5\n')
      .replace('5\n21\n5\n8\nCUT\n', '5\n21\n5\n');
    expect(held(extra)).toMatchObject({ missing: [], more: [{ what: 'line', layer: 'CUT' }] });
  });
});
