import { hasher } from '../src/base/bytes/hasher';
import { alignBlocks } from '../src/content/prose/align';
import { compareProse } from '../src/content/prose/compare';
import { digestProse } from '../src/content/prose/digest';
import { normaliseBlocks } from '../src/content/prose/lists';
import { ListCounter, numbersOf } from '../src/evaluate/texts/lists';
import {
  type ProseBlock,
  type ProseBody,
  type ProseSpan,
  type ProseWords,
  plainSpan,
  plainWords,
} from '../src/content/prose/prose';
import { normaliseSpans } from '../src/content/prose/normalise';
import { wordDiff } from '../src/content/prose/word-diff';
import { countWords, tokensOf } from '../src/content/prose/words';
import { PROSE_KEPT } from '../src/formats/texts/carries';
import { cpuTime } from './cpu-time';
import { atDepth } from './depth';

const p = (text: string, rest: Partial<ProseWords> = {}): ProseWords => ({ ...plainWords([plainSpan(text)]), ...rest });
const span = (text: string, rest: Partial<ProseSpan> = {}): ProseSpan => ({ ...plainSpan(text), ...rest });
const body = (...blocks: ProseBlock[]): ProseBody => ({ language: 'en', blocks: normaliseBlocks(blocks), pictures: {} });
const table = (rows: string[][], head = true, caption = ''): ProseBlock => ({
  block: 'table',
  head,
  caption: caption ? [plainSpan(caption)] : [],
  grid: rows.map((row) => row.map((cell) => [plainSpan(cell)])),
  source: 't',
});
const picture = (word: string, rest: object = {}): ProseBlock => ({
  block: 'picture',
  picture: word,
  alt: 'A heron',
  width: 60,
  caption: [],
  source: 'p',
  ...rest,
});
const settings = { tolerance: 0, carries: PROSE_KEPT };
const found = (a: ProseBody, b: ProseBody, carries = PROSE_KEPT) =>
  compareProse(a, b, { ...settings, carries }).differences.map(({ kind, what, master, copy }) =>
    [kind, what, master, copy].join(' · '),
  );

const FIVE = [
  p('The boardwalk leaves the lower gate and takes two hours at an easy pace.'),
  p('Herons stand at the north pool before nine in the morning, all year round.'),
  p('Otters come when nobody waits for them, mostly from the far side.'),
  p('The water stands a hand higher in March than in August.'),
  p('Bring boots that may get wet, a lamp with a red glass and a whistle.'),
];

