import type * as Library from '@cantoo/pdf-lib';
import type { PdfEdges } from '../edges';
import { trueName } from '../../../engines/true-profile';
import { Unpacking } from './unpacked';
import type { Whole } from './whole';

type Objects = typeof Library;
type Value = Library.PDFObject | undefined;

/** What is known of a dictionary: entries that are read or change nothing, and entries that have to be asked. */
interface Known {
  readonly entries: ReadonlySet<string>;
  readonly asked?: Readonly<Record<string, (value: Value, walk: Walk) => string | undefined>>;
  /** Words for what else an entry may be. */
  readonly words: (entry: string) => string;
  /** Whether what else it may be is seen where the page is looked at. */
  readonly seen: boolean;
}

const names = (text: string): ReadonlySet<string> => new Set(text.split(/\s+/));
const DEFAULT = 'as the device does by itself';

/** Something that nobody reads. @see unreadInPdf */
interface Unread {
  readonly words: string;
  /** Whether it would be seen where the page is looked at. */
  readonly seen: boolean;
}

/** Trees of names that do nothing, and the files inside, which are told one by one. */
const NAMES = names('Dests IDS URLS EmbeddedFiles');

/** The document (ISO 32000-1, 7.7.2): where one reads on and how a window opens is nothing that is drawn. */
const CATALOG: Known = {
  entries: names(
    `Type Version Extensions Pages PageLabels Dests ViewerPreferences PageLayout PageMode Outlines Threads URI Metadata
     StructTreeRoot MarkInfo Lang SpiderInfo PieceInfo OCProperties AcroForm OutputIntents AF`,
  ),
  asked: {
    // An array leads to a place; anything else is an action, of which one that leads to a place does nothing more.
    OpenAction: (value, { dictionary, name }) => {
      const action = dictionary(value);
      return action && name(action, 'S') !== 'GoTo' ? 'action when it is opened' : undefined;
    },
    Names: (value, { dictionary, keys }) => {
      const found = keys(dictionary(value)).filter((key) => !NAMES.has(key));
      return found.length ? `what the file carries (${found.join(', ')})` : undefined;
    },
  },
  words: (entry) => `“${entry}” of the document`,
  seen: false,
};

/** A page (ISO 32000-1, 7.7.3.3); notes that lie on it are told by their kinds. */
const PAGE: Known = {
  entries: names(
    `Type Parent LastModified Resources MediaBox CropBox Contents Rotate Group Thumb B Annots Metadata PieceInfo StructParents ID
     PZ SeparationInfo Tabs TemplateInstantiated VP BoxColorInfo`,
  ),
  asked: {
    UserUnit: (value, { number }) => (number(value) === 1 ? undefined : 'unit of the page that is no point'),
    // What pages do when they are turned over is for those who show them one after the other, and nothing that is drawn.
    Dur: () => undefined,
    Trans: () => undefined,
    AA: () => 'action of a page',
  },
  words: (entry) => `“${entry}” of a page`,
  seen: true,
};

/** A state of graphics (ISO 32000-1, table 58); how fine curves are drawn is left to whoever draws. */
const STATE: Known = {
  entries: names('Type LW LC LJ ML D RI FL SM SA Font BM SMask CA ca'),
  asked: {
    OP: (value, { yes }) => (yes(value) ? 'overprinting' : undefined),
    op: (value, { yes }) => (yes(value) ? 'overprinting' : undefined),
    OPM: () => undefined,
    AIS: (value, { yes }) => (yes(value) ? 'opacity taken as shape' : undefined),
    TK: (value, { yes }) => (yes(value) ? undefined : 'letters that shine through each other'),
    TR: (value, { text }) => (['Identity', 'Default'].includes(text(value)) ? undefined : 'curve of the device’s colours'),
    TR2: (value, { text }) => (['Identity', 'Default'].includes(text(value)) ? undefined : 'curve of the device’s colours'),
    BG: () => undefined,
    UCR: () => undefined,
    BG2: () => undefined,
    UCR2: () => undefined,
    HT: (value, { text }) => (text(value) === 'Default' ? undefined : `screen of dots that is not ${DEFAULT}`),
  },
  words: (entry) => `graphics state “${entry}”`,
  seen: true,
};

/** Entries of anything that is a stream (ISO 32000-1, table 5). */
const STREAM = 'Length Filter DecodeParms DL';
/** Whether something shows is said by layers within the page; nobody writes here that all of it is on one. */
const ON_A_LAYER = { OC: () => 'layer of a whole drawing or picture' };

/** A drawing within the drawing (ISO 32000-1, 8.10.2). */
const FORM: Known = {
  entries: names(
    `Type Subtype FormType BBox Matrix Resources Group Metadata PieceInfo LastModified StructParent StructParents Name ${STREAM}`,
  ),
  asked: ON_A_LAYER,
  words: (entry) => `“${entry}” of a drawing within the page`,
  seen: true,
};

