import { MARK_ENTRY } from './mark-entry';
import type { CopyDescription, FontName, Services } from '@inkwell-twin/core';
import PDFDocument from 'pdfkit';
import { PLAIN_LETTERS } from '../../plain-letters';
import type { PdfEdges } from './edges';
import { type AboutPdf, type KeepingGrade, keywordsOf, pdfMetadata } from './metadata';

/** An object of a file: what its dictionary says, and a stream. */
export interface PdfObject {
  readonly data: Record<string, unknown>;
  compress: boolean;
  write(bytes: Uint8Array): void;
  end(bytes?: Uint8Array): void;
}

/** A font in a file, of which only what is used is embedded. */
interface GlyphPlace {
  readonly xAdvance: number;
  readonly advanceWidth: number;
  readonly xOffset: number;
  readonly yOffset: number;
}
interface PdfFont {
  readonly id: string;
  readonly ref: () => PdfObject;
  /** Glyphs of a text as four hexadecimal digits each, where each stands beside its place and how far it leads on, thousandths of an em. */
  readonly encode: (
    text: string,
    features: Readonly<Record<string, boolean>>,
  ) => readonly [glyphs: readonly string[], positions: readonly GlyphPlace[]];
}

/** What the library has and its types do not say. */
interface Inner {
  readonly _root: PdfObject;
  _font: PdfFont;
  readonly page: { readonly content: PdfObject & { buffer: Uint8Array[] }; readonly dictionary: PdfObject };
  ref(data: object): PdfObject;
  endMetadata(): void;
  addNamedEmbeddedFile(name: string, specification: PdfObject): void;
}

/** A name or a text in a dictionary: the library writes plain strings as names. */
const said = (text: string): object => new String(text);

const PRODUCER = 'Inkwell Twin';

/** What a file is written as. */
export interface PdfGrade {
  /** As its first line says. */
  readonly version: '1.4' | '1.7' | '2.0';
  readonly keeping: KeepingGrade | null;
}

/** First letters of names among the resources. */
const LETTERS = { XObject: 'X', ExtGState: 'G', Pattern: 'P', Shading: 'S', Properties: 'L' } as const;
type Resource = keyof typeof LETTERS;

/** A PDF that is being written: pages, and what they share. */
export class PdfFile {
  private readonly document: PDFKit.PDFDocument & Inner;
  private readonly chunks: Uint8Array[] = [];
  private readonly done: Promise<void>;
  /** One dictionary of resources for all pages and forms. */
  private readonly resources: PdfObject;
  private readonly layers = new Map<string, string>();
  private readonly layerObjects: PdfObject[] = [];
  private readonly states = new Map<string, string>();
  private readonly known = new Map<string, string>();
  private readonly fonts = new Map<string, PdfFont>();
  private count = 0;
  private readonly about: AboutPdf;

  constructor(
    mark: string,
    title: string,
    private readonly grade: PdfGrade,
    private readonly services: Services,
    described?: CopyDescription,
  ) {
    // Equal content gives equal bytes: the only time in a copy is that of its revision.
    const written = new Date(/written=([^;]+)/.exec(mark)?.[1] ?? 0);
    this.about = { mark, title, written, producer: PRODUCER, described };
    const info = {
      Producer: PRODUCER,
      Creator: PRODUCER,
      CreationDate: written,
      ...(title ? { Title: title } : {}),
      ...(described?.caption ? { Subject: described.caption } : {}),
      ...(described?.keywords.length ? { Keywords: keywordsOf(described) } : {}),
      [MARK_ENTRY]: mark.replace(/[^ -~]/g, '_'),
    };
    const options = { autoFirstPage: false, pdfVersion: grade.version, font: null as never, info };
    this.document = new PDFDocument(options as PDFKit.PDFDocumentOptions) as PDFKit.PDFDocument & Inner;
    this.document.endMetadata = () => this.writeMetadata();
    this.resources = this.object({ Font: {}, XObject: {}, ExtGState: {}, Pattern: {}, Shading: {}, Properties: {} });
    this.done = new Promise((resolve, reject) => {
      this.document.on('data', (chunk: Uint8Array) => this.chunks.push(chunk));
      this.document.on('end', resolve);
      this.document.on('error', reject);
    });
  }