describe('texts are compared', () => {
  it.each<[string, ProseBlock[], ProseBlock[], string[]]>([
    ['the same', FIVE, FIVE, []],
    [
      'a word',
      [p('It takes two hours.')],
      [p('It takes three hours.')],
      ['words changed · Paragraph “It takes two hours.” · “two” · “three”'],
    ],
    [
      'several words that stand together',
      [p('by the old green gate')],
      [p('by the new red gate')],
      ['words changed · Paragraph “by the old green gate” · “old green” · “new red”'],
    ],
    ['a sign', [p('Stop, and look.')], [p('Stop and look.')], ['words changed · Paragraph “Stop, and look.” · “,” · nothing']],
    [
      'a number',
      [p('closes at 16:45 sharp')],
      [p('closes at 16:15 sharp')],
      ['words changed · Paragraph “closes at 16:45 sharp” · “16:45” · “16:15”'],
    ],
    [
      'a word more',
      [p('It is closed.')],
      [p('It is never closed.')],
      ['words changed · Paragraph “It is closed.” · nothing · “never ”'],
    ],
    [
      'missing',
      FIVE,
      [...FIVE.slice(0, 2), ...FIVE.slice(3)],
      [
        'paragraph missing · Paragraph “Otters come when nobody waits for them…” · “Otters come when nobody waits for them, mostly from the far side.” · nothing',
      ],
    ],
    [
      'added',
      FIVE,
      [...FIVE, p('Closed on Mondays.')],
      ['paragraph added · Paragraph “Closed on Mondays.” · nothing · “Closed on Mondays.”'],
    ],
    [
      'moved',
      FIVE,
      [...FIVE.slice(1, 4), FIVE[0]!, FIVE[4]!],
      ['paragraph moved · Paragraph “The boardwalk leaves the lower gate and…” · place 1 · place 4'],
    ],
    [
      'moved and changed',
      FIVE,
      [...FIVE.slice(1, 5), p('The boardwalk leaves the upper gate and takes two hours at an easy pace.')],
      [
        'paragraph moved · Paragraph “The boardwalk leaves the lower gate and…” · place 1 · place 5',
        'words changed · Paragraph “The boardwalk leaves the lower gate and…” · “lower” · “upper”',
      ],
    ],
    [
      'a heading of another level',
      [p('Birds', { role: 'heading 2' })],
      [p('Birds', { role: 'heading 3' })],
      ['role changed · Heading “Birds” · heading 2 · heading 3'],
    ],
    [
      'an item deeper',
      [p('a', { role: 'bullet' }), p('b', { role: 'bullet' })],
      [p('a', { role: 'bullet' }), p('b', { role: 'bullet', level: 1 })],
      ['role changed · Paragraph “b” · bullet item · bullet item, 2 deep'],
    ],
    [
      'a list that begins elsewhere',
      [p('a', { role: 'numbered' })],
      [p('a', { role: 'numbered', start: 3 })],
      ['role changed · Paragraph “a” · numbered item · numbered item, from 3'],
    ],
    ['alignment', [p('a')], [p('a', { align: 'right' })], ['aligned otherwise · Paragraph “a” · left · right']],
    [
      'emphasis',
      [{ ...p(''), spans: [span('A '), span('red', { marks: ['bold'] }), span(' lamp')] }],
      [{ ...p(''), spans: [span('A red '), span('lamp', { marks: ['italic'] })] }],
      [
        'emphasis changed · Paragraph “A red lamp”, “red” · bold · plain',
        'emphasis changed · Paragraph “A red lamp”, “lamp” · plain · italic',
      ],
    ],
    [
      'a link',
      [{ ...p(''), spans: [span('the map', { link: 'https://a.example' })] }],
      [{ ...p(''), spans: [span('the map', { link: 'https://b.example' })] }],
      ['link changed · Paragraph “the map”, “the map” · https://a.example · https://b.example'],
    ],
    [
      'a note',
      [{ ...p(''), spans: [span('Herons'), span('', { note: [span('Counted twice')] })] }],
      [{ ...p(''), spans: [span('Herons'), span('', { note: [span('Counted once')] })] }],
      ['words changed · Note to paragraph “Herons” · “twice” · “once”'],
    ],
    [
      'a note that is gone',
      [{ ...p(''), spans: [span('Herons'), span('', { note: [span('Counted')] }), span(' stand')] }],
      [p('Herons stand')],
      ['words changed · Paragraph “Herons stand” · “[note]” · nothing'],
    ],
    [
      'a cell',
      [table([['Day'], ['Monday']])],
      [table([['Day'], ['Sunday']])],
      ['words changed · Table “Day”, row 2, cell 1 · “Monday” · “Sunday”'],
    ],
    [
      'a row less',
      [table([['Day'], ['Monday'], ['Tuesday']])],
      [table([['Day'], ['Tuesday']])],
      ['row missing · Table “Day”, row 2 · “Monday” · nothing'],
    ],
    [
      'a row more',
      [table([['Day'], ['Monday']])],
      [table([['Day'], ['Monday'], ['Friday']])],
      ['row added · Table “Day”, row 3 of the copy · nothing · “Friday”'],
    ],
    [
      'a column less',
      [table([['Day', 'Hours']])],
      [table([['Day']])],
      ['column missing · Table “Day, Hours” · 2 columns · 1 columns'],
    ],
    [
      'a caption',
      [table([['Day']], true, 'Hours')],
      [table([['Day']], true, 'Times')],
      ['words changed · Caption of table “Hours” · “Hours” · “Times”'],
    ],
    [
      'a heading of a table',
      [table([['Day'], ['Monday']])],
      [table([['Day'], ['Monday']], false)],
      ['role changed · Table “Day”, first row · a heading · a row like the others'],
    ],
    [
      'a picture',
      [picture('48×32-a')],
      [picture('48×30-b')],
      ['picture changed · Picture “A heron” · 48×32 pixels · 48×30 pixels'],
    ],
    [
      'what a picture shows',
      [picture('48×32-a')],
      [picture('48×32-a', { alt: 'A stork' })],
      ['description changed · Picture “A heron” · “A heron” · “A stork”'],
    ],
    [
      'how wide a picture is',
      [picture('48×32-a')],
      [picture('48×32-a', { width: 72 })],
      ['resized · Picture “A heron” · 60 mm wide · 72 mm wide'],
    ],
    ['as wide as rounding makes it', [picture('48×32-a')], [picture('48×32-a', { width: 60.2 })], []],
    [
      'a break',
      [...FIVE, { block: 'break', of: 'page', source: '' }],
      FIVE,
      ['paragraph missing · Page break · nothing · nothing'],
    ],
  ])('%s', (_, a, b, wanted) => {
    expect(found(body(...a), body(...b))).toEqual(wanted);
  });

  it('language and what is not carried', () => {
    expect(found(body(...FIVE), { ...body(...FIVE), language: 'fr' })).toEqual(['language changed · Text · en · fr']);
    const left = { ...PROSE_KEPT, emphasis: 'left out', alignment: 'left out', language: 'left out', links: 'left out' } as const;
    const other: ProseBody = {
      ...body({ ...p(''), align: 'right', spans: [span('a', { marks: ['bold'], link: 'x' })] }),
      language: 'fr',
    };
    expect(found(body(p('a')), other, left)).toEqual([]);
  });

  it('counts words, and all of them where nothing differs', () => {
    const { outlines, equal, counted } = compareProse(body(...FIVE), body(...FIVE), settings);
    expect([outlines, equal, counted]).toEqual([66, 66, 'words']);
    expect(compareProse(body(p('one two three')), body(p('one four three')), settings)).toMatchObject({ outlines: 3, equal: 2 });
  });

  it('tells hundreds of places and no more, and how many there were', () => {
    const many = Array.from({ length: 900 }, (_, i) => p(`Paragraph ${i} says word${i} and nothing else of any kind.`));
    const other = many.map((one, i) => p(`Paragraph ${i} says other${i} and nothing else of any kind.`, { source: one.source }));
    const { differences } = compareProse(body(...many), body(...other), settings);
    expect(differences.length).toBe(501);
    expect(differences.at(-1)).toMatchObject({ what: '400 more places', count: 400 });
  });

  it('many alike and many that are all other take no time that grows with their square', () => {
    const many = atDepth(5_000, 20_000);
    const alike = Array.from({ length: many }, () => p('The same again.'));
    const other = Array.from({ length: many }, (_, i) => p(`Word${i} stands alone here as number ${i * 7}.`));
    const start = cpuTime();
    compareProse(body(...alike), body(...alike.slice(10)), settings);
    compareProse(body(...alike), body(...other), settings);
    expect(cpuTime() - start).toBeLessThan(many);
  });
});

