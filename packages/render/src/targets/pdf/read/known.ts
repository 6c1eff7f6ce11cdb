import type * as Library from '@cantoo/pdf-lib';
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

/** The document (ISO 32000-1, 7.7.2): where one reads on and how a window opens is nothing that is drawn. */
const CATALOG: Known = {
  entries: names(
    `Type Version Extensions Pages PageLabels Dests ViewerPreferences PageLayout PageMode Outlines Threads URI Metadata
     StructTreeRoot MarkInfo Lang SpiderInfo PieceInfo OCProperties AcroForm OutputIntents`,
  ),
  asked: {
    // An array leads to a place; anything else is an action, of which one that leads to a place does nothing more.
    OpenAction: (value, { dictionary, name }) => {
      const action = dictionary(value);
      return action && name(action, 'S') !== 'GoTo' ? 'action when it is opened' : undefined;
    },
    Names: (value, { dictionary, keys }) => {
      const found = keys(dictionary(value)).filter((key) => key !== 'Dests' && key !== 'IDS' && key !== 'URLS');
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

/** A drawing within the drawing (ISO 32000-1, 8.10.2). */
const FORM: Known = {
  entries: names(
    `Type Subtype FormType BBox Matrix Resources Group Metadata PieceInfo LastModified StructParent StructParents OC Name Length
     Filter DecodeParms DL`,
  ),
  words: (entry) => `“${entry}” of a drawing within the page`,
  seen: true,
};

/** A picture (ISO 32000-1, 8.9.5). */
const IMAGE: Known = {
  entries: names(
    `Type Subtype Width Height ColorSpace BitsPerComponent Intent ImageMask Mask Decode Interpolate SMask SMaskInData Name
     StructParent ID Metadata OC Length Filter DecodeParms DL Matte`,
  ),
  words: (entry) => `“${entry}” of a picture`,
  seen: true,
};

/** Millimetres that a box may be off where it should be. */
const NEAR = 0.02;
const POINTS = 72 / 25.4;

/** Goes through the parts of a file that its drawing hangs on. */
class Walk {
  private readonly been = new Set<Value>();
  readonly found: Unread[] = [];

  constructor(
    private readonly lib: Objects,
    private readonly context: Library.PDFContext,
    private readonly bleed: number | null,
  ) {}

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

  private tell(words: string, seen = false): void {
    this.found.push({ words, seen });
  }

  private look(dictionary: Library.PDFDict, { entries, asked, words, seen }: Known): void {
    for (const key of this.keys(dictionary)) {
      if (entries.has(key)) continue;
      const ask = asked?.[key];
      const said = ask ? ask(this.entry(dictionary, key), this) : words(key.slice(0, 40));
      if (said) this.tell(said, !ask && seen);
    }
  }

  document(catalog: Library.PDFDict): void {
    this.look(catalog, CATALOG);
    const intents = this.list(this.entry(catalog, 'OutputIntents'));
    if (intents.length) this.tell('press that the colours are meant for');
    const form = this.dictionary(this.entry(catalog, 'AcroForm'));
    if (form && this.keys(form).includes('XFA')) this.tell('form that is drawn by a program');
    this.pages(this.dictionary(this.entry(catalog, 'Pages')), 0);
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
      return found.length === 4 && found.every(Number.isFinite) ? found : null;
    };
    this.look(page, { ...PAGE, entries: new Set([...PAGE.entries, 'BleedBox', 'TrimBox', 'ArtBox']) });
    const whole = box('CropBox') ?? box('MediaBox');
    if (whole && this.bleed !== null) {
      const [left, bottom, right, top] = whole as [number, number, number, number];
      const inner = [left + this.bleed, bottom + this.bleed, right - this.bleed, top - this.bleed];
      const off = (found: number[] | null, meant: number[]): boolean =>
        found !== null && found.some((value, i) => Math.abs(value - meant[i]!) > NEAR);
      if (off(box('TrimBox'), inner) || off(box('ArtBox'), inner)) this.tell('line where the sheet is cut, elsewhere');
      if (off(box('BleedBox'), whole)) this.tell('bleed, elsewhere');
    }
    this.resources(this.entry(page, 'Resources'), 0);
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
      const drawn = mask && this.dictionary(this.entry(mask, 'G'));
      if (drawn) this.resources(this.entry(drawn, 'Resources'), depth + 1);
    });
    each('XObject', (one) => {
      const kind = this.name(one, 'Subtype');
      if (kind !== 'Form') return this.look(one, IMAGE);
      this.look(one, FORM);
      this.resources(this.entry(one, 'Resources'), depth + 1);
    });
    each('Pattern', (one) => {
      const state = this.dictionary(this.entry(one, 'ExtGState'));
      if (state) this.look(state, STATE);
      this.resources(this.entry(one, 'Resources'), depth + 1);
    });
  }
}

/**
 * Entries of a PDF's dictionaries that nobody reads and that may show, print or do something.
 * @param bleed that its pages should have around them, mm; null where nobody knows
 * @returns words for each, as often as it is there
 */
export function unreadInPdf(whole: Whole | null, bleed: number | null): readonly Unread[] {
  try {
    if (whole) {
      const walk = new Walk(whole.lib, whole.context, bleed);
      walk.document(whole.catalog);
      return walk.found;
    }
  } catch {
    // Something in it is not what it says it is.
  }
  return [{ words: 'parts that can’t be listed, of a file that is damaged', seen: true }];
}
