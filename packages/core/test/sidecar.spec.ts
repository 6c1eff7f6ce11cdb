import * as fc from 'fast-check';
import { type Correction, type Said, meetingOf, readSidecar, saidOf, settled, standOf, writeSidecar } from '../src';
import { encodeText } from '../src/base/bytes/text';
import { python } from './python';

const words = fc.string({ unit: 'grapheme', maxLength: 60 });
const share = fc.double({ min: 0, max: 1, noNaN: true });
const corrections: fc.Arbitrary<Correction[]> = fc.array(
  fc.oneof(
    fc.record({ kind: fc.constant('exposure' as const), stops: share }),
    fc.record({
      kind: fc.constant('levels' as const),
      off: fc.constant(true as const),
      black: share,
      white: share,
      gamma: fc.constant(1),
    }),
    fc.record({
      kind: fc.constant('cut-out' as const),
      by: fc.constant('outline' as const),
      colour: fc.constant('#ffffff'),
      distance: fc.constant(10),
      points: fc.array(fc.tuple(share, share), { maxLength: 5 }),
      soft: share,
    }),
  ),
  { minLength: 1, maxLength: 4 },
);
const said: fc.Arbitrary<Said> = fc
  .record({ keywords: fc.array(words, { maxLength: 6 }), description: words, rights: words })
  .chain((one) => fc.option(corrections).map((some) => ({ ...saidOf(one), ...(some ? { corrections: some } : {}) })));
/** What a file says that says this: corrections that are not said of stay. */
const after = (one: Said, before: Said): Said =>
  one.corrections || !before.corrections ? one : { ...one, corrections: before.corrections };
const SIDE: Said = {
  keywords: ['Lantern Fen', 'reeds & rushes'],
  caption: 'Reeds <in> the evening',
  rights: '© Lantern Fen Trust',
};

/** As another program writes it: other prefixes, a list in an order, two languages, and much else besides. */
const FOREIGN = `<?xml version="1.0" encoding="UTF-8"?>
<m:xmpmeta xmlns:m="adobe:ns:meta/"><!-- term-guard: standard ISO 16684-1, 7.3.3 -->
<r:RDF xmlns:r="http://www.w3.org/1999/02/22-rdf-syntax-ns#">
 <r:Description r:about="" xmlns:e="http://ns.example.org/exposure/" e:Time="1/250" xmlns:d="http://purl.org/dc/elements/1.1/">
  <d:subject><r:Seq><r:li>heron</r:li><r:li>pool</r:li></r:Seq></d:subject>
  <d:description><r:Alt><r:li xml:lang="de">Reiher</r:li><r:li xml:lang="x-default">Heron</r:li></r:Alt></d:description>
  <e:Lens>50 mm</e:Lens>
 </r:Description>
</r:RDF></m:xmpmeta>`;