describe('what says the same is written the same way', () => {
  const key = (one: ProseBody) => {
    const hash = hasher();
    digestProse(one, hash);
    return hash.hex();
  };
  it.each<[string, ProseSpan[], ProseSpan[]]>([
    ['blanks', [span('  a \t b\n')], [span('a b')]],
    ['looks in pieces', [span('ab', { marks: ['bold'] })], [span('a', { marks: ['bold'] }), span('b', { marks: ['bold'] })]],
    ['marks in another order', [span('a', { marks: ['bold', 'italic'] })], [span('a', { marks: ['italic', 'bold'] })]],
    ['a blank that is bold', [span('a', { marks: ['bold'] }), span(' b')], [span('a ', { marks: ['bold'] }), span('b')]],
    [
      'a blank between two bold words',
      [span('a b', { marks: ['bold'] })],
      [span('a', { marks: ['bold'] }), span(' '), span('b', { marks: ['bold'] })].map((one, i) =>
        i === 1 ? { ...one, marks: ['bold'] } : one,
      ),
    ],
    ['blanks about an end of a line', [span('a\nb')], [span('a  \n  b')]],
    ['nothing', [], [span(' '), span('\n')]],
  ])('%s', (_, a, b) => {
    expect(normaliseSpans(b)).toEqual(normaliseSpans(a));
    expect(key(body({ ...p(''), spans: b }))).toBe(key(body({ ...p(''), spans: a })));
  });

  it('but a blank that does not break is one that does not', () => {
    expect(normaliseSpans([span('a\u00a0b')])).not.toEqual(normaliseSpans([span('a b')]));
  });

  it('lists: no deeper than they can be, numbered as they would be, and nothing goes on with nothing', () => {
    const item = (level: number, start: number | null = null, role: ProseWords['role'] = 'numbered') =>
      p('x', { role, level, start });
    expect(
      normaliseBlocks([item(3), item(3), item(1, 1), item(0, 2)]).map((one) => ('level' in one ? [one.level, one.start] : [])),
    ).toEqual([
      [0, null],
      [1, null],
      [1, 1],
      [0, null],
    ]);
    expect(normaliseBlocks([p('x', { role: 'continued' })])[0]).toMatchObject({ role: 'body' });
    expect(normaliseBlocks([p(' '), p('a')]).length).toBe(1);
  });

  it('numbers count by level, and begin anew after what is no item', () => {
    const roles = ['numbered', 'numbered', 'continued', 'numbered', 'body', 'numbered', 'bullet', 'numbered'] as const;
    expect(numbersOf(roles.map((role) => ({ block: 'words', role })))).toEqual([1, 2, null, 3, null, 1, null, 1]);
    const counter = new ListCounter();
    expect([
      counter.next({ role: 'numbered' }),
      counter.next({ role: 'numbered', level: 1 }),
      counter.next({ role: 'numbered', level: 1 }),
    ]).toEqual([1, 1, 2]);
    expect([counter.next({ role: 'numbered' }), counter.next({ role: 'numbered', level: 1 }), counter.would(0)]).toEqual([
      2, 1, 3,
    ]);
  });
});

