import { digest } from '../../base/bytes/hasher';
import type { ProseBlock, ProseSpan } from '../../content/prose/prose';
import { Failure } from '../../base/failure/failure';
import { idFrom } from '../../document/ids';
import { newMaster } from '../../document/new-master';
import type { Block, Prose, Resource } from '../../document/schema';
import { Language, MOST_BLOCKS, MOST_CELLS, type Span, type Words } from '../../document/texts/schema';
import type { DrawnPicture } from '../../contracts/drawn-picture';
import type { ReadMaster } from '../../contracts/codec';
import type { NotUnderstood } from '../../contracts/not-understood';
import { endingOf } from './pictures';

/** A text that was read, with all that it shows. */
interface ReadText {
  readonly name: string;
  readonly language: string;
  readonly blocks: readonly ProseBlock[];
}

/** What a picture is wide where a file does not say it: as many millimetres as its pixels are at this many to the inch, within a column. */
const [PPI, COLUMN] = [150, 160];
const LONGEST = 200_000;

const words = ({ text, marks, link }: ProseSpan): Words => ({
  text: text.slice(0, LONGEST),
  ...(marks.length ? { marks: [...marks] } : {}),
  ...(link ? { link } : {}),
});
/** Spans of a master. */
const spansOf = (spans: readonly ProseSpan[]): Span[] =>
  spans.flatMap((span): Span[] =>
    span.note ? [{ note: span.note.filter(({ text }) => text).map(words) }] : span.text ? [words(span)] : [],
  );

function blockOf(
  id: string,
  block: ProseBlock,
  resources: Map<string, string>,
  sizes: Readonly<Record<string, DrawnPicture>>,
): Block | null {
  switch (block.block) {
    case 'words':
      return {
        id,
        block: 'words',
        role: block.role,
        ...(block.level ? { level: block.level } : {}),
        ...(block.start === null ? {} : { start: Math.min(block.start, 1_000_000) }),
        ...(block.align === 'left' ? {} : { align: block.align }),
        spans: spansOf(block.spans),
      };
    case 'table':
      return {
        id,
        block: 'table',
        head: block.head,
        caption: spansOf(block.caption),
        grid: block.grid.map((row) => row.map(spansOf)),
      };
    case 'picture': {
      const picture = resources.get(block.picture);
      if (!picture) return null;
      const usual = Math.min(COLUMN, (sizes[block.picture]!.width / PPI) * 25.4);
      const width = Math.min(2000, Math.max(1, block.width || Number(usual.toFixed(1))));
      return { id, block: 'picture', picture, alt: block.alt.slice(0, 5000), width, caption: spansOf(block.caption) };
    }
    case 'break':
      return { id, block: 'break', of: block.of };
  }
}

const plainName = (file: string): string => file.replace(/^.*[\\/]/, '').replace(/\.[^.]*$/, '');

/** Tables that are too large for one block of a text. */
const isTooLarge = (block: ProseBlock): boolean =>
  block.block === 'table' &&
  (block.grid.length > 5000 || block.grid[0]!.length > 100 || block.grid.length * block.grid[0]!.length > MOST_CELLS);

/** Texts that were read as a new document: no board, and a text for each. @throws Failure `nothing-inside`, `too-long` */
export function textsToMaster(
  texts: readonly ReadText[],
  pictures: Readonly<Record<string, DrawnPicture>>,
  bytes: Uint8Array,
  file: string,
  { mark, notUnderstood }: { readonly mark: string | null; readonly notUnderstood: readonly NotUnderstood[] },
): ReadMaster {
  const filled = texts.filter(({ blocks }) => blocks.length);
  if (!filled.length) throw new Failure('nothing-inside', `There are no words in “${file}”.`, { file });
  const long = filled.find(({ blocks }) => blocks.length > MOST_BLOCKS || blocks.some(isTooLarge));
  if (long)
    throw new Failure(
      'too-long',
      `“${file}” has a text of more than ${MOST_BLOCKS} paragraphs or a table of more than ${MOST_CELLS} cells. Split it first.`,
      { file },
    );
  const title = (plainName(file) || 'Text').slice(0, 200);
  const byWord = new Map<string, string>();
  const kept = new Map<string, Uint8Array>();
  const resources: Resource[] = [];
  for (const [word, { bytes: own, mediaType, width, height }] of Object.entries(pictures)) {
    const id = digest(own);
    byWord.set(word, id);
    if (kept.has(id)) continue;
    kept.set(id, own);
    resources.push({
      id,
      name: `picture-${kept.size}.${endingOf(mediaType)}`,
      mediaType,
      size: own.length,
      role: 'picture',
      width,
      height,
    });
  }
  const made = filled.map(({ name, language, blocks }, i): Prose => {
    const id = `text-${i + 1}`;
    let count = 0;
    return {
      id,
      name: name.replace(/\s+/g, ' ').trim().slice(0, 200) || title,
      language: Language.safeParse(language).success ? language : 'en',
      blocks: blocks.flatMap((block) => {
        const node = blockOf(`${id}-b${count + 1}`, block, byWord, pictures);
        if (!node) return [];
        count++;
        return [node];
      }),
    };
  });
  const empty = newMaster(idFrom(`brought in ${digest(bytes)}`), title, '', 'text');
  return { master: { ...empty, boards: [], resources, texts: made }, mark, notUnderstood, resources: kept };
}
