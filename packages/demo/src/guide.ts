import { type Command, type Master, type Services, idFrom } from '@inkwell-twin/core';
import type { Block, BlockOf, Span, Words } from '@inkwell-twin/core/texts';
import { type GuidePicture, guidePictures } from './guide-pictures';
import { GUIDE } from './guide-words';
import { type DemoMaster, tell } from './story';

/** Words with what stands out in them. */
function spansOf(line: string): Span[] {
  const spans: Span[] = [];
  for (const part of line.split(/(\*[^*]+\*|_[^_]+_|\{[^}]+\}\([^)]+\)|\^\[[^\]]+\])/)) {
    if (!part) continue;
    const link = /^\{([^}]+)\}\(([^)]+)\)$/.exec(part);
    if (part.startsWith('^[')) spans.push({ note: spansOf(part.slice(2, -1)) as Words[] });
    else if (link) spans.push({ text: link[1]!, link: link[2]! });
    else if (/^\*.+\*$/.test(part)) spans.push({ text: part.slice(1, -1), marks: ['bold'] });
    else if (/^_.+_$/.test(part)) spans.push({ text: part.slice(1, -1), marks: ['italic'] });
    else spans.push({ text: part });
  }
  return spans;
}

type Line = Omit<BlockOf<'words'>, 'id' | 'block' | 'spans'>;
/** What a line is by its head. */
const HEADS: readonly (readonly [RegExp, Line])[] = [
  [/^### /, { role: 'heading 3' }],
  [/^## /, { role: 'heading 2' }],
  [/^# /, { role: 'heading 1' }],
  [/^-- /, { role: 'bullet', level: 1 }],
  [/^- /, { role: 'bullet' }],
  [/^1\. /, { role: 'numbered' }],
  [/^\.\. /, { role: 'continued' }],
  [/^> /, { role: 'quote' }],
  [/^/, { role: 'body' }],
];

/** The guide as blocks; a list that a picture stands in goes on after it. */
function blocksOf(source: string, pictures: Readonly<Record<string, GuidePicture>>): Block[] {
  const blocks: Block[] = [];
  let count = 0;
  for (const line of source.trim().split('\n')) {
    const id = `g${blocks.length + 1}`;
    const last = blocks.at(-1);
    if (line === '---') blocks.push({ id, block: 'break', of: 'page' });
    else if (line.startsWith('! ')) {
      const [name, alt, width, caption] = line.slice(2).split(' | ') as [string, string, string, string];
      blocks.push({
        id,
        block: 'picture',
        picture: pictures[name]!.resource.id,
        alt,
        width: Number(width),
        caption: spansOf(caption),
      });
    } else if (line.startsWith('|')) {
      const cells = line
        .split('|')
        .slice(1, -1)
        .map((cell) => spansOf(cell.trim()));
      if (last?.block === 'table') blocks[blocks.length - 1] = { ...last, grid: [...last.grid, cells] };
      else blocks.push({ id, block: 'table', head: true, caption: [{ text: 'Hours of the gate' }], grid: [cells] });
    } else {
      const [head, own] = HEADS.find(([pattern]) => pattern.test(line))!;
      const numbered = own.role === 'numbered';
      if (own.role.startsWith('heading')) count = 0;
      if (numbered) count++;
      const goesOn = numbered && count > 1 && last?.block === 'picture';
      blocks.push({ id, block: 'words', ...own, ...(goesOn ? { start: count } : {}), spans: spansOf(line.replace(head, '')) });
    }
  }
  return blocks;
}

const TEXT = 'guide';
const first = (pictures: Readonly<Record<string, GuidePicture>>): Master => ({
  id: idFrom('Lantern Fen visitor guide'),
  title: 'Lantern Fen visitor guide',
  owner: 'Ansa Brook',
  purpose: 'text',
  unit: 'mm',
  layers: [{ id: 'print', name: 'Print', colour: '#14213a', visible: true, locked: false, process: 'print' }],
  symbols: [],
  boards: [],
  texts: [{ id: TEXT, name: 'Visitor guide', language: 'en-GB', blocks: blocksOf(GUIDE, pictures) }],
  resources: Object.values(pictures).map(({ resource }) => resource),
  description: 'What visitors of Lantern Fen are told: the way, the hours, and what lives here.',
});

/** Sets words of a block in the place of others. */
const reword =
  (label: string, from: string, to: string) =>
  (now: Master): Command => {
    const blocks = now.texts![0]!.blocks;
    const block = blocks.find((one) => one.block === 'words' && JSON.stringify(one.spans).includes(from)) as BlockOf<'words'>;
    const spans = block.spans.map((span) => ('text' in span ? { ...span, text: span.text.replace(from, to) } : span));
    return { label, patches: [{ op: 'set', node: block.id, attribute: 'spans', value: spans }] };
  };

const recell =
  (label: string, row: number, column: number, words: string) =>
  (now: Master): Command => {
    const table = now.texts![0]!.blocks.find((one) => one.block === 'table') as BlockOf<'table'>;
    const grid = table.grid.map((cells, r) => cells.map((cell, c) => (r === row && c === column ? [{ text: words }] : cell)));
    return { label, patches: [{ op: 'set', node: table.id, attribute: 'grid', value: grid }] };
  };

/** Lantern Fen visitor guide: a text of six pages; a copy that is false by one word. */
export async function visitorGuide({ pictures }: Pick<Services, 'pictures'>, share: number): Promise<DemoMaster> {
  const drawn = await guidePictures(pictures!, share);
  const story = tell(first(drawn), 'Ansa Brook', { time: '2026-09-02T08:30:00.000Z', message: 'First guide' }, [
    {
      time: '2026-09-21T15:05:00.000Z',
      message: 'Gate closes earlier in winter',
      commands: [recell('Hours', 6, 2, '16:00')],
    },
    {
      time: '2026-10-12T11:40:00.000Z',
      message: 'Second bench moved',
      commands: [reword('Bench', 'It stood by the pond until the spring', 'It stood by the pond until this spring')],
    },
  ]);
  const guide = { target: '', options: {}, part: 'Visitor guide', of: 'texts', rev: 3 } as const;
  return {
    ...story,
    kept: Object.values(drawn),
    copies: [
      { ...guide, label: 'guide for print', target: 'pdf' },
      {
        ...guide,
        label: 'guide for the web page',
        target: 'html',
        mishap: { kind: 'edit', find: 'takes two hours at an easy pace', replace: 'takes three hours at an easy pace' },
      },
      { ...guide, label: 'guide for reading devices', target: 'epub' },
      { ...guide, label: 'guide for the translator', target: 'docx', rev: 2 },
      { ...guide, label: 'guide for the archive', target: 'odt', options: { version: '1.2' }, rev: 1 },
      {
        ...guide,
        label: 'guide, words only',
        target: 'txt',
        rev: 2,
        mishap: { kind: 'edit', find: 'Dogs stay at the gate.', replace: 'Dogs are welcome.' },
      },
    ],
  };
}
