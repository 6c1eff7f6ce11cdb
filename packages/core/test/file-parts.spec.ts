import fc from 'fast-check';
import { type Failure, parseMark } from '../src';
import { parseRecords } from '../src/formats/dxf/records';
import { StyleSheet } from '../src/formats/svg/style';
import { textChunks } from '../src/formats/svg/text';
import { fitViewBox, viewportOf } from '../src/formats/svg/viewport';
import { parseXml, textOf } from '../src/formats/svg/xml';
import type { XmlElement } from '../src/formats/svg/xml-element';
import { runs } from './depth';

const failureOf = (run: () => unknown): Failure => {
  try {
    run();
  } catch (error) {
    return error as Failure;
  }
  throw new Error('nothing was thrown');
};
const elements = (element: XmlElement): XmlElement[] =>
  element.children.flatMap((child) => (typeof child === 'string' ? [] : [child, ...elements(child)]));

describe('XML', () => {
  it('is read with its lines, its text and its CDATA', () => {
    const root = parseXml('<a>\n<b x="1">one</b>\n<c><![CDATA[two < three]]></c></a>');
    expect(elements(root).map(({ name, line }) => [name, line])).toEqual([
      ['b', 2],
      ['c', 3],
    ]);
    expect(textOf(root).replace(/\s+/g, ' ').trim()).toBe('one two < three');
    expect(elements(root)[0]!.parent).toBe(root);
  });
  it('takes any prefix that is bound to the SVG namespace for the drawing’s own', () => {
    const root = parseXml('<v:svg xmlns:v="http://www.w3.org/2000/svg"><v:g/><w:g/></v:svg>');
    expect([root, ...elements(root)].map(({ name }) => name)).toEqual(['svg', 'g', 'w:g']);
  });
  it('without a prefix is the same element as with ours', () =>
    expect(parseXml('<svg:svg xmlns:svg="http://www.w3.org/2000/svg"/>').name).toBe('svg'));
  it('with a plain document type is read', () => expect(parseXml('<!DOCTYPE svg PUBLIC "a" "b"><svg/>').name).toBe('svg'));
  it.each(['<a', '<a></b>', '<a b=c/>', 'words', '<a/><b/>', '<a>&nope;</a>'])('%s is refused with its line', (words) => {
    expect(failureOf(() => parseXml(words))).toMatchObject({ code: 'xml-damaged', where: { line: expect.any(Number) } });
  });
});

