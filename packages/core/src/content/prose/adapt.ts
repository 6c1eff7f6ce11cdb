import type { CarryLines } from '../../contracts/report';
import { Failure } from '../../base/failure/failure';
import type { Block, BlockOf, Span } from '../../document/texts/schema';
import type { Prose } from '../../document/schema';
import { isNote } from '../../document/texts/schema';
import { drawnPicture, wordOfPixels } from '../../contracts/pictures';
import type { DrawnPicture } from '../../contracts/drawn-picture';
import type { Carry } from '../../contracts/kind';
import type { Services } from '../../contracts/services';
import type { ProseCarries } from './features';
import { liveLink } from './links';
import { normaliseBlocks } from './lists';
import { numbersOf } from '../../evaluate/texts/lists';
import { type ProseBlock, type ProseBody, type ProseSpan, plainSpan, plainWords } from './prose';

const outcomeOf = (carry: Carry) => (typeof carry === 'string' ? carry : carry.outcome);
const wordsOf = (carry: Carry) => (typeof carry === 'string' ? 'there is no place for them' : carry.words);
const isKept = (carry: Carry): boolean => carry === 'kept';

/** Formats of pictures that every target of texts holds as they are. */
const HELD = new Set(['image/png', 'image/jpeg']);

class Adapting {
  readonly pictures: Record<string, DrawnPicture> = {};
  private readonly notes: ProseSpan[][] = [];

  constructor(
    readonly carries: ProseCarries,
    readonly lines: CarryLines,
    readonly services: Services,
  ) {}

  /** Writes down what becomes of a feature that is not kept. */
  private report(feature: keyof ProseCarries, what: string, id: string): void {
    const carry = this.carries[feature];
    if (!isKept(carry)) this.lines.line(feature, outcomeOf(carry), what, wordsOf(carry))(id);
  }

  spans(spans: readonly Span[], id: string): ProseSpan[] {
    const { carries } = this;
    return spans.flatMap((span): ProseSpan[] => {
      if (isNote(span)) {
        this.report('notes', 'Notes', id);
        if (carries.notes === 'left out') return [];
        const note = this.spans(span.note, id);
        if (isKept(carries.notes)) return [{ text: '', marks: [], link: '', note }];
        this.notes.push(note);
        return [plainSpan(`[${this.notes.length}]`)];
      }
      const { text, marks = [] } = span;
      const link = this.linkOf(span.link, id);
      if (marks.length) this.report('emphasis', 'Emphasis', id);
      const own = { text, marks: isKept(carries.emphasis) ? marks : [], note: null };
      if (!link || isKept(carries.links)) return [{ ...own, link }];
      this.report('links', 'Links', id);
      return carries.links === 'left out' || text.trim() === link
        ? [{ ...own, link: '' }]
        : [{ ...own, link: '' }, plainSpan(` (${link})`)];
    });
  }

  /** Where a link leads in a copy: nowhere, if following it would run something. */
  private linkOf(link: string | undefined, id: string): string {
    const live = liveLink(link ?? '');
    if (live || !link?.trim()) return live;
    this.lines.line(
      'links',
      'left out',
      'Links that run something',
      'only those to the web, mail and telephone are live in a copy',
    )(id);
    return '';
  }

  /** Ends of lines within a paragraph, where a target has none. */
  private broken(block: ReturnType<typeof plainWords>): ProseBlock[] {
    if (isKept(this.carries['line ends']) || !block.spans.some(({ text }) => text.includes('\n'))) return [block];
    this.report('line ends', 'Ends of lines within paragraphs', block.source);
    const rows: ProseSpan[][] = [[]];
    for (const span of block.spans)
      span.text.split('\n').forEach((text, i) => {
        if (i) rows.push([]);
        rows.at(-1)!.push({ ...span, text });
      });
    return rows.map((spans, i) => ({ ...block, role: i && block.role === 'bullet' ? 'continued' : block.role, spans }));
  }

  words(block: BlockOf<'words'>, number: number | null): ProseBlock[] {
    const { carries } = this;
    const { id, role } = block;
    const spans = this.spans(block.spans, id);
    const plain = { ...plainWords(spans), source: id };
    if ((block.align ?? 'left') !== 'left') this.report('alignment', 'Alignment', id);
    const align = isKept(carries.alignment) ? (block.align ?? 'left') : 'left';
    if (role.startsWith('heading')) {
      this.report('headings', 'Headings', id);
      return this.broken({ ...plain, align, role: isKept(carries.headings) ? role : 'body' });
    }
    if (role === 'quote') {
      this.report('quotations', 'Quotations', id);
      return this.broken({ ...plain, align, role: isKept(carries.quotations) ? role : 'body' });
    }
    if (role === 'body') return this.broken({ ...plain, align });
    if (isKept(carries.lists)) return this.broken({ ...plain, align, role, level: block.level ?? 0, start: block.start ?? null });
    this.report('lists', 'Items of lists', id);
    const sign = role === 'continued' ? '' : number === null ? '• ' : `${number}. `;
    return this.broken({ ...plain, spans: sign ? [plainSpan(sign), ...spans] : spans });
  }