  object(data: object): PdfObject {
    return this.document.ref(data);
  }

  /** An object with a stream. @param packed whether the bytes are packed already */
  stream(data: object, bytes: Uint8Array, packed = false): PdfObject {
    const made = this.object(data);
    if (packed) made.compress = false;
    made.end(bytes);
    return made;
  }

  /** Puts an object among the resources. @returns its name there */
  put(kind: Resource, object: PdfObject): string {
    const name = `${LETTERS[kind]}${++this.count}`;
    (this.resources.data[kind] as Record<string, PdfObject>)[name] = object;
    return name;
  }

  /** A resource that is made once for equal keys. */
  once(kind: Resource, key: string, make: () => PdfObject): string {
    const whole = `${kind} ${key}`;
    let name = this.known.get(whole);
    if (!name) this.known.set(whole, (name = this.put(kind, make())));
    return name;
  }

  /** A graphics state (ISO 32000-1, 8.4.5). */
  state(parameters: object): string {
    const key = JSON.stringify(parameters, (_, value: unknown) =>
      value && typeof value === 'object' && 'id' in value ? String(value.id) : value,
    );
    let name = this.states.get(key);
    if (!name) {
      const made = this.object({ Type: 'ExtGState', ...parameters });
      made.end();
      this.states.set(key, (name = this.put('ExtGState', made)));
    }
    return name;
  }

  /** A layer as optional content (ISO 32000-1, 8.11). @returns its name among the resources */
  layer(label: string): string {
    let name = this.layers.get(label);
    if (!name) {
      const made = this.object({ Type: 'OCG', Name: said(label) });
      made.end();
      this.layerObjects.push(made);
      this.layers.set(label, (name = this.put('Properties', made)));
    }
    return name;
  }

  /** Something that is drawn as one (ISO 32000-1, 8.10). @param group whether it is laid down as one */
  form(content: Uint8Array, group: object | null): PdfObject {
    const box = [-FAR, -FAR, FAR, FAR];
    return this.stream(
      {
        Type: 'XObject',
        Subtype: 'Form',
        BBox: box,
        Resources: this.resources,
        ...(group ? { Group: { S: 'Transparency', ...group } } : {}),
      },
      content,
    );
  }

  /** A cell that repeats (ISO 32000-1, 8.7.3). */
  cell(content: Uint8Array, width: number, height: number, matrix: readonly number[]): PdfObject {
    const steps = { BBox: [0, 0, width, height], XStep: width, YStep: height, Matrix: matrix };
    return this.stream(
      { Type: 'Pattern', PatternType: 1, PaintType: 1, TilingType: 1, ...steps, Resources: this.resources },
      content,
    );
  }

  /** Pieces of a line of text, each with a font that has its letters: font, and what is shown with it. */
  text(font: FontName, text: string): { readonly font: string; readonly shown: readonly ShownRun[] }[] {
    return this.services.fonts.pieces(font, text).map(({ file, bytes, text: piece }) => {
      const key = `${font} ${file}`;
      let made = this.fonts.get(key);
      if (!made) {
        this.document.font(new Uint8Array(bytes()));
        this.fonts.set(key, (made = this.document._font));
      }
      (this.resources.data['Font'] as Record<string, PdfObject>)[made.id] ??= made.ref();
      return { font: made.id, shown: shownText(made, piece) };
    });
  }

  /**
   * A page.
   * @param trim the board, points
   * @param edges what is kept around it, and that with room for marks, points
   */
  page(trim: readonly [width: number, height: number], { bleed, around }: PdfEdges, label: string, content: Uint8Array): void {
    const [width, height] = [trim[0] + 2 * around, trim[1] + 2 * around];
    const box = (beyond: number): number[] => [
      around - beyond,
      around - beyond,
      around + trim[0] + beyond,
      around + trim[1] + beyond,
    ];
    this.document.addPage({ size: [width, height], margin: 0 });
    const { page } = this.document;
    // What the library begins a page with is not wanted.
    page.content.buffer = [];
    page.content.write(content);
    const { data } = page.dictionary;
    data['Resources'] = this.resources;
    // In full: the library rounds these to what it reckons with.
    data['MediaBox'] = [0, 0, width, height];
    data['BleedBox'] = box(bleed);
    data['TrimBox'] = box(0);
    if (label) this.document.outline.addItem(label);
  }

