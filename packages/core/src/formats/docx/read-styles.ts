import { type XmlNode, childOf, childrenOf, own, saidOf } from '../../base/bytes/xml-tree';
import type { Tally } from '../../contracts/tally';
import type { CaptionOf } from '../texts/captions';
import { isOfGround, reportRoom, reportStyle } from './known';
import type { Alignment, Emphasis } from '../../document/texts/schema';

interface Style {
  readonly name: string;
  readonly based: string | undefined;
  readonly paragraph: XmlNode | undefined;
  readonly run: XmlNode | undefined;
}

const ALIGNMENT: Readonly<Record<string, Alignment>> = {
  left: 'left',
  start: 'left',
  center: 'centre',
  right: 'right',
  end: 'right',
  both: 'justified',
  distribute: 'justified',
};
/** Properties of runs that nobody sees, or that belong to one that is read. */
const QUIET = new Set(
  'rStyle b bCs i iCs u strike dstrike vertAlign lang noProof szCs webHidden cs kern fitText snapToGrid specVanish oMath vanish rFonts proofErr rPrChange'.split(
    ' ',
  ),
);
/** Properties that a run may ask for to have it as it is anyway. */
const PLAIN: Readonly<Record<string, RegExp>> = {
  color: /^auto$/i,
  highlight: /^none$/,
  shd: /^(clear|nil)$/,
  position: /^0$/,
  spacing: /^0$/,
  w: /^100$/,
};

/** Whether a property that is on or off is on (ECMA-376-1, 17.17.4); undefined where it is not said. */
export function isOn(properties: XmlNode | undefined, name: string): boolean | undefined {
  const found = childOf(properties, name);
  if (!found) return undefined;
  return !/^(0|false|off|none)$/.test(own(found, 'val') ?? 'true');
}

interface ParagraphLook {
  readonly heading: number;
  readonly quote: boolean;
  readonly caption: CaptionOf | null;
  /** How deep it goes on with an item; -1 where it does not. */
  readonly continued: number;
  readonly align: Alignment;
  /** Its list, the level of that list, and how deep its style says that it stands. */
  readonly list: { readonly id: string; readonly level: number; readonly depth: number } | null;
  readonly breakBefore: boolean;
  readonly ruled: boolean;
  readonly runs: readonly XmlNode[];
}

/** The styles of a document by their ids (ECMA-376-1, 17.7). */
export class Styles {
  private readonly styles = new Map<string, Style>();
  private standard: string | undefined;
  private readonly defaults: XmlNode | undefined;
  /** How paragraphs stand where nothing else is said. */
  private readonly room: XmlNode | undefined;
  language = '';

  constructor(
    root: XmlNode | undefined,
    private readonly tally: Tally,
  ) {
    this.defaults = childOf(root, 'docDefaults', 'rPrDefault', 'rPr');
    this.room = childOf(root, 'docDefaults', 'pPrDefault', 'pPr');
    this.language = saidOf(this.defaults, 'lang') ?? '';
    for (const style of childrenOf(root, 'style')) {
      const id = own(style, 'styleId') ?? '';
      this.styles.set(id, {
        name: saidOf(style, 'name') ?? id,
        based: saidOf(style, 'basedOn'),
        paragraph: childOf(style, 'pPr'),
        run: childOf(style, 'rPr'),
      });
      if (own(style, 'type') === 'paragraph' && /^(1|true|on)$/.test(own(style, 'default') ?? '')) {
        this.standard = id;
        this.language ||= saidOf(childOf(style, 'rPr'), 'lang') ?? '';
      }
    }
  }

  private readonly told = new Set<XmlNode>();
  /** Tells how a paragraph and its styles hide what is set in them: once for each. @param own_ what the paragraph says itself */
  reportOf(own_: XmlNode | undefined): void {
    for (const run of [this.defaults, ...this.chain(saidOf(own_, 'pStyle') ?? this.standard).map((style) => style.run)]) {
      if (!run || this.told.has(run)) continue;
      this.told.add(run);
      reportStyle(run, this.tally);
    }
    for (const paragraph of [
      this.room,
      own_,
      ...this.chain(saidOf(own_, 'pStyle') ?? this.standard).map((style) => style.paragraph),
    ]) {
      if (!paragraph || this.told.has(paragraph)) continue;
      this.told.add(paragraph);
      reportRoom(paragraph, this.tally);
    }
  }

  private chain(id: string | undefined): Style[] {
    const chain: Style[] = [];
    for (let at = id; at !== undefined && chain.length < 50;) {
      const style: Style | undefined = this.styles.get(at);
      if (!style) break;
      chain.push(style);
      at = style.based;
    }
    return chain;
  }