/** A picture (ISO 32000-1, 8.9.5). */
const IMAGE: Known = {
  entries: names(
    `Type Subtype Width Height ColorSpace BitsPerComponent Intent ImageMask Mask Decode Interpolate SMask SMaskInData Name
     StructParent ID Metadata Matte ${STREAM}`,
  ),
  asked: ON_A_LAYER,
  words: (entry) => `“${entry}” of a picture`,
  seen: true,
};

/** Dictionaries that say one thing each (ISO 32000-1, 8.7.3, 8.7.4.3, 7.10, 11.6.5.2, 11.6.6, 9.6 to 9.8). */
const PLAIN = {
  pattern: ['a pattern', 'Type PatternType PaintType TilingType BBox XStep YStep Resources Matrix Shading ExtGState'],
  shading: [
    'a gradient',
    `ShadingType ColorSpace Background BBox AntiAlias Function Coords Domain Extend Matrix BitsPerCoordinate BitsPerComponent
     BitsPerFlag Decode VerticesPerRow`,
  ],
  function: ['a function', 'FunctionType Domain Range C0 C1 N Functions Bounds Encode Decode Size BitsPerSample Order'],
  mask: ['a mask', 'Type S G BC TR'],
  group: ['a group', 'Type S CS I K'],
  font: [
    'a font',
    `Type Subtype Name BaseFont FirstChar LastChar Widths FontDescriptor Encoding ToUnicode DescendantFonts CIDSystemInfo DW W DW2
     W2 CIDToGIDMap FontBBox FontMatrix CharProcs Resources`,
  ],
  descriptor: [
    'a font',
    `Type FontName FontFamily FontStretch FontWeight Flags FontBBox ItalicAngle Ascent Descent Leading CapHeight XHeight StemV
     StemH AvgWidth MaxWidth MissingWidth FontFile FontFile2 FontFile3 CharSet Style Lang FD CIDSet`,
  ],
} as const;
const KNOWN = Object.fromEntries(
  Object.entries(PLAIN).map(([kind, [what, entries]]): [string, Known] => [
    kind,
    { entries: names(`${entries} ${STREAM}`), words: (entry) => `“${entry}” of ${what}`, seen: true },
  ]),
) as Readonly<Record<keyof typeof PLAIN, Known>>;

/** Spaces whose colours are computed from what they say, or that have none of their own. */
const SPACES = new Set(['DeviceGray', 'DeviceRGB', 'DeviceCMYK', 'G', 'RGB', 'CMYK', 'CalGray', 'CalRGB', 'Lab', 'Pattern']);
/** Spaces in which what is laid over each other is mixed as it is on a screen. */
const MIXING = new Set(['DeviceRGB', 'DeviceGray']);

/** Millimetres that a box may be off where it should be. */
const NEAR = 0.02;
const POINTS = 72 / 25.4;

/** Names with the prefix of a program, which nobody need know to show the page (ISO 32000-1, annex E). */
const PRIVATE = /^(XX|[A-Za-z]{2,8}[._:])/;

/** Bytes of all profiles together. */
const MOST_UNPACKED = 64 * 1024 * 1024;

/** Goes through the parts of a file that its drawing hangs on. */
class Walk {
  private readonly been = new Set<Value>();
  private readonly unpacking: Unpacking;
  readonly found: Unread[] = [];
  /** Profiles of colours, and what is said of one that is not that of sRGB. */
  readonly profiles = new Map<Uint8Array, string>();

  constructor(
    private readonly lib: Objects,
    private readonly context: Library.PDFContext,
    private readonly edges: PdfEdges | null,
  ) {
    this.unpacking = new Unpacking(lib, MOST_UNPACKED);
  }

  readonly dictionary = (value: Value): Library.PDFDict | undefined => {
    const held = this.context.lookup(value);
    if (held instanceof this.lib.PDFStream) return held.dict;
    return held instanceof this.lib.PDFDict ? held : undefined;
  };
  readonly keys = (dictionary: Library.PDFDict | undefined): string[] => dictionary?.keys().map((key) => key.decodeText()) ?? [];
  readonly number = (value: Value): number => {
    const held = this.context.lookup(value);
    return held instanceof this.lib.PDFNumber ? held.asNumber() : Number.NaN;
  };
  readonly text = (value: Value): string => {
    const held = this.context.lookup(value);
    return held instanceof this.lib.PDFName ? held.decodeText() : '';
  };
  readonly yes = (value: Value): boolean => this.context.lookup(value) === this.lib.PDFBool.True;
  readonly name = (dictionary: Library.PDFDict, key: string): string => this.text(this.entry(dictionary, key));
  private entry(dictionary: Library.PDFDict, key: string): Value {
    return dictionary.get(this.lib.PDFName.of(key));
  }
  private list(value: Value): Value[] {
    const held = this.context.lookup(value);
    return held instanceof this.lib.PDFArray ? held.asArray() : [];
  }