describe('a style sheet', () => {
  const sheetOf = (css: string) => {
    const sheet = new StyleSheet();
    sheet.add(css);
    return sheet;
  };
  const [group, rect] = elements(parseXml('<svg><g id="g" class="a b"><rect class="c" fill="red" opacity=".5"/></g></svg>')) as [
    XmlElement,
    XmlElement,
  ];

  it.each<[string, string]>([
    ['rect { fill: #000001 }', '#000001'],
    ['* { fill: #000002 }', '#000002'],
    ['g rect { fill: #000003 }', '#000003'],
    ['svg > g > .c { fill: #000004 }', '#000004'],
    ['.a.b rect.c { fill: #000005 }', '#000005'],
    ['circle, #g .c { fill: #000006 }', '#000006'],
    ['svg > .c { fill: #000007 }', 'red'],
    ['.b.d rect { fill: #000008 }', 'red'],
    ['rect { fill: #000009 } rect { fill: #00000a }', '#00000a'],
    ['#g rect { fill: #00000b } rect.c { fill: #00000c }', '#00000b'],
  ])('with %s gives %s', (css, fill) => expect(sheetOf(css).propertiesOf(rect, {})['fill']).toBe(fill));

  it.each<[string, string, string]>([
    ['rect { fill: #000001 !important }', 'fill: #000002', '#000001'],
    ['rect { fill: #000001 !important }', 'fill: #000002 !important', '#000002'],
    ['rect { fill: #000001 }', 'fill: #000002', '#000002'],
    ['@media print { rect { fill: #000001 } }', '', 'red'],
    ['@media screen { rect { fill: #000001 } }', '', '#000001'],
  ])('weighs %s against the element’s own “%s”', (css, inline, fill) => {
    const [one] = elements(parseXml(`<svg><rect style="${inline}" fill="red"/></svg>`));
    expect(sheetOf(css).propertiesOf(one!, {})['fill']).toBe(fill);
  });
  it('says which rules are not for a drawing', () =>
    expect(sheetOf('@import "x.css"; @media print { a { fill: red } } @font-face { font-family: x }').unknown).toEqual([
      'style rule @import',
      'style rule @media',
    ]));
  it('takes the font shorthand apart', () =>
    expect(sheetOf('rect { font: italic bold 12px/1.5 "Spline Sans Mono", monospace }').propertiesOf(rect, {})).toMatchObject({
      'font-style': 'italic',
      'font-weight': 'bold',
      'font-size': '12px',
      'font-family': '"Spline Sans Mono", monospace',
    }));
  it.each([
    ['2em', '8', '16'],
    ['150%', '10px', '15'],
    ['larger', '10', '12'],
    ['3mm', '10', '3mm'],
  ])('hands down a font size of %s in %s as %s', (size, parent, computed) =>
    expect(sheetOf(`rect { font-size: ${size} }`).propertiesOf(rect, { 'font-size': parent })['font-size']).toBe(computed),
  );

  it('hands down what is inherited, and nothing else', () => {
    const properties = new StyleSheet().propertiesOf(rect, { stroke: 'blue', opacity: '.2', 'clip-path': 'url(#x)' });
    expect(properties).toEqual({ stroke: 'blue', fill: 'red', opacity: '.5' });
    expect(new StyleSheet().propertiesOf(group, { 'font-size': '5' })).toEqual({ 'font-size': '5' });
  });
  it('names selectors that it does not understand', () => {
    const sheet = sheetOf('rect:hover { fill: blue } rect::first-line { fill: blue } rect:unheard { fill: blue }');
    expect(sheet.unknown).toEqual([
      'style selector rect:hover',
      'style selector rect::first-line',
      'style selector rect:unheard',
    ]);
    expect(sheet.propertiesOf(rect, {})['fill']).toBe('red');
  });
});

describe('text of an SVG', () => {
  const view = viewportOf(parseXml('<svg width="100" height="50"/>'));
  const chunksOf = (words: string) => {
    const noted: string[] = [];
    const element = parseXml(words);
    const sheet = new StyleSheet();
    const note = (kind: string) => void noted.push(kind);
    // Each letter half an em wide.
    const measure = (_font: string, text: string) => text.length / 2;
    const chunks = textChunks(element, sheet.propertiesOf(element, {}), {
      sheet,
      viewport: view,
      measure,
      note,
      look: () => undefined,
    });
    return { chunks: chunks.map(({ parts, x, y }) => [parts.map(({ text }) => text).join('|'), x, y]), noted };
  };
  it('is one chunk where nothing changes, blanks collapsed', () => {
    expect(chunksOf('<text x="5" y="10">  Sedge\n   <tspan>Loop</tspan> </text>')).toEqual({
      chunks: [['Sedge Loop', 5, 10]],
      noted: [],
    });
  });
  it('starts again at each place; what is only shifted goes on from where the letters ended', () => {
    const words = '<text x="5" y="10" font-size="8">a<tspan x="5" dy="4">bb</tspan><tspan dx="2">c</tspan></text>';
    expect(chunksOf(words).chunks).toEqual([
      ['a', 5, 10],
      ['bb', 5, 14],
      ['c', 15, 14],
    ]);
    const raised =
      '<text x="5" y="10" font-size="8" letter-spacing="1">ab<tspan dy="-4">c</tspan><tspan dy="4"> d</tspan></text>';
    expect(chunksOf(raised).chunks).toEqual([
      ['ab', 5, 10],
      ['c', 15, 6],
      ['d', 25, 10],
    ]);
  });
  it('has a part for each look, blanks between them collapsed', () => {
    const words = '<text x="5" y="10">To <tspan font-weight="bold"> the </tspan>mere <tspan fill="red"> </tspan></text>';
    expect(chunksOf(words)).toEqual({ chunks: [['To |the |mere', 5, 10]], noted: [] });
  });
  it('keeps blanks where it is told to', () =>
    expect(chunksOf('<text xml:space="preserve">  a  b</text>').chunks).toEqual([['  a  b', 0, 0]]));
  it('says what it can’t do: letters placed one by one, turned letters, shifts in a line about its middle', () => {
    expect(chunksOf('<text x="1 2 3" rotate="5">abc<tspan text-anchor="end" dx="4">d</tspan></text>').noted).toEqual([
      'text placed letter by letter',
      'turned or stretched letters',
      'letters shifted in a line about its middle or end',
    ]);
  });
});