  paragraph(own_: XmlNode | undefined): ParagraphLook {
    const id = saidOf(own_, 'pStyle');
    const chain = this.chain(id ?? this.standard);
    // What its style is called tells more than what that one comes from.
    const names = chain.map(({ name }) => name.toLowerCase());
    const layers = [own_, ...chain.map(({ paragraph }) => paragraph)];
    const first = (name: string) => layers.map((layer) => childOf(layer, name)).find(Boolean);
    const outline = layers.map((layer) => saidOf(layer, 'outlineLvl')).find((value) => value !== undefined);
    const named = names.map((name) => /^heading (\d)$/.exec(name)?.[1]).find(Boolean);
    const heading = named ? Number(named) : outline !== undefined && Number(outline) < 9 ? Number(outline) + 1 : 0;
    const continued = names.map((name) => /^list continue ?(\d)?$/.exec(name)).find(Boolean);
    const numbering = first('numPr');
    const list = saidOf(numbering, 'numId');
    // Programs have a style for each depth of a list, and each of them a list of its own.
    const depth = names.map((name) => /^list (?:bullet|number) (\d)$/.exec(name)?.[1]).find(Boolean);
    const quote = names.some((name) => /quote|^block text$/.test(name));
    const caption = names.includes('caption') ? (names[0]!.includes('table') ? 'table' : 'any') : null;
    const border = first('pBdr');
    return {
      heading,
      quote,
      caption,
      continued: continued ? Number(continued[1] ?? 1) - 1 : -1,
      align: ALIGNMENT[own(first('jc') ?? NOTHING, 'val') ?? 'left'] ?? 'left',
      list: list && list !== '0' ? listAt(list, Number(saidOf(numbering, 'ilvl') ?? 0) || 0, depth) : null,
      breakBefore: layers.map((layer) => isOn(layer, 'pageBreakBefore')).find((value) => value !== undefined) ?? false,
      ruled: ['bottom', 'top'].some((side) => !/^(nil|none|)$/.test(saidOf(border, side) ?? '')),
      // Headings and the like look so because they are that.
      runs: heading || quote || caption || names[0] === 'cell heading' ? [] : chain.flatMap(({ run }) => run ?? []),
    };
  }

  /** The emphasis of a run: what it says itself, then its style, then that of its paragraph. */
  marks(own_: XmlNode | undefined, paragraph: readonly XmlNode[]): { marks: Emphasis[]; hidden: boolean } {
    const chain = this.chain(saidOf(own_, 'rStyle'));
    const layers = [own_, ...chain.map(({ run }) => run), ...paragraph];
    const on = (name: string) => layers.map((layer) => isOn(layer, name)).find((value) => value !== undefined) ?? false;
    const said = (name: string) => layers.map((layer) => saidOf(layer, name)).find((value) => value !== undefined);
    const names = chain.map(({ name }) => name.toLowerCase());
    const fonts = layers.map((layer) => childOf(layer, 'rFonts')).find(Boolean);
    const font = own(fonts ?? NOTHING, 'ascii') ?? '';
    const code = names.some((name) => /\bcode\b|verbatim/.test(name)) || /mono|courier|consol/i.test(font);
    for (const property of childrenOf(own_)) {
      const value = own(property, 'val') ?? '';
      if (property.name === 'rFonts' && !code) this.tally.add('look of words: font');
      if (property.name === 'color' && isOfGround(property)) this.tally.add('look of words: color');
      if (QUIET.has(property.name) || PLAIN[property.name]?.test(value)) continue;
      if (value !== '' && /^(0|false|off)$/.test(value)) continue;
      this.tally.add(`look of words: ${property.name}`);
    }
    const align = said('vertAlign');
    const note = names.some((name) => /^(foot|end)note reference$/.test(name));
    const marks: Emphasis[] = [];
    if (on('b')) marks.push('bold');
    if (on('i')) marks.push('italic');
    if (!/^(none|)$/.test(said('u') ?? '') && !names.includes('hyperlink')) marks.push('underlined');
    if (on('strike') || on('dstrike')) marks.push('struck');
    if (code) marks.push('code');
    if (align === 'superscript' && !note) marks.push('raised');
    if (align === 'subscript') marks.push('lowered');
    return { marks, hidden: on('vanish') };
  }
}

const listAt = (id: string, level: number, depth: string | undefined) => ({
  id,
  level,
  depth: level || Number(depth ?? 1) - 1,
});

const NOTHING: XmlNode = { name: '', attributes: {}, children: [] };
