import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { parsePlainXml } from '../src/formats/svg/plain-xml';
import { parseAnyXml, parseXml } from '../src/formats/svg/xml';
import type { XmlElement } from '../src/formats/svg/xml-element';
import { runs } from './depth';

const LIMITS = { depth: 256, elements: 500_000 };
const plain = (text: string) => parsePlainXml(text, LIMITS, () => 'svg:');

/** A tree as plain data: without the way up, which would go round for ever. */
const data = (element: XmlElement): unknown => ({
  name: element.name,
  line: element.line,
  attributes: { ...element.attributes },
  children: element.children.map((child) => (typeof child === 'string' ? child : data(child))),
});

/** Where the quick reader answers at all, it answers as the full parser, which must not fail then. */
function answersAlike(text: string): boolean {
  const quick = plain(text);
  if (quick) expect(data(quick)).toEqual(data(parseAnyXml(text)));
  return quick !== null;
}

const folder = join(__dirname, 'fixtures');
const drawings = readdirSync(folder)
  .filter((name) => name.endsWith('.svg'))
  .map((name) => readFileSync(join(folder, name), 'utf8'));

describe('the quick reader of plain XML', () => {
  it('answers as the full parser for drawings of several programs', () => {
    expect(drawings.length).toBeGreaterThan(0);
    for (const text of drawings) answersAlike(text.replaceAll('\r\n', '\n'));
  });

  const pieces = fc.constantFrom(
    ...['<a>', '</a>', '<a/>', '<a b="1">', '<a b="1" b="2"/>', '<a b="1"c="2"/>', "<a b='1'/>", '<a b = "1"/>', '<a b="<"/>'],
    ...[
      '<svg:a x="&lt;&#65;"/>',
      '<a x="&lt;&amp;"/>',
      '<a x="&none;"/>',
      '<a x="1\n2\t3"/>',
      '<a\n b="1"\n/>',
      '<a constructor="1"/>',
    ],
    ...[
      '<!-- a -->',
      '<!-- a -- b -->',
      '<!--->',
      '<![CDATA[x<y]]>',
      '<?pi x?>',
      '<!DOCTYPE a>',
      'text',
      ' ',
      '\n',
      '\r\n',
      '&amp;',
      '&',
      ']]>',
    ],
    ...[
      'é',
      '<é/>',
      '<a é="1"/>',
      '😀',
      '\u0001',
      '<1/>',
      '<-a/>',
      '< a/>',
      '</a >',
      '</ a>',
      '<a',
      '>',
      '/>',
      '<a b>',
      '<a b="',
      '<a:b:c/>',
      '<:a/>',
    ],
  );
  const body = fc.array(pieces, { maxLength: 12 }).map((parts) => parts.join(''));
  const start = fc.constantFrom(
    '',
    '<?xml version="1.0"?>',
    '<?xml version="1.0" encoding="UTF-8"?>\n',
    '<?xml version="1.1"?>',
    ' ',
    '\ufeff',
  );
  it('answers as the full parser, or not at all, whatever the pieces', () => {
    let answered = 0;
    fc.assert(
      fc.property(start, body, fc.boolean(), (head, inner, whole) => {
        if (answersAlike(whole ? `${head}<a>${inner}</a>` : head + inner)) answered++;
      }),
      { numRuns: runs(3000) },
    );
    expect(answered).toBeGreaterThan(runs(3000) / 30);
  });

  it('answers as the full parser, or not at all, after any damage', () => {
    const sample = drawings.map((text) => text.replaceAll('\r\n', '\n').slice(0, 3000));
    fc.assert(
      fc.property(
        fc.constantFrom(...sample),
        fc.nat(),
        fc.nat(30),
        fc.constantFrom('', '<', '>', '"', '&', '\n', '/', '=', '-', 'é'),
        (text, at, cut, put) => {
          const where = at % text.length;
          answersAlike(text.slice(0, where) + put + text.slice(where + cut));
        },
      ),
      { numRuns: runs(1500) },
    );
  });

  it('leaves too many or too deep elements to the parser that says so', () => {
    expect(plain('<a>'.repeat(300) + '</a>'.repeat(300))).toBeNull();
    expect(() => parseXml('<a>'.repeat(300) + '</a>'.repeat(300))).toThrow(expect.objectContaining({ code: 'xml-too-large' }));
  });
});
