import { ListCounter, isItem } from '../../evaluate/texts/lists';
import type { ProseBlock, ProseBody, ProsePicture, ProseSpan, ProseTable, ProseWords } from '../../content/prose/prose';
import type { Emphasis } from '../../document/texts/schema';
import { plainXml } from '../../base/bytes/xml-text';

/** Looks of texts that need nothing from elsewhere. */
export const TEXT_STYLE = `article{max-width:38em}
h1,h2,h3,h4,h5,h6{line-height:1.2;margin:1.6em 0 .5em}
p,li{margin:.5em 0}
blockquote{margin:1em 0 1em 1.2em;padding-left:1em;border-left:2px solid #c9d4ce}
figure{margin:1.5em 0}
img{max-width:100%}
figcaption,.words caption{font-size:.9em;text-align:left}
.words{border-collapse:collapse;margin:1.5em 0}
.words th,.words td{padding:.25em .75em;border-bottom:1px solid #c9d4ce;text-align:left;vertical-align:top}
hr.page{border:0;break-after:page}
.notes{font-size:.9em;border-top:1px solid #c9d4ce;margin-top:2em}`;

export const TAGS: Readonly<Record<Emphasis, string>> = {
  bold: 'strong',
  italic: 'em',
  underlined: 'u',
  struck: 's',
  code: 'code',
  raised: 'sup',
  lowered: 'sub',
};
export const ALIGN = { left: 'left', centre: 'center', right: 'right', justified: 'justify' } as const;

/** How a text is written as elements of HTML, in a syntax that is XML, too. */
interface HtmlWays {
  /** Where a picture's file is, by its word. */
  readonly source: (word: string) => string;
  /** Tells the ids of several texts in one document apart. */
  readonly prefix: string;
  /** Whether parts are named for readers of EPUB, too (EPUB 3.3, D.8). */
  readonly epub: boolean;
}

class Writing {
  private readonly out: string[] = [];
  private readonly notes: (readonly ProseSpan[])[] = [];

  constructor(
    private readonly body: ProseBody,
    private readonly ways: HtmlWays,
  ) {}

  private spans(spans: readonly ProseSpan[]): string {
    return spans
      .map(({ text, marks, link, note }) => {
        if (note) return this.reference(note);
        const words = plainXml(text).replace(/\n/g, '<br/>');
        const marked = marks.reduceRight((inner, mark) => `<${TAGS[mark]}>${inner}</${TAGS[mark]}>`, words);
        return link ? `<a href="${plainXml(link)}">${marked}</a>` : marked;
      })
      .join('');
  }

  private reference(note: readonly ProseSpan[]): string {
    const number = this.notes.push(note);
    const { prefix, epub } = this.ways;
    return `<a role="doc-noteref"${epub ? ' epub:type="noteref"' : ''} id="${prefix}ref-${number}" href="#${prefix}note-${number}"><sup>${number}</sup></a>`;
  }

  private open(tag: string, { align }: Pick<ProseWords, 'align'>): string {
    return align === 'left' ? `<${tag}>` : `<${tag} style="text-align:${ALIGN[align]}">`;
  }

  private words(block: ProseWords, tag = 'p'): string {
    return `${this.open(tag, block)}${this.spans(block.spans)}</${tag}>`;
  }