  private profile(stream: Library.PDFRawStream, words: string): void {
    const bytes = this.unpacking.bytes(stream);
    if (bytes) this.profiles.set(bytes, words);
    else this.report(`${words} a profile that can’t be unpacked`);
  }

  private report(words: string, seen = false): void {
    this.found.push({ words, seen });
  }

  private look(dictionary: Library.PDFDict, { entries, asked, words, seen }: Known): void {
    for (const key of this.keys(dictionary)) {
      if (entries.has(key) || (this.edges === null && PRIVATE.test(key))) continue;
      const ask = asked?.[key];
      const said = ask ? ask(this.entry(dictionary, key), this) : words(key.slice(0, 40));
      if (said) this.report(said, !ask && seen);
    }
  }

  document(catalog: Library.PDFDict): void {
    this.look(catalog, CATALOG);
    for (const one of this.list(this.entry(catalog, 'OutputIntents'))) this.intent(this.dictionary(one));
    const form = this.dictionary(this.entry(catalog, 'AcroForm'));
    if (form && this.keys(form).includes('XFA')) this.report('form that is drawn by a program');
    this.pages(this.dictionary(this.entry(catalog, 'Pages')), 0);
  }

  /** What the colours are meant for: a screen, whose profile says so, or a press. */
  private intent(intent: Library.PDFDict | undefined): void {
    const words = 'press that the colours are meant for';
    const profile = intent && this.context.lookup(this.entry(intent, 'DestOutputProfile'));
    if (!(profile instanceof this.lib.PDFRawStream)) return this.report(words);
    if (this.been.has(profile)) return;
    this.been.add(profile);
    this.profile(profile, `${words},`);
  }

  private pages(node: Library.PDFDict | undefined, depth: number): void {
    if (!node || depth > 64 || this.been.has(node)) return;
    this.been.add(node);
    const kids = this.list(this.entry(node, 'Kids'));
    if (!kids.length) return this.page(node);
    this.resources(this.entry(node, 'Resources'), 0);
    for (const kid of kids) this.pages(this.dictionary(kid), depth + 1);
  }

  private page(page: Library.PDFDict): void {
    const box = (key: string): number[] | null => {
      const found = this.list(this.entry(page, key)).map((value) => this.number(value) / POINTS);
      if (found.length !== 4 || !found.every(Number.isFinite)) return null;
      // Any two corners across from each other (ISO 32000-1, 7.9.5).
      const [a, b, c, d] = found as [number, number, number, number];
      return [Math.min(a, c), Math.min(b, d), Math.max(a, c), Math.max(b, d)];
    };
    this.look(page, { ...PAGE, entries: new Set([...PAGE.entries, 'BleedBox', 'TrimBox', 'ArtBox']) });
    const whole = box('CropBox') ?? box('MediaBox');
    if (whole && this.edges) {
      const { bleed, around } = this.edges;
      const [left, bottom, right, top] = whole as [number, number, number, number];
      const within = (by: number): number[] => [left + by, bottom + by, right - by, top - by];
      const inner = within(around);
      const off = (found: number[] | null, meant: number[]): boolean =>
        found !== null && found.some((value, i) => Math.abs(value - meant[i]!) > NEAR);
      if (off(box('TrimBox'), inner) || off(box('ArtBox'), inner)) this.report('line where the sheet is cut, elsewhere');
      if (off(box('BleedBox'), within(around - bleed))) this.report('bleed, elsewhere');
    }
    this.group(this.entry(page, 'Group'));
    this.resources(this.entry(page, 'Resources'), 0);
  }

  private group(value: Value): void {
    const group = this.dictionary(value);
    if (!group || this.been.has(group)) return;
    this.been.add(group);
    this.look(group, KNOWN.group);
    const space = this.entry(group, 'CS');
    if (space && !MIXING.has(this.text(space))) this.space(space, 'colours mixed in', false);
  }

  /** Tells a space of colours that is not understood. @param plain whether spaces that say all of themselves will do */
  private space(value: Value, words: string, plain: boolean, depth = 0): void {
    const [family, ...rest] = this.list(value);
    const name = this.text(family ?? value);
    if (name === 'ICCBased') {
      const profile = this.context.lookup(rest[0]);
      if (!(profile instanceof this.lib.PDFRawStream)) this.report(`${words} a profile that is not there`);
      else if (!this.been.has(profile)) {
        this.been.add(profile);
        this.profile(profile, words);
      }
    } else if (['Indexed', 'I', 'Separation', 'DeviceN'].includes(name) && depth < 8)
      this.space(rest[name === 'Separation' || name === 'DeviceN' ? 1 : 0], words, plain, depth + 1);
    else if (!plain || !SPACES.has(name)) this.report(`${words} ${name || 'a space of their own'}`);
  }

