import fc from 'fast-check';
import { type Block, type Master, type Services, type Prose, digest, newMaster } from '@inkwell-twin/core';
import { pictureEngine, shippedFonts } from '../src';

export const time = '2026-11-26T10:00:00.000Z';

/** Two pictures that anybody can tell apart. */
const made = async (salt: number): Promise<Uint8Array> =>
  pictureEngine.png({
    width: 48,
    height: 32,
    data: new Uint8Array(48 * 32 * 4).map((_, i) => (i % 4 === 3 ? 255 : (i * salt + (i >> 7)) % 251)),
  });
let kept: Promise<Map<string, Uint8Array>> | undefined;
const pictures = (): Promise<Map<string, Uint8Array>> =>
  (kept ??= Promise.all([made(7), made(11)]).then((all) => new Map(all.map((bytes) => [digest(bytes), bytes]))));
export const pictureIds = async (): Promise<string[]> => [...(await pictures()).keys()];

export const services: Services = {
  fonts: shippedFonts(),
  pictures: pictureEngine,
  resource: async (sha) => (await pictures()).get(sha)!,
};

export async function masterOf(...texts: Prose[]): Promise<Master> {
  const resources = [...(await pictures())].map(([id, { length }], i) => ({
    id,
    name: `picture-${i}.png`,
    mediaType: 'image/png',
    size: length,
    role: 'picture' as const,
    width: 48,
    height: 32,
  }));
  return { ...newMaster('prose-1', 'Fen guide', 'Tern & Tally Signworks', 'text'), texts, resources };
}

const words = (id: string, text: string, rest: Partial<Extract<Block, { block: 'words' }>> = {}): Block => ({
  id,
  block: 'words',
  role: 'body',
  spans: [{ text }],
  ...rest,
});

/** A short guide with something of everything. */
export async function guide(): Promise<Prose> {
  const [heron, otter] = await pictureIds();
  return {
    id: 'guide',
    name: 'Round the fen',
    language: 'en-GB',
    blocks: [
      words('t', 'Round the fen', { role: 'heading 1' }),
      {
        id: 'p1',
        block: 'words',
        role: 'body',
        spans: [
          { text: 'The boardwalk leaves the ' },
          { text: 'lower gate', marks: ['bold'] },
          { text: ' and takes two hours at an easy pace. It is ' },
          { text: 'never', marks: ['italic'] },
          { text: ' closed, and ' },
          { text: 'the map', link: 'https://fen.example/map?of=walk&size=2' },
          { text: ' shows where to turn back.' },
        ],
      },
      {
        id: 'p2',
        block: 'words',
        role: 'body',
        align: 'justified',
        spans: [
          { text: 'Herons stand at the north pool before nine in the morning' },
          { note: [{ text: 'Counted on forty mornings, with ' }, { text: 'one', marks: ['bold', 'italic'] }, { text: ' gap.' }] },
          { text: '; otters come when nobody waits for them.\nBring a lamp after dusk.' },
        ],
      },
      words('h1', 'What to bring', { role: 'heading 2' }),
      words('l1', 'Boots that may get wet', { role: 'bullet' }),
      words('l2', 'A lamp with a red glass', { role: 'bullet' }),
      words('l3', 'Spare cells for the lamp', { role: 'bullet', level: 1 }),
      words('l4', 'A whistle', { role: 'bullet' }),
      words('h2', 'The way, post by post', { role: 'heading 2' }),
      words('n1', 'Gate to the first bench: 400 steps', { role: 'numbered' }),
      words('n2', 'Bench to the reed bed: 650 steps', { role: 'numbered' }),
      words('n3', 'In wet weeks by the upper path.', { role: 'continued' }),
      words('n4', 'Reed bed to the north pool: 900 steps', { role: 'numbered' }),
      words('q', 'Who walks slowly sees twice.', { role: 'quote', align: 'centre' }),
      {
        id: 'tab',
        block: 'table',
        head: true,
        caption: [{ text: 'When the gate is open' }],
        grid: [
          [[{ text: 'Months' }], [{ text: 'From' }], [{ text: 'To' }]],
          [[{ text: 'March to May' }], [{ text: '7:30' }], [{ text: '19:00' }]],
          [[{ text: 'June to August' }], [{ text: '6:00' }], [{ text: '21:30' }]],
          [[{ text: 'Other months' }], [{ text: '8:00' }], [{ text: '16:45', marks: ['underlined'] }]],
        ],
      },
      {
        id: 'pic',
        block: 'picture',
        picture: heron!,
        alt: 'A heron on one leg',
        width: 60,
        caption: [{ text: 'The heron of the north pool' }],
      },
      { id: 'line', block: 'break', of: 'line' },
      words('p3', 'The water stands 38 cm higher in March than in August, and the path is dry all the same.'),
      { id: 'page', block: 'break', of: 'page' },
      words('h3', 'Who looks after it', { role: 'heading 3' }),
      {
        id: 'p4',
        block: 'words',
        role: 'body',
        spans: [
          { text: 'Signs say ' },
          { text: 'FEN 12', marks: ['code'] },
          { text: ' or H' },
          { text: '2', marks: ['lowered'] },
          { text: 'O, on the 1' },
          { text: 'st', marks: ['raised'] },
          { text: ' post; the ' },
          { text: 'old', marks: ['struck'] },
          { text: ' ones are gone.' },
        ],
      },
      { id: 'pic2', block: 'picture', picture: otter!, alt: '', width: 45.5, caption: [] },
      words('end', 'Good way, and “mind the step” — äöü ß 東.', { align: 'right' }),
    ],
  };
}