  private writeMetadata(): void {
    const metadata = this.object({ Type: 'Metadata', Subtype: 'XML' });
    // As it lies, so that anyone finds it.
    metadata.compress = false;
    metadata.end(new TextEncoder().encode(pdfMetadata(this.about, this.grade.keeping)));
    this.document._root.data['Metadata'] = metadata;
  }

  /** What numbers of colours mean, for those who have nothing but the file (ISO 19005-2, 6.2.3). @param profile of sRGB */
  meansColours(profile: Uint8Array): void {
    const intent = this.object({
      Type: 'OutputIntent',
      S: 'GTS_PDFA1', // term-guard: standard (ISO 19005-2, 6.2.3)
      OutputConditionIdentifier: said('sRGB IEC61966-2.1'),
      Info: said('sRGB IEC61966-2.1'),
      DestOutputProfile: this.stream({ N: 3 }, profile),
    });
    intent.end();
    this.document._root.data['OutputIntents'] = [intent];
  }

  /** A file that travels inside: names hold no slash as it is (ISO 32000-1, 7.3.5). It is what the pages were made from (ISO 19005-3, 6.8). */
  encloses(name: string, mediaType: string, bytes: Uint8Array): void {
    const file = this.stream(
      {
        Type: 'EmbeddedFile',
        Subtype: mediaType.replace('/', '#2F'),
        Params: { Size: bytes.length, ModDate: this.about.written },
      },
      bytes,
    );
    const specification = this.object({
      Type: 'Filespec',
      F: said(name),
      UF: said(name),
      Desc: said('The native master that this was made from'),
      AFRelationship: 'Source',
      EF: { F: file, UF: file },
    });
    specification.end();
    this.document.addNamedEmbeddedFile(name, specification);
    this.document._root.data['AF'] = [specification];
  }

  /** @returns the whole file */
  async bytes(): Promise<Uint8Array> {
    if (this.layerObjects.length)
      this.document._root.data['OCProperties'] = {
        OCGs: this.layerObjects,
        // A name is asked of what is to be kept (ISO 19005-2, 6.9).
        D: { Name: said('Layers'), Order: this.layerObjects, ON: this.layerObjects },
      };
    this.resources.end();
    this.document.end();
    await this.done;
    const bytes = Buffer.concat(this.chunks);
    // The library knows no version after 1.7; what is written here is the same in both.
    bytes.write(`%PDF-${this.grade.version}`, 0, 'latin1');
    return bytes;
  }
}

/** Further than anything is drawn, mm. */
const FAR = 100_000;

/** Letters that stand at one height over the line, and that height, ems. */
interface ShownRun {
  readonly rise: number;
  readonly letters: string;
}

/** What is shown of a text: its letters in order, those of accents that stand higher or lower in runs of their own. */
function shownText(font: PdfFont, text: string): ShownRun[] {
  const [glyphs, positions] = font.encode(text, PLAIN_LETTERS);
  const runs: { rise: number; letters: string }[] = [];
  /** How far the next letter is to be drawn nearer, thousandths of an em. */
  let nearer = 0;
  glyphs.forEach((glyph, i) => {
    const { advanceWidth, xAdvance, xOffset, yOffset } = positions[i]!;
    const rise = yOffset / 1000;
    let run = runs.at(-1);
    if (!run || run.rise !== rise) runs.push((run = { rise, letters: '[<' }));
    nearer -= xOffset;
    // Numbers between glyphs draw them nearer, thousandths of an em (ISO 32000-1, 9.4.3).
    if (Math.abs(nearer) > 0.05) run.letters += `>${Number(nearer.toFixed(2))}<`;
    run.letters += glyph;
    nearer = advanceWidth - xAdvance + xOffset;
  });
  return runs.map(({ rise, letters }) => ({ rise, letters: `${letters}>]`.replace('[<>', '[') }));
}
