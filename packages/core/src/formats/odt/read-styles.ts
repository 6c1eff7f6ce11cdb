import { type XmlNode, childOf, childrenOf, own } from '../../base/bytes/xml-tree';
import type { Tally } from '../../contracts/tally';
import type { CaptionOf } from '../texts/captions';
import { hides } from './known';
import type { Alignment, Emphasis } from '../../document/texts/schema';

interface Style {
  readonly parent: string | undefined;
  /** What people call it. */
  readonly name: string;
  readonly outline: number;
  readonly text: ReadonlyMap<string, string>;
  readonly paragraph: ReadonlyMap<string, string>;
  /** Of frames, of tables and of what they consist of. */
  readonly outside: ReadonlyMap<string, string>;
  /** Made for one place, not named by a person. */
  readonly automatic: boolean;
}

const plain = (name: string): string => name.slice(name.indexOf(':') + 1);
const propertiesOf = (style: XmlNode, kind: string): Map<string, string> =>
  new Map(Object.entries(childOf(style, kind)?.attributes ?? {}).map(([name, value]) => [plain(name), value]));

const ALIGNMENT: Readonly<Record<string, Alignment>> = {
  start: 'left',
  left: 'left',
  center: 'centre',
  end: 'right',
  right: 'right',
  justify: 'justified',
};
/** Properties of text that make no emphasis and that nobody sees, or that belong to one that is read. */
const QUIET =
  /^(language|country|script|rfc-language-tag|.*-(asian|complex)|text-underline-(width|color|type|mode)|text-line-through-(type|width|color|mode)|text-position|rsid|letter-kerning|hyphenate.*|font-pitch|font-family-generic|font-charset|font-style-name|use-window-font-color)$/;

/** How a name of a style says what it is, where nothing else does. */
const QUOTE = /quot|zitat|citaci/i;
const CELL_HEADING = /(cell|table).*head/i;
const CAPTION = /caption|legend|beschriftung|figure ?text/i;

/** How items of one level are marked. */
interface Level {
  readonly numbered: boolean;
  readonly start: number;
  readonly format: string;
  /** How their numbers or signs say something else, in words; null where they do not. */
  readonly odd: string | null;
}

interface ParagraphLook {
  readonly heading: number;
  readonly quote: boolean;
  readonly caption: CaptionOf | null;
  readonly align: Alignment;
  readonly marks: readonly Emphasis[];
  readonly breakBefore: boolean;
  readonly breakAfter: boolean;
  readonly ruled: boolean;
  readonly hidden: boolean;
  /** Whether it is struck out by what it is. */
  readonly struck: boolean;
}

/** The styles of a document, by family and name (ODF 1.3-3, 16). */
export class Styles {
  private readonly styles = new Map<string, Style>();
  private readonly lists = new Map<string, Map<number, Level>>();
  private readonly paragraphs = new Map<string, ParagraphLook>();
  private readonly spans = new Map<string, { marks: readonly (readonly [Emphasis, boolean])[]; hidden: boolean }>();
  private readonly monospaced = new Set<string>();
  language = '';

  constructor(
    roots: readonly (XmlNode | undefined)[],
    private readonly tally: Tally,
  ) {
    for (const root of roots) {
      for (const face of childrenOf(childOf(root, 'font-face-decls'), 'font-face'))
        if (own(face, 'font-pitch') === 'fixed' || /mono|courier|consol/i.test(own(face, 'font-family') ?? ''))
          this.monospaced.add(own(face, 'name') ?? '');
      for (const group of ['styles', 'automatic-styles'])
        for (const style of childrenOf(childOf(root, group))) this.take(style, group === 'automatic-styles');
    }
  }

  private take(style: XmlNode, automatic: boolean): void {
    const name = own(style, 'name') ?? '';
    const family = own(style, 'family') ?? '';
    if (style.name === 'list-style') this.lists.set(name, this.listLevels(style));
    else if (style.name === 'default-style' && family === 'paragraph') {
      const text = propertiesOf(style, 'text-properties');
      const [tongue, country] = [text.get('language'), text.get('country')];
      if (tongue && tongue !== 'none') this.language = country && country !== 'none' ? `${tongue}-${country}` : tongue;
    } else if (style.name === 'style')
      this.styles.set(`${family}|${name}`, {
        parent: own(style, 'parent-style-name'),
        name: own(style, 'display-name') ?? name,
        outline: Number(own(style, 'default-outline-level') ?? 0) || 0,
        text: propertiesOf(style, 'text-properties'),
        paragraph: propertiesOf(style, 'paragraph-properties'),
        outside: propertiesOf(style, family.startsWith('table') ? `${family}-properties` : 'graphic-properties'),
        automatic,
      });
  }

  private listLevels(style: XmlNode): Map<number, Level> {
    return new Map(
      childrenOf(style).map((level) => {
        const format = own(level, 'num-format') ?? '';
        const numbered = level.name === 'list-level-style-number' && format !== '';
        const around = /[\p{L}\p{N}]/u.test(`${own(level, 'num-prefix') ?? ''}${own(level, 'num-suffix') ?? ''}`);
        const several = Number(own(level, 'display-levels') ?? 1) > 1;
        const bare = level.name === 'list-level-style-number' ? !numbered : own(level, 'bullet-char')?.trim() === '';
        const odd = around
          ? 'words around numbers'
          : numbered && several
            ? 'numbers of several levels'
            : bare && level.name !== 'list-level-style-image'
              ? 'items without a sign'
              : null;
        return [Number(own(level, 'level') ?? 1), { numbered, start: Number(own(level, 'start-value') ?? 1) || 1, format, odd }];
      }),
    );
  }