describe('a sidecar', () => {
  it('says what was said, whatever that is, and says it again as it was', () => {
    fc.assert(
      fc.property(said, said, (one, two) => {
        const first = writeSidecar(one, null);
        expect(readSidecar(first)).toEqual(one);
        const second = writeSidecar(two, first);
        expect(readSidecar(second)).toEqual(after(two, one));
        // What was there before does not pile up.
        expect(writeSidecar(one, second).length).toBe(writeSidecar(one, writeSidecar(two, second)).length);
        expect(readSidecar(writeSidecar({ ...two, corrections: [] }, second))).toEqual({ ...two, corrections: undefined });
      }),
    );
  });

  it('of another program is read, and all else in it stays when it is written', () => {
    expect(readSidecar(FOREIGN)).toEqual({ keywords: ['heron', 'pool'], caption: 'Heron', rights: '' });
    const now = writeSidecar(SIDE, FOREIGN);
    expect(readSidecar(now)).toEqual(SIDE);
    for (const kept of ['e:Time="1/250"', '<e:Lens>50 mm</e:Lens>']) expect(now).toContain(kept);
    expect(now).not.toContain('heron');
  });

  it('is read by other hands as the standard has it', () => {
    const { out } = python(
      `
import json
from lxml import etree
n = {'rdf': 'http://www.w3.org/1999/02/22-rdf-syntax-ns#', 'dc': 'http://purl.org/dc/elements/1.1/'}
tree = etree.parse('a.xmp')
one = lambda path: [e.text for e in tree.findall('.//rdf:Description/dc:' + path, n)]
print(json.dumps([one('subject/rdf:Bag/rdf:li'), one('description/rdf:Alt/rdf:li'), one('rights/rdf:Alt/rdf:li')]))
`,
      encodeText(writeSidecar(SIDE, FOREIGN)),
      'a.xmp',
    );
    expect(JSON.parse(out)).toEqual([SIDE.keywords, [SIDE.caption], [SIDE.rights]]);
  });

  it('that is damaged, says nothing or brings entities is refused with the reason', () => {
    expect(() => readSidecar('<a><b></a>')).toThrow('can’t be read as XML');
    expect(() => readSidecar('<a/>')).toThrow('holds no properties');
    expect(() => readSidecar('<!DOCTYPE a [<!ENTITY x "y">]><a>&x;</a>')).toThrow('document type');
    expect(() => writeSidecar(SIDE, 'no xml')).toThrow('can’t be read');
    const strange = writeSidecar({ ...SIDE, corrections: [{ kind: 'exposure', stops: 1 }] }, null);
    expect(() => readSidecar(strange.replace('exposure', 'glow'))).toThrow('correction no. 1 is not one that is known');
    expect(() => readSidecar(strange.replace(/\{[^}]*\}/, 'brighter'))).toThrow('correction no. 1 is no JSON');
  });
});

describe('a description and its sidecar', () => {
  const base: Said = { keywords: ['a', 'b'], caption: 'One', rights: 'R' };
  it('meet field by field, and what only one side changed is that side’s', () => {
    const inside = { ...base, caption: 'Two', keywords: ['b', 'a'] };
    const outside = { ...base, rights: 'S', caption: 'Three' };
    const fields = meetingOf(base, inside, outside);
    expect(fields).toEqual([
      { field: 'caption', base: 'One', inside: 'Two', outside: 'Three', changed: 'both' },
      { field: 'rights', base: 'R', inside: 'R', outside: 'S', changed: 'outside' },
    ]);
    expect(standOf(fields)).toBe('both');
    expect(settled(fields, inside, outside, {})).toEqual({ keywords: ['b', 'a'], caption: 'Two', rights: 'S' });
    expect(settled(fields, inside, outside, { caption: 'outside', rights: 'inside' })).toEqual({
      keywords: ['b', 'a'],
      caption: 'Three',
      rights: 'R',
    });
  });

  it('differ in corrections only where a picture has the same wherever it is shown', () => {
    const [dark, bright] = [-1, 1].map((stops): Correction[] => [{ kind: 'exposure', stops }]);
    const fields = meetingOf({ ...base, corrections: dark }, { ...base, corrections: dark }, { ...base, corrections: bright });
    expect(fields).toEqual([
      {
        field: 'corrections',
        base: 'exposure: stops -1',
        inside: 'exposure: stops -1',
        outside: 'exposure: stops 1',
        changed: 'outside',
      },
    ]);
    expect(meetingOf({ ...base, corrections: dark }, base, { ...base, corrections: bright })).toEqual([]);
    expect(settled(fields, { ...base, corrections: dark }, base, {}).corrections).toEqual([]);
  });

  it('are in step after either side was taken, and nothing that one side alone said is lost', () => {
    fc.assert(
      fc.property(fc.option(said), said, said, (before, inside, outside) => {
        const fields = meetingOf(before, inside, outside);
        const now = settled(fields, inside, outside, {});
        expect(standOf(meetingOf(now, now, now))).toBe('in step');
        for (const { field, changed } of fields) {
          const side = changed === 'outside' ? outside : inside;
          expect(now[field]).toEqual(field === 'corrections' ? (side.corrections ?? []) : side[field]);
        }
        if (standOf(fields) === 'pending')
          expect(meetingOf(before, inside, outside).every((one) => one.outside === one.base)).toBe(true);
      }),
    );
  });
});