describe('word by word', () => {
  it('words are words in any writing', () => {
    expect(tokensOf("don't 3.5 l’eau e\u0301t\u00e9")).toEqual(["don't", ' ', '3.5', ' ', 'l’eau', ' ', 'e\u0301t\u00e9']);
    expect(countWords('Eins, zwei — drei! 4.5')).toBe(4);
  });

  it('stretches lie one after the other and cover both sides', () => {
    const [a, b] = ['one two three four five', 'one 2 three IV five six'];
    const changes = wordDiff(a, b);
    expect(changes.map(({ master }) => a.slice(...master)).join('')).toBe(a);
    expect(changes.map(({ copy }) => b.slice(...copy)).join('')).toBe(b);
    expect(changes.filter(({ same }) => !same).length).toBe(3);
  });

  it('what changed almost everywhere is one stretch', () => {
    const words = (of: string) => Array.from({ length: 6000 }, (_, i) => `${of}${i}`).join(' ');
    expect(wordDiff(words('a'), words('b')).length).toBeLessThan(3);
  });

  it('paragraphs that stand in their place are each other, however much of them was changed', () => {
    const partner = alignBlocks([FIVE[0]!, p('alpha beta'), FIVE[2]!], [FIVE[0]!, p('gamma delta'), FIVE[2]!]);
    expect([...partner]).toEqual([0, 1, 2]);
  });
});