  /** Items in a row as nested lists. */
  private list(items: readonly ProseWords[]): void {
    const open: { tag: string; begun: boolean }[] = [];
    const counter = new ListCounter();
    const close = (level: number) => {
      while (open.length > level) {
        const { tag, begun } = open.pop()!;
        this.out.push(`${begun ? '</li>' : ''}</${tag}>`);
      }
    };
    items.forEach((item, i) => {
      const { role, level, start } = item;
      const goesOn = (one: ProseWords | undefined) => one !== undefined && one.role === 'continued' && one.level === level;
      close(level + 1);
      if (role === 'continued') {
        this.out.push(this.words(item));
        return;
      }
      const tag = role === 'bullet' ? 'ul' : 'ol';
      if (open[level] && (open[level].tag !== tag || start !== null)) close(level);
      const number = counter.next(item);
      if (!open[level]) {
        this.out.push(number !== null && number !== 1 ? `<ol start="${number}">` : `<${tag}>`);
        open.push({ tag, begun: false });
      }
      if (open[level]!.begun) this.out.push('</li>');
      open[level]!.begun = true;
      // What is more than a line of words stands in paragraphs.
      const later = items.slice(i + 1).findIndex((one) => one.level <= level && one.role !== 'continued');
      const own = later < 0 ? items.slice(i + 1) : items.slice(i + 1, i + 1 + later);
      this.out.push(`<li>${own.some(goesOn) || item.align !== 'left' ? this.words(item) : this.spans(item.spans)}`);
    });
    close(0);
  }

  private table({ head, caption, grid }: ProseTable): void {
    const row = (cells: ProseTable['grid'][number], tag: string) =>
      `<tr>${cells.map((cell) => `<${tag}>${this.spans(cell)}</${tag.split(' ')[0]}>`).join('')}</tr>`;
    const [first, ...rest] = grid;
    this.out.push(
      '<table class="words">',
      ...(caption.length ? [`<caption>${this.spans(caption)}</caption>`] : []),
      ...(head && first ? [`<thead>${row(first, 'th scope="col"')}</thead>`] : []),
      '<tbody>',
      ...(head ? rest : grid).map((cells) => row(cells, 'td')),
      '</tbody>',
      '</table>',
    );
  }

  private picture({ picture, alt, width, caption }: ProsePicture): void {
    this.out.push(
      `<figure><img src="${plainXml(this.ways.source(picture))}" alt="${plainXml(alt)}"${width ? ` style="width:${Number(width.toFixed(2))}mm"` : ''}/>${caption.length ? `<figcaption>${this.spans(caption)}</figcaption>` : ''}</figure>`,
    );
  }

  /** Blocks in a row that pass, from a place on. */
  private run(from: number, passes: (block: ProseBlock) => boolean): ProseWords[] {
    const { blocks } = this.body;
    let end = from;
    while (end < blocks.length && passes(blocks[end]!)) end++;
    return blocks.slice(from, end) as ProseWords[];
  }

  all(): string {
    const { blocks } = this.body;
    for (let i = 0; i < blocks.length; i++) {
      const block = blocks[i]!;
      if (block.block === 'table') this.table(block);
      else if (block.block === 'picture') this.picture(block);
      else if (block.block === 'break') this.out.push(block.of === 'page' ? '<hr class="page"/>' : '<hr/>');
      else if (isItem(block)) {
        const items = this.run(i, isItem);
        this.list(items);
        i += items.length - 1;
      } else if (block.role === 'quote') {
        const quotes = this.run(i, (one) => one.block === 'words' && one.role === 'quote');
        this.out.push(`<blockquote>${quotes.map((one) => this.words(one)).join('\n')}</blockquote>`);
        i += quotes.length - 1;
      } else this.out.push(this.words(block, block.role === 'body' ? 'p' : `h${block.role.slice(-1)}`));
    }
    this.endnotes();
    return this.out.join('\n');
  }

  private endnotes(): void {
    if (!this.notes.length) return;
    const { prefix, epub } = this.ways;
    const type = (name: string) => (epub ? ` epub:type="${name}"` : '');
    const items: string[] = [];
    // Notes have no notes of their own, so that none is added here.
    this.notes.forEach((note, i) => {
      items.push(
        `<li id="${prefix}note-${i + 1}"${type('footnote')}>${this.spans(note)} <a role="doc-backlink" href="#${prefix}ref-${i + 1}">↩</a></li>`,
      );
    });
    this.out.push(`<section class="notes" role="doc-endnotes"${type('footnotes')}><ol>`, ...items, '</ol></section>');
  }
}

/** A text as elements of HTML (Living Standard, 4.3 to 4.9). */
export const htmlOfText = (body: ProseBody, ways: HtmlWays): string => new Writing(body, ways).all();
