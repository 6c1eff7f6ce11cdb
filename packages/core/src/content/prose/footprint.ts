import { liveLink } from './links';
import { digest } from '../../base/bytes/hasher';
import { type Scope, textsIn } from '../../contracts/scope';
import { canonical } from '../../document/hash';
import type { Block, Master, Prose } from '../../document/schema';
import { type Span, isNote } from '../../document/texts/schema';
import type { LeafPrint } from '../../contracts/kind';
import type { ProseCarries } from './features';
import { numbersOf } from '../../evaluate/texts/lists';

type Read = (feature: keyof ProseCarries) => boolean;

/** Spans without what is not carried of them. */
const spansRead = (spans: readonly Span[], kept: Read): unknown =>
  spans.flatMap((span): unknown[] => {
    if (isNote(span)) return kept('notes') ? [[spansRead(span.note, kept)]] : [];
    const { text, marks, link } = span;
    return [[text, kept('emphasis') ? (marks ?? []).join(' ') : '', kept('links') ? liveLink(link ?? '') : '']];
  });

/** What is read of a block, feature by feature. */
function partsOf(block: Block, number: number | null, kept: Read): Map<string, string> {
  const parts = new Map<string, string>();
  const put = (feature: keyof ProseCarries, value: unknown) => {
    if (kept(feature)) parts.set(feature, canonical(value));
  };
  switch (block.block) {
    case 'words':
      put('words', spansRead(block.spans, kept));
      put(block.role.startsWith('heading') ? 'headings' : block.role === 'quote' ? 'quotations' : 'lists', [
        block.role,
        block.level ?? 0,
        block.start ?? null,
        // What stands between items counts for the numbers of those after it.
        number,
      ]);
      put('alignment', block.align ?? 'left');
      break;
    case 'table':
      put(
        'words',
        [block.caption, ...block.grid].map((row) => (row as (Span | Span[])[]).map((cell) => spansRead([cell].flat(), kept))),
      );
      put('tables', block.head);
      break;
    case 'picture':
      put('words', spansRead(block.caption, kept));
      put('pictures', block.picture);
      put('descriptions', block.alt);
      put('sizes', block.width);
      break;
    case 'break':
      put('breaks', block.of);
  }
  return parts;
}

function printOf({ id, name, language, blocks }: Prose, carries: ProseCarries): LeafPrint {
  const kept: Read = (feature) => carries[feature] !== 'left out';
  const numbers = numbersOf(blocks);
  const read = blocks.map((block, i) => [block.id, partsOf(block, numbers[i]!, kept)] as const).filter(([, parts]) => parts.size);
  const own = new Map([
    ['names', kept('names') ? name : ''],
    ['language', kept('language') ? language : ''],
  ]);
  const words = [...own.values(), ...read.map(([, parts]) => [...parts].join(' '))];
  return {
    key: id,
    hash: digest(words.join('\n')).slice(0, 32),
    parts: () =>
      new Map<string, ReadonlyMap<string, string>>([
        [id, new Map([...own, ['words', digest(read.map(([block]) => block).join(' '))]])],
        ...read,
      ]),
  };
}

// A text is read again only where it changed, and for what is carried of it.
const known = new WeakMap<Prose, WeakMap<ProseCarries, LeafPrint>>();

/** What copies depend on, text by text. */
export const footprintOfTexts = (master: Master, scope: Scope, carries: ProseCarries): LeafPrint[] =>
  textsIn(master, scope).texts.map((text) => {
    let prints = known.get(text);
    if (!prints) known.set(text, (prints = new WeakMap()));
    let print = prints.get(carries);
    if (!print) prints.set(carries, (print = printOf(text, carries)));
    return print;
  });