  listLevel(name: string | undefined, level: number): Level {
    return this.lists.get(name ?? '')?.get(level + 1) ?? { numbered: false, start: 1, format: '', odd: null };
  }

  /** A style and those that it comes from, itself first. */
  private chain(family: string, name: string | undefined): Style[] {
    const chain: Style[] = [];
    for (let at = name; at !== undefined && chain.length < 50;) {
      const style: Style | undefined = this.styles.get(`${family}|${at}`);
      if (!style) break;
      chain.push(style);
      at = style.parent;
    }
    return chain;
  }

  private marksOf(chain: readonly Style[]): (readonly [Emphasis, boolean])[] {
    const first = (name: string) => chain.map(({ text }) => text.get(name)).find((value) => value !== undefined);
    const marks: (readonly [Emphasis, boolean])[] = [];
    const put = (mark: Emphasis, value: string | undefined, on: (value: string) => boolean) => {
      if (value !== undefined) marks.push([mark, on(value)]);
    };
    put('bold', first('font-weight'), (value) => value === 'bold' || Number(value) >= 600);
    put('italic', first('font-style'), (value) => value !== 'normal');
    put('underlined', first('text-underline-style'), (value) => value !== 'none');
    put('struck', first('text-line-through-style'), (value) => value !== 'none');
    const position = first('text-position');
    if (position !== undefined) {
      const raised = /^(super|[1-9])/.test(position);
      const lowered = /^(sub|-[1-9])/.test(position);
      marks.push(['raised', raised], ['lowered', lowered]);
    }
    const font = first('font-name') ?? first('font-family');
    if (font !== undefined) marks.push(['code', this.monospaced.has(font) || /mono|courier|consol/i.test(font)]);
    return marks;
  }

  /** What a style made for one place asks for that is not read, and how one for many hides what is set in it. */
  private unread(chain: readonly Style[]): void {
    for (const { text, automatic } of chain) {
      for (const [name, value] of text) {
        if (!automatic) {
          if (hides(name, value)) this.tally.add(`look of words: ${name}`);
          continue;
        }
        if (['font-weight', 'font-style', 'text-underline-style', 'text-line-through-style', 'display'].includes(name)) continue;
        if ((name === 'font-name' || name === 'font-family') && this.monospaced.has(value)) continue;
        if (!QUIET.test(name)) this.tally.add(`look of words: ${name}`);
      }
    }
  }

  span(name: string | undefined): { marks: readonly (readonly [Emphasis, boolean])[]; hidden: boolean } {
    let look = this.spans.get(name ?? '');
    const chain = look ? [] : this.chain('text', name);
    if (!look) {
      look = { marks: this.marksOf(chain), hidden: chain.some(({ text }) => text.get('display') === 'none') };
      this.spans.set(name ?? '', look);
    }
    this.unread(this.chain('text', name));
    return look;
  }

  /** What the style of a frame or a table says, with those that it comes from: the nearest of each. */
  outside(
    family: 'graphic' | 'table' | 'table-row' | 'table-column' | 'table-cell',
    name: string | undefined,
  ): ReadonlyMap<string, string> {
    return new Map(
      this.chain(family, name)
        .reverse()
        .flatMap((style) => [...style.outside]),
    );
  }

  /** All that the style of a paragraph says of where it stands, and those that it comes from. */
  room(name: string | undefined): readonly (readonly [property: string, value: string])[] {
    return this.chain('paragraph', name).flatMap(({ paragraph }) => [...paragraph]);
  }

  /** What styles made for one place say of a paragraph. */
  made(name: string | undefined): readonly (readonly [property: string, value: string])[] {
    return this.chain('paragraph', name).flatMap(({ paragraph, automatic }) => (automatic ? [...paragraph] : []));
  }

  paragraph(name: string | undefined): ParagraphLook {
    let look = this.paragraphs.get(name ?? '');
    if (!look) {
      const chain = this.chain('paragraph', name);
      const first = (key: string) => chain.map(({ paragraph }) => paragraph.get(key)).find((value) => value !== undefined);
      const names = chain.map((style) => style.name).join(' ') || (name ?? '');
      const heading = chain.map(({ outline }) => outline).find((level) => level > 0) ?? 0;
      const special = heading > 0 || QUOTE.test(names) || CAPTION.test(names) || CELL_HEADING.test(names);
      const ruled = ['border', 'border-bottom', 'border-top'].some((side) => !/^(none|)$/.test(first(side) ?? ''));
      look = {
        heading,
        quote: QUOTE.test(names),
        caption: CAPTION.test(names) ? (/table/i.test(chain[0]?.name ?? name ?? '') ? 'table' : 'any') : null,
        align: ALIGNMENT[first('text-align') ?? 'start'] ?? 'left',
        // Headings and the like look so because they are that; what is asked for in one place counts everywhere.
        struck:
          special && this.marksOf(chain.filter(({ automatic }) => !automatic)).some(([mark, on]) => on && mark === 'struck'),
        marks: this.marksOf(special ? chain.filter(({ automatic }) => automatic) : chain)
          .filter(([, on]) => on)
          .map(([mark]) => mark),
        breakBefore: /^(page|column)$/.test(first('break-before') ?? ''),
        breakAfter: /^(page|column)$/.test(first('break-after') ?? ''),
        ruled,
        hidden: chain.some(({ text }) => text.get('display') === 'none'),
      };
      this.paragraphs.set(name ?? '', look);
    }
    if (look.struck) this.tally.add('words struck out');
    this.unread(this.chain('paragraph', name));
    return look;
  }
}