const text = fc
  .array(
    fc.constantFrom(
      'fen',
      'reed',
      'a',
      'Wagen',
      'x<y',
      '&amp;',
      '“so”',
      '東',
      "it's",
      '12.5',
      'e\u0301',
      '-',
      '_x0041_',
      ']]>',
      '\u00a0',
    ),
    {
      minLength: 1,
      maxLength: 6,
    },
  )
  .map((all) => all.join(' '));
/** Links as people and others write them. */
const LINKS = [
  'https://fen.example/?a=1&b="2"',
  ' https://fen.example/a\tb\nc\r\n ',
  'mailto:ines@fen.example?subject=<b>',
  '../maps/fen%20map.html#p1',
  'javascript:alert(1)',
  ' jAva\nscript:alert(1)',
  'data:text/html,<script>alert(1)</script>',
];
const marks = fc.subarray(['bold', 'italic', 'underlined', 'struck', 'code', 'raised'] as const);
const inner = fc.record({
  text: fc.tuple(text, fc.constantFrom('', ' ', '\n', '  ')).map(([a, b]) => a + b),
  marks: marks.map((all) => [...all]),
});
const span = fc.oneof(
  { weight: 5, arbitrary: inner },
  { weight: 1, arbitrary: fc.tuple(inner, fc.constantFrom(...LINKS)).map(([one, link]) => ({ ...one, link })) },
  { weight: 1, arbitrary: fc.array(inner, { minLength: 1, maxLength: 2 }).map((note) => ({ note })) },
);
const spans = fc.array(span, { maxLength: 4 });
const role = fc.constantFrom(
  'body',
  'heading 1',
  'heading 2',
  'heading 6',
  'quote',
  'bullet',
  'numbered',
  'continued',
  'bullet',
  'numbered',
);
const align = fc.constantFrom(undefined, undefined, 'left', 'centre', 'right', 'justified');

const block = (picture: readonly string[]) =>
  fc.oneof(
    {
      weight: 8,
      arbitrary: fc.record({
        block: fc.constant('words'),
        role,
        level: fc.constantFrom(undefined, 0, 1, 2, 5),
        start: fc.constantFrom(undefined, undefined, 1, 4, 0),
        align,
        spans,
      }),
    },
    {
      weight: 1,
      arbitrary: fc.record({
        block: fc.constant('table'),
        head: fc.boolean(),
        caption: spans,
        grid: fc.integer({ min: 1, max: 3 }).chain((wide) =>
          fc.array(fc.array(fc.array(inner, { maxLength: 2 }), { minLength: wide, maxLength: wide }), {
            minLength: 1,
            maxLength: 3,
          }),
        ),
      }),
    },
    {
      weight: 1,
      arbitrary: fc.record({
        block: fc.constant('picture'),
        picture: fc.constantFrom(...picture),
        alt: fc.constantFrom('', 'A "heron" & more', 'two  blanks'),
        width: fc.double({ min: 5, max: 150, noNaN: true }),
        caption: spans,
      }),
    },
    { weight: 1, arbitrary: fc.record({ block: fc.constant('break'), of: fc.constantFrom('page', 'line') }) },
  );

/** Texts of any kind, by what their pictures may be. */
export const anyText = (picture: readonly string[]): fc.Arbitrary<Prose> =>
  fc.array(block(picture), { maxLength: 14 }).map((blocks) => ({
    id: 'any',
    name: 'Any text',
    language: 'de-AT',
    blocks: blocks.map((one, i) => JSON.parse(JSON.stringify({ ...one, id: `b${i}` })) as Block),
  }));

/** A text of one sign, in a paragraph and in a table. */
export const onlySign = (sign: string): Prose => ({
  id: 'any',
  name: 'One sign',
  language: 'de-AT',
  blocks: [
    { block: 'table', id: 'b0', head: false, caption: [], grid: [[[{ text: sign }]]] },
    { block: 'words', id: 'b1', role: 'body', spans: [{ text: sign }] },
  ],
});