describe('a viewBox', () => {
  it.each<[string | undefined, number[]]>([
    [undefined, [2, 0, 0, 2, 10, 0]],
    ['xMinYMin meet', [2, 0, 0, 2, 0, 0]],
    ['xMaxYMax meet', [2, 0, 0, 2, 20, 0]],
    ['xMidYMid slice', [4, 0, 0, 4, 0, -10]],
    ['none', [4, 0, 0, 2, 0, 0]],
  ])('is laid in by %s', (preserve, expected) => expect(fitViewBox([0, 0, 10, 10], 40, 20, preserve)).toEqual(expected));
});

describe('DXF records', () => {
  it('are told apart by group 0, whatever the blanks and line ends', () => {
    const { sections, comments } = parseRecords(
      '999\r\nhello\r\n  0\r\nSECTION\r\n  2\r\nENTITIES\r\n  0\r\nLINE\r\n 10\r\n1.5\r\n 10\r\n2\r\n  0\r\nENDSEC\r\n  0\r\nEOF\r\n',
    );
    expect(comments).toEqual(['hello']);
    const [line] = sections.get('ENTITIES')!;
    expect([line!.number(10), line!.all(10), line!.number(40, 7), line!.text(8)]).toEqual([1.5, [1.5, 2], 7, undefined]);
    expect(line!.line).toBe(8);
  });
  const withValue = (code: number, value: string) => `0\nSECTION\n2\nENTITIES\n0\nLINE\n${code}\n${value}\n0\nENDSEC\n0\nEOF\n`;
  it.each(['', '1,5', '1.5.2', 'x', '1e', '--1', 'NaN', 'Infinity'])(
    'refuse %j for a number, naming the group and the line',
    (value) => {
      expect(failureOf(() => parseRecords(withValue(10, value)))).toMatchObject({
        message: expect.stringContaining('group 10'),
        where: { line: 8 },
      });
    },
  );
  it('read any number exactly as the language does', () => {
    const written = fc.oneof(
      fc.double({ noNaN: true, noDefaultInfinity: true }).map(String),
      fc.tuple(fc.integer(), fc.nat({ max: 99999999 })).map(([whole, rest]) => `  ${whole}.${rest} `),
      fc.tuple(fc.integer(), fc.integer({ min: -30, max: 30 })).map(([mantissa, power]) => `${mantissa}E${power}`),
      fc.constantFrom('.5', '-.25', '5.', '+3', '-0', '000012.500', '123456789012345678.5', '1e400'.slice(0, 4)),
    );
    fc.assert(
      fc.property(written, (value) => {
        const [line] = parseRecords(withValue(40, value)).sections.get('ENTITIES')!;
        expect(line!.number(40)).toBe(Number(value));
      }),
      { numRuns: runs(1000) },
    );
  });
  it('keep a comment that stands in the middle of an entity out of it', () => {
    const { sections, comments } = parseRecords('0\nSECTION\n2\nENTITIES\n0\nLINE\n10\n1\n999\nnote\n20\n2\n0\nENDSEC\n0\nEOF\n');
    const codes: number[] = [];
    sections
      .get('ENTITIES')!
      .at(0)!
      .each((code) => codes.push(code));
    expect([comments, codes]).toEqual([['note'], [10, 20]]);
  });
  it.each(['', '0\nSECTION', '0\nSECTION\n2\nENTITIES\n0\nLINE\n', 'x\n', '12345\na\n', '-1\na\n'])(
    'refuse %j with its line',
    (words) => {
      expect(failureOf(() => parseRecords(words))).toMatchObject({ code: 'dxf-damaged', where: { line: expect.any(Number) } });
    },
  );
});

describe('a mark in a file that someone else extended', () => {
  it('is found among other words, and its first fields count', () => {
    const mark = 'inkwell-twin; master=a; rev=2; recipe=b; says=c; written=d; how=e; later=more';
    expect(parseMark(`made by hand; ${mark}`)).toEqual({ master: 'a', rev: 2, recipe: 'b', says: 'c', written: 'd', how: 'e' });
  });
});