  private shading(value: Value): void {
    const shading = this.dictionary(value);
    if (!shading || this.been.has(shading)) return;
    this.been.add(shading);
    this.look(shading, KNOWN.shading);
    this.space(this.entry(shading, 'ColorSpace'), 'colours in', true);
    for (const one of this.each(this.entry(shading, 'Function'))) this.function(one, 0);
  }

  private function(value: Value, depth: number): void {
    const one = this.dictionary(value);
    if (!one || depth > 8 || this.been.has(one)) return;
    this.been.add(one);
    this.look(one, KNOWN.function);
    for (const inner of this.list(this.entry(one, 'Functions'))) this.function(inner, depth + 1);
  }

  private font(font: Library.PDFDict): void {
    this.look(font, KNOWN.font);
    const descriptor = this.dictionary(this.entry(font, 'FontDescriptor'));
    if (descriptor) this.look(descriptor, KNOWN.descriptor);
    for (const below of this.list(this.entry(font, 'DescendantFonts'))) {
      const inner = this.dictionary(below);
      if (!inner || this.been.has(inner)) continue;
      this.been.add(inner);
      this.font(inner);
    }
  }

  private picture(one: Library.PDFDict): void {
    this.look(one, IMAGE);
    const space = this.entry(one, 'ColorSpace');
    // A name of the resources is looked at there.
    if (space && (this.list(space).length || SPACES.has(this.text(space)))) this.space(space, 'colours in', true);
    for (const key of ['SMask', 'Mask']) {
      const mask = this.dictionary(this.entry(one, key));
      if (!mask || this.been.has(mask)) continue;
      this.been.add(mask);
      this.picture(mask);
    }
  }

  private each(value: Value): Value[] {
    const list = this.list(value);
    return list.length ? list : [value];
  }

  private form(form: Library.PDFDict, depth: number): void {
    this.look(form, FORM);
    this.group(this.entry(form, 'Group'));
    this.resources(this.entry(form, 'Resources'), depth + 1);
  }

  private resources(value: Value, depth: number): void {
    const resources = this.dictionary(value);
    if (!resources || depth > 32 || this.been.has(resources)) return;
    this.been.add(resources);
    const each = (kind: string, visit: (one: Library.PDFDict) => void): void => {
      for (const [, one] of this.dictionary(this.entry(resources, kind))?.entries() ?? []) {
        const found = this.dictionary(one);
        if (!found || this.been.has(found)) continue;
        this.been.add(found);
        visit(found);
      }
    };
    each('ExtGState', (state) => {
      this.look(state, STATE);
      const mask = this.dictionary(this.entry(state, 'SMask'));
      if (mask) this.look(mask, KNOWN.mask);
      const drawn = mask && this.dictionary(this.entry(mask, 'G'));
      if (drawn) this.form(drawn, depth);
    });
    each('XObject', (one) => {
      const kind = this.name(one, 'Subtype');
      if (kind === 'Form') this.form(one, depth);
      else this.picture(one);
    });
    each('Font', (font) => this.font(font));
    each('Shading', (one) => {
      this.been.delete(one);
      this.shading(one);
    });
    for (const [name, space] of this.dictionary(this.entry(resources, 'ColorSpace'))?.entries() ?? []) {
      const meant = /^Default(Gray|RGB|CMYK)$/.test(name.decodeText());
      this.space(space, meant ? 'all colours in' : 'colours in', !meant);
    }
    each('Pattern', (one) => {
      this.look(one, KNOWN.pattern);
      this.shading(this.entry(one, 'Shading'));
      const state = this.dictionary(this.entry(one, 'ExtGState'));
      if (state) this.look(state, STATE);
      this.resources(this.entry(one, 'Resources'), depth + 1);
    });
  }
}

/**
 * Entries of a PDF's dictionaries that nobody reads and that may show, print or do something.
 * @param edges that its pages should have around them; null where nobody knows
 * @returns words for each, as often as it is there
 */
export async function unreadInPdf(whole: Whole | null, edges: PdfEdges | null): Promise<readonly Unread[]> {
  try {
    if (whole) {
      const walk = new Walk(whole.lib, whole.context, edges);
      walk.document(whole.catalog);
      for (const [profile, words] of walk.profiles) {
        const name = await trueName(profile);
        if (name !== 'sRGB') walk.found.push({ words: `${words} the profile ${name || 'without a name'}`, seen: false });
      }
      return walk.found;
    }
  } catch {
    // Something in it is not what it says it is.
  }
  return [{ words: 'parts that can’t be listed, of a file that is damaged', seen: true }];
}