  table(block: BlockOf<'table'>): ProseBlock[] {
    const { id, head } = block;
    const caption = this.spans(block.caption, id);
    const grid = block.grid.map((row) => row.map((cell) => this.spans(cell, id)));
    if (isKept(this.carries.tables)) return [{ block: 'table', head, caption, grid, source: id }];
    this.report('tables', 'Tables', id);
    const rows = grid.map((row) => row.flatMap((cell, i) => (i ? [plainSpan(' | '), ...oneLine(cell)] : oneLine(cell))));
    return [caption, ...rows].flatMap((spans) => this.broken({ ...plainWords(spans), source: id }));
  }

  private async shown(sha: string, name: string): Promise<DrawnPicture | null> {
    const { resource, pictures } = this.services;
    if (!resource || !pictures) throw new Failure('picture-missing', `The picture “${name}” is not at hand.`);
    const drawn = await drawnPicture(pictures, await resource(sha));
    if (HELD.has(drawn.mediaType)) return drawn;
    const pixels = await pictures.pixels(drawn.bytes, 8);
    return { ...drawn, word: wordOfPixels(pixels), mediaType: 'image/png', bytes: await pictures.png(pixels) };
  }

  async picture(block: BlockOf<'picture'>, mediaType: string): Promise<ProseBlock[]> {
    const { id } = block;
    const { carries } = this;
    const caption = this.spans(block.caption, id);
    if (carries.pictures === 'left out') {
      this.report('pictures', 'Pictures', id);
      const { descriptions } = carries;
      const instead = typeof descriptions === 'object' && block.alt ? [plainSpan(`[${block.alt}]`)] : [];
      if (instead.length) this.report('descriptions', 'Descriptions of pictures', id);
      return [instead, caption].flatMap((spans) => this.broken({ ...plainWords(spans), source: id }));
    }
    const shown = await this.shown(block.picture, block.alt);
    if (!HELD.has(mediaType)) this.lines.line('pictures', 'restated', 'Pictures', 'become PNG')(id);
    if (shown) this.pictures[shown.word] = shown;
    return [
      {
        block: 'picture',
        picture: shown?.word ?? '',
        alt: isKept(carries.descriptions) ? block.alt : '',
        width: isKept(carries.sizes) ? block.width : 0,
        caption,
        source: id,
      },
    ];
  }

  breaks({ id, of }: BlockOf<'break'>): ProseBlock[] {
    if (isKept(this.carries.breaks)) return [{ block: 'break', of, source: id }];
    this.report('breaks', 'Page breaks and lines across', id);
    return [];
  }

  /** Notes that stand at the end. */
  atEnd(): ProseBlock[] {
    return this.notes.flatMap((note, i) => this.broken(plainWords([plainSpan(`[${i + 1}] `), ...note])));
  }
}

/** The words of a cell on one line. */
const oneLine = (spans: readonly ProseSpan[]): ProseSpan[] =>
  spans.map((span) => ({ ...span, text: span.text.replace(/\s*\n\s*/g, ' ') }));

/** A text, and the formats of the kept pictures that it shows. */
export interface ProseSource {
  readonly text: Prose;
  readonly mediaTypes: ReadonlyMap<string, string>;
}

/** What a text says in a target, and what becomes of it on the way. @throws Failure `picture-missing` */
export async function adaptProse(
  { text, mediaTypes }: ProseSource,
  carries: ProseCarries,
  lines: CarryLines,
  services: Services,
): Promise<ProseBody> {
  const adapting = new Adapting(carries, lines, services);
  const numbers = numbersOf(text.blocks);
  const blocks: ProseBlock[] = [];
  const make = (block: Block, i: number): ProseBlock[] | Promise<ProseBlock[]> => {
    switch (block.block) {
      case 'words':
        return adapting.words(block, numbers[i]!);
      case 'table':
        return adapting.table(block);
      case 'picture':
        return adapting.picture(block, mediaTypes.get(block.picture) ?? '');
      case 'break':
        return adapting.breaks(block);
    }
  };
  for (const [i, block] of text.blocks.entries()) {
    lines.take(block.id);
    const made = make(block, i);
    blocks.push(...(made instanceof Promise ? await made : made));
  }
  blocks.push(...adapting.atEnd());
  return {
    language: carries.language === 'kept' ? text.language : '',
    blocks: normaliseBlocks(blocks),
    pictures: adapting.pictures,
  };
}
